import type { ReactNode } from "react";

import { database, inPractice } from "@/db/connection";
import { pagePerson } from "@/door/page";
import { trays } from "@/service/views";
import { openWaits } from "@/service/waits";
import { Frame } from "@/ui/frame/Frame";

export default async function ShopLayout({ children }: { children: ReactNode }) {
  const person = await pagePerson();
  const [onTrays, waits] = await Promise.all([trays(database()), openWaits(database())]);
  return (
    <Frame person={{ id: person.id, name: person.name, role: person.role }} trays={onTrays} waits={waits} practice={inPractice()}>
      {children}
    </Frame>
  );
}
