import { labourOf } from "../money/rates";
import type { LadderProblem, PolicyCheck } from "../policy/problem";
import type { DecideInput, LadderPlace } from "./asked";
import type { DecideCheck } from "./causes";
import { canTreat, worksUnder } from "./route-chance";
import type { Route } from "./routes";

/** What whole explanations add to a unit's problem: attempts that share their causes, and checks that tell them apart. */

type Offered = { route: Route; places: readonly string[]; twin: boolean; mean: number; breaks: number };

/** Chance of each option under each whole explanation, by option; null where the causes are not known. */
export function worksOf(
  input: DecideInput,
  places: readonly LadderPlace[],
  options: readonly Offered[],
): number[][] | null {
  const { whole } = input;
  if (!whole || whole.length === 0) return null;
  return options.map((o) => {
    const most = 1 - o.breaks;
    if (o.twin) return whole.map(() => Math.min(o.mean, most));
    const at = places.filter((p) => o.places.includes(p.place));
    return whole.map((w) => Math.min(worksUnder(input, o.route, at, w), most));
  });
}

/** Whether a route acts on one of the parts that a check is about: then there is nothing left to look at. */
function isVoid(input: DecideInput, places: readonly LadderPlace[], o: Offered, check: DecideCheck): boolean {
  return places.some(
    (p) =>
      o.places.includes(p.place) &&
      (input.causes?.[p.place] ?? []).some((c) =>
        c.parts.some((x) => check.nodes.includes(x.node) && canTreat(o.route, x.kind, p.family)),
      ),
  );
}

/** The checks of a problem: what each costs with its risk, how deep it lies, and what voids it. */
export function checksOf(
  input: DecideInput,
  {
    places,
    options,
    levels,
    stripAt,
  }: {
    places: readonly LadderPlace[];
    options: readonly Offered[];
    levels: readonly number[];
    stripAt: (check: DecideCheck) => number;
  },
): PolicyCheck[] {
  return (input.checks ?? []).map((check) => ({
    id: check.id,
    cost: labourOf(check.minutes + check.risk, input.rates),
    minutes: check.minutes,
    depth: levels.indexOf(stripAt(check)),
    outcomes: check.outcomes.map((o) => o.chances),
    faults: places.flatMap((p, i) => (check.places.includes(p.place) && !p.twin ? [i] : [])),
    voided: options.flatMap((o, i) => (isVoid(input, places, o, check) ? [i] : [])),
  }));
}

/** The fields of a problem whose causes are known. */
export const explainedBy = (
  input: DecideInput,
  checks: PolicyCheck[],
): Pick<LadderProblem, "explanations" | "checks"> => ({
  explanations: input.whole!.map((w) => w.probability),
  checks,
});
