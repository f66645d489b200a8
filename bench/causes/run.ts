import { type Proposal, rankChecks, USUAL_ADVICE } from "@/core/diagnosis/advise";
import { type Belief, type Evidence, learn, startBelief } from "@/core/diagnosis/belief";
import { type Check, evidenceOf } from "@/core/diagnosis/checks";
import { rankCauses } from "@/core/diagnosis/explain";
import { bestClasses, ELSEWHERE } from "@/core/diagnosis/twins";
import { seeded } from "@/core/math/random";
import { Oracle, type Truth, type World } from "./world";

/** One unit diagnosed by some order of checks, against the oracle. */

const SURE = 0.9; // minutes and checks are counted to here; the advice goes on to its own certainty

type Pick = (b: Belief, left: readonly Check[], isOpen: boolean) => Check | null;
const firstOf = (all: readonly Proposal[]): Check | null => all[0]?.check ?? null;
export const byAdvice: Pick = (b, left, isOpen) =>
  firstOf(rankChecks(b, left, { ...USUAL_ADVICE, isOpen, done: new Set() }));
export const byCheapness: Pick = (_b, left) =>
  [...left].sort((x, y) => x.minutes + x.risk - y.minutes - y.risk || x.id.localeCompare(y.id))[0] ?? null;

export type Run = {
  checks: number;
  minutes: number;
  right: boolean;
  among3: boolean;
  stated: number;
  startRight: boolean;
};

export function diagnose(w: World, is: Truth, seed: number, pick: Pick): Run {
  const oracle = new Oracle(w, is, seeded(seed));
  const b = startBelief(w.graph);
  learn(
    b,
    [...w.graph.restsOn.keys()].map((id): Evidence => ({ kind: "function", id, ...oracle.answer(id) })),
  );
  // what shows nowhere cannot be found by what it does: the causes of what fails are asked for
  const faults = is.parts.filter((f) => oracle.shown.has(f));
  const places = is.outside.filter((p) => oracle.shownOutside.has(p));
  const truth = [
    ...new Set([
      ...faults.map((f) => w.classes[f]!),
      ...places.map((p) => ELSEWHERE + b.parts + b.places.indexOf(p)),
    ]),
  ]
    .sort((x, y) => x - y)
    .join();
  const isRight = () => [...bestClasses(b, w.classes).classes].sort((x, y) => x - y).join() === truth;
  const startRight = isRight();
  let left: Check[] = w.library.filter((x) => x.kind !== "test"); // every control was tested already
  let minutes = 0;
  let checks = 0;
  let isOpen = false;
  let at: { checks: number; minutes: number } | null = null;
  for (;;) {
    const { probability } = bestClasses(b, w.classes);
    if (probability >= SURE) at ??= { checks, minutes };
    if (probability >= USUAL_ADVICE.certain) break;
    const next = pick(b, left, isOpen);
    if (!next) break;
    left = left.filter((x) => x !== next);
    if (next.opens && !isOpen) {
      isOpen = true;
      minutes += USUAL_ADVICE.openMinutes;
    }
    minutes += next.minutes;
    checks++;
    learn(b, [evidenceOf(next, oracle.check(next))]);
  }
  const ranked: number[] = [];
  for (const r of rankCauses(b)) {
    const cls = w.classes[w.graph.index.get(r.node)!]!;
    if (!ranked.includes(cls)) ranked.push(cls);
    if (ranked.length === 3) break;
  }
  return {
    ...(at ?? { checks, minutes }),
    right: isRight(),
    among3: faults.every((f) => ranked.includes(w.classes[f]!)),
    stated: bestClasses(b, w.classes).probability,
    startRight,
  };
}
