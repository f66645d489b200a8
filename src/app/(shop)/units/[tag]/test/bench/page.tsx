import { redirect } from "next/navigation";

import { expectedMinutes, protocolOf, PURPOSES } from "@/core/protocol/protocol";
import { database } from "@/platform/db/connection";
import { pageUnit } from "@/platform/http/unit";
import { learntMinutes, readingsOf, referenceSheet } from "@/features/test/readings";
import { ProtocolView } from "@/features/test/ui/protocol/ProtocolView";

type Props = { params: Promise<{ tag: string }>; searchParams: Promise<{ for?: string; step?: string }> };

export default async function BenchProtocolPage({ params, searchParams }: Props) {
  const { view, actor } = await pageUnit((await params).tag);
  const { unit, profile } = view;
  if (unit.swollen || (unit.liquid && !unit.liquid_cleared)) redirect(`/units/${unit.tag}/test`);
  const wished = await searchParams;
  const purpose = PURPOSES.find((p) => p === wished.for) ?? "full";
  const steps = protocolOf(profile, unit.revision, purpose);
  const db = database();
  const [readings, learnt] = await Promise.all([readingsOf(db, unit.id), learntMinutes(db, profile.id)]);
  const sheet = await referenceSheet(db, unit, profile.id, null, readings);
  const minutes = Object.fromEntries(
    steps.map((s) => [
      s.id,
      expectedMinutes(s.method, learnt[s.method]?.median ?? null, learnt[s.method]?.cases ?? 0),
    ]),
  );
  return (
    <ProtocolView
      key={`${unit.tag} ${purpose}`}
      view={view}
      purpose={purpose}
      steps={steps}
      minutes={minutes}
      readings={readings}
      sheet={sheet}
      stepId={wished.step ?? null}
      canWork={actor.role !== "viewer" && unit.ending === null}
    />
  );
}
