import "server-only";

import type { Knex } from "knex";

import type { TipKind } from "@/contract/mend";
import { nothing, Refused, stamp } from "@/platform/deed/base";
import { modelByKey } from "@/features/models/deeds";
import { deed } from "@/platform/deed/declare";
import { rowsOf } from "@/platform/db/joined";

/**
 * Notes that help next time: what surprised, better ideas, tips with their source, what a picture failed to
 * show, proposed steps.
 */

export type TipView = {
  id: string;
  model: string;
  step: string | null;
  kind: TipKind;
  words: string;
  source: string;
  state: "open" | "confirmed" | "refuted" | "adopted";
  proposal: { after: string | null; minutes: number } | null;
  fromTag: string | null;
  by: string;
  at: string;
};

export const addTip = deed(
  "tip.add",
  {},
  async ({ db, actor, note }, { model, step, kind, words, source, unitId, after, minutes }) => {
    const profile = await modelByKey(db, model);
    if (!profile) throw new Refused({ code: "not-found", what: "model" });
    await db("tip").insert({
      model,
      step,
      kind,
      words,
      source,
      unit_id: unitId,
      body: kind === "step" ? JSON.stringify({ after, minutes: minutes ?? 2 }) : null,
      ...stamp(db, actor),
    });
    note("tip-written", unitId, { model, step, kind });
    return nothing;
  },
);

export const settleTip = deed("tip.settle", {}, async ({ db, note }, { tipId, state }) => {
  const changed = await db("tip").where({ id: tipId }).update({ state });
  if (changed !== 1) throw new Refused({ code: "not-found", what: "tip" });
  note("tip-settled", null, { tip: tipId, state });
  return nothing;
});

/** The notes of a model, confirmed ones first; refuted ones are kept and marked. */
export async function tipsOf(db: Knex, model: string): Promise<TipView[]> {
  const rows = await rowsOf(
    db("tip")
      .join("person", "person.id", "tip.by")
      .leftJoin("unit", "unit.id", "tip.unit_id")
      .where({ model })
      .orderByRaw(
        "case tip.state when 'confirmed' then 0 when 'open' then 1 when 'adopted' then 2 else 3 end, tip.at desc",
      )
      .limit(200),
    { tip: "tip", unit: "unit?", person: "person" },
    "tip.*",
    "person.name as person",
    "unit.tag",
  );
  return rows.map((r) => ({
    id: r.id,
    model: r.model,
    step: r.step,
    kind: r.kind,
    words: r.words,
    source: r.source,
    state: r.state,
    proposal: r.body,
    fromTag: r.tag,
    by: r.person,
    at: r.at.toISOString(),
  }));
}

/** The changes of this file, for the list of all (features/deeds.ts). */
export const deeds = [addTip, settleTip] as const;
