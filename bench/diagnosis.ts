/**
 * Units with one or two faults injected in each model's wiring are diagnosed by following the advice against
 * an oracle.
 * npm run bench:diagnosis [-- N] N units a model (300)
 */
import { readdirSync, readFileSync } from "node:fs";
import { join } from "node:path";

import { rankChecks, USUAL_ADVICE } from "@/core/diagnosis/advise";
import {
  type Belief,
  type Evidence,
  isCured,
  learn,
  outcomeChance,
  rankCauses,
  startBelief,
} from "@/core/diagnosis/belief";
import { type Check, checkLibrary, evidenceOf } from "@/core/diagnosis/checks";
import { type Graph, graphOf } from "@/core/diagnosis/graph";
import { KIND_ODDS, OUTCOMES, type Outcome } from "@/core/diagnosis/priors";
import { bestClasses, classesOf } from "@/core/diagnosis/twins";
import { type Chance, seeded } from "@/core/math/random";
import { median, quantile } from "@/core/math/quantile";
import { profileSchema } from "@/core/profile/profile";
import type { Wiring } from "@/core/profile/wiring";

const COUNT = Number(process.argv.slice(2).find((a) => /^\d+$/.test(a)) ?? 300);
const SURE = 0.9; // minutes and checks are counted to here; the advice goes on to its own certainty

type World = {
  name: string;
  graph: Graph;
  wiring: Wiring;
  truth: Graph;
  library: Check[];
  truthLibrary: Map<string, Check>;
  classes: Uint16Array;
};
type Noise = { wrong: number; oddsOff: number; edgesMissing: number };

function worldOf(name: string, wiring: Wiring, noise: Noise, c: Chance): World {
  const truth = graphOf(wiring, null);
  const lacking: Wiring = {
    ...wiring,
    nodes: wiring.nodes.map((n) => ({ ...n, needs: n.needs.filter(() => !c.happens(noise.edgesMissing)) })),
  };
  const graph = noise.edgesMissing > 0 ? graphOf(lacking, null) : truth;
  const library = checkLibrary(graph, wiring);
  const truthLibrary = new Map(checkLibrary(truth, wiring).map((x) => [x.id, x]));
  return { name, graph, wiring, truth, library, truthLibrary, classes: classesOf(graph, library) };
}

/** One or two parts at fault, by the odds of their kind (off by up to the given factor). */
function injected(w: World, noise: Noise, c: Chance): number[] {
  const odds = w.truth.kinds.map((k) => KIND_ODDS[k] * noise.oddsOff ** c.between(-1, 1));
  const pick = (not: number) => {
    let at = c.between(
      0,
      odds.reduce((s, o, i) => s + (i === not ? 0 : o), 0),
    );
    for (let i = 0; i < odds.length; i++) {
      if (i === not) continue;
      at -= odds[i]!;
      if (at <= 0) return i;
    }
    return odds.length - 1;
  };
  const first = pick(-1);
  return c.happens(0.7) ? [first] : [first, pick(first)];
}

/** What the bench sees: drawn from the true wiring, and wrong now and then. */
class Oracle {
  /** parts behind what was seen failing: a treatment cures when it takes all faults among them */
  private readonly failing = new Set<number>();

  constructor(
    private readonly w: World,
    private readonly faults: readonly number[],
    private readonly noise: Noise,
    private readonly c: Chance,
  ) {}

  function_(id: string): Outcome {
    const outcome = this.drawn(id);
    if (outcome !== "works") this.w.truth.restsOn.get(id)?.forEach((i) => this.failing.add(i));
    return outcome;
  }

  private drawn(id: string): Outcome {
    const rests = this.w.truth.restsOn.get(id) ?? [];
    const faulty = this.faults.filter((f) => rests.includes(f));
    if (this.c.happens(this.noise.wrong)) return faulty.length ? "works" : this.c.pick(OUTCOMES.slice(1));
    let at = this.c.next();
    for (const o of OUTCOMES) {
      at -= outcomeChance(this.w.truth, o, faulty);
      if (at <= 0) return o;
    }
    return "works";
  }

