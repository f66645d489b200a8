import type { NodeKind, Wiring } from "../profile/wiring";
import { type Belief, type Evidence, hiddenFrom, isBehind, isCured, suspectsOf } from "./belief";
import type { Graph } from "./graph";
import { LEAK, type Outcome, OUTSIDE_COVERAGE } from "./priors";

/**
 * The library of checks: what can be looked at, measured, swapped, reseated or flexed, with minutes, tools,
 * skill and risk.
 */

export const CHECK_KINDS = [
  "test",
  "look",
  "probe",
  "measure",
  "compare",
  "swap-twin",
  "swap-donor",
  "reseat",
  "disconnect",
  "flex",
  "cool",
] as const;
export type CheckKind = (typeof CHECK_KINDS)[number];

export type CheckOutcome = {
  code: string;
  /** chance if any of the parts it is about is at fault, and if none is */
  ifFaulty: number;
  ifSound: number;
};
export type Check = {
  id: string;
  kind: CheckKind;
  /** what it is done at: a part, a test point, or a control or function */
  target: string;
  about: readonly number[];
  /**
   * whether its outcomes speak of "all faults lie in these parts" (a cure) or of "some fault lies in these
   * parts"
   */
  reads: "any" | "all";
  outcomes: readonly CheckOutcome[];
  minutes: number;
  skill: 1 | 2 | 3;
  /** minutes' worth of harm it may do, on average; heat and force cost, looking does not */
  risk: number;
  /** the unit must be open for it */
  opens: boolean;
};

type Recipe = { minutes: number; skill: 1 | 2 | 3; risk: number; opens: boolean };
const RECIPES: Record<CheckKind, Recipe> = {
  test: { minutes: 0.6, skill: 1, risk: 0, opens: false },
  look: { minutes: 1.2, skill: 1, risk: 0, opens: true },
  probe: { minutes: 2, skill: 2, risk: 0.2, opens: true },
  measure: { minutes: 1.5, skill: 2, risk: 0.2, opens: true },
  compare: { minutes: 3, skill: 2, risk: 0.2, opens: true },
  "swap-twin": { minutes: 8, skill: 2, risk: 0.6, opens: true },
  "swap-donor": { minutes: 7, skill: 2, risk: 0.5, opens: true },
  reseat: { minutes: 1.5, skill: 1, risk: 0.3, opens: true },
  disconnect: { minutes: 2, skill: 2, risk: 0.4, opens: true },
  flex: { minutes: 1, skill: 1, risk: 0.2, opens: true },
  cool: { minutes: 2.5, skill: 2, risk: 0.4, opens: true },
};

const VISIBLE: Partial<Record<NodeKind, number>> = {
  contact: 0.75,
  joint: 0.7,
  flex: 0.55,
  connector: 0.65,
  trace: 0.45,
  lead: 0.75,
  mechanism: 0.8,
  port: 0.75,
  antenna: 0.6,
  cell: 0.5,
  switch: 0.35,
  sensor: 0.4,
  cap: 0.9,
  post: 0.85,
  spring: 0.75,
  gear: 0.85,
  rocker: 0.8,
  frame: 0.6,
  shell: 0.85,
  latch: 0.75,
  magnet: 0.5,
  track: 0.5,
  dome: 0.7,
  membrane: 0.75,
  "cell-contact": 0.8,
  plug: 0.65,
  socket: 0.65,
};
/**
 * Parts that can be probed by themselves: across them, pressed, or driven directly; and how surely a bad one
 * shows.
 */
