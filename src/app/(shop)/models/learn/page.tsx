import type { Metadata } from "next";

import { pageFor } from "@/door/page";
import { Learn } from "@/ui/models/Learn";

export const metadata: Metadata = { title: "Learn a controller" };

export default async function LearnPage() {
  await pageFor("technician", "lead");
  return <Learn />;
}
