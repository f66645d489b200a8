import {
  type Adding,
  type Belief,
  type Told,
  adderOf,
  answerOf,
  cleared,
  hiddenFrom,
  isLook,
  logOf,
  nothingSaid,
  MOST_BITS,
  patternsOf,
} from "./adding";
import type { Graph } from "./graph";
import type { Evidence } from "./likelihood";
import {
  coverageOf,
  EDGE_MISSING,
  HIDDEN,
  MORE_FAULTS,
  oddsOf,
  OUTSIDE_SHARE,
  type ShopRecord,
} from "./priors";

export { type Belief, hiddenFrom, isBehind, isCured, suspectsOf } from "./adding";
export { type Evidence, outcomeChance } from "./likelihood";

/**
 * Bayes over every explanation of one fault, every pair, and every three of the likeliest parts where three places
 * fail: P(faults | what was seen), with the model of priors.ts. A suspect is a part of the wiring, or "something else"
 * at one place, which no part stands for. Three liberties that the plain model takes are taken back:
 * - a fault may be hidden, and then all looks at its part tell little (they share that);
 * - a connection may be missing in the wiring: several failures that a fault does not explain by it may all hang on
 *   one such connection;
 * - what fails may have a cause that is not in the graph.
 */

const NEGLIGIBLE = 1e-7;
/** Threes are looked at among so many of the likeliest parts, once so many places fail. */
const THREES_AMONG = 20;
const THREES_FROM = 3;

export function startBelief(graph: Graph, record: ShopRecord = {}): Belief {
  const parts = graph.nodes.length;
  const places = [...graph.restsOn.keys()];
  const n = parts + places.length;
  const pairs = (parts * (parts - 1)) / 2 + parts * places.length;
  const count = n + pairs;
  const odds = graph.kinds.map((k) => oddsOf(k, record));
  const outside = (OUTSIDE_SHARE * odds.reduce((s, o) => s + o, 0)) / Math.max(1, places.length);
  const logOdds = [...odds, ...places.map(() => outside)].map((o) => Math.log(o / (1 - o)));
  const first = new Uint16Array(count);
  const second = new Uint16Array(count);
  const logPrior = new Float64Array(count);
  let h = 0;
  for (let i = 0; i < n; i++, h++) {
    first[h] = second[h] = i;
    logPrior[h] = logOdds[i]!;
  }
  for (let i = 0; i < parts; i++)
    for (let j = i + 1; j < n; j++, h++) {
      first[h] = i;
      second[h] = j;
      logPrior[h] = logOdds[i]! + logOdds[j]! + MORE_FAULTS[0];
    }
  return settled({
    graph: { ...graph, covers: graph.kinds.map((k) => coverageOf(k, record)) },
    n,
    parts,
    places,
    first,
    second,
    third: second,
    upToTwo: count,
    logPrior,
    posterior: new Float64Array(count),
    marginal: new Float64Array(n),
    plain: new Float64Array(n).fill(1 - HIDDEN),
    failing: new Uint8Array(parts),
    live: new Uint32Array(0),
    answered: new Set(),
    said: [],
    sums: cleared(count, n),
  });
}

/** Adds evidence and settles the posterior. */
export function learn(b: Belief, evidence: readonly Evidence[]): void {
  const fails = [...b.sums.fails];
  const answered = new Set(b.answered);
  for (const e of evidence) {
    if (e.kind !== "function") continue;
    answered.add(e.id);
    if (e.outcome === "works") continue;
    for (const i of b.graph.restsOn.get(e.id) ?? []) if (!e.exempt?.includes(i)) b.failing[i] = 1;
    if (b.graph.restsOn.has(e.id) && !fails.includes(e.id)) fails.push(e.id);
  }
  b.answered = answered;
  b.sums = { ...b.sums, fails };
  const isNewPattern = evidence.some((e) => e.kind === "function" && e.outcome !== "works");
  // what a part shows at one place bears on what it shows at another: then all answers are weighed anew
  const all = isNewPattern ? [...b.said.map((t) => t.e), ...evidence] : evidence;
  if (isNewPattern) b.sums = { ...cleared(b.upToTwo, b.n), fails };
  const patterns = isNewPattern ? patternsOf(b, all) : [];
  const told = all.map((e): Told => ({ e, answer: answerOf(b, e, patterns) }));
  b.said = isNewPattern ? told : [...b.said, ...told];
  for (const t of told) addUp(b, t);
  Object.assign(b, settled(b));
}

