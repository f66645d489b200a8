import { type Check, checkLibrary } from "@/core/diagnosis/checks";
import { type Graph, graphOf } from "@/core/diagnosis/graph";
import { OUTCOMES, type Outcome } from "@/core/diagnosis/priors";
import { classesOf } from "@/core/diagnosis/twins";
import type { Chance } from "@/core/math/random";
import type { NodeKind, Wiring } from "@/core/profile/wiring";

/**
 * What is really wrong with made-up units, and what tests and looks then say. Every table here is the bench's own: the
 * advice has other odds, other coverage, other ways in which parts show, and does not know of what hides.
 */

type Own = { often: number; shows: Partial<Record<Outcome, number>> };
const o = (often: number, shows: Own["shows"]): Own => ({ often, shows });
const PATH = { dead: 5, intermittent: 3 };
const BUTTON = { misses: 5, "rim-misses": 2, dead: 2, "yields-to-force": 2, stuck: 1 };
const OWN: Record<NodeKind, Own> = {
  contact: o(1.6, BUTTON),
  dome: o(1.8, BUTTON),
  membrane: o(1.5, { ...BUTTON, "yields-to-force": 4 }),
  switch: o(1.7, { misses: 3, dead: 3, intermittent: 2, stuck: 1 }),
  track: o(3, { jumps: 4, noise: 4, offset: 2, "dead-half": 1, dead: 0.5 }),
  sensor: o(2, { offset: 4, noise: 2, jumps: 2, dead: 2, "dead-half": 1 }),
  magnet: o(0.7, { offset: 3, "short-reach": 4, dead: 1 }),
  mechanism: o(1, { scatter: 4, "short-reach": 2, offset: 1, stuck: 1 }),
  cap: o(0.7, { "short-reach": 3, scatter: 1, stuck: 1 }),
  post: o(0.6, { offset: 2, "short-reach": 3, dead: 2 }),
  spring: o(1, { scatter: 5, offset: 3 }),
  gear: o(1.2, { jumps: 3, "short-reach": 3, dead: 3, stuck: 1 }),
  rocker: o(0.5, { "short-reach": 3, stuck: 2, dead: 1 }),
  frame: o(0.5, { offset: 3, "short-reach": 3, stuck: 1 }),
  shell: o(0.5, { stuck: 3, misses: 3 }),
  latch: o(2, { dead: 4, intermittent: 4 }),
  flex: o(1.2, PATH),
  connector: o(1.4, { dead: 3, intermittent: 5 }),
  plug: o(1, { dead: 4, intermittent: 4 }),
  socket: o(1.3, { dead: 4, intermittent: 4, misses: 1 }),
  "cell-contact": o(1.6, { dead: 4, intermittent: 4 }),
  joint: o(1, { "dead-half": 3, jumps: 3, intermittent: 3, dead: 4 }),
  trace: o(0.5, PATH),
  chip: o(0.5, PATH),
  supply: o(0.5, { dead: 5, noise: 1 }),
  cell: o(2, { dead: 4, intermittent: 3 }),
  lead: o(1.5, PATH),
  antenna: o(1.1, { intermittent: 5, dead: 3 }),
  motor: o(1.2, { dead: 5, intermittent: 1 }),
  transducer: o(1.4, { dead: 5, intermittent: 1 }),
  light: o(0.8, { dead: 5 }),
  port: o(2, { dead: 4, intermittent: 4 }),
  fuse: o(0.5, { dead: 5 }),
  board: o(0.3, PATH),
};
/** Where a pattern has a side, a part of one axis shows it there so often. */
const OWN_SIDE = 0.85;
const SIDED: readonly Outcome[] = ["offset", "noise", "jumps", "dead-half", "short-reach"];
/** A fault that hides: looks and probes then see hardly more than at a sound part. */
const HIDES = 0.15;
const SEES_ANYWAY = 0.12;

export type Noise = {
  name: string;
  wrong: number;
  oddsOff: number;
  edgesMissing: number;
  outside: number;
  /** chance of one fault, two, three */
  faults: readonly [number, number, number];
  /** how surely a fault shows at what rests on it: between these, by kind */
  covers: readonly [number, number];
};

export type World = {
  name: string;
  noise: Noise;
  graph: Graph;
  truth: Graph;
  library: Check[];
  truthLibrary: Map<string, Check>;
  classes: Uint16Array;
  covers: Map<NodeKind, number>;
};

export function worldOf(name: string, wiring: Wiring, noise: Noise, c: Chance): World {
  const truth = graphOf(wiring, null);
  const lacking: Wiring = {
    ...wiring,
    nodes: wiring.nodes.map((n) => ({ ...n, needs: n.needs.filter(() => !c.happens(noise.edgesMissing)) })),
  };
  const graph = noise.edgesMissing > 0 ? graphOf(lacking, null) : truth;
  const library = checkLibrary(graph, wiring);
  return {
    name,
    noise,
    graph,
    truth,
    library,
    truthLibrary: new Map(checkLibrary(truth, wiring).map((x) => [x.id, x])),
    classes: classesOf(graph, library),
    covers: new Map([...new Set(truth.kinds)].map((k) => [k, c.between(...noise.covers)])),
  };
}

