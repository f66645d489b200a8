import type { Built } from "@/core/decide/build";
import { taking } from "@/core/policy/problem";
import { HOUSE_RATES, labourOf } from "@/core/money/rates";
import { COMES_BACK_BAD, PROOF_MINUTES, reaches } from "./case";
import { type Fault, LOOK, OUTSIDE, signsAt, type World, WRONG_SEEN } from "./truth";
import { type FloorUnit, possible } from "./units";

/**
 * Play with the generator's own odds: beliefs over what may be wrong, and the best next act by looking ahead
 * through every order of acts and what each may show, as deep as pays. With the truth as its only belief it is
 * the player who sees it. Exact for one fault; orders that lead to the same tests share a belief, which for two
 * faults is nearly right. Of many acts the three likeliest to help are weighed, and four in a row, over the 24 likeliest
 * beliefs; of parts to look at the two that are least sure, and two in a row.
 */

export type Particle = { faults: readonly Fault[]; gone: number; weight: number };
export type Move =
  { do: "try"; option: number } | { do: "look"; node: string } | { do: "sell" | "sell-limited" | "give-up" };

const MOST_PARTICLES = 24;
const MOST_ACTS = 3;
const MOST_DEEP = 4;
const MOST_LOOKS = 2;
const LOOKS_IN_A_ROW = 2;
/** Nobody looks at what is as good as known. */
const UNSURE = 0.03;
const FICKLE = 0.6;
const SAYS_SO = 0.97;

/** Whatever may be wrong with a unit whose first test came out so, the likeliest first; weights add up to 1. */
export function beliefOf(
  unit: FloorUnit,
  world: World,
  failing: ReadonlyMap<string, string | null>,
): Particle[] {
  const { profile, wires } = unit;
  const all = possible(profile, wires, world);
  const sum = all.reduce((s, x) => s + x.weight, 0);
  const singles = all.flatMap(({ fault, weight, fickle }) => [
    { fault, weight: (weight / sum) * (1 - fickle) },
    { fault: { ...fault, shows: FICKLE }, weight: (weight / sum) * fickle },
  ]);
  const signs = new Map(
    singles.map(({ fault }) => [fault, wires.places.map((p) => signsAt(profile, wires, fault, p))]),
  );
  const chanceOf = (faults: readonly Fault[]): number => {
    let likely = 1;
    wires.places.forEach((place, i) => {
      const shown = faults.filter((f) => (signs.get(f) ?? []).length > 0 && signs.get(f)![i]!.length > 0);
      if (!failing.has(place)) {
        for (const f of shown) likely *= f.shows >= 1 ? 1 - SAYS_SO : 1 - f.shows;
        return;
      }
      const measure = failing.get(place)!;
      const by = shown.map((f) => {
        const may = signs.get(f)![i]!;
        return may.includes(measure) ? 1 / may.length : 0;
      });
      likely *= Math.max(0.002, ...by);
    });
    return likely;
  };
  const particles: Particle[] = singles.map((s) => ({
    faults: [s.fault],
    gone: 0,
    weight: 0.78 * 0.9 * s.weight * chanceOf([s.fault]),
  }));
  const useful = singles.filter((s) =>
    signs.get(s.fault)!.some((x, i) => x.length > 0 && failing.has(wires.places[i]!)),
  );
  for (const [i, a] of useful.entries())
    for (const b of useful.slice(0, i))
      if (a.fault.node !== b.fault.node)
        particles.push({
          faults: [a.fault, b.fault],
          gone: 0,
          weight: 0.22 * 0.9 * 2 * a.weight * b.weight * chanceOf([a.fault, b.fault]),
        });
  for (const place of failing.keys()) {
    const fault: Fault = { node: place, defect: OUTSIDE, shows: 1 };
    const others = [...failing.keys()].length - 1;
    particles.push({
      faults: [fault],
      gone: 0,
      weight: (0.1 / wires.places.length) * 0.25 * 0.002 ** others,
    });
  }
  return normal(particles);
}

function normal(particles: readonly Particle[]): Particle[] {
  const best = [...particles].sort((a, b) => b.weight - a.weight).slice(0, MOST_PARTICLES);
  const sum = best.reduce((s, p) => s + p.weight, 0);
  return sum > 0 ? best.map((p) => ({ ...p, weight: p.weight / sum })) : [];
}

/** Where one stands: what is believed, what fails, which routes are used up, what worked, what was looked at. */
type Spot = {
  belief: readonly Particle[];
  failing: readonly string[];
  gone: ReadonlySet<number>;
  acts: number;
  worked: readonly number[];
  depth: number;
  seen: ReadonlyMap<string, boolean>;
};
const RARE = 1e-4;