/** A copy that can learn without the first one knowing. */
export const imagined = (b: Belief): Belief => ({
  ...b,
  failing: b.failing.slice(),
  sums: {
    ...b.sums,
    told: b.sums.told.slice(),
    byItself: b.sums.byItself.slice(),
    byMissing: b.sums.byMissing.slice(),
    missed: b.sums.missed.slice(),
    ifPlain: b.sums.ifPlain.slice(),
    ifHidden: b.sums.ifHidden.slice(),
  },
});

function addUp(b: Belief, told: Told): void {
  const { sums } = b;
  const { e } = told;
  if (isLook(e)) {
    const [part] = e.about as [number];
    sums.ifPlain[part]! += logOf(e.ifFaulty) - logOf(e.ifSound);
    sums.ifHidden[part]! += logOf(hiddenFrom(e.ifFaulty, e.ifSound)) - logOf(e.ifSound);
    for (let h = 0; h < b.upToTwo; h++) sums.told[h]! += logOf(e.ifSound);
    return;
  }
  const add = adderOf(b, told);
  for (let h = 0; h < b.upToTwo; h++) add(sums, h, b.first[h]!, b.second[h]!, b.second[h]!);
}

/** The failures that may all hang on one connection that the wiring lacks: one place's, or all behind a part. */
function bundlesOf(b: Belief): number[] {
  const { fails } = b.sums;
  if (fails.length < 2) return [];
  const working = [...b.answered].filter((id) => !fails.includes(id));
  const bundles = new Set<number>();
  for (let u = 0; u < b.parts; u++) {
    if (working.some((id) => b.graph.restsOn.get(id)?.includes(u))) continue;
    let bits = 0;
    fails.slice(0, MOST_BITS).forEach((id, k) => {
      if (b.graph.restsOn.get(id)!.includes(u)) bits |= 1 << k;
    });
    if (bits !== 0) bundles.add(bits);
  }
  return [...bundles];
}
const isOne = (bits: number): boolean => bits !== 0 && (bits & (bits - 1)) === 0;

/** The logarithm of what is left unexplained: each by itself, or all by one missing connection. */
function unexplained(sums: Adding, h: number, bundles: readonly number[]): number {
  const missed = sums.missed[h]!;
  const alone = sums.byItself[h]!;
  if (missed === 0) return alone;
  const hangs = isOne(missed) || bundles.some((all) => (missed & ~all) === 0);
  return hangs ? Math.log(Math.exp(alone) + EDGE_MISSING * Math.exp(sums.byMissing[h]!)) : alone;
}

function settled(b: Belief): Belief {
  const looks = looksOf(b);
  const bundles = bundlesOf(b);
  const { sums, upToTwo } = b;
  const two: Explained = {
    first: b.first.subarray(0, upToTwo),
    second: b.second.subarray(0, upToTwo),
    third: b.second.subarray(0, upToTwo),
    logPrior: b.logPrior.subarray(0, upToTwo),
  };
  const log = new Float64Array(upToTwo);
  for (let h = 0; h < upToTwo; h++) {
    const [i, j] = [two.first[h]!, two.second[h]!];
    log[h] =
      two.logPrior[h]! +
      sums.told[h]! +
      unexplained(sums, h, bundles) +
      looks[i]! +
      (i === j ? 0 : looks[j]!);
  }
  const marginal = normal(log, two, b.n).marginal;
  const three = sums.fails.length >= THREES_FROM ? threesOf(b, marginal) : null;
  const all = three ? joined(two, three) : two;
  const logs = new Float64Array(all.first.length);
  logs.set(log);
  if (three) logs.set(logOfThrees(b, three, looks, bundles), upToTwo);
  const { posterior, marginal: of } = normal(logs, all, b.n);
  const live = Uint32Array.from(posterior.keys()).filter((h) => posterior[h]! > NEGLIGIBLE);
  return { ...b, ...all, posterior, marginal: of, live, plain: plainOf(b, looks) };
}

type Explained = Pick<Belief, "first" | "second" | "third" | "logPrior">;