  check(check: Check): string {
    if (check.kind === "test") return this.function_(check.target);
    const real = this.w.truthLibrary.get(check.id)!;
    const behind = this.faults.filter((f) => this.failing.has(f));
    const hit =
      check.reads === "any"
        ? this.faults.some((f) => real.about.includes(f))
        : behind.length > 0 && behind.every((f) => real.about.includes(f));
    const [bad, good] = real.outcomes as [Check["outcomes"][number], Check["outcomes"][number]];
    const said = this.c.happens(hit ? bad.ifFaulty : bad.ifSound);
    const wrong = this.c.happens(this.noise.wrong);
    return (said !== wrong ? bad : good).code;
  }
}

type Pick = (b: Belief, left: readonly Check[], isOpen: boolean) => Check | null;
const byAdvice: Pick = (b, left, isOpen) =>
  rankChecks(b, left, { ...USUAL_ADVICE, isOpen, done: new Set() })[0]?.check ?? null;
const byCheapness: Pick = (_b, left) =>
  [...left].sort((x, y) => x.minutes + x.risk - y.minutes - y.risk || x.id.localeCompare(y.id))[0] ?? null;

type Run = {
  checks: number;
  minutes: number;
  right: boolean;
  among3: boolean;
  stated: number;
  startRight: boolean;
};

function diagnose(w: World, faults: readonly number[], noise: Noise, seed: number, pick: Pick): Run {
  const c = seeded(seed);
  const oracle = new Oracle(w, faults, noise, c);
  const b = startBelief(w.graph);
  const first: Evidence[] = [...w.graph.restsOn.keys()].map((id) => ({
    kind: "function",
    id,
    outcome: oracle.function_(id),
  }));
  learn(b, first);
  const trueClasses = [...new Set(faults.map((f) => w.classes[f]!))].sort((x, y) => x - y).join();
  const isRight = () => [...bestClasses(b, w.classes).classes].sort((x, y) => x - y).join() === trueClasses;
  const startRight = isRight();
  let left: Check[] = w.library.filter((x) => x.kind !== "test"); // every control was tested already
  let minutes = 0;
  let checks = 0;
  let isOpen = false;
  let at: { checks: number; minutes: number } | null = null;
  for (;;) {
    const { probability } = bestClasses(b, w.classes);
    if (probability >= SURE) at ??= { checks, minutes };
    if (probability >= USUAL_ADVICE.certain) break;
    const next = pick(b, left, isOpen);
    if (!next) break;
    left = left.filter((x) => x !== next);
    if (next.opens && !isOpen) {
      isOpen = true;
      minutes += USUAL_ADVICE.openMinutes;
    }
    minutes += next.minutes;
    checks++;
    learn(b, [evidenceOf(next, oracle.check(next))]);
  }
  const ranked: number[] = [];
  for (const r of rankCauses(b)) {
    const cls = w.classes[w.graph.index.get(r.node)!]!;
    if (!ranked.includes(cls)) ranked.push(cls);
    if (ranked.length === 3) break;
  }
  return {
    ...(at ?? { checks, minutes }),
    right: isRight(),
    among3: faults.every((f) => ranked.includes(w.classes[f]!)),
    stated: bestClasses(b, w.classes).probability,
    startRight,
  };
}

const folder = join(import.meta.dirname, "../profiles");
const profiles = readdirSync(folder).map((f) =>
  profileSchema.parse(JSON.parse(readFileSync(join(folder, f), "utf8"))),
);
const pc = (n: number, all: number) => `${((100 * n) / Math.max(1, all)).toFixed(1)} %`;
const mean = (v: readonly number[]) => v.reduce((s, x) => s + x, 0) / Math.max(1, v.length);