type Outcome = { failing: string; chance: number; belief: Particle[] };

export class Ideal {
  private readonly memo = new Map<string, { value: number; move: Move }>();
  constructor(
    private readonly unit: FloorUnit,
    private readonly world: World,
    private readonly built: Built,
    private readonly looks: readonly string[],
  ) {}

  /** What a route leaves of a belief, for each set of places that may still fail afterwards. */
  after(belief: readonly Particle[], option: number, failing: readonly string[]): Outcome[] {
    const { wires } = this.unit;
    const o = this.built.options[option]!;
    const next = new Map<string, Particle[]>();
    for (const p of belief) {
      let states: { gone: number; chance: number }[] = [{ gone: p.gone, chance: 1 }];
      p.faults.forEach((f, k) => {
        if (p.gone & (1 << k) || !o.places.some((x) => reaches(wires, f, x))) return;
        const c = this.world.cures(o.route.id, f.defect);
        states = states.flatMap((s) => [
          { gone: s.gone | (1 << k), chance: s.chance * c },
          { gone: s.gone, chance: s.chance * (1 - c) },
        ]);
      });
      for (const s of states) {
        const left = p.faults.filter((_, k) => !(s.gone & (1 << k)));
        for (const { still, chance } of this.shown(left, failing)) {
          const key = still.join(" ");
          const list = next.get(key) ?? [];
          list.push({ faults: p.faults, gone: s.gone, weight: p.weight * s.chance * chance });
          next.set(key, list);
        }
      }
    }
    return [...next].map(([key, list]) => ({
      failing: key,
      chance: list.reduce((s, p) => s + p.weight, 0),
      belief: normal(list),
    }));
  }

  /** Which of the failing places still do: constant faults always show, one that comes and goes shows or not. */
  private shown(left: readonly Fault[], failing: readonly string[]): { still: string[]; chance: number }[] {
    const at = (some: readonly Fault[]) =>
      failing.filter((p) => some.some((f) => signsAt(this.unit.profile, this.unit.wires, f, p).length > 0));
    const fickle = left.filter((f) => f.shows < 1);
    const constant = left.filter((f) => f.shows >= 1);
    if (fickle.length === 0) return [{ still: at(constant), chance: 1 }];
    return [
      { still: at(left), chance: FICKLE },
      { still: at(constant), chance: 1 - FICKLE },
    ];
  }

  private sold(belief: readonly Particle[], worked: readonly number[]): number {
    const p = this.built.problem;
    const cap = worked.reduce((c, i) => Math.max(c, p.attempts[i]!.cap), p.cap as number) as 0 | 1 | 2;
    const hidden = belief.reduce((s, x) => s + (x.gone < (1 << x.faults.length) - 1 ? x.weight : 0), 0);
    const kept = worked.reduce(
      (k, i) => k * (1 - this.world.comesBack(this.built.options[i]!.route.school)),
      (1 - HOUSE_RATES.returnBase) * (1 - hidden * COMES_BACK_BAD),
    );
    return taking(p.price[cap]!, p.sale) - (1 - kept) * p.comebackCost - labourOf(PROOF_MINUTES, HOUSE_RATES);
  }

  /** Sold with what still fails said; null where something cannot be left. */
  private soldLimited(failing: readonly string[], worked: readonly number[]): number | null {
    const p = this.built.problem;
    const cap = worked.reduce((c, i) => Math.max(c, p.attempts[i]!.cap), p.cap as number) as 0 | 1 | 2;
    const left = this.built.places.filter((x) => !x.twin && failing.includes(x.place));
    if (left.length < failing.length || left.some((x) => x.leaveShare === null)) return null;
    const share = left.reduce((s, x) => s * x.leaveShare!, 1);
    return taking(p.price[cap]! * share, p.sale) - HOUSE_RATES.returnBase * p.comebackCost;
  }

  best(belief: readonly Particle[], failing: readonly string[]): Move {
    const { openedTo } = this.built.problem;
    const none = { gone: new Set<number>(), acts: 0, worked: [], seen: new Map<string, boolean>() };
    return this.value({ belief, failing, depth: openedTo, ...none }).move;
  }

