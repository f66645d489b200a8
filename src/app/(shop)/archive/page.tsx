import type { Metadata } from "next";

import { houseDatabase } from "@/db/connection";
import { pageFor } from "@/door/page";
import { isEmptyWorkshop } from "@/service/archive/read";
import { Archive } from "@/ui/people/Archive";
import { say } from "@/words/frame";

export const metadata: Metadata = { title: say("archive") };

export default async function ArchivePage() {
  await pageFor("lead");
  return <Archive empty={await isEmptyWorkshop(houseDatabase())} />;
}
