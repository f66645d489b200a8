import "server-only";

import type { Knex } from "knex";

import { NO } from "@/contract/question";
import type { Intake } from "@/contract/intake";
import type { Id } from "@/core/base/ids";
import { type Fact } from "@/core/case/facts";
import type { CaseOf } from "@/core/case/standing-facts";
import { type History, readHistory } from "@/core/claim/history";
import { readClaim } from "@/core/claim/lexicon";
import { type Outcome } from "@/core/diagnosis/priors";
import { addUp } from "@/core/money/money";
import { type ModelProfile, placeAt } from "@/core/profile/profile";
import { computed, rowsOf } from "@/platform/db/joined";
import type { AnswerRow, QuestionRow } from "@/platform/db/tables";
import { together } from "@/platform/deed/base";
import { priceIn } from "./asked";

/** What was said, seen and broken beside the bench: at the door, by the customer, in a listing, by hands. */

export type OfUnit = {
  id: Id<"unit">;
  tag: string;
  revision: string | null;
  claim: string;
  source: "single" | "lot" | "customer";
  liquid: boolean;
  intake: Intake;
  receivedAt: Date;
};

const GRADE_OF = { none: 0, slight: 1, strong: 3 } as const;

/** What was said and seen at the door. */
export function doorFacts(unit: OfUnit, profile: ModelProfile): Fact[] {
  const { intake } = unit;
  const at = unit.receivedAt.toISOString();
  const common = { at, who: null };
  const words = unit.claim.trim();
  const said: Fact[] = words
    ? [
        {
          ...common,
          id: "claim",
          kind: "told",
          by: unit.source === "customer" ? "customer" : "seller",
          words,
        },
      ]
    : [];
  const told = new Set(readHistory(`${unit.claim}. ${intake.history}`));
  const history = (what: Extract<Fact, { kind: "history" }>["what"], doubt: number): Fact => ({
    ...common,
    id: `history ${what}`,
    kind: "history",
    what,
    doubt,
  });
  const ticked = new Set(intake.told.flatMap((t): History[] => (t === "child" ? [] : [t])));
  const ofAChild = intake.told.includes("child") ? OF_A_CHILD.filter((h) => !ticked.has(h)) : [];
  for (const is of [...ticked, ...ofAChild]) told.delete(is);
  if (unit.liquid) told.delete("liquid");
  return [
    ...said,
    ...(unit.liquid ? [history("liquid", 0)] : []),
    ...(intake.openedBefore || intake.handsLeft.length > 0 ? [history("opened", 0)] : []),
    ...[...ticked].map((what) => history(what, 0)),
    ...ofAChild.map((what) => history(what, CHILD_DOUBT)),
    ...[...told].map((what) => history(what, TOLD_DOUBT)),
    {
      ...common,
      id: "intake",
      kind: "intake",
      ...rattleOf(intake.rattle),
      ...(intake.handsLeft.length > 0 ? { hands: intake.handsLeft } : {}),
      smell: GRADE_OF[intake.smell],
      grime: GRADE_OF[intake.grime],
      missing: profile.accessories.map((a) => a.id).filter((id) => !intake.accessories.includes(id)),
      marks: intake.marks.map((m) => ({ place: placeAt(profile, m), mark: m.kind })),
    },
  ];
}
const rattleOf = (of: Intake["rattle"]): { rattle: "none" | "metal" | "plastic"; seen?: boolean } => {
  if (of === "unsure") return { rattle: "none" };
  if (of === "metal-seen") return { rattle: "metal", seen: true };
  return of === "plastic-seen" ? { rattle: "plastic", seen: true } : { rattle: of };
};
/** History that is read out of words, and ticked by nobody. */
const TOLD_DOUBT = 0.3;
/** What a child's hands are likely to have done, where nobody saw it. House guesses. */
const OF_A_CHILD: readonly History[] = ["fall", "teeth"];
const CHILD_DOUBT = 0.6;

/** What a yes lets be charged: its option with what was wanted beside it. */
function agreedPrice(a: Pick<AnswerRow, "fault_id" | "choice" | "wording"> & Pick<QuestionRow, "body">) {
  const option = priceIn(a.body, a.fault_id, a.choice);
  if (option === null) return null;
  const extras = [...(a.wording.like ? [a.wording.like] : []), ...a.wording.refresh];
  return option + addUp(extras.map((e) => e.priceMinor));
}

/** What the customer said, what was decided, and in which words it came back. */
export async function agreedFacts(db: Knex, unitId: Id<"unit">): Promise<Fact[]> {
  const [answers, decisions, returns] = await together(
    db,
    () =>
      rowsOf(
        db("answer as a")
          .join("question as q", "q.id", "a.question_id")
          .join("fault as f", "f.id", "a.fault_id")
          .where("q.unit_id", unitId)
          .orderBy("a.id"),
        { a: "answer", q: "question", f: "fault" },
        "a.id",
        "a.fault_id",
        "q.body",
        "a.choice",
        "a.wording",
        "a.name",
        "a.at",
        "f.place",
      ),
    () =>
      rowsOf(
        db("decision as d")
          .join("person as p", "p.id", "d.by")
          .where("d.unit_id", unitId)
          .orderBy(["d.at", "d.id"]),
        { d: "decision", p: "person" },
        "d.id",
        "d.disposition",
        "d.why",
        "d.at",
        "p.name as who",
      ),
    () =>
      rowsOf(
        db("comeback as c")
          .join("person as p", "p.id", "c.by")
          .where("c.unit_id", unitId)
          .orderBy(["c.at", "c.id"]),
        { c: "comeback", p: "person" },
        "c.id",
        "c.words",
        "c.at",
        "p.name as who",
      ),
  );
  return [
    ...answers.map((a): Fact => ({
      id: `answer ${a.id}`,
      at: a.at.toISOString(),
      who: a.name || null,
      kind: "answered",
      place: a.place,
      option: a.choice,
      yes: a.choice !== NO,
      priceMinor: agreedPrice(a),
    })),
    ...decisions.map((d): Fact => ({
      id: `decision ${d.id}`,
      at: d.at.toISOString(),
      who: d.who,
      kind: "decided",
      act: d.disposition,
      why: d.why,
    })),
    ...returns.map((c): Fact => ({
      id: `return ${c.id}`,
      at: c.at.toISOString(),
      who: c.who,
      kind: "told",
      by: "return",
      words: c.words,
    })),
  ];
}

