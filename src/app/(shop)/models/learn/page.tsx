import type { Metadata } from "next";

import { pageFor } from "@/door/page";
import { Learn } from "@/ui/models/Learn";
import { say } from "@/words/frame";

export const metadata: Metadata = { title: say("learnAController") };

export default async function LearnPage() {
  await pageFor("technician", "lead");
  return <Learn />;
}
