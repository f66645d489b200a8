import "server-only";

import type { Knex } from "knex";

import { graphOf } from "@/core/diagnosis/graph";
import type { PartTally, ShopRecord, ShowTally } from "@/core/diagnosis/priors";
import type { ModelProfile } from "@/core/profile/profile";
import { NODE_KINDS, type NodeKind } from "@/core/profile/wiring";
import { modelById } from "@/features/models/deeds";
import { untilNoted } from "@/platform/deed/noted";
import { asked, computed, rowsOf } from "@/platform/db/joined";

/** What the shop found at fault so far, of how many parts, and how it showed. */

/** Of one model, by kind of part: a cure counts by what it earned. */
type OfModel = { parts: Map<NodeKind, PartTally>; showed: Map<NodeKind, ShowTally> };

/**
 * The record as it bears on one model: its own closed cases, and those of each other model. From fault lines settled
 * by a proven try.
 */
export async function shopRecord(db: Knex, model: string): Promise<ShopRecord> {
  const tallied = await untilNoted(
    db,
    "shop record",
    ["try-settled", "unit-ended", "unit-reopened", "unit-came-back"],
    () => countCauses(db),
  );
  const others = [...tallied].flatMap(([m, t]) => (m === model ? [] : [t]));
  const own = tallied.get(model);
  return Object.fromEntries(
    NODE_KINDS.flatMap((kind) => {
      const parts = others.flatMap((t) => t.parts.get(kind) ?? []);
      const showed = others.flatMap((t) => t.showed.get(kind) ?? []);
      const ownParts = own?.parts.get(kind);
      const ownShowed = own?.showed.get(kind);
      if (!ownParts && parts.length === 0) return [];
      const seen = ownShowed || showed.length > 0;
      return [
        [
          kind,
          {
            own: ownParts ?? { faults: 0, parts: 0 },
            others: parts,
            ...(seen ? { showed: { own: ownShowed ?? { shown: 0, hidden: 0 }, others: showed } } : {}),
          },
        ] as const,
      ];
    }),
  );
}

async function countCauses(db: Knex): Promise<Map<string, OfModel>> {
  const out = new Map<string, OfModel>();
  const ofModel = (profile: ModelProfile) => {
    if (!out.has(profile.id)) out.set(profile.id, { parts: new Map(), showed: new Map() });
    return out.get(profile.id)!;
  };
  const closed: { profile_id: string; n: number }[] = await rowsOf(
    db("outcome as o").join("unit as u", "u.id", "o.unit_id").groupBy("u.profile_id"),
    { o: "outcome", u: "unit" },
    "u.profile_id",
    computed<{ n: number }>(db.raw("count(*)::int as n")),
  );
  for (const c of closed) {
    const { body } = await modelById(db, c.profile_id);
    const { parts } = ofModel(body);
    for (const n of body.wiring?.nodes ?? []) {
      const had = parts.get(n.kind) ?? { faults: 0, parts: 0 };
      parts.set(n.kind, { ...had, parts: had.parts + c.n });
    }
  }
  const cured = await curesOf(db);
  const tested = await testedBefore(db, cured);
  for (const a of cured) {
    const { body } = await modelById(db, a.profile_id);
    const node = body.wiring?.nodes.find((n) => n.id === a.suspect);
    if (!body.wiring || !node) continue;
    const { parts, showed } = ofModel(body);
    const had = parts.get(node.kind) ?? { faults: 0, parts: 0 };
    parts.set(node.kind, { ...had, faults: had.faults + a.credit });
    const graph = graphOf(body.wiring, null);
    const part = graph.index.get(node.id)!;
    const over = tested.filter((t) => t.attempt === a.id && graph.restsOn.get(t.place)?.includes(part));
    const was = showed.get(node.kind) ?? { shown: 0, hidden: 0 };
    showed.set(node.kind, {
      shown: was.shown + a.credit * over.filter((t) => t.failed).length,
      hidden: was.hidden + a.credit * over.filter((t) => !t.failed).length,
    });
  }
  return out;
}

type CuredTry = { id: string; suspect: string; profile_id: string; credit: number };
const curesOf = (db: Knex): Promise<CuredTry[]> =>
  rowsOf(
    db("attempt as a")
      .join("unit as u", "u.id", "a.unit_id")
      .where("a.outcome", "cured")
      .whereNotNull("u.ending"),
    { a: "attempt", u: "unit" },
    "a.id",
    "a.suspect",
    "u.profile_id",
    computed<{ credit: number }>(db.raw("coalesce(a.credit, 1)::float8 as credit")),
  );

/** What the last test before each of some cures said of every control and function. */
async function testedBefore(
  db: Knex,
  cured: readonly { id: string }[],
): Promise<{ attempt: string; place: string; failed: boolean }[]> {
  if (cured.length === 0) return [];
  return asked(
    db,
    `select a.id as attempt, t.place, t.failed from attempt a
     cross join lateral (
       select distinct on (x.place) x.place, x.failed from (
         select c.key as place, c.value->>'grade' = 'fail' as failed, r.started_at as at
           from recording r, jsonb_each(r.analysis->'controls') c
           where r.unit_id = a.unit_id and r.purpose = 'full' and r.started_at <= a.at
             and c.value->>'grade' in ('A', 'B', 'fail')
         union all
         select f.function_id, f.result = 'fail', f.at from function_check f
           where f.unit_id = a.unit_id and f.at <= a.at and f.result in ('pass', 'fail')
       ) x order by x.place, x.at desc
     ) t where a.id = any(?)`,
    [cured.map((c) => c.id)],
  );
}