/** What looks at a suspect say for its fault, plain or hidden, as a logarithm. */
function looksOf({ sums, n }: Belief): Float64Array {
  return Float64Array.from({ length: n }, (_, i) =>
    Math.log((1 - HIDDEN) * Math.exp(sums.ifPlain[i]!) + HIDDEN * Math.exp(sums.ifHidden[i]!)),
  );
}
const plainOf = ({ sums, n }: Belief, looks: Float64Array): Float64Array =>
  Float64Array.from({ length: n }, (_, i) => (1 - HIDDEN) * Math.exp(sums.ifPlain[i]! - looks[i]!));

function normal(
  log: Float64Array,
  { first, second, third }: Pick<Explained, "first" | "second" | "third">,
  n: number,
) {
  let top = -Infinity;
  for (const l of log) top = Math.max(top, l);
  let sum = 0;
  const posterior = new Float64Array(log.length);
  for (let h = 0; h < log.length; h++) sum += posterior[h] = Math.exp(log[h]! - top);
  const marginal = new Float64Array(n);
  for (let h = 0; h < log.length; h++) {
    const p = (posterior[h]! /= sum);
    const [i, j, k] = [first[h]!, second[h]!, third[h]!];
    marginal[i]! += p;
    if (j !== i) marginal[j]! += p;
    if (k !== j && k !== i) marginal[k]! += p;
  }
  return { posterior, marginal };
}

/** Every three of the likeliest parts. */
function threesOf(b: Belief, marginal: Float64Array): Explained {
  const likeliest = Array.from({ length: b.n }, (_, i) => i)
    .sort((i, j) => marginal[j]! - marginal[i]! || i - j)
    .slice(0, THREES_AMONG)
    .sort((i, j) => i - j);
  const rows: [number, number, number][] = [];
  likeliest.forEach((i, x) =>
    likeliest.slice(x + 1).forEach((j, y) => likeliest.slice(x + y + 2).forEach((k) => rows.push([i, j, k]))),
  );
  const odds = (i: number) => b.logPrior[i]!;
  return {
    first: Uint16Array.from(rows, (r) => r[0]),
    second: Uint16Array.from(rows, (r) => r[1]),
    third: Uint16Array.from(rows, (r) => r[2]),
    logPrior: Float64Array.from(rows, ([i, j, k]) => odds(i) + odds(j) + odds(k) + MORE_FAULTS[1]),
  };
}

function logOfThrees(
  b: Belief,
  three: Explained,
  looks: Float64Array,
  bundles: readonly number[],
): Float64Array {
  const count = three.first.length;
  const sums = nothingSaid(count);
  for (const told of b.said) {
    if (isLook(told.e)) {
      for (let h = 0; h < count; h++) sums.told[h]! += logOf(told.e.ifSound);
      continue;
    }
    const add = adderOf(b, told);
    for (let h = 0; h < count; h++) add(sums, h, three.first[h]!, three.second[h]!, three.third[h]!);
  }
  return Float64Array.from(three.logPrior, (prior, h) => {
    const own = looks[three.first[h]!]! + looks[three.second[h]!]! + looks[three.third[h]!]!;
    return prior + sums.told[h]! + unexplained(sums, h, bundles) + own;
  });
}

function joined(a: Explained, b: Explained): Explained {
  const both = (x: Uint16Array, y: Uint16Array): Uint16Array => {
    const all = new Uint16Array(x.length + y.length);
    all.set(x);
    all.set(y, x.length);
    return all;
  };
  const logPrior = new Float64Array(a.logPrior.length + b.logPrior.length);
  logPrior.set(a.logPrior);
  logPrior.set(b.logPrior, a.logPrior.length);
  return {
    first: both(a.first, b.first),
    second: both(a.second, b.second),
    third: both(a.third, b.third),
    logPrior,
  };
}

/** What one piece of evidence alone says for each explanation up to two, as a chance. */
export function saidAlone(b: Belief, e: Evidence): Float64Array {
  const into = nothingSaid(b.upToTwo);
  if (isLook(e)) {
    const [part] = e.about as [number];
    const faulty = (1 - HIDDEN) * e.ifFaulty + HIDDEN * hiddenFrom(e.ifFaulty, e.ifSound);
    return into.told.map((_, h) => (b.first[h] === part || b.second[h] === part ? faulty : e.ifSound));
  }
  const add = adderOf(b, { e, answer: answerOf(b, e, []) });
  for (let h = 0; h < b.upToTwo; h++) add(into, h, b.first[h]!, b.second[h]!, b.second[h]!);
  return into.told.map((l, h) => Math.exp(l + unexplained(into, h, [])));
}
