/**
 * The one policy over checks, attempts and endings: how long the first advice takes on the model with the most parts, how
 * far its bounds stand apart, and how near it comes to a long search.
 * npm run bench:policy [-- N] N units by number of failing places (20)
 */
import { readdirSync, readFileSync } from "node:fs";
import { join } from "node:path";

import { advise } from "@/core/decide/advise";
import { buildProblem, type DecideInput } from "@/core/decide/build";
import { knownOf } from "@/core/decide/causes";
import { HOUSE_ROUTES } from "@/core/decide/routes";
import { solved } from "@/core/decide/solved";
import { rankChecks, USUAL_ADVICE } from "@/core/diagnosis/advise";
import { learn, startBelief } from "@/core/diagnosis/belief";
import { checkLibrary } from "@/core/diagnosis/checks";
import { graphOf } from "@/core/diagnosis/graph";
import { seeded } from "@/core/math/random";
import { median, quantile } from "@/core/math/quantile";
import { HOUSE_RATES } from "@/core/money/rates";
import { QUICK, solvePolicy } from "@/core/policy/solve";
import { profileSchema } from "@/core/profile/profile";
import { injected, type Noise, Oracle, worldOf } from "./causes/world";

const COUNT = Number(process.argv.slice(2).find((a) => /^\d+$/.test(a)) ?? 20);
const LONG = { ...QUICK, acts: 60_000, checkedFrom: 0.02, rare: 1e-5, followed: Infinity };
const MOST_CHECKS = 8;

const folder = join(import.meta.dirname, "../profiles");
const profiles = readdirSync(folder).map((f) =>
  profileSchema.parse(JSON.parse(readFileSync(join(folder, f), "utf8"))),
);
const profile = profiles.reduce((a, p) => (p.wiring!.nodes.length > a.wiring!.nodes.length ? p : a));
const graph = graphOf(profile.wiring!, null);
const library = checkLibrary(graph, profile.wiring!);
const noise: Noise = {
  name: "",
  wrong: 0.02,
  oddsOff: 1,
  edgesMissing: 0,
  outside: 0.1,
  faults: [0.3, 0.4, 0.3],
  covers: [0.9, 0.98],
};
const mean = (v: readonly number[]) => v.reduce((s, x) => s + x, 0) / Math.max(1, v.length);
const pc = (x: number) => `${(100 * x).toFixed(2)} %`;

type Asked = { input: DecideInput; beliefMs: number };

/** A unit of which so many places fail, as its first test shows it. */
function unitOf(seed: number, failing: number): Asked | null {
  const c = seeded(seed);
  const w = worldOf(profile.name, profile.wiring!, noise, c);
  const oracle = new Oracle(w, injected(w, c), c);
  const seen = [...graph.restsOn.keys()].map((id) => ({
    kind: "function" as const,
    id,
    ...oracle.answer(id),
  }));
  const bad = seen.filter((s) => s.outcome !== "works");
  if (bad.length !== failing) return null;
  const began = performance.now();
  const b = startBelief(graph);
  learn(b, seen);
  const places = bad.map((s) => s.id);
  const about = new Set(places.flatMap((p) => graph.restsOn.get(p)!));
  const checks = rankChecks(b, library, { ...USUAL_ADVICE, isOpen: false, done: new Set() })
    .map((p) => p.check)
    .filter((x) => x.about.some((i) => about.has(i)) && (x.kind !== "test" || !places.includes(x.target)))
    .slice(0, MOST_CHECKS);
  const known = knownOf(b, places, checks);
  const beliefMs = performance.now() - began;
  return {
    beliefMs,
    input: {
      profile,
      revision: null,
      market: profile.market!,
      rates: HOUSE_RATES,
      routes: HOUSE_ROUTES,
      record: [],
      rules: [],
      faults: places.map((place, i) => ({ id: place, number: i + 1, place, measure: null })),
      tried: [],
      openMinutes: 0,
      spent: { purchase: 500, parts: 0, minutes: 8 },
      customer: null,
      withheld: [],
      untested: [],
      hiddenBad: 0,
      caps: [],
      ...known,
    },
  };
}

for (const failing of [1, 2, 3, 4]) {
  const took: number[] = [];
  const solving: number[] = [];
  const toLong: number[] = [];
  const apart: number[] = [];
  const firsts = { try: 0, check: 0, end: 0 };
  let same = 0;
  for (let seed = 1; took.length < COUNT && seed < 20_000; seed++) {
    const asked = unitOf(seed, failing);
    if (!asked) continue;
    const began = performance.now();
    const advice = advise(asked.input);
    took.push(performance.now() - began + asked.beliefMs);
    firsts[advice.acts[0]!.do]++;
    const { problem } = solved(buildProblem(asked.input)).built;
    const again = performance.now();
    const quick = solvePolicy(problem);
    solving.push(performance.now() - again);
    const long = solvePolicy(problem, LONG);
    const scale = Math.max(1, Math.abs(long.value));
    toLong.push((long.value - quick.value) / scale);
    apart.push((quick.upper - quick.value) / scale);
    same += Number(quick.acts[0]!.do === long.acts[0]!.do && quick.acts[0]!.index === long.acts[0]!.index);
  }
  console.log(
    `${profile.name}, ${failing} failing, ${took.length} units: first advice ${median(took).toFixed(0)} ms, 95th percentile ${quantile(took, 0.95).toFixed(0)} ms (aims: 300, 2000); one solution ${median(solving).toFixed(0)} and ${quantile(solving, 0.95).toFixed(0)} ms`,
  );
  console.log(
    `  below a long search by ${pc(mean(toLong))} on average, ${pc(Math.max(...toLong))} at most (aim: under 2 %), same next act in ${same} of ${took.length}; its own bound is ${pc(mean(apart))} above; begins with a check in ${firsts.check}, an attempt in ${firsts.try}, an ending in ${firsts.end}`,
  );
}