  private value(at: Spot): { value: number; move: Move } {
    const { belief, failing, worked, depth } = at;
    const p = this.built.problem;
    if (failing.length === 0) return { value: this.sold(belief, worked), move: { do: "sell" } };
    const key = `${[...at.gone].sort().join()}|${failing.join()}|${worked.join()}|${depth}|${[...at.seen].join()}`;
    const had = this.memo.get(key);
    if (had) return had;
    let best: { value: number; move: Move } = { value: p.giveUp[depth]!, move: { do: "give-up" } };
    const take = (value: number, move: Move) => void (value > best.value && (best = { value, move }));
    const limited = this.soldLimited(failing, worked);
    if (limited !== null) take(limited, { do: "sell-limited" });
    if (at.acts < MOST_DEEP)
      for (const option of this.worthTrying(at)) take(this.worthOfTry(at, option), { do: "try", option });
    for (const node of this.worthLooking(at)) take(this.worthOfLook(at, node), { do: "look", node });
    this.memo.set(key, best);
    return best;
  }

  /** The parts of which it is least sure whether they are bad. */
  private worthLooking({ belief, seen }: Spot): string[] {
    if (seen.size >= LOOKS_IN_A_ROW) return [];
    return this.looks
      .filter((node) => !seen.has(node))
      .map((node) => {
        const bad = belief.reduce(
          (s, p) => s + (p.faults.some((f, k) => f.node === node && !(p.gone & (1 << k))) ? p.weight : 0),
          0,
        );
        return { node, unsure: Math.min(bad, 1 - bad) };
      })
      .filter((x) => x.unsure > UNSURE)
      .sort((a, b) => b.unsure - a.unsure)
      .slice(0, MOST_LOOKS)
      .map((x) => x.node);
  }

  private worthOfTry(at: Spot, option: number): number {
    const { failing, worked } = at;
    const p = this.built.problem;
    const a = p.attempts[option]!;
    const { places, route } = this.built.options[option]!;
    const depth = Math.max(at.depth, a.depth);
    const gone = new Set([...at.gone, option, ...(a.spends ?? [])]);
    let q = route.breaks * p.giveUpBroken - a.cost - (p.depths[depth]!.cost - p.depths[at.depth]!.cost);
    for (const o of this.after(at.belief, option, failing)) {
      if (o.chance < RARE) continue;
      const still = o.failing ? o.failing.split(" ") : [];
      const helped = places.some((x) => failing.includes(x) && !still.includes(x));
      const next: Spot = {
        belief: o.belief,
        failing: still,
        gone,
        acts: at.acts + 1,
        worked: helped ? [...worked, option] : worked,
        depth,
        seen: at.seen,
      };
      q += (1 - route.breaks) * o.chance * this.value(next).value;
    }
    return q;
  }

  private worthOfLook(at: Spot, node: string): number {
    const p = this.built.problem;
    const depth = Math.max(at.depth, Math.min(1, p.depths.length - 1));
    let q = -labourOf(LOOK.minutes, HOUSE_RATES) - (p.depths[depth]!.cost - p.depths[at.depth]!.cost);
    for (const bad of [true, false]) {
      const then = seenSo(at.belief, node, bad);
      const chance = then.reduce((s, x) => s + x.weight, 0);
      if (chance < RARE) continue;
      const seen = new Map([...at.seen, [node, bad]] as const);
      q += chance * this.value({ ...at, belief: normal(then), depth, seen }).value;
    }
    return q;
  }

  /** The options that may help a place that fails, the likeliest a unit of money first. */
  private worthTrying({ belief, failing, gone }: Spot): number[] {
    const { wires } = this.unit;
    return this.built.options
      .map((o, i) => {
        if (gone.has(i) || o.twin || !o.places.some((x) => failing.includes(x))) return { i, helps: 0 };
        const helps = belief.reduce((s, p) => {
          const best = p.faults.reduce(
            (m, f, k) =>
              p.gone & (1 << k) || !o.places.some((x) => reaches(wires, f, x))
                ? m
                : Math.max(m, this.world.cures(o.route.id, f.defect)),
            0,
          );
          return s + p.weight * best;
        }, 0);
        return { i, helps: helps > 0.03 ? helps / (this.built.problem.attempts[i]!.cost + 300) : 0 };
      })
      .filter((x) => x.helps > 0)
      .sort((a, b) => b.helps - a.helps)
      .slice(0, MOST_ACTS)
      .map((x) => x.i);
  }
}

/** A belief after a part was looked at, not yet made to add up. */
export function seenSo(belief: readonly Particle[], node: string, bad: boolean): Particle[] {
  return belief.map((p) => {
    const faulty = p.faults.some((f, k) => f.node === node && !(p.gone & (1 << k)));
    const says = faulty ? LOOK.shows : LOOK.seems;
    const seems = says * (1 - WRONG_SEEN) + (1 - says) * WRONG_SEEN;
    return { ...p, weight: p.weight * (bad ? seems : 1 - seems) };
  });
}

export const settled = normal;
