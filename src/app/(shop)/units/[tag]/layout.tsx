import type { Metadata } from "next";
import type { ReactNode } from "react";

import { pageUnit } from "@/platform/http/unit";
import { UnitHead } from "@/features/units/ui/unit/UnitHead";

type Props = { children: ReactNode; params: Promise<{ tag: string }> };

export async function generateMetadata({ params }: Props): Promise<Metadata> {
  return { title: (await params).tag.slice(0, 20).toUpperCase() };
}

export default async function UnitLayout({ children, params }: Props) {
  const { view, actor } = await pageUnit((await params).tag);
  return (
    <>
      <UnitHead view={view} role={actor.role} />
      {children}
    </>
  );
}