/** What is wrong: parts, and places at which something is that no part stands for. */
export type Truth = { parts: number[]; outside: string[]; hides: ReadonlySet<number> };

export function injected({ truth, noise }: World, c: Chance): Truth {
  if (c.happens(noise.outside))
    return { parts: [], outside: [c.pick([...truth.restsOn.keys()])], hides: new Set() };
  const odds = truth.kinds.map((k) => OWN[k].often * noise.oddsOff ** c.between(-1, 1));
  // only what some control or function rests on can be found by what it does
  const matters = new Set([...truth.restsOn.values()].flat());
  const pick = (not: readonly number[]): number => {
    const free = odds.map((x, i) => (matters.has(i) && !not.includes(i) ? x : 0));
    let at = c.next() * free.reduce((s, x) => s + x, 0);
    for (let i = 0; i < free.length; i++) if ((at -= free[i]!) < 0) return i;
    return free.findLastIndex((x) => x > 0);
  };
  const which = c.next();
  const count = which < noise.faults[0] ? 1 : which < noise.faults[0] + noise.faults[1] ? 2 : 3;
  const parts: number[] = [];
  while (parts.length < count) parts.push(pick(parts));
  return { parts, outside: [], hides: new Set(parts.filter(() => c.happens(HIDES))) };
}

export type Answer = { outcome: Outcome; axis?: "x" | "y" };

/** What the bench sees: drawn from the true wiring, and wrong now and then. */
export class Oracle {
  /** parts behind what was seen failing: a treatment cures when it takes all faults among them */
  readonly failing = new Set<number>();
  /** faults that some answer showed, and places */
  readonly shown = new Set<number>();
  readonly shownOutside = new Set<string>();

  constructor(
    private readonly w: World,
    private readonly is: Truth,
    private readonly c: Chance,
  ) {}

  answer(id: string): Answer {
    const rests = this.w.truth.restsOn.get(id) ?? [];
    const showing = this.is.parts.filter(
      (f) => rests.includes(f) && this.c.happens(this.w.covers.get(this.w.truth.kinds[f]!)!),
    );
    const outside = this.is.outside.includes(id) && this.c.happens(0.9);
    const wrong = this.c.happens(this.w.noise.wrong);
    if (wrong) return showing.length > 0 || outside ? { outcome: "works" } : this.any(id);
    if (showing.length === 0 && !outside) return { outcome: "works" };
    rests.forEach((i) => this.failing.add(i));
    showing.forEach((f) => this.shown.add(f));
    if (outside) this.shownOutside.add(id);
    return showing.length > 0 ? this.patternOf(this.c.pick(showing)) : this.any(id);
  }

  private any(id: string): Answer {
    this.w.truth.restsOn.get(id)?.forEach((i) => this.failing.add(i));
    return { outcome: this.c.pick(OUTCOMES.slice(1)) };
  }

  private patternOf(part: number): Answer {
    const all = Object.entries(OWN[this.w.truth.kinds[part]!].shows) as [Outcome, number][];
    let at = this.c.next() * all.reduce((s, [, n]) => s + n, 0);
    const outcome = all.find(([, n]) => (at -= n) < 0)?.[0] ?? all[0]![0];
    const own = this.w.truth.nodes[part]!.axis;
    if (!SIDED.includes(outcome)) return { outcome };
    if (own === undefined)
      return this.c.happens(0.5) ? { outcome, axis: this.c.pick(["x", "y"]) } : { outcome };
    return { outcome, axis: this.c.happens(OWN_SIDE) === (own === "x") ? "x" : "y" };
  }

  check(check: Check): string {
    if (check.kind === "test") return this.answer(check.target).outcome;
    const real = this.w.truthLibrary.get(check.id)!;
    const behind = this.is.parts.filter((f) => this.failing.has(f));
    const mine = this.is.parts.filter((f) => real.about.includes(f));
    const cured =
      behind.length > 0 && this.is.outside.length === 0 && behind.every((f) => real.about.includes(f));
    const hit = check.reads === "any" ? mine.length > 0 : cured;
    const hidden = check.reads === "any" && mine.length > 0 && mine.every((f) => this.is.hides.has(f));
    const bad = real.outcomes[0]!;
    const chance = hidden ? bad.ifSound + SEES_ANYWAY * (bad.ifFaulty - bad.ifSound) : bad.ifFaulty;
    const said = this.c.happens(hit ? chance : bad.ifSound);
    return real.outcomes[said !== this.c.happens(this.w.noise.wrong) ? 0 : 1]!.code;
  }
}