const PROBED: Partial<Record<NodeKind, number>> = {
  contact: 0.92,
  switch: 0.92,
  sensor: 0.9,
  flex: 0.92,
  connector: 0.9,
  joint: 0.9,
  trace: 0.93,
  lead: 0.94,
  antenna: 0.85,
  motor: 0.95,
  transducer: 0.9,
  light: 0.95,
  port: 0.9,
  cell: 0.92,
  supply: 0.9,
  mechanism: 0.75,
  spring: 0.7,
  gear: 0.85,
  rocker: 0.75,
  latch: 0.85,
  magnet: 0.85,
  track: 0.9,
  dome: 0.92,
  membrane: 0.92,
  fuse: 0.97,
  "cell-contact": 0.92,
  plug: 0.9,
  socket: 0.9,
};
/** A donor part for these needs heat or a specialist: minutes, and the harm it may do. */
const SWAPPED_HARD: Partial<Record<NodeKind, { minutes: number; risk: number }>> = {
  sensor: { minutes: 18, risk: 3 },
  switch: { minutes: 15, risk: 3 },
  chip: { minutes: 40, risk: 12 },
  supply: { minutes: 30, risk: 8 },
  connector: { minutes: 25, risk: 6 },
  port: { minutes: 25, risk: 5 },
  mechanism: { minutes: 18, risk: 2 },
  track: { minutes: 18, risk: 3 },
  fuse: { minutes: 15, risk: 2 },
  socket: { minutes: 25, risk: 6 },
  "cell-contact": { minutes: 12, risk: 1 },
};
const YIELDS_TO_PRESSURE: NodeKind[] = [
  "joint",
  "connector",
  "flex",
  "lead",
  "port",
  "plug",
  "socket",
  "cell-contact",
];
/** Parts that are taken apart and put together again by hand. */
const RESEATED: NodeKind[] = ["connector", "plug", "socket"];
const LIKE_TWINS: NodeKind[] = [
  "sensor",
  "track",
  "magnet",
  "mechanism",
  "switch",
  "transducer",
  "contact",
  "dome",
  "membrane",
  "motor",
  "cap",
  "spring",
  "gear",
  "rocker",
];
const SWAPPED_EASILY: NodeKind[] = [
  "cap",
  "spring",
  "gear",
  "latch",
  "dome",
  "membrane",
  "contact",
  "cell",
  "flex",
  "motor",
  "transducer",
  "antenna",
  "light",
  "lead",
];

const two = (bad: string, good: string, ifFaulty: number, ifSound: number): CheckOutcome[] => [
  { code: bad, ifFaulty, ifSound },
  { code: good, ifFaulty: 1 - ifFaulty, ifSound: 1 - ifSound },
];

/**
 * Every check that the wiring allows; `references` adds comparison with a known-good unit, `donors` the kinds
 * at hand to swap in.
 */
export function checkLibrary(
  graph: Graph,
  wiring: Wiring,
  { references = true, donors = SWAPPED_EASILY }: { references?: boolean; donors?: readonly NodeKind[] } = {},
): Check[] {
  const checks: Check[] = [];
  const add = (
    kind: CheckKind,
    target: string,
    about: readonly number[],
    outcomes: CheckOutcome[],
    reads: Check["reads"] = "any",
  ) => checks.push({ id: `${kind}.${target}`, kind, target, about, reads, outcomes, ...RECIPES[kind] });
  for (const [id, rests] of graph.restsOn) add("test", id, rests, []);
  graph.nodes.forEach((node, i) => {
    const seen = VISIBLE[node.kind];
    if (seen !== undefined) add("look", node.id, [i], two("damaged", "sound", seen, 0.03));
    const probed = PROBED[node.kind];
    if (probed !== undefined) add("probe", node.id, [i], two("off", "right", probed, 0.03));
    if (RESEATED.includes(node.kind))
      add("reseat", node.id, [i], two("cured", "no-change", 0.75, 0.03), "all");
    if (YIELDS_TO_PRESSURE.includes(node.kind))
      add("flex", node.id, [i], two("changes", "no-change", 0.65, 0.04));
    if (node.kind === "chip" || node.kind === "joint")
      add("cool", node.id, [i], two("changes", "no-change", 0.45, 0.04));
    if (node.kind === "lead" || node.kind === "motor")
      add("disconnect", node.id, [i], two("rest-recovers", "no-change", 0.4, 0.03));
    if (node.twin !== undefined && LIKE_TWINS.includes(node.kind))
      add("swap-twin", node.id, [i], two("fault-moves", "fault-stays", 0.95, 0.03));
    else if (donors.includes(node.kind))
      add("swap-donor", node.id, [i], two("cured", "no-change", 0.93, 0.03), "all");
    const hard = SWAPPED_HARD[node.kind];
    if (hard) {
      add("swap-donor", node.id, [i], two("cured", "no-change", 0.93, 0.03), "all");
      checks.push({ ...checks.pop()!, ...hard, skill: 3 });
    }
  });
  for (const point of wiring.points) {
    const about = graph.showsAt.get(point.id);
    if (!about) continue;
    if (point.expects !== null) add("measure", point.id, about, two("off", "right", 0.94, 0.03));
    else if (references) add("compare", point.id, about, two("off", "right", 0.92, 0.03));
  }
  return checks;
}