function table(title: string, noise: Noise): void {
  console.log(`\n${title}`);
  console.log(
    "model         at once   first at the end   among three   checks  minutes   cheapest first   random   share of cheapest",
  );
  const reliability = Array.from({ length: 10 }, () => ({ n: 0, right: 0, stated: 0 }));
  const all = { n: 0, right: 0, three: 0, advice: 0, cheap: 0 };
  for (const [k, profile] of profiles.entries()) {
    const advice: Run[] = [];
    const cheap: Run[] = [];
    const random: Run[] = [];
    const w = worldOf(profile.name, profile.wiring!, noise, seeded(900 + k));
    for (let u = 0; u < COUNT; u++) {
      const seed = k * 100_000 + u;
      const faults = injected(w, noise, seeded(seed));
      const shuffled = seeded(seed + 5);
      advice.push(diagnose(w, faults, noise, seed + 7, byAdvice));
      // the slow orders go through the whole library: a third of the units is compared with them
      if (u < COUNT / 3) cheap.push(diagnose(w, faults, noise, seed + 7, byCheapness));
      if (u < COUNT / 6)
        random.push(diagnose(w, faults, noise, seed + 7, (_b, left) => shuffled.pick(left) ?? null));
    }
    for (const r of advice) {
      const bin = reliability[Math.min(9, Math.floor(r.stated * 10))]!;
      bin.n++;
      bin.right += Number(r.right);
      bin.stated += r.stated;
    }
    const minutes = mean(advice.map((r) => r.minutes));
    const fixed = mean(cheap.map((r) => r.minutes));
    const beside = mean(advice.slice(0, cheap.length).map((r) => r.minutes));
    const right = advice.filter((r) => r.right).length;
    const three = advice.filter((r) => r.among3).length;
    all.n += COUNT;
    all.right += right;
    all.three += three;
    all.advice += beside * COUNT;
    all.cheap += fixed * COUNT;
    console.log(
      `${profile.name.padEnd(12)} ${pc(advice.filter((r) => r.startRight).length, COUNT).padStart(8)} ${pc(right, COUNT).padStart(16)} ${pc(three, COUNT).padStart(14)} ${mean(
        advice.map((r) => r.checks),
      )
        .toFixed(1)
        .padStart(8)} ${minutes.toFixed(1).padStart(8)} ${fixed.toFixed(1).padStart(14)} ${mean(
        random.map((r) => r.minutes),
      )
        .toFixed(1)
        .padStart(10)} ${pc(beside, fixed).padStart(15)}`,
    );
  }
  console.log(
    `together: first ${pc(all.right, all.n)}, among three ${pc(all.three, all.n)}, minutes ${pc(all.advice, all.cheap)} of the fixed order by cheapness`,
  );
  console.log("stated certainty against how often it was right:");
  for (const bin of reliability)
    if (bin.n > 0)
      console.log(
        `  stated ${(bin.stated / bin.n).toFixed(2)}   right ${(bin.right / bin.n).toFixed(2)}   in ${bin.n}`,
      );
}

/**
 * Expected minutes to be sure, exactly: the best policy by trying every order, and the advice, over the
 * outcomes of few checks.
 */
function againstBest(): void {
  const ratios: number[] = [];
  for (let seed = 1; seed <= 60; seed++) {
    const c = seeded(seed * 31);
    const n = 4 + Math.floor(c.next() * 3);
    const wiring = smallWiring(n, c);
    const graph = graphOf(wiring, null);
    const library = checkLibrary(graph, wiring).filter((x) => x.kind !== "test");
    const some = library.sort(() => c.next() - 0.5).slice(0, 6);
    const base = startBelief(graph);
    learn(
      base,
      [...graph.restsOn.keys()].map((id, i) => ({
        kind: "function",
        id,
        outcome: i === 0 ? "dead" : c.happens(0.5) ? "works" : "dead",
      })),
    );
    const best = policyCost(base, some, null);
    const advised = policyCost(
      base,
      some,
      (b, left) => rankChecks(b, left, { ...USUAL_ADVICE, isOpen: true, done: new Set() })[0]?.check ?? null,
    );
    if (best > 0.01) ratios.push(advised / best);
  }
  console.log(
    `\nagainst the best possible (every policy tried, ${ratios.length} small graphs of 4 to 6 parts, 6 checks): expected minutes ${mean(ratios).toFixed(3)} times the best on average, median ${median(ratios).toFixed(3)}, 95th percentile ${quantile(ratios, 0.95).toFixed(3)} (aim: within 1.15)`,
  );
}

function smallWiring(n: number, c: Chance): Wiring {
  const kinds = ["contact", "flex", "connector", "chip", "joint", "supply"] as const;
  return {
    boards: [{ id: "b", name: "board", width: 50, height: 50 }],
    nodes: Array.from({ length: n }, (_, i) => ({
      id: `p${i}`,
      kind: c.pick(kinds),
      name: `part ${i}`,
      needs: i > 0 && c.happens(0.7) ? [`p${Math.floor(c.next() * i)}`] : [],
    })),
    serves: { f1: [`p${n - 1}`], f2: [`p${n - 2}`] },
    points: [0, 1].map((k) => ({
      id: `t${k}`,
      name: `point ${k}`,
      board: "b",
      face: "top" as const,
      at: { x: 1, y: 1 },
      node: `p${Math.floor(c.next() * n)}`,
      quantity: "volts" as const,
      expects: 3,
    })),
  };
}

