import "server-only";

import type { Knex } from "knex";

import type { PaperBody, PaperKind } from "@/contract/papers";
import type { Id } from "@/core/base/ids";
import { rowOf, rowsOf } from "@/platform/db/joined";
import type { UnitRow } from "@/platform/db/tables";

/** Papers as they were written, of a unit and of the whole shop. */

export type PaperView = {
  id: Id<"paper">;
  kind: PaperKind;
  number: number;
  unitId: Id<"unit">;
  body: PaperBody;
  by: string;
  /** the paper that stands in its place */
  correctedBy: number | null;
  /** the question that an offer puts on paper */
  questionId: string | null;
};

async function papers(db: Knex, which: (q: Knex.QueryBuilder) => void, most?: number): Promise<PaperView[]> {
  const rows = await rowsOf(
    db("paper as p")
      .join("person as w", "w.id", "p.by")
      .leftJoin("paper as n", "n.corrects", "p.id")
      .where((q) => which(q))
      .modify((q) => (most === undefined ? undefined : void q.limit(most)))
      .orderBy([
        { column: "p.at", order: "desc" },
        { column: "p.kind" },
        { column: "p.number", order: "desc" },
      ]),
    { p: "paper", w: "person", n: "paper?" },
    "p.*",
    "w.name as person",
    "n.number as later",
  );
  return rows.map((r) => ({
    id: r.id,
    kind: r.kind,
    number: r.number,
    unitId: r.unit_id,
    body: r.body,
    by: r.person,
    correctedBy: r.later,
    questionId: r.kind === "offer" ? r.of_id : null,
  }));
}

/** All papers of a unit, newest first, with the receipt of the lot that it came with. */
export const papersOf = (db: Knex, unit: Pick<UnitRow, "id" | "lot_id">): Promise<PaperView[]> =>
  papers(db, (q) => {
    void q.where("p.unit_id", unit.id);
    if (unit.lot_id) void q.orWhere("p.lot_id", unit.lot_id);
  });

/** Every paper of the shop, newest first, or the newest few. */
export const paperBook = (db: Knex, most?: number): Promise<PaperView[]> => papers(db, () => undefined, most);

export const paperById = async (db: Knex, id: string) =>
  (await papers(db, (q) => void q.where("p.id", id)))[0] ?? null;

/** The path of the customer's page of an offer, while it can be answered there. */
export async function offerAddress(db: Knex, questionId: string | null): Promise<string | null> {
  if (questionId === null) return null;
  const question = await rowOf(
    db("question as q").join("unit as u", "u.id", "q.unit_id").where({ "q.id": questionId }),
    { q: "question", u: "unit" },
    "q.token",
    "q.withdrawn_at",
    "u.ending",
  );
  return question && !question.withdrawn_at && question.ending === null ? `/q/${question.token}` : null;
}

/** The newest bill of a unit that nothing took the place of, if it says anything. */
export async function standingBill(db: Knex, unitId: Id<"unit">): Promise<PaperView | null> {
  const own = await papers(db, (q) => void q.where("p.unit_id", unitId).where("p.kind", "bill"));
  return own.find((p) => p.correctedBy === null && p.body.lines.length > 0) ?? null;
}
