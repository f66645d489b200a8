import { database } from "@/db/connection";
import { pageUnit } from "@/door/unit";
import { loadModelMoney } from "@/service/decide";
import { damageOf } from "@/service/damage";
import { ReleaseStation } from "@/ui/release/ReleaseStation";

export default async function ReleasePage({ params }: { params: Promise<{ tag: string }> }) {
  const { view, actor } = await pageUnit((await params).tag);
  const { value } = await loadModelMoney(database(), view.profile);
  const damage = await damageOf(database(), view.unit.id);
  const disclose = damage
    .filter((d) => d.madeGood === "")
    .map((d) => `${d.place}: ${d.what}`)
    .join("; ");
  return (
    <ReleaseStation
      disclose={disclose}
      view={view}
      going={value.market}
      role={actor.role}
      publicUrl={process.env.PUBLIC_URL ?? null}
    />
  );
}
