import "server-only";

import type { Knex } from "knex";

import type { Id } from "@/core/base/ids";
import { OUTCOMES, type Outcome, type ShopRecord } from "@/core/diagnosis/priors";
import { outcomeOf, outcomeOfCheck, together, yieldsToForce } from "@/core/diagnosis/symptoms";
import { type ModelProfile, controlsOf, functionsOf, placeName } from "@/core/profile/profile";
import { modelById } from "@/features/models/deeds";
import { computed, countOf, figuresOf, rowsOf } from "@/platform/db/joined";
import { untilNoted } from "@/platform/deed/noted";

/** What the Find station shows: from what was seen to ranked causes, the next check, and the trail. */

/**
 * The figures of healthy units at each test point: of the reference units of the model and revision, each
 * unit's latest.
 */
export async function healthyPoints(
  db: Knex,
  modelKey: string,
  revision: string | null,
  not: string,
): Promise<Map<string, number[]>> {
  const measured = db("observation as o")
    .join("unit as u", "u.id", "o.unit_id")
    .join("model_profile as m", "m.id", "u.profile_id")
    .where({ "m.key": modelKey, "o.kind": "point", "o.withdrawn": false })
    .whereNotNull("u.reference_since")
    .whereNot("u.id", not)
    .distinctOn("u.id", "o.target")
    .orderBy([{ column: "u.id" }, { column: "o.target" }, { column: "o.at", order: "desc" }]);
  if (revision !== null)
    void measured.where((w) => w.where("u.revision", revision).orWhereNull("u.revision"));
  const rows = await rowsOf(measured, { o: "observation" }, "o.target", "o.value");
  const out = new Map<string, number[]>();
  for (const r of rows) if (r.value !== null) out.set(r.target, [...(out.get(r.target) ?? []), r.value]);
  return out;
}

export type Seen = {
  id: string;
  name: string;
  outcome: Outcome;
  from: "recording" | "answer" | "observation";
};

/**
 * What was seen of each control and function since the last mend: the latest counts, and what differs comes
 * and goes.
 */
export async function seenOf(
  db: Knex,
  unitId: Id<"unit">,
  profile: ModelProfile,
  revision: string | null,
): Promise<Seen[]> {
  const last = await figuresOf<{ at: Date | null }>(
    db("mend").where({ unit_id: unitId }),
    db.raw("max(at) as at"),
  );
  const lastMend = last.at ?? new Date(0);
  const tests = await db("recording")
    .where({ unit_id: unitId })
    .whereNot("purpose", "quick")
    .where("started_at", ">", lastMend)
    .orderBy("started_at")
    .select("analysis", "spot");
  const checks = await db("function_check")
    .distinctOn("function_id")
    .where({ unit_id: unitId })
    .where("at", ">", lastMend)
    .orderBy([{ column: "function_id" }, { column: "id", order: "desc" }])
    .select("function_id", "result");
  const own = await db("observation")
    .where({ unit_id: unitId, kind: "function", withdrawn: false })
    // named by hand it stands until something is done there, or nobody knows where
    .whereRaw(
      `not exists (select 1 from mend m left join fault f on f.id = m.fault_id where m.unit_id = observation.unit_id
         and m.at > observation.at and (f.id is null or f.place = observation.target))`,
    )
    .orderBy("at")
    .select("target", "outcome");
  const seen: Seen[] = [];
  for (const c of controlsOf(profile, revision)) {
    const of = (force: string) =>
      tests.flatMap((t) => {
        if ((t.spot?.force ?? "normal") !== force || (t.spot && !t.spot.controls.includes(c.id))) return [];
        const result = t.analysis.controls[c.id];
        const outcome = result ? outcomeOf(result) : null;
        return outcome ? [outcome] : [];
      });
    const light = of("light").at(-1) ?? null;
    const usual = together(of("normal"));
    const harder = of("hard").at(-1) ?? usual;
    const outcome = yieldsToForce(light, harder) ? "yields-to-force" : usual;
    if (outcome) seen.push({ id: c.id, name: placeName(c), outcome, from: "recording" });
  }
  for (const f of functionsOf(profile, revision)) {
    const answer = checks.find((x) => x.function_id === f.id);
    const outcome = answer ? outcomeOfCheck(answer.result) : null;
    if (outcome) seen.push({ id: f.id, name: f.name, outcome, from: "answer" });
  }
  for (const o of own) {
    const thing = [...controlsOf(profile, revision), ...functionsOf(profile, revision)].find(
      (x) => x.id === o.target,
    );
    if (!thing) continue;
    const at = seen.findIndex((s) => s.id === o.target);
    const outcome = OUTCOMES.find((x) => x === o.outcome);
    if (!outcome) continue;
    const entry: Seen = { id: o.target, name: placeName(thing), outcome, from: "observation" };
    if (at >= 0) seen[at] = entry;
    else seen.push(entry);
  }
  return seen;
}

/**
 * How often each kind of part was at fault in this shop's closed cases: from fault lines settled by a proven
 * try.
 */
export const shopRecord = (db: Knex): Promise<ShopRecord> =>
  untilNoted(db, "shop record", ["try-settled", "unit-ended", "unit-reopened", "unit-came-back"], () =>
    countCauses(db),
  );

async function countCauses(db: Knex): Promise<ShopRecord> {
  const rows: { suspect: string; profile_id: string; n: number }[] = await rowsOf(
    db("attempt as a")
      .join("unit as u", "u.id", "a.unit_id")
      .where("a.outcome", "cured")
      .whereNotNull("u.ending")
      .groupBy("a.suspect", "u.profile_id"),
    { a: "attempt", u: "unit" },
    "a.suspect",
    "u.profile_id",
    computed<{ n: number }>(db.raw("count(*)::int as n")),
  );
  const cases = await countOf(db("outcome"));
  const record: ShopRecord = {};
  for (const r of rows) {
    const { wiring } = (await modelById(db, r.profile_id)).body;
    const kind = wiring?.nodes.find((n) => n.id === r.suspect)?.kind;
    if (kind) record[kind] = { faults: (record[kind]?.faults ?? 0) + r.n, cases };
  }
  return record;
}
