import type { Graph } from "./graph";
import {
  chanceOf,
  type Evidence,
  type OfFunction,
  type Patterns,
  type Shown,
  shownBy,
  shownOutside,
  trusted,
} from "./likelihood";
import { HIDDEN_TELLS, type Outcome } from "./priors";

/** A belief as it is kept, and what one piece of evidence adds to each of its explanations. */

/** Explanations by number: 0..n-1 one suspect, then pairs, then threes. */
export type Belief = {
  graph: Graph;
  /** suspects: the parts of the graph, then something else at each place */
  n: number;
  parts: number;
  /** the places at which something else may be, by suspect number less `parts` */
  places: readonly string[];
  /** the suspects of explanation h; the last one again where it has fewer than three */
  first: Uint16Array;
  second: Uint16Array;
  third: Uint16Array;
  /** how many explanations have one suspect or two */
  upToTwo: number;
  logPrior: Float64Array;
  posterior: Float64Array;
  /** P(suspect at fault), over all explanations */
  marginal: Float64Array;
  /** P(a fault of this part is a plain one | it is at fault), by what looks at it told */
  plain: Float64Array;
  /** parts that some failing control rests on: a treatment is judged by these */
  failing: Uint8Array;
  /** explanations that still carry weight: planning looks at these only */
  live: Uint32Array;
  /** the functions that answered */
  answered: ReadonlySet<string>;
  /** what was said so far, and what comes to be added up of it */
  said: readonly Told[];
  sums: Sums;
};

/** A piece of evidence, with how each explanation answers to it where it is of a function. */
export type Told = { e: Evidence; answer: Answer | null };

/** Of every explanation up to two: its logarithms, so far as they add up by piece of evidence. */
export type Sums = {
  /** what it explains, checks of several parts, and cures */
  told: Float64Array;
  /** what fails and does not hang on it: by itself, or all by one missing connection */
  byItself: Float64Array;
  byMissing: Float64Array;
  /** which failures these are, as bits */
  missed: Int32Array;
  /** of each suspect: looks at it if its fault is plain, and if hidden, against if it is sound */
  ifPlain: Float64Array;
  ifHidden: Float64Array;
  /** failing functions in the order of their bits */
  fails: readonly string[];
};

/** The suspects of an explanation, each once. */
export function suspectsOf(b: Belief, h: number): number[] {
  const [i, j, k] = [b.first[h]!, b.second[h]!, b.third[h]!];
  if (i === j) return [i];
  return j === k ? [i, j] : [i, j, k];
}

export const cleared = (count: number, n: number): Sums => ({
  ...nothingSaid(count),
  ifPlain: new Float64Array(n),
  ifHidden: new Float64Array(n),
  fails: [],
});
export const nothingSaid = (count: number): Adding => ({
  told: new Float64Array(count),
  byItself: new Float64Array(count),
  byMissing: new Float64Array(count),
  missed: new Int32Array(count),
});

export const MOST_BITS = 30;
const none: Shown = { covers: 0, shows: 0 };

/** How each suspect shows in an answer; null where it has no part in it. */
function shownIn(b: Belief, e: OfFunction, patterns: readonly Patterns[]): (Shown | null)[] {
  const shown = new Array<Shown | null>(b.n).fill(null);
  const rests = b.graph.restsOn.get(e.id) ?? [];
  for (const i of rests) if (!e.exempt?.includes(i)) shown[i] = shownBy(b.graph, i, e, patterns[i]);
  const place = b.places.indexOf(e.id);
  if (place >= 0) shown[b.parts + place] = shownOutside(e);
  return shown;
}

