import type { Metadata } from "next";

import { pageFor } from "@/platform/http/page";
import { Learn } from "@/features/models/ui/Learn";
import { say } from "@/words/frame";

export const metadata: Metadata = { title: say("learnAController") };

export default async function LearnPage() {
  await pageFor("technician", "lead");
  return <Learn />;
}
