import "server-only";

import type { Knex } from "knex";

import type { Intake } from "@/contract/intake";
import { cureOf } from "@/core/diagnosis/tries";
import type { Grade } from "@/core/grade/grade";
import type { WorkEvent } from "@/core/mend/work";
import { functionsOf, type ModelProfile } from "@/core/profile/profile";
import { type ProofAnswer, proofSheet, type ProveRules, type Proving } from "@/core/prove/proof";
import { standingsOf } from "./asked";
import { onceIn, together } from "@/platform/deed/base";
import { figuresOf, rowsOf } from "@/platform/db/joined";
import type { AttemptRow } from "@/platform/db/tables";
import { rowsBy } from "@/platform/db/batched";
import type { Id } from "@/core/base/ids";
import { isRefTo } from "@/core/mend/ref";

/**
 * What a unit's proof asks beside the full test: the sheet and its answers, and what is still unsure about
 * it.
 */

/**
 * What a test was made with. A host that nobody wrote down says nothing, and a browser that brought itself up
 * to date is no other tester: its version numbers do not count.
 */
export const testerOf = (source: string, host: string): string =>
  `${source} ${host.replace(/\/[\d.]+/g, "")}`.trim();

type OfUnit = { id: string; source: string; revision: string | null; claim: string; intake: Intake };

/** What the record holds of it; make it up with `provingOf`. */
export async function readProving(db: Knex, unit: OfUnit) {
  const [answers, said, unasked] = await together(
    db,
    () => proofChecksOf(db, unit.id),
    () => readSaid(db, unit.id),
    () => unaskedOf(db, unit),
  );
  return { unit, answers, ...said, unasked };
}

type Cure = Pick<AttemptRow, "number" | "suspect" | "action" | "outcome" | "undone"> & { at: string };
type Reference = { tester: { source: string; host: string }; at: string; grade: Grade };
type Earlier = {
  claim: string;
  intake: Pick<Intake, "grime" | "smell" | "rattle"> & Partial<Pick<Intake, "hygiene">>;
};

/** What was said and seen at the door counts also after somebody wrote it over. */
const EARLIER = `(select coalesce(jsonb_agg(e.body->'was' order by e.id), '[]') from event e
  where e.unit_id = u.id and e.kind = 'intake-changed') as earlier`;
const CURES = `(select coalesce(jsonb_agg(to_jsonb(a)), '[]') from attempt a where a.unit_id = u.id and a.outcome = 'cured') as tries`;
const REFERENCES = `(select coalesce(jsonb_agg(to_jsonb(r)), '[]') from (
   select jsonb_build_object('source', r.source, 'host', r.tester->>'host') as tester, r.started_at as at, r.grade
   from recording r join unit o on o.id = r.unit_id
   where o.reference_since is not null and o.id <> u.id and r.purpose <> 'quick' order by r.started_at desc limit 50) r) as references`;

const readSaid = (db: Knex, unitId: Id<"unit">) =>
  onceIn(db, `said ${unitId}`, ["attempt", "event", "recording", "unit"], () =>
    figuresOf<{ tries: Cure[]; references: Reference[]; earlier: Earlier[] }>(
      db("unit as u").where("u.id", unitId),
      db.raw([EARLIER, CURES, REFERENCES].join(", ")),
    ),
  );
const earlierIntakes = async (db: Knex, unitId: Id<"unit">): Promise<Earlier[]> =>
  (await figuresOf<{ earlier: Earlier[] }>(db("unit as u").where("u.id", unitId), db.raw(EARLIER))).earlier;

type Step = { body: WorkEvent; person: string };
/** Steps that somebody did to the unit: taken apart, done, put back. */
export const isHandwork = (e: WorkEvent): boolean =>
  e.kind === "apart" || e.kind === "task" || e.kind === "back";
const cleanedBy = (steps: readonly Step[]): boolean =>
  steps.some((s) => s.body.kind === "task" && isRefTo("clean", s.body.task));

