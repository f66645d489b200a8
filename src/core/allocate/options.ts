import { buildProblem, type DecideInput } from "../decide/build";
import { solveLadder } from "../decide/ladder";
import { labourOf, totalOf } from "../money/rates";
import type { Slot } from "../profile/slots";
import type { Freed, PlanOption } from "./problem";

/**
 * What can be done with one unit, as a plan takes it: each way to mend with the parts that it needs, and each
 * way to end.
 */

const WAYS_A_PLACE = 4;
const MOST_WAYS = 12;
const DAYS_KEPT = 7;

export type OptionsAsked = {
  input: DecideInput;
  /** parts of the catalogue that fit a slot and are of a make, and may be used for this unit */
  fitting: (slot: Slot, make: string) => string[];
  /** what one reads of the unit's own parts when it is stripped */
  frees: readonly Freed[];
};

type Built = ReturnType<typeof buildProblem>;

/** Sold as it is, stripped, kept for a week; a customer's unit is only handed back. */
function endings(built: Built, { input, frees }: OptionsAsked): PlanOption[] {
  const asFound = built.ends.asFound ? totalOf(built.ends.asFound) : null;
  const ends: PlanOption[] = [];
  const end = (choice: PlanOption["choice"], value: number, minutes: number) =>
    ends.push({ id: choice, choice, value, minutes, needs: [] });
  if (asFound !== null) end("sell", asFound, 0);
  if (input.customer !== null) {
    end("hand-back", -input.rates.carriageOut, 0);
    return ends;
  }
  const minutes = Math.max(0, Math.round(input.rates.stripHours * 60) - input.openMinutes);
  const stripped = frees.reduce((s, f) => s + f.count * f.worth, 0) - labourOf(minutes, input.rates);
  end("strip", stripped, minutes);
  end("keep", Math.max(0, asFound ?? 0, stripped) - DAYS_KEPT * input.rates.shelfPerDay, 0);
  return ends;
}

/** What a route would bring alone: its chance less its cost in units of the best price. */
const scoreIn =
  ({ problem }: Built) =>
  (i: number): number => {
    const a = problem.attempts[i]!;
    return a.success - a.cost / Math.max(1, problem.price[0]);
  };

/** The best few routes of each faulty place by what they would bring alone, and always the best that needs no part. */
function waysOf(built: Built, { fitting }: OptionsAsked): number[][] {
  const score = scoreIn(built);
  const { options } = built;
  return faultyOf(built).map((p) => {
    const found = options
      .map((o, i) => ({ o, i }))
      .filter(({ o }) => !o.twin && o.places[0] === p.place)
      .filter(({ o }) => !o.route.part || (o.slot && fitting(o.slot, o.route.part.make).length > 0))
      .sort((a, b) => score(b.i) - score(a.i));
    const few = found.slice(0, WAYS_A_PLACE);
    const bare = found.find(({ o }) => !o.route.part);
    return (bare && !few.includes(bare) ? [...few, bare] : few).map(({ i }) => i);
  });
}

const faultyOf = ({ places }: Built) => places.filter((p) => !p.twin);

/** Each way to pair every fault with one route: the best few, and always the best that needs no part. */
function pairings(built: Built, ways: number[][]): number[][] {
  const { options } = built;
  const score = scoreIn(built);
  const total = (set: readonly number[]) => set.reduce((s, i) => s + score(i), 0);
  const bare = (set: readonly number[]) => set.every((i) => !options[i]!.route.part);
  let sets: number[][] = [[]];
  faultyOf(built).forEach((p, k) => {
    const next = sets.flatMap((set) => {
      // one remedy may cure another place too
      const cured = set.some((i) => options[i]!.places.includes(p.place));
      return cured || ways[k]!.length === 0 ? [set] : ways[k]!.map((way) => [...set, way]);
    });
    next.sort((a, b) => total(b) - total(a));
    const few = next.slice(0, MOST_WAYS);
    const without = next.find(bare);
    sets = without && !few.includes(without) ? [...few, without] : few;
  });
  return sets.filter((set) => set.length > 0);
}

/** The ladder of just these routes, with its stops, without the price of their parts, which become needs. */
function mendBy(set: number[], built: Built, { input, fitting }: OptionsAsked): PlanOption | null {
  const { problem, options } = built;
  const attempts = set.map((i) => problem.attempts[i]!);
  const routes = set.map((i) => options[i]!.route.id);
  const partCost = (i: number) =>
    -totalOf(options[i]!.terms.filter((t) => t.code === "part" || t.code === "shelf"));
  const ladder = solveLadder({
    ...problem,
    attempts: attempts.map((a, k) => ({ ...a, cost: a.cost - partCost(set[k]!), spends: [] })),
  });
  if (!ladder.ok || ladder.value.trying === null) return null;
  const deepest = Math.max(0, ...attempts.map((a) => problem.depths[a.depth]!.minutes));
  const working = attempts.reduce((s, a) => s + a.minutes, 0);
  return {
    id: routes.join("+"),
    choice: "mend",
    routes,
    value: Math.round(ladder.value.trying),
    minutes: Math.round(working + Math.max(0, deepest - input.openMinutes)),
    needs: set.flatMap((i) => {
      const { route, slot } = options[i]!;
      return route.part && slot
        ? [{ slot: slot.id, count: slot.fit?.count ?? 1, from: fitting(slot, route.part.make) }]
        : [];
    }),
  };
}

/** Of ways that need the same parts only the better one matters. */
function withoutWorse(mends: readonly PlanOption[]): PlanOption[] {
  const kept = new Map<string, PlanOption>();
  for (const m of mends) {
    const key = JSON.stringify(m.needs);
    const had = kept.get(key);
    if (!had || m.value > had.value) kept.set(key, m);
  }
  return [...kept.values()];
}

function withNamesOfTheirOwn(mends: readonly PlanOption[]): PlanOption[] {
  const names = new Set<string>();
  return mends.map((m) => {
    let id = m.id;
    for (let n = 2; names.has(id); n++) id = `${m.id} ${n}`;
    names.add(id);
    return { ...m, id };
  });
}

/**
 * Mending: for each way to pair every fault with one route, what its ladder is worth and which parts it
 * needs. Ending: sold as it is, stripped, or kept for a week.
 */
export function planOptions(asked: OptionsAsked): PlanOption[] {
  const built = buildProblem(asked.input);
  const ends = endings(built, asked);
  if (faultyOf(built).length === 0) return ends;
  const mends = pairings(built, waysOf(built, asked)).flatMap((set) => mendBy(set, built, asked) ?? []);
  return [...withNamesOfTheirOwn(withoutWorse(mends)), ...ends];
}
