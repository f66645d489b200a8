/**
 * Units with faults injected in each model's wiring are diagnosed by following the advice against an oracle with tables
 * of its own, in several worlds.
 * npm run bench:diagnosis [-- N] N units a model and world (120)
 */
import { readdirSync, readFileSync } from "node:fs";
import { join } from "node:path";

import { rankChecks, USUAL_ADVICE } from "@/core/diagnosis/advise";
import { type Belief, imagined, isCured, learn, startBelief, suspectsOf } from "@/core/diagnosis/belief";
import { type Check, checkLibrary, evidenceOf } from "@/core/diagnosis/checks";
import { graphOf } from "@/core/diagnosis/graph";
import { KIND_ODDS } from "@/core/diagnosis/priors";
import { type Chance, seeded } from "@/core/math/random";
import { median, quantile } from "@/core/math/quantile";
import { profileSchema } from "@/core/profile/profile";
import type { Wiring } from "@/core/profile/wiring";
import { byAdvice, byCheapness, diagnose, type Run } from "./causes/run";
import { injected, type Noise, worldOf } from "./causes/world";

const COUNT = Number(process.argv.slice(2).find((a) => /^\d+$/.test(a)) ?? 120);
const SURE = 0.9;

const folder = join(import.meta.dirname, "../profiles");
const profiles = readdirSync(folder).map((f) =>
  profileSchema.parse(JSON.parse(readFileSync(join(folder, f), "utf8"))),
);
const pc = (n: number, all: number) => `${((100 * n) / Math.max(1, all)).toFixed(1)} %`;
const mean = (v: readonly number[]) => v.reduce((s, x) => s + x, 0) / Math.max(1, v.length);

const plain: Noise = {
  name: "its own tables, one fault in 7 of 10 and two in 3",
  wrong: 0.02,
  oddsOff: 1,
  edgesMissing: 0,
  outside: 0,
  faults: [0.7, 0.3, 0],
  covers: [0.9, 0.98],
};
const WORLDS: readonly Noise[] = [
  plain,
  { ...plain, name: "three faults in 3 of 10", faults: [0.4, 0.3, 0.3] },
  { ...plain, name: "other coverage: 0.55 to 0.98 by kind", covers: [0.55, 0.98] },
  { ...plain, name: "5 % of connections missing", edgesMissing: 0.05 },
  { ...plain, name: "outside the graph in 1 of 10", outside: 0.1 },
  {
    ...plain,
    name: "all of it, odds off by up to 3 times, 5 % wrong observations",
    wrong: 0.05,
    oddsOff: 3,
    edgesMissing: 0.05,
    outside: 0.1,
    faults: [0.55, 0.3, 0.15],
    covers: [0.7, 0.98],
  },
];

/** A model's units in one world: by the advice, and some of them by the fixed order. */
function ofModel(k: number, noise: Noise): { advice: Run[]; cheap: Run[] } {
  const profile = profiles[k]!;
  const advice: Run[] = [];
  const cheap: Run[] = [];
  const w = worldOf(profile.name, profile.wiring!, noise, seeded(900 + k));
  for (let u = 0; u < COUNT; u++) {
    const seed = k * 100_000 + u;
    const is = injected(w, seeded(seed));
    advice.push(diagnose(w, is, seed + 7, byAdvice));
    // the fixed order goes through the whole library: a few of the units are compared with it
    if (u < COUNT / 40) cheap.push(diagnose(w, is, seed + 7, byCheapness));
  }
  return { advice, cheap };
}

function table(noise: Noise): void {
  console.log(`\n${noise.name} (${COUNT} units a model)`);
  const models = profiles.map((_, k) => ofModel(k, noise));
  const all = models.flatMap((m) => m.advice);
  const beside = mean(models.flatMap((m) => m.advice.slice(0, m.cheap.length)).map((r) => r.minutes));
  const fixed = mean(models.flatMap((m) => m.cheap).map((r) => r.minutes));
  const share = (f: (r: Run) => boolean) => pc(all.filter(f).length, all.length);
  console.log(
    `  right at once ${share((r) => r.startRight)}, at the end ${share((r) => r.right)}, among three ${share((r) => r.among3)}; ${mean(all.map((r) => r.checks)).toFixed(1)} checks, ${mean(all.map((r) => r.minutes)).toFixed(1)} minutes, ${pc(beside, fixed)} of the fixed order's`,
  );
  const sure = all.filter((r) => r.stated >= SURE);
  console.log(
    `  states 0.9 or more in ${pc(sure.length, all.length)}, then right in ${pc(sure.filter((r) => r.right).length, sure.length)} (aims: at least half, at least 90 %)`,
  );
  const bins = Array.from({ length: 10 }, (_, i) =>
    all.filter((r) => Math.min(9, Math.floor(r.stated * 10)) === i),
  );
  console.log(
    `  stated, right: ${bins
      .flatMap((bin) =>
        bin.length > 0
          ? [
              `${mean(bin.map((r) => r.stated)).toFixed(2)}, ${mean(bin.map((r) => Number(r.right))).toFixed(2)} in ${bin.length}`,
            ]
          : [],
      )
      .join("; ")}`,
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
      const copy = imagined(b);
      learn(copy, [evidenceOf(check, o.code)]);
      const chance = chanceOf(b, check, o.code);
      if (chance > 1e-6) total += chance * policyCost(copy, rest, pick);
    }
    return total;
  };
  if (pick) {
    const next = pick(b, left);
    // where the advice has nothing to propose any more, the rest is done in the best order all the same
    return next ? costOf(next) : Math.min(...left.map((c) => costOf(c)));
  }
  return Math.min(...left.map(costOf));
}

function chanceOf(b: Belief, check: Check, code: string): number {
  const o = check.outcomes.find((x) => x.code === code)!;
  let chance = 0;
  for (const h of b.live) {
    const any = suspectsOf(b, h).some((i) => check.about.includes(i));
    const treated = new Uint8Array(b.n);
    check.about.forEach((k) => (treated[k] = 1));
    chance +=
      b.posterior[h]! * ((check.reads === "any" ? any : isCured(b, treated, h)) ? o.ifFaulty : o.ifSound);
  }
  return chance;
}

/** From all answers of a unit to its ranked checks, on the model with the most parts. */
function largest(): void {
  const profile = profiles.reduce((a, p) => (p.wiring!.nodes.length > a.wiring!.nodes.length ? p : a));
  const graph = graphOf(profile.wiring!, null);
  const library = checkLibrary(graph, profile.wiring!);
  const took: number[] = [];
  for (let k = 0; k < 20; k++) {
    const began = performance.now();
    const b = startBelief(graph);
    learn(
      b,
      [...graph.restsOn.keys()].map((id, i) => ({
        kind: "function",
        id,
        outcome: (i + k) % 9 === 0 ? "dead" : "works",
      })),
    );
    rankChecks(b, library, { ...USUAL_ADVICE, isOpen: true, done: new Set() });
    took.push(performance.now() - began);
  }
  console.log(
    `\n${profile.name}, ${graph.nodes.length} parts, ${library.length} checks: from all answers, four of them failing, to ranked causes and checks ${median(took).toFixed(0)} ms, 95th percentile ${quantile(took, 0.95).toFixed(0)} ms (aim: 150 ms)`,
  );
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

for (const noise of WORLDS) table(noise);
againstBest();
largest();
speed();
