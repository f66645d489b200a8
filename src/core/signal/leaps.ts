import { incompleteBeta } from "../math/binomial";
import { median } from "../math/quantile";
import type { Prepared } from "./rows";

/**
 * Leaps out of the flow: what a worn track does at every crossing, seen also where the rows come so slowly
 * that no single step is faster than a hand. A step over a place is *long* when it is longer than the steps
 * before and after it explain; a place where nearly every crossing is long is worn. How often a good stick's
 * step is long (lost rows, late rows, a jerky hand) is taken from the other places of the same recording, and
 * the binomial tail of that share says whether the place can be chance. Method and figures:
 * docs/measures.md, "Leaps out of the flow".
 */

const AROUND = 3; // changes before and after that make the flow
const USUAL_MOST = 2.5; // a longer wait says nothing about the speed in it
/** How many times the flow a step must be; the larger ones still tell where many rows are lost. */
const TIMES = [1.5, 2.3, 3.2] as const;
const PLACES = 81; // of 0.025 of travel, from -1 to 1
const CROSSINGS_NEEDED = 4;
const NEARLY_EVERY = 0.8;
const LEAST_SHARE = 0.03;
const QUICK = 0.3; // of the floor: the flow from which a few lost rows make a long step
/** Two axes of some 26 places that do not overlap, two measures, three factors: 0.2 % of good sticks. */
const CHANCE = 4e-6;
const PLACES_SEEN = 0.95;
const EDGE = 0.9; // beyond it the edge, and not the track, ends a step

export type Change = {
  /** rows before and at the change */
  from: number;
  row: number;
  step: number;
  /** how far the hand moved the axis in the usual time between changes */
  flow: number;
  /** what the flow leaves unexplained in the time since the change before, at most 2.5 usual ones */
  rest: number;
};

export type AxisLeaps = {
  /** changes over worn places */
  changes: Change[];
  /** the smallest leap that would have been found at 95 of 100 places of the axis; Infinity when none */
  smallest: number;
};

const few = new Float64Array(2 * AROUND);
/** The median of the values within three places of one, without it: few, so sorted where they stand. */
export function aroundMedian(values: ArrayLike<number>, at: number): number {
  let n = 0;
  for (let j = Math.max(0, at - AROUND); j <= Math.min(values.length - 1, at + AROUND); j++) {
    if (j === at) continue;
    let i = n++;
    for (; i > 0 && few[i - 1]! > values[j]!; i--) few[i] = few[i - 1]!;
    few[i] = values[j]!;
  }
  if (n === 0) return 0;
  return n % 2 ? few[(n - 1) / 2]! : (few[n / 2 - 1]! + few[n / 2]!) / 2;
}

/** The changes of one axis of a moving stick, each with the flow about it. `usual` in ms. */
function changesOf(t: Float64Array, v: Float64Array, moved: readonly number[][], usual: number): Change[] {
  const out: Change[] = [];
  for (const rows of moved) {
    const n = rows.length - 1;
    if (n < 2) continue;
    const speed = new Float64Array(n);
    for (let k = 0; k < n; k++) {
      const dt = Math.max(t[rows[k + 1]!]! - t[rows[k]!]!, 1e-6);
      speed[k] = (v[rows[k + 1]!]! - v[rows[k]!]!) / dt;
    }
    for (let k = 0; k < n; k++) {
      const local = aroundMedian(speed, k);
      const dt = t[rows[k + 1]!]! - t[rows[k]!]!;
      const step = v[rows[k + 1]!]! - v[rows[k]!]!;
      out.push({
        from: rows[k]!,
        row: rows[k + 1]!,
        step,
        flow: Math.abs(local) * usual,
        rest: step - local * Math.min(USUAL_MOST * usual, dt),
      });
    }
  }
  return out;
}

const placeOf = (v: number) => Math.round(((v + 1) / 2) * (PLACES - 1));
const clampPlace = (k: number) => Math.min(PLACES - 1, Math.max(0, k));

type Covered = { first: number; last: number };

/** Crossings of each place, and how many of them were long, each way and together. */
class Crossings {
  readonly all = [new Uint16Array(PLACES), new Uint16Array(PLACES)];
  readonly long = [new Uint16Array(PLACES), new Uint16Array(PLACES)];

  add({ first, last }: Covered, way: 0 | 1, isLong: boolean): void {
    for (let k = first; k <= last; k++) {
      this.all[way]![k]!++;
      if (isLong) this.long[way]![k]!++;
    }
  }

  at(k: number, ways: readonly (0 | 1)[]): { all: number; long: number } {
    const sum = (of: Uint16Array[]) => ways.reduce<number>((n, w) => n + of[w]![k]!, 0);
    return { all: sum(this.all), long: sum(this.long) };
  }

