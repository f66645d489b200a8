import "server-only";

import type { Knex } from "knex";

import type { PaperBody, PaperKind } from "@/contract/papers";
import { one } from "@/core/base/one";
import { dayOf } from "@/core/days/days";
import { loadSettings } from "@/features/settings/settings";
import { type Actor, Refused, stamp } from "@/platform/deed/base";
import { deed, namedUnit, type Work } from "@/platform/deed/declare";
import type { PaperRow, UnitRow } from "@/platform/db/tables";
import { compose, type Composed } from "./compose";

/** Papers are written once: each with the next number of its kind, a correction after what it corrects. */

/** The next number: whoever writes a paper of a kind waits for the one before, so that none is left out. */
async function nextNumber(db: Knex, kind: PaperKind): Promise<number> {
  await db.raw("select pg_advisory_xact_lock(hashtext(?))", [`paper ${kind}`]);
  const last = await db("paper").where({ kind }).orderBy("number", "desc").first("number");
  return (last?.number ?? 0) + 1;
}

async function write(
  { db, actor, note }: Work,
  unit: UnitRow,
  kind: PaperKind,
  { ofId, lotId, body }: Composed,
  corrected: { paper: PaperRow; why: string } | null,
): Promise<{ id: string; number: number }> {
  const number = await nextNumber(db, kind);
  const whole: PaperBody = {
    ...body,
    corrects: corrected && {
      number: corrected.paper.number,
      sumMinor: corrected.paper.body.sumMinor,
      owedMinor: corrected.paper.body.books.owedMinor,
      why: corrected.why,
    },
  };
  const row = one(
    (
      await db("paper")
        .insert({
          kind,
          number,
          unit_id: unit.id,
          lot_id: lotId,
          of_id: ofId,
          corrects: corrected?.paper.id ?? null,
          body: JSON.stringify(whole),
          ...stamp(db, actor),
        })
        .returning("id")
    )[0],
  );
  note("paper-issued", unit.id, { paper: kind, number, corrects: corrected?.paper.number ?? null });
  return { id: row.id, number };
}

const dated = (actor: Actor): Date => actor.at ?? new Date();

export const issue = deed("paper.issue", { unit: namedUnit }, async (work, { kind, questionId, contact }) => {
  const { db, unit, actor } = work;
  const composed = await compose(db, kind, unit, { questionId, contact, at: dated(actor) });
  const had = await db("paper").where({ kind, of_id: composed.ofId, corrects: null }).first("number");
  if (had) throw new Refused({ code: "paper-written", kind, number: had.number });
  return write(work, unit, kind, composed, null);
});

/** What the record says now in the place of what it said then; or nothing at all, where that is said. */
export const correct = deed(
  "paper.correct",
  { unit: namedUnit },
  async (work, { paperId, why, takeBack, contact }) => {
    const { db, unit, actor } = work;
    const paper = await db("paper").where({ id: paperId, unit_id: unit.id }).first();
    if (!paper) throw new Refused({ code: "not-found", what: "paper" });
    const later = await db("paper").where({ corrects: paper.id }).first("number");
    if (later) throw new Refused({ code: "paper-written", kind: paper.kind, number: later.number });
    const now = takeBack
      ? await sameAgain(db, paper, dated(actor), NOTHING_OWED)
      : await asItIsNow(db, unit, paper, contact, dated(actor));
    return write(work, unit, paper.kind, now, { paper, why });
  },
);

/** What the paper would say today; the same again where the unit has gone on since and no longer says it. */
async function asItIsNow(
  db: Knex,
  unit: UnitRow,
  paper: PaperRow,
  contact: string,
  at: Date,
): Promise<Composed> {
  const reach = contact || paper.body.other.contact;
  try {
    const now = await compose(db, paper.kind, unit, {
      questionId: paper.kind === "offer" ? paper.of_id : null,
      contact: reach,
      at,
    });
    if (now.ofId === paper.of_id) return now;
  } catch (error) {
    if (!(error instanceof Refused) || error.problem.code !== "nothing-to-bill") throw error;
  }
  return sameAgain(db, paper, at, { other: { ...paper.body.other, contact: reach } });
}

const NOTHING_OWED = { lines: [], refused: [], done: [], covers: [], sumMinor: 0 };

async function sameAgain(
  db: Knex,
  { of_id: ofId, lot_id: lotId, body: was }: PaperRow,
  at: Date,
  change: Partial<PaperBody>,
): Promise<Composed> {
  const { settings } = await loadSettings(db);
  const { corrects: _corrects, ...body } = { ...was, ...change, issuedOn: dayOf(at, settings.timeZone) };
  if (body.sumMinor === was.sumMinor) return { ofId, lotId, body };
  const tax = { ...was.tax, netMinor: 0, taxMinor: 0 };
  return { ofId, lotId, body: { ...body, tax, books: { ...was.books, owedMinor: 0 } } };
}

/** The changes of this file, for the list of all (features/deeds.ts). */
export const deeds = [correct, issue] as const;
