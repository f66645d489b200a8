import type { Metadata } from "next";

import { houseDatabase } from "@/platform/db/connection";
import { pageFor } from "@/platform/http/page";
import { isEmptyWorkshop } from "@/features/archive/read";
import { Archive } from "@/features/archive/ui/Archive";
import { say } from "@/words/frame";

export const metadata: Metadata = { title: say("archive") };

export default async function ArchivePage() {
  await pageFor("lead");
  return <Archive empty={await isEmptyWorkshop(houseDatabase())} />;
}