/** The chances of an answer by the suspects of an explanation, kept by what they are: many answer alike. */
export class Answer {
  private readonly shown: (Shown | null)[];
  private readonly none: number;
  private readonly alone: Float64Array;
  private readonly missing: Float64Array;
  constructor(
    b: Belief,
    private readonly e: OfFunction,
    patterns: readonly Patterns[],
  ) {
    this.shown = shownIn(b, e, patterns);
    this.none = Math.log(trusted(chanceOf(e, []), e));
    this.alone = Float64Array.from(this.shown, (s) =>
      s ? Math.log(trusted(chanceOf(e, [s]), e)) : this.none,
    );
    // by a connection that the wiring lacks, a part would show as it shows elsewhere
    this.missing = Float64Array.from({ length: b.n }, (_, i) =>
      e.outcome === "works" || i >= b.parts
        ? this.none
        : Math.log(trusted(chanceOf(e, [shownBy(b.graph, i, e)]), e)),
    );
  }
  /** the logarithm of its chance when these are faulty; null where none of them is behind it */
  of(i: number, j: number, k: number): number | null {
    const { shown } = this;
    const [a, x, y] = [shown[i], i === j ? null : shown[j], j === k ? null : shown[k]];
    if (!a && !x && !y) return null;
    if (!x && !y) return this.alone[i]!;
    if (!a && !y) return this.alone[j]!;
    return Math.log(trusted(chanceOf(this.e, [a ?? none, x ?? none, y ?? none]), this.e));
  }
  byItself = (): number => this.none;
  byMissing = (i: number, j: number, k: number): number =>
    Math.max(this.missing[i]!, this.missing[j]!, this.missing[k]!);
}

export const answerOf = (b: Belief, e: Evidence, patterns: readonly Patterns[]): Answer | null =>
  e.kind === "function" && b.graph.restsOn.has(e.id) ? new Answer(b, e, patterns) : null;

/** How often each part may have shown each pattern. */
export function patternsOf(b: Belief, all: readonly Evidence[]): Patterns[] {
  const of = b.graph.nodes.map(() => new Map<Outcome, number>());
  for (const e of all)
    if (e.kind === "function" && e.outcome !== "works")
      for (const i of b.graph.restsOn.get(e.id) ?? [])
        if (!e.exempt?.includes(i)) of[i]!.set(e.outcome, (of[i]!.get(e.outcome) ?? 0) + 1);
  return of;
}

export const isLook = (e: Evidence): e is Extract<Evidence, { kind: "check" }> =>
  e.kind === "check" && e.about.length === 1 && !e.leaning;
export const logOf = (p: number): number => Math.log(Math.max(1e-6, p));

/** What a look tells when the fault is hidden from it. */
export const hiddenFrom = (ifFaulty: number, ifSound: number): number =>
  HIDDEN_TELLS * ifFaulty + (1 - HIDDEN_TELLS) * ifSound;

export type Adding = Pick<Sums, "told" | "byItself" | "byMissing" | "missed">;
export type Add = (into: Adding, h: number, i: number, j: number, k: number) => void;

export function adderOf(b: Belief, { e, answer }: Told): Add {
  if (e.kind === "function") {
    if (!answer) return () => undefined;
    const bit = b.sums.fails.indexOf(e.id);
    const hangs = e.outcome !== "works" && bit >= 0 && bit < MOST_BITS;
    return (into, h, i, j, k) => {
      const explained = answer.of(i, j, k);
      if (explained !== null) into.told[h]! += explained;
      else if (!hangs) into.told[h]! += answer.byItself();
      else {
        into.byItself[h]! += answer.byItself();
        into.byMissing[h]! += answer.byMissing(i, j, k);
        into.missed[h]! |= 1 << bit;
      }
    };
  }
  const mine = new Uint8Array(b.n);
  e.about.forEach((i) => (mine[i] = 1));
  const yes = logOf(e.kind === "check" ? e.ifFaulty : e.ifAll);
  const no = logOf(e.kind === "check" ? e.ifSound : e.ifNot);
  const hit =
    e.kind === "check"
      ? (i: number, j: number, k: number) => mine[i] === 1 || mine[j] === 1 || mine[k] === 1
      : (i: number, j: number, k: number) => curedIn(b, mine, [i, j, k]);
  return (into, h, i, j, k) => void (into.told[h]! += hit(i, j, k) ? yes : no);
}

/** What of something else fails at a place that answered so. */
export const isBehind = (b: Belief, suspect: number): boolean =>
  suspect < b.parts ? b.failing[suspect] === 1 : b.sums.fails.includes(b.places[suspect - b.parts]!);

function curedIn(b: Belief, treated: Uint8Array, suspects: readonly number[]): boolean {
  return suspects.some((i) => treated[i] === 1) && suspects.every((i) => treated[i] === 1 || !isBehind(b, i));
}
/** Whether treating these cures what fails under explanation h: every fault behind it lies in them. */
export const isCured = (b: Belief, treated: Uint8Array, h: number): boolean =>
  curedIn(b, treated, [b.first[h]!, b.second[h]!, b.third[h]!]);
