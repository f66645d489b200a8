import { CaseLine } from "@/features/casefile/ui/CaseLine";
import { caseView } from "@/features/casefile/view";
import { database } from "@/platform/db/connection";
import { pageUnit } from "@/platform/http/unit";

type Props = { params: Promise<{ tag: string }>; searchParams: Promise<{ of?: string | string[] }> };

export default async function CasePage({ params, searchParams }: Props) {
  const { view, whole } = await pageUnit((await params).tag);
  const { of } = await searchParams;
  const about = typeof of === "string" && /^[a-z0-9.-]{1,60}$/.test(of) ? of : null;
  return (
    <CaseLine view={await caseView(database(), whole, about)} tag={view.unit.tag} shop={view.settings} />
  );
}
