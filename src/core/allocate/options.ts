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

/**
 * Mending: for each way to pair every fault with one route, the ladder of just these routes (with its stops)
 * is solved without the price of their parts, and the parts become needs. Ending: sold as it is, stripped, or
 * kept for a week.
 */
export function planOptions({ input, fitting, frees }: OptionsAsked): PlanOption[] {
  const built = buildProblem(input);
  const { problem, options, places } = built;
  const faulty = places.filter((p) => !p.twin);
  const ends: PlanOption[] = [];
  const asFound = built.ends.asFound ? totalOf(built.ends.asFound) : null;
  if (asFound !== null) ends.push({ id: "sell", choice: "sell", value: asFound, minutes: 0, needs: [] });
  if (input.customer === null) {
    const minutes = Math.max(0, Math.round(input.rates.stripHours * 60) - input.openMinutes);
    const parts = frees.reduce((s, f) => s + f.count * f.worth, 0);
    ends.push({
      id: "strip",
      choice: "strip",
      value: parts - labourOf(minutes, input.rates),
      minutes,
      needs: [],
    });
    const later = Math.max(0, asFound ?? 0, parts - labourOf(minutes, input.rates));
    ends.push({
      id: "keep",
      choice: "keep",
      value: later - DAYS_KEPT * input.rates.shelfPerDay,
      minutes: 0,
      needs: [],
    });
  } else
    ends.push({
      id: "hand-back",
      choice: "hand-back",
      value: -input.rates.carriageOut,
      minutes: 0,
      needs: [],
    });
  if (faulty.length === 0) return ends;

  // the best few routes of each place by what they would bring alone, and always the best that needs no part
  const score = (i: number): number => {
    const a = problem.attempts[i]!;
    return a.success - a.cost / Math.max(1, problem.price[0]);
  };
  const ways = faulty.map((p) => {
    const found = options
      .map((o, i) => ({ o, i }))
      .filter(({ o }) => !o.twin && o.places[0] === p.place)
      .filter(({ o }) => !o.route.part || (o.slot && fitting(o.slot, o.route.part.make).length > 0))
      .sort((a, b) => score(b.i) - score(a.i));
    const few = found.slice(0, WAYS_A_PLACE);
    const bare = found.find(({ o }) => !o.route.part);
    return bare && !few.includes(bare) ? [...few, bare] : few;
  });
  const total = (set: readonly number[]) => set.reduce((s, i) => s + score(i), 0);
  const bare = (set: readonly number[]) => set.every((i) => !options[i]!.route.part);
  let sets: number[][] = [[]];
  faulty.forEach((p, k) => {
    const next: number[][] = [];
    for (const set of sets) {
      // one remedy may cure another place too
      if (set.some((i) => options[i]!.places.includes(p.place))) next.push(set);
      else if (ways[k]!.length === 0) next.push(set);
      else for (const w of ways[k]!) next.push([...set, w.i]);
    }
    next.sort((a, b) => total(b) - total(a));
    const few = next.slice(0, MOST_WAYS);
    const without = next.find(bare);
    sets = without && !few.includes(without) ? [...few, without] : few;
  });
  const mends: PlanOption[] = [];
  for (const set of sets) {
    if (set.length === 0) continue;
    const partCost = (i: number) =>
      -totalOf(options[i]!.terms.filter((t) => t.code === "part" || t.code === "shelf"));
    const few = {
      ...problem,
      attempts: set.map((i) => ({
        ...problem.attempts[i]!,
        cost: problem.attempts[i]!.cost - partCost(i),
        spends: [],
      })),
    };
    const ladder = solveLadder(few);
    if (!ladder.ok || ladder.value.trying === null) continue;
    const deepest = Math.max(0, ...set.map((i) => problem.depths[problem.attempts[i]!.depth]!.minutes));
    mends.push({
      id: set.map((i) => options[i]!.route.id).join("+"),
      choice: "mend",
      routes: set.map((i) => options[i]!.route.id),
      value: Math.round(ladder.value.trying),
      minutes: Math.round(
        set.reduce((s, i) => s + problem.attempts[i]!.minutes, 0) + Math.max(0, deepest - input.openMinutes),
      ),
      needs: set.flatMap((i) => {
        const { route, slot } = options[i]!;
        return route.part && slot
          ? [{ slot: slot.id, count: slot.fit?.count ?? 1, from: fitting(slot, route.part.make) }]
          : [];
      }),
    });
  }
  // of ways that need the same parts only the better one matters
  const kept = new Map<string, PlanOption>();
  for (const m of mends) {
    const key = JSON.stringify(m.needs);
    const had = kept.get(key);
    if (!had || m.value > had.value) kept.set(key, m);
  }
  const names = new Set<string>();
  const unique = [...kept.values()].map((m) => {
    let id = m.id;
    for (let n = 2; names.has(id); n++) id = `${m.id} ${n}`;
    names.add(id);
    return { ...m, id };
  });
  return [...unique, ...ends];
}
