import type { Minor } from "../money/money";
import type { ActNow } from "../policy/rung";
import { QUICK, ROUGH } from "../policy/solve";
import { labourOf } from "../money/rates";
import {
  type Built,
  type DecideInput,
  type LadderPlace,
  type Option,
  type Skipped,
  buildProblem,
} from "./build";
import type { DecideCheck } from "./causes";
import { type Disposition, type End, bestOf, endsOf, keepOf, spreadIn } from "./ends";
import { type Ladder, solveLadder } from "./ladder";
import type { School } from "./routes";
import { keeping, solved, unchecked } from "./solved";
import { firstTry, type Leaf, type Spread, type TreeNode, leavesOf, treeOf } from "./walk";

export type NamedCheck = Pick<DecideCheck, "id" | "kind" | "name">;
export type SchoolPlan = { school: School; value: number; first: string | null; less: number };

export type Advice = {
  options: Option[];
  places: LadderPlace[];
  skipped: Skipped[];
  /** no fault is named and not all was tested: test it, before any figure says what it brings */
  testFirst: boolean;
  /** how many routes were set aside to keep the ladder exact; 0 nearly always */
  setAside: number;
  tree: TreeNode;
  /** the checks that were weighed: acts and rungs name them by their place in this list */
  checks: NamedCheck[];
  /** the best acts now, each with what it brings if the best is done after it */
  acts: ActNow[];
  /** no policy brings more than this; `value` where everything was worked out */
  upper: number;
  value: number;
  ends: End[];
  best: Disposition;
  spread: Spread;
  schools: SchoolPlan[];
  policy: { value: number; tree: TreeNode; best: Disposition; rules: number } | null;
  sunk: Minor;
  /** what going on may still cost more than planned before giving up is better; nothing left means stop */
  room: number;
  giveUp: number;
  twins: { place: string; now: number; later: number; chance: number }[];
};

/**
 * What the shop's rules leave of the routes: for a place under a rule only that rule's route, if it is to be
 * had.
 */
function underRules(input: DecideInput, built: Built): { keep: Set<number>; rules: number } {
  let rules = 0;
  const keep = new Set(built.options.map((_, i) => i));
  for (const p of built.places) {
    const rule = input.rules.find(
      (r) =>
        r.family === p.family &&
        (r.also === null ||
          built.places.some(
            (x) => !x.twin && x.place !== p.place && x.place.startsWith(p.place) && x.family === r.also,
          )),
    );
    const own = built.options.map((o, i) => ({ o, i })).filter(({ o }) => o.places.includes(p.place));
    if (!rule || !own.some(({ o }) => o.route.id === rule.route)) continue;
    if (!p.twin) rules++;
    for (const { o, i } of own) if (o.route.id !== rule.route) keep.delete(i);
  }
  return { keep, rules };
}

/** What each school of mending would bring by itself, the best first. */
function schoolsOf(built: Built, ladder: Ladder): SchoolPlan[] {
  const { options } = built;
  const schools = new Set(options.filter((o) => !o.twin).map((o) => o.route.school));
  return [...schools]
    .flatMap((school): SchoolPlan[] => {
      const has = new Set(
        options.filter((o) => !o.twin && o.route.school === school).flatMap((o) => o.places),
      );
      const kept = new Set(
        options.flatMap((o, i) =>
          o.twin || !o.places.some((p) => has.has(p)) || o.route.school === school ? [i] : [],
        ),
      );
      const own = unchecked(keeping(built, kept));
      const plan = solveLadder(own.problem, ROUGH);
      if (!plan.ok) return [];
      const { root, value } = plan.value;
      const tried = firstTry(treeOf(own.problem, root));
      const first = tried ? own.options[tried.attempt]!.route.name : null;
      return [{ school, value, first, less: ladder.value - value }];
    })
    .sort((a, b) => b.value - a.value);
}

/** What the shop's own rules would do, where one bears on this unit. */
function policyOf(input: DecideInput, built: Built, sunk: Minor): Advice["policy"] {
  const { keep, rules } = underRules(input, built);
  if (rules === 0) return null;
  const kept = keeping(built, keep);
  const plan = solveLadder(kept.problem);
  if (!plan.ok) return null;
  const back = [...keep].sort((a, b) => a - b);
  return {
    value: plan.value.value,
    tree: renumbered(treeOf(kept.problem, plan.value.root, codesOf(input)), back),
    best: bestOf(endsOf(input, kept, plan.value, sunk)),
    rules,
  };
}

