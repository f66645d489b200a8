import "server-only";

import type { Knex } from "knex";

import type { Id } from "@/core/base/ids";
import { one } from "@/core/base/one";
import { type Check, checkLibrary, outcomeCodes } from "@/core/diagnosis/checks";
import { graphOf } from "@/core/diagnosis/graph";
import type { OrderLook } from "@/core/mend/order";
import { placeName } from "@/core/profile/profile";
import { checkWords } from "@/features/find/words/text";
import { modelById } from "@/features/models/deeds";
import { Refused } from "@/platform/deed/base";
import type { Loaded } from "./order";

/** The checks inside a work order: each is a step that is done once it is answered, and not by a tick. */

export type LookStep = OrderLook & {
  /** how an answer is written down: the kind and target that Find takes, and what may be answered */
  kind: "function" | "point" | "check";
  target: string;
  /** the part, test point, control or function that it is about */
  about: string;
  unit: "V" | "Ω" | null;
  outcomes: readonly string[];
};

/** What was answered for a unit since a moment, as ids of checks. */
async function answeredSince(db: Knex, unitId: Id<"unit">, since: Date): Promise<Set<string>> {
  const seen = await db("observation")
    .where({ unit_id: unitId, withdrawn: false })
    .where("at", ">=", since)
    .select("kind", "target");
  const tested = await db("function_check")
    .where({ unit_id: unitId })
    .where("at", ">=", since)
    .pluck("function_id");
  const recordings = await db("recording")
    .where({ unit_id: unitId })
    .where("started_at", ">=", since)
    .select("grades");
  return new Set([
    ...seen.flatMap(({ kind, target }) => {
      if (kind === "function") return [`test.${target}`];
      if (kind === "place") return [`look.${target}`];
      return kind === "point" ? [`measure.${target}`, `compare.${target}`] : [target];
    }),
    ...tested.map((id) => `test.${id}`),
    ...recordings.flatMap(({ grades }) =>
      Object.entries(grades).flatMap(([id, grade]) => (grade === "untested" ? [] : [`test.${id}`])),
    ),
  ]);
}

/** The checks of an order as they stand; one that the unit's own wiring does not know any more is left out. */
export async function looksOf(db: Knex, { order }: Pick<Loaded, "order">): Promise<LookStep[]> {
  const ids = order.body.checks ?? [];
  if (ids.length === 0) return [];
  const unit = one(await db("unit").where({ id: order.unit_id }).first("profile_id", "revision"));
  const { body } = await modelById(db, unit.profile_id);
  const { wiring } = body;
  if (!wiring) return [];
  const library = checkLibrary(graphOf(wiring, unit.revision), wiring);
  const answered = await answeredSince(db, order.unit_id, order.at);
  const things = [...body.controls, ...body.functions];
  const nameOf = (id: string) => placeName(things.find((t) => t.id === id) ?? { id });
  const stepOf = (check: Check): LookStep => {
    const point = wiring.points.find((p) => p.id === check.target);
    const unitOf = () => (point?.quantity === "volts" ? "V" : "Ω");
    const kindOf = () => (check.kind === "test" ? "function" : "check");
    return {
      id: check.id,
      name: checkWords(check, wiring, nameOf),
      opens: check.opens,
      minutes: check.minutes,
      answered: answered.has(check.id),
      kind: point ? "point" : kindOf(),
      target: check.kind === "test" || point ? check.target : check.id,
      about: check.target,
      unit: point ? unitOf() : null,
      outcomes: outcomeCodes(check),
    };
  };
  return ids.flatMap((id) => library.find((c) => c.id === id) ?? []).map(stepOf);
}

/** Refuses a mend before what was to be looked at first was answered. */
export async function mustHaveLooked(db: Knex, loaded: Loaded): Promise<void> {
  const open = (await looksOf(db, loaded)).find((l) => !l.answered);
  if (open) throw new Refused({ code: "look-first", check: open.name });
}