/** The lines that this unit's proof asks, from what was said and seen at the door and done since. */
const sheetOf = (
  unit: OfUnit,
  earlier: readonly Earlier[],
  steps: readonly Step[],
  profile: ModelProfile,
) => {
  const told = [...earlier, unit];
  return proofSheet({
    claims: told.map((t) => t.claim),
    grime: told.map((t) => t.intake.grime),
    smell: told.map((t) => t.intake.smell),
    rattle: told.map((t) => t.intake.rattle),
    // an intake of before it was asked has none
    hygiene: told.map((t) => t.intake.hygiene ?? "none"),
    fell: unit.intake.told.includes("fall"),
    cellsOut: unit.intake.cells === "taken-out" ? unit.intake.cellsAt : null,
    cleanedByOrder: cleanedBy(steps),
    radio: functionsOf(profile, unit.revision).some((f) => f.kind === "radio"),
    builtInCell: profile.power.some((p) => p.kind === "built-in" && p.cells > 0),
  });
};
/** The same, read for one line of it. */
export const readSheet = async (db: Knex, unit: OfUnit, steps: readonly Step[], profile: ModelProfile) =>
  sheetOf(unit, await earlierIntakes(db, unit.id), steps, profile);

export function provingOf(
  read: Awaited<ReturnType<typeof readProving>>,
  mends: readonly { number: number; at: Date; review_on: string | null; person: string }[],
  steps: readonly Step[],
  profile: ModelProfile,
  rules: ProveRules,
  retests: readonly { at: Date; works: boolean }[],
): Omit<Proving, "risk"> {
  const { unit, answers, tries, references, earlier, unasked } = read;
  return {
    rules,
    sheet: sheetOf(unit, earlier, steps, profile),
    answers: answers.map(({ key, result, value, at }) => ({ key, result, value, at: new Date(at) })),
    unsure: [
      ...mends
        .filter((m) => m.review_on !== null)
        .map((m) => ({ what: "provisional" as const, number: m.number, since: m.at })),
      ...tries
        .map((t) => ({ ...t, at: new Date(t.at) }))
        .filter((t) => cureOf(t, retests) === "unproven")
        .map((t) => ({ what: "unproven-cure" as const, number: t.number, since: t.at })),
    ],
    unasked,
    menders: [
      ...new Set([
        ...mends.map((m) => m.person),
        ...steps.filter((s) => isHandwork(s.body)).map((s) => s.person),
      ]),
    ],
    references: references
      .map(({ tester, at, grade }) => ({
        tester: testerOf(tester.source, tester.host),
        at: new Date(at),
        grade,
      }))
      .reverse(),
  };
}

/**
 * A customer's unit: faults at which nobody asked, or whose answer is still awaited. A limit of cost that was
 * agreed at the door is a yes to whatever keeps within it, unless something was asked all the same.
 */
async function unaskedOf(db: Knex, unit: OfUnit): Promise<number[]> {
  if (unit.source !== "customer") return [];
  const faults: { id: string; number: number }[] = await db("fault")
    .where({ unit_id: unit.id })
    .whereNot({ status: "withdrawn" })
    .orderBy("number")
    .select("id", "number");
  const standings = await standingsOf(db, unit.id);
  const agreed = unit.intake.costLimitMinor !== null;
  return faults
    .filter((f) => {
      const standing = standings.find((s) => s.faultId === f.id)?.state;
      return standing === "waiting" || (standing === undefined && !agreed);
    })
    .map((f) => f.number);
}

export type ProofCheckView = {
  key: string;
  result: ProofAnswer["result"];
  value: number | null;
  note: string;
  by: string;
  at: string;
};

const proofChecksBy = rowsBy((db, unitIds) =>
  rowsOf(
    db("proof_check as c")
      .join("person as p", "p.id", "c.by")
      .distinctOn("c.unit_id", "c.key")
      .whereIn("c.unit_id", unitIds)
      .orderBy([{ column: "c.unit_id" }, { column: "c.key" }, { column: "c.id", order: "desc" }]),
    { c: "proof_check", p: "person" },
    "c.unit_id as of",
    "c.key",
    "c.result",
    "c.value",
    "c.note",
    "p.name as person",
    "c.at",
  ),
);

/** The latest answer of each line, with who and when. */
export async function proofChecksOf(db: Knex, unitId: Id<"unit">): Promise<ProofCheckView[]> {
  const rows = await onceIn(db, `answers ${unitId}`, ["proof_check", "person"], () =>
    proofChecksBy(db, unitId),
  );
  return rows.map((r) => ({
    key: r.key,
    result: r.result,
    value: r.value,
    note: r.note,
    by: r.person,
    at: r.at.toISOString(),
  }));
}