/** The words of the listing that it was bought from, and what hands broke on the way. */
export async function besideFacts(db: Knex, unitId: Id<"unit">): Promise<Fact[]> {
  const [listings, damages] = await together(
    db,
    () =>
      rowsOf(
        db("listing as l")
          .join("person as p", "p.id", "l.by")
          .where("l.unit_id", unitId)
          .orderBy(["l.at", "l.id"]),
        { l: "listing", p: "person" },
        "l.id",
        "l.words",
        "l.at",
        "p.name as who",
      ),
    () =>
      rowsOf(
        db("damage as d")
          .join("person as p", "p.id", "d.by")
          .where({ "d.unit_id": unitId })
          .orderBy(["d.at", "d.id"]),
        { d: "damage", p: "person" },
        "d.id",
        "d.place",
        "d.made_good",
        "d.at",
        "p.name as who",
        computed<{ settled: Date }>(
          db.raw(
            `coalesce((select max(e.at) from event e where e.unit_id = d.unit_id and e.kind = 'damage-made-good'
               and e.body->>'what' = d.what), d.at) as settled`,
          ),
        ),
      ),
  );
  return [
    ...listings
      .filter((l) => l.words.trim() !== "")
      .map((l): Fact => ({
        id: `listing ${l.id}`,
        at: l.at.toISOString(),
        who: l.who,
        kind: "told",
        by: "listing",
        words: l.words.slice(0, 2000),
      })),
    ...damages.map((d): Fact => ({
      id: `damage ${d.id}`,
      at: d.at.toISOString(),
      who: d.who,
      ...(d.made_good === "" ? {} : { settled: d.settled.toISOString() }),
      kind: "observed",
      place: d.place.slice(0, 60),
      finding: "torn",
      severity: 2,
      magnified: false,
      code: "damaged",
    })),
  ];
}

/** When a fault was settled: by the hand that said so, or by the last mend of it. */
const SETTLED_AT = `coalesce(
  (select max(e.at) from event e where e.unit_id = f.unit_id and e.kind = 'fault-settled'
     and (e.body->>'number')::int = f.number and e.body->>'to' <> 'open'),
  (select max(m.at) from mend m where m.fault_id = f.id), f.at) as settled`;

/** What hands named and no measure, as a fault or as a sign of one: it counts before anything is recorded. */
export async function namedFacts(db: Knex, unitId: Id<"unit">, of: CaseOf): Promise<Fact[]> {
  const [heads, signs] = await together(
    db,
    () =>
      rowsOf(
        db("fault as f")
          .join("person as p", "p.id", "f.by")
          .where({ "f.unit_id": unitId })
          .whereNull("f.measure")
          .orderBy("f.number"),
        { f: "fault", p: "person" },
        "f.id",
        "f.place",
        "f.kind",
        "f.words",
        "f.status",
        "f.at",
        "p.name as who",
        computed<{ settled: Date }>(db.raw(SETTLED_AT)),
      ),
    () =>
      rowsOf(
        db("symptom as s")
          .join("fault as f", "f.id", "s.fault_id")
          .join("person as p", "p.id", "s.by")
          .where({ "s.unit_id": unitId })
          .whereNull("s.measure")
          .orderBy(["s.at", "s.id"]),
        { s: "symptom", f: "fault", p: "person" },
        "s.id",
        "s.place",
        "s.kind",
        "s.words",
        "f.status",
        "s.cured_at",
        "s.at",
        "p.name as who",
        computed<{ settled: Date }>(db.raw(SETTLED_AT)),
      ),
  );
  const patternOf = (place: string, words: string): Outcome | null => {
    const thing = of.things.find((t) => t.id === place);
    return thing ? (readClaim(`${thing.name} ${words}`, [thing], of.lexicon)[0]?.outcome ?? null) : null;
  };
  const all = [
    ...heads.map((f) => ({ ...f, id: `fault ${f.id}`, over: f.status === "open" ? null : f.settled })),
    ...signs.map((s) => ({
      ...s,
      id: `symptom ${s.id}`,
      over: s.cured_at ?? (s.status === "open" ? null : s.settled),
    })),
  ];
  return all.map((f): Fact => ({
    id: f.id,
    at: f.at.toISOString(),
    who: f.who,
    ...(f.over ? { settled: f.over.toISOString() } : {}),
    kind: "function",
    place: f.place,
    outcome: "fail",
    pattern: patternOf(f.place, `${f.kind} ${f.words}`),
    hand: "named",
    words: f.kind,
  }));
}