  /** The share of long crossings at a middling place: what this stick, hand and link do without a leap. */
  usualShare(): number {
    const shares: number[] = [];
    for (let k = 0; k < PLACES; k++) {
      const { all, long } = this.at(k, BOTH);
      if (all >= CROSSINGS_NEEDED) shares.push(long / all);
    }
    return Math.max(LEAST_SHARE, shares.length ? median(shares) : 0);
  }
}

const BOTH = [0, 1] as const;
const WAYS = [BOTH, [0], [1]] as const;

/** The chance of at least `long` of `all` crossings by a share that is no leap's. */
const tail = (long: number, all: number, share: number): number =>
  long === 0 ? 1 : incompleteBeta(share, long, all - long + 1);

const isWorn = (all: number, long: number, share: number) =>
  long >= CROSSINGS_NEEDED && long >= NEARLY_EVERY * all && tail(long, all, share) < CHANCE;

/** How a change is measured against the flow: by its length, or by what its time leaves unexplained. */
const MEASURES = [(c: Change) => Math.abs(c.step), (c: Change) => Math.abs(c.rest)] as const;

/**
 * Finds the worn places of one axis. `moved` holds the rows at which the stick changed, a list for each
 * stretch of moving; `floor` is the smallest leap that counts, in shares of travel.
 */
export function axisLeaps(
  p: Prepared,
  v: Float64Array,
  moved: readonly number[][],
  usual: number,
  floor: number,
): AxisLeaps {
  const changes = changesOf(p.recording.t, v, moved, usual);
  const covered = changes.map((c): Covered => {
    const a = placeOf(v[c.from]!);
    const b = placeOf(v[c.row]!);
    return { first: clampPlace(Math.min(a, b)), last: clampPlace(Math.max(a, b) - 1) };
  });
  const found = new Set<Change>();
  let smallest = Infinity;
  for (const times of TIMES)
    for (const measure of MEASURES) {
      const crossings = new Crossings();
      const quick = new Crossings();
      const long = changes.map((c) => measure(c) > Math.max(floor, times * c.flow));
      changes.forEach((c, i) => {
        crossings.add(covered[i]!, c.step > 0 ? 0 : 1, long[i]!);
        // where the hand is slow no lost row makes a step that counts: only quick ones tell how often it does
        if (c.flow > QUICK * floor) quick.add(covered[i]!, c.step > 0 ? 0 : 1, measure(c) > times * c.flow);
      });
      const share = quick.usualShare();
      const worn = wornPlaces(crossings, share);
      if (worn.size)
        changes.forEach((c, i) => {
          if (!long[i]) return;
          for (let k = covered[i]!.first; k <= covered[i]!.last; k++) if (worn.has(k)) found.add(c);
        });
      smallest = Math.min(smallest, smallestSeen(changes, covered, crossings, share, times, floor));
    }
  return {
    changes: changes.filter((c) => found.has(c)),
    smallest,
  };
}

function wornPlaces(crossings: Crossings, share: number): Set<number> {
  const worn = new Set<number>();
  for (let k = 0; k < PLACES; k++)
    for (const ways of WAYS) {
      const { all, long } = crossings.at(k, ways);
      if (isWorn(all, long, share)) worn.add(k);
    }
  return worn;
}

/**
 * Per place: a leap is found when nearly all crossings are slow enough for it, which the crossings' own flow
 * tells; of all places, what 95 of 100 keep.
 */
function smallestSeen(
  changes: readonly Change[],
  covered: readonly Covered[],
  crossings: Crossings,
  share: number,
  times: number,
  floor: number,
): number {
  const flows: number[][] = Array.from({ length: PLACES }, () => []);
  changes.forEach((c, i) => {
    for (let k = covered[i]!.first; k <= covered[i]!.last; k++) flows[k]!.push(c.flow);
  });
  const reached = placeOf(EDGE);
  const needed: number[] = [];
  for (let k = PLACES - 1 - reached; k <= reached; k++) {
    const { all } = crossings.at(k, BOTH);
    if (all === 0) continue; // where it never goes its reach or a dead half tells
    const most = Math.ceil(NEARLY_EVERY * all);
    if (!isWorn(all, most, share)) needed.push(Infinity);
    else {
      const slowest = flows[k]!.sort((a, b) => a - b);
      needed.push(times * slowest[most - 1]!);
    }
  }
  const sorted = needed.sort((a, b) => a - b);
  return Math.max(floor, sorted[Math.ceil(PLACES_SEEN * sorted.length) - 1] ?? Infinity);
}