/** What a check's outcome tells, as evidence. */
export function evidenceOf(check: Check, outcome: string): Evidence {
  if (check.kind === "test") return { kind: "function", id: check.target, outcome: outcome as Outcome };
  const o = check.outcomes.find((x) => x.code === outcome);
  if (!o) throw new RangeError(`${check.id} has no outcome "${outcome}"`);
  return check.reads === "any"
    ? { kind: "check", about: check.about, ifFaulty: o.ifFaulty, ifSound: o.ifSound }
    : { kind: "cure", about: check.about, ifAll: o.ifFaulty, ifNot: o.ifSound };
}

/** Checks have two outcomes: what the first one and the other are called. */
export function outcomeCodes(check: Check): [string, string] {
  if (check.kind === "test") return ["works", "dead"];
  const [one, other] = check.outcomes as [CheckOutcome, CheckOutcome];
  return [one.code, other.code];
}

type Split = { code: string; chance: number };

/**
 * Explanations that say the same of what fails are one: to tell them apart mends nothing. While nothing fails, each is
 * its own. By number in `b.live`.
 */
export type Groups = { of: Int32Array; count: number };
export function groupsOf(b: Belief): Groups {
  const of = new Int32Array(b.live.length);
  if (b.sums.fails.length === 0) return { of: of.map((_, x) => x), count: of.length };
  const behind = Uint8Array.from({ length: b.n }, (_, i) => Number(isBehind(b, i)));
  const numbers = new Map<number, number>();
  b.live.forEach((h, x) => {
    let key = 0;
    for (const i of suspectsOf(b, h)) if (behind[i]) key = key * (b.n + 1) + i + 1;
    let number = numbers.get(key);
    if (number === undefined) numbers.set(key, (number = numbers.size));
    of[x] = number;
  });
  return { of, count: numbers.size };
}

/** P(the check's first outcome | explanation h); a test's is that it works. */
export function firstOutcome(b: Belief, check: Check): (h: number) => number {
  const mine = new Uint8Array(b.n);
  check.about.forEach((i) => (mine[i] = 1));
  if (check.kind === "test") {
    const fails = Float64Array.from({ length: b.n }, (_, i) => (mine[i] ? 1 - b.graph.covers[i]! : 1));
    const place = b.places.indexOf(check.target);
    if (place >= 0) fails[b.parts + place] = 1 - OUTSIDE_COVERAGE;
    return (h) => {
      const [i, j, k] = [b.first[h]!, b.second[h]!, b.third[h]!];
      return (1 - LEAK) * fails[i]! * (j === i ? 1 : fails[j]!) * (k === j ? 1 : fails[k]!);
    };
  }
  const [o] = check.outcomes as [CheckOutcome];
  const [only] = check.about;
  const plain = check.reads === "any" && check.about.length === 1 ? b.plain[only!]! : 1;
  const ifFaulty = plain * o.ifFaulty + (1 - plain) * hiddenFrom(o.ifFaulty, o.ifSound);
  const hit =
    check.reads === "any"
      ? (h: number) => mine[b.first[h]!] === 1 || mine[b.second[h]!] === 1 || mine[b.third[h]!] === 1
      : (h: number) => isCured(b, mine, h);
  return (h) => (hit(h) ? ifFaulty : o.ifSound);
}

/**
 * Chance of each outcome now, and the bits that the check is expected to tell about what is behind the failures.
 * Checks have two outcomes.
 */
export function prospect(
  b: Belief,
  check: Check,
  groups: Groups = groupsOf(b),
): { bits: number; outcomes: Split[] } {
  const firstOf = firstOutcome(b, check);
  const mass = new Float64Array(groups.count);
  const firsts = new Float64Array(groups.count);
  let first = 0;
  b.live.forEach((h, x) => {
    const p = b.posterior[h]!;
    const q = p * firstOf(h);
    mass[groups.of[x]!]! += p;
    firsts[groups.of[x]!]! += q;
    first += q;
  });
  let given = 0;
  for (let g = 0; g < groups.count; g++) if (mass[g]! > 0) given += mass[g]! * entropy(firsts[g]! / mass[g]!);
  const codes = outcomeCodes(check);
  return {
    bits: Math.max(0, entropy(first) - given),
    outcomes: [
      { code: codes[0], chance: first },
      { code: codes[1], chance: 1 - first },
    ],
  };
}

const entropy = (p: number) => (p <= 0 || p >= 1 ? 0 : -p * Math.log2(p) - (1 - p) * Math.log2(1 - p));