/** Expected minutes until sure or out of checks; `pick` null takes the cheapest way at every step. */
function policyCost(
  b: Belief,
  left: readonly Check[],
  pick: ((b: Belief, left: readonly Check[]) => Check | null) | null,
): number {
  const sure = () => {
    let top = 0;
    for (const h of b.live) top = Math.max(top, b.posterior[h]!);
    return top >= SURE;
  };
  if (left.length === 0 || sure()) return 0;
  const costOf = (check: Check) => {
    const rest = left.filter((x) => x !== check);
    let total = check.minutes + check.risk;
    for (const o of check.outcomes) {
      const copy: Belief = {
        ...b,
        logLikelihood: b.logLikelihood.slice(),
        posterior: b.posterior.slice(),
        marginal: b.marginal.slice(),
      };
      learn(copy, [evidenceOf(check, o.code)]);
      const chance = chanceOf(b, check, o.code);
      if (chance > 1e-6) total += chance * policyCost(copy, rest, pick);
    }
    return total;
  };
  if (pick) {
    const next = pick(b, left);
    return next ? costOf(next) : 0;
  }
  return Math.min(...left.map(costOf));
}

function chanceOf(b: Belief, check: Check, code: string): number {
  const o = check.outcomes.find((x) => x.code === code)!;
  let chance = 0;
  for (const h of b.live) {
    const i = check.about.includes(b.first[h]!);
    const j = check.about.includes(b.second[h]!);
    const treated = new Uint8Array(b.n);
    check.about.forEach((k) => (treated[k] = 1));
    chance +=
      b.posterior[h]! * ((check.reads === "any" ? i || j : isCured(b, treated, h)) ? o.ifFaulty : o.ifSound);
  }
  return chance;
}

function speed(): void {
  const c = seeded(5);
  const n = 300;
  const kinds = Object.keys(KIND_ODDS) as (keyof typeof KIND_ODDS)[];
  const wiring: Wiring = {
    boards: [{ id: "b", name: "board", width: 50, height: 50 }],
    nodes: Array.from({ length: n }, (_, i) => ({
      id: `p${i}`,
      kind: c.pick(kinds),
      name: `part ${i}`,
      needs: i > 20 ? [`p${Math.floor(c.next() * i)}`] : [],
    })),
    serves: Object.fromEntries(Array.from({ length: 60 }, (_, k) => [`f${k}`, [`p${n - 1 - k * 2}`]])),
    points: [],
  };
  const graph = graphOf(wiring, null);
  const library = checkLibrary(graph, wiring);
  const b = startBelief(graph);
  learn(
    b,
    [...graph.restsOn.keys()].map((id, i) => ({
      kind: "function",
      id,
      outcome: i % 9 === 0 ? "dead" : "works",
    })),
  );
  const took: number[] = [];
  for (let k = 0; k < 12; k++) {
    const began = performance.now();
    learn(b, [{ kind: "check", about: [k * 7], ifFaulty: 0.3, ifSound: 0.97 }]);
    rankChecks(b, library, { ...USUAL_ADVICE, isOpen: true, done: new Set() });
    took.push(performance.now() - began);
  }
  console.log(
    `\n300 parts, ${library.length} checks, ${b.posterior.length} hypotheses: one more look and a new ranking takes ${median(took).toFixed(0)} ms (aim: 100 ms)`,
  );
}

table(
  `${COUNT} units a model, 7 in 10 with one fault and 3 with two, 2 % wrong observations (aim: first 90 %, minutes at most 60 %)`,
  { wrong: 0.02, oddsOff: 1, edgesMissing: 0 },
);
table(
  "the same with odds off by up to 3 times, 5 % of edges missing, 5 % wrong observations (aim: first 75 %)",
  {
    wrong: 0.05,
    oddsOff: 3,
    edgesMissing: 0.05,
  },
);
againstBest();
speed();