/** What going on brings where it cannot be done: a figure that any file can hold. */
const NOWHERE = -1e12;
const goesOn = (e: End) => e.disposition === "mend" || e.disposition === "hold";

const highest = (least: number, ends: readonly End[]) =>
  ends.reduce((m, e) => Math.max(m, e.value ?? -Infinity), least);

/**
 * The whole advice on one unit. Pure and deterministic; some hundred milliseconds at the worst, so keep it
 * off a page's main thread.
 */
export function advise(input: DecideInput, limits = QUICK): Advice {
  const { built, ladder, setAside } = solved(buildProblem(input), Infinity, limits);
  const { problem, options, places } = built;
  const sunk = input.spent.purchase + input.spent.parts + labourOf(input.spent.minutes, input.rates);
  const ends = endsOf(input, built, ladder, sunk);
  const best = bestOf(ends);
  const chosen = ends.find((e) => e.disposition === best)!;
  const giveUp = highest(
    problem.giveUp[problem.openedTo]!,
    ends.filter((e) => !goesOn(e)),
  );
  return {
    options,
    places,
    skipped: built.skipped,
    testFirst: places.every((p) => p.twin) && input.untested.length > 0,
    setAside,
    tree: treeOf(problem, ladder.root, codesOf(input)),
    checks: (input.checks ?? []).map(({ id, kind, name }) => ({ id, kind, name })),
    acts: ladder.acts,
    upper: Math.max(ladder.upper, ...ends.map((e) => e.value ?? -Infinity)),
    value: chosen.value!,
    ends,
    best,
    spread: chosen.spread ?? spreadIn({ input, built, ladder, sunk }, leavesOf(problem, ladder.root)),
    schools: schoolsOf(built, ladder),
    policy: policyOf(input, built, sunk),
    sunk,
    room: highest(NOWHERE, ends.filter(goesOn)) - giveUp,
    giveUp,
    twins: twinsOf(input, built),
  };
}

const codesOf = (input: DecideInput): string[][] =>
  (input.checks ?? []).map((c) => c.outcomes.map((o) => o.code));

function renumbered(node: TreeNode, back: readonly number[]): TreeNode {
  if (node.do === "check")
    return { ...node, outcomes: node.outcomes.map((o) => ({ ...o, then: renumbered(o.then, back) })) };
  if (node.do !== "try") return node;
  return {
    ...node,
    attempt: back[node.attempt]!,
    worked: renumbered(node.worked, back),
    failed: renumbered(node.failed, back),
  };
}

/**
 * The like part on the other side: what it costs now while open, and what leaving it costs on average later.
 */
function twinsOf(input: DecideInput, built: Built): Advice["twins"] {
  return built.places
    .filter((p) => p.twin)
    .flatMap((p) => {
      const own = built.options.map((o, i) => ({ o, i })).filter(({ o }) => o.places[0] === p.place);
      if (own.length === 0) return [];
      const costs = own.map(({ i }) => built.problem.attempts[i]!.cost);
      const now = Math.min(...costs);
      const deep = built.problem.depths[built.problem.attempts[own[costs.indexOf(now)]!.i]!.depth]!.cost;
      return [
        {
          place: p.name,
          now,
          later: input.rates.twinReturn * (built.problem.comebackCost + now + deep),
          chance: input.rates.twinReturn,
        },
      ];
    });
}

/**
 * What a unit with these faults is worth, by the best three routes of each: for many made-up units at once.
 */
export function worthOf(input: DecideInput): {
  value: number;
  leaves: Leaf[];
  keep: number;
  first: Option | null;
} {
  const { built, ladder } = solved(buildProblem(input), 3);
  const ends = endsOf(input, built, ladder, 0);
  const best = ends.find((e) => e.disposition === bestOf(ends))!;
  const { root } = ladder;
  const goes = best.disposition === "mend" || best.disposition === "hold";
  const leaves: Leaf[] = goes
    ? leavesOf(built.problem, root)
    : [{ chance: 1, money: best.value!, minutes: best.spread!.minutes, price: 0, end: "given-up" }];
  return {
    value: best.value!,
    leaves,
    keep: keepOf(built.problem),
    first: goes && root.do === "try" ? built.options[root.attempt]! : null, // many at once know no checks
  };
}
