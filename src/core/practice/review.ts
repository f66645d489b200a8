import { adviseOnCase } from "../casefile/advice";
import type { ActFile } from "../casefile/format";
import { type CaseWhole, knownOfCase } from "../casefile/known";
import { type Fact, inOrder } from "../case/facts";

/** A case looked at again: what each act was worth by what was known before it, against the best act then. */

export type ReviewStep = {
  /** what was done: a check, an attempt or an ending by its id */
  act: ActFile["act"];
  id: string;
  place: string | null;
  /** what it brought over stopping by what was known then, minor units; null where it was not among what pays */
  valueMinor: number | null;
  best: { act: ActFile["act"]; id: string; place: string | null };
  bestMinor: number;
  lostMinor: number;
};
export type HeldCause = { part: string; name: string; share: number };

const GOES_ON = ["mend", "hold"];
const MOST_STEPS = 12;
/** Values that lie closer are alike: the policy is not more exact than that. Minor units. */
const ALIKE = 50;

type Done = { act: ActFile["act"]; id: string; place: string | null };
function doneBy(fact: Fact, checks: ReadonlySet<string>): Done | null {
  if (fact.kind === "tried") return checks.has(fact.act) ? { act: "check", id: fact.act, place: null } : null;
  if (fact.kind === "observed") return { act: "check", id: `look.${fact.place}`, place: fact.place };
  if (fact.kind === "mended")
    return fact.route === null ? null : { act: "attempt", id: fact.route, place: fact.place };
  if (fact.kind === "decided" && !GOES_ON.includes(fact.act))
    return { act: "end", id: fact.act, place: null };
  return null;
}

/** Whether a fact says that the unit lay open by then. */
const isOpening = (f: Fact): boolean => f.kind === "observed" || f.kind === "mended";

const isSame = (done: Done, a: ActFile): boolean => {
  if (a.act !== done.act) return false;
  if (a.act === "attempt") return a.route === done.id && (done.place === null || a.place === done.place);
  return a.id === done.id;
};

/** The case as it was known before one of its facts. */
function before(file: CaseWhole, facts: readonly Fact[]): CaseWhole {
  const { faults: _named, ...rest } = file;
  return {
    ...rest,
    facts: [...facts],
    openMinutes: facts.some(isOpening) ? file.openMinutes : 0,
    spent: { ...file.spent, parts: 0, minutes: 0 },
  };
}

/** A fault as it was named, and when. */
export type Named = { number: number; place: string; measure: string | null; at: string };

/** The advice on a case as it was: on what failed by its tests, else on what was named by then. */
function advisedOn(was: CaseWhole, named: readonly Named[], at: string) {
  const advice = adviseOnCase(was);
  const then = named.filter((n) => n.at <= at);
  if (advice.next || then.length === 0) return advice;
  const faults = then.map(({ number, place, measure }) => ({ number, place, measure, refused: false }));
  return adviseOnCase({ ...was, faults });
}

/**
 * Each act of a case with the value that it lost; takes up to a second a step, twelve steps at most. Pure.
 * @param named the faults that were named, for what no test had shown
 */
export function reviewCase(file: CaseWhole, named: readonly Named[] = []): ReviewStep[] {
  const known = knownOfCase(file);
  const checks = new Set(known.of.library.map((c) => c.id));
  const facts = inOrder(known.facts);
  const steps: ReviewStep[] = [];
  for (const [i, fact] of facts.entries()) {
    const done = doneBy(fact, checks);
    if (!done || steps.length >= MOST_STEPS) continue;
    const { acts, next } = advisedOn(before(file, facts.slice(0, i)), named, fact.at);
    // before anything failed there was nothing to choose between
    if (!next) continue;
    const mine = acts.find((a) => isSame(done, a));
    const value = mine ? mine.valueMinor : null;
    // what was not weighed at all brings nothing over stopping
    const lost = Math.max(0, next.valueMinor - (value ?? 0));
    steps.push({
      ...done,
      valueMinor: value === null ? null : Math.round(value),
      best: { act: next.act, id: next.route ?? next.id, place: next.place },
      bestMinor: Math.round(next.valueMinor),
      lostMinor: lost < ALIKE ? 0 : Math.round(lost),
    });
  }
  return steps;
}

/** What the case holds of some parts in the end, each by its own share. */
export function heldOf(file: CaseWhole, parts: readonly string[]): HeldCause[] {
  const { belief, of } = knownOfCase(file);
  if (!belief) return [];
  return parts.flatMap((part) => {
    const at = of.graph.index.get(part);
    return at === undefined ? [] : [{ part, name: of.graph.nodes[at]!.name, share: belief.marginal[at]! }];
  });
}
