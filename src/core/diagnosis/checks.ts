import type { NodeKind, Wiring } from "../profile/wiring";
import { type Belief, type Evidence, isCured, outcomeChance } from "./belief";
import type { Graph } from "./graph";
import type { Outcome } from "./priors";

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
};
const YIELDS_TO_PRESSURE: NodeKind[] = ["joint", "connector", "flex", "lead", "port"];
const SWAPPED_EASILY: NodeKind[] = [
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
    if (node.kind === "connector") add("reseat", node.id, [i], two("cured", "no-change", 0.75, 0.03), "all");
    if (YIELDS_TO_PRESSURE.includes(node.kind))
      add("flex", node.id, [i], two("changes", "no-change", 0.65, 0.04));
    if (node.kind === "chip" || node.kind === "joint")
      add("cool", node.id, [i], two("changes", "no-change", 0.45, 0.04));
    if (node.kind === "lead" || node.kind === "motor")
      add("disconnect", node.id, [i], two("rest-recovers", "no-change", 0.4, 0.03));
    if (
      node.twin !== undefined &&
      ["sensor", "mechanism", "switch", "transducer", "contact", "motor"].includes(node.kind)
    )
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

/** A test of a control comes to "works" or to some failing; which pattern is folded into one for planning. */
const PLANNED: readonly Outcome[] = ["works", "dead"];

type Split = { code: string; chance: number };

/**
 * Chance of each outcome now, and the bits that the check is expected to tell about which parts are at fault.
 */
export function prospect(b: Belief, check: Check): { bits: number; outcomes: Split[] } {
  if (check.kind === "test") return prospectOfTest(b, check);
  const mine = new Uint8Array(b.n);
  check.about.forEach((i) => (mine[i] = 1));
  let hit = 0;
  for (const h of b.live) {
    const yes = check.reads === "any" ? mine[b.first[h]!] || mine[b.second[h]!] : isCured(b, mine, h);
    if (yes) hit += b.posterior[h]!;
  }
  const outcomes = check.outcomes.map((o) => ({
    code: o.code,
    chance: hit * o.ifFaulty + (1 - hit) * o.ifSound,
  }));
  const bits = check.outcomes.reduce((sum, o, k) => {
    const p = outcomes[k]!.chance;
    const part = (mass: number, chance: number) =>
      mass > 0 && chance > 0 ? mass * chance * Math.log2(chance / p) : 0;
    return sum + part(hit, o.ifFaulty) + part(1 - hit, o.ifSound);
  }, 0);
  return { bits: Math.max(0, bits), outcomes };
}

function prospectOfTest(b: Belief, check: Check): { bits: number; outcomes: Split[] } {
  const mine = new Uint8Array(b.n);
  check.about.forEach((i) => (mine[i] = 1));
  // P(works) depends on the kinds of the faulty parts only: none, one, or two of them
  const alone = check.about.length ? new Map<string, number>() : null;
  const none = outcomeChance(b.graph, "works", []);
  const chanceOf = (faulty: readonly number[]) => {
    const key = faulty.map((x) => b.graph.kinds[x]).join();
    let w = alone?.get(key);
    if (w === undefined) alone?.set(key, (w = outcomeChance(b.graph, "works", faulty)));
    return w!;
  };
  const worksUnder = (i: number, j: number): number => {
    if (mine[i]) return chanceOf(i !== j && mine[j] ? [i, j] : [i]);
    return mine[j] ? chanceOf([j]) : none;
  };
  let works = 0;
  let entropyGiven = 0;
  for (const h of b.live) {
    const p = b.posterior[h]!;
    const i = b.first[h]!;
    const j = b.second[h]!;
    const w = worksUnder(i, j);
    works += p * w;
    entropyGiven += p * entropy(w);
  }
  return {
    bits: Math.max(0, entropy(works) - entropyGiven),
    outcomes: PLANNED.map((o) => ({ code: o, chance: o === "works" ? works : 1 - works })),
  };
}

const entropy = (p: number) => (p <= 0 || p >= 1 ? 0 : -p * Math.log2(p) - (1 - p) * Math.log2(1 - p));
