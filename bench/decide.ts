/**
 * The ladder against trying every order, its time on large units, itself against each school as a standing
 * policy, and draws of a lot.
 * npm run bench:decide [-- N] N random units (2000)
 */
import { readdirSync, readFileSync } from "node:fs";
import { join } from "node:path";

import { advise } from "@/core/decide/advise";
import type { DecideInput } from "@/core/decide/build";
import { prospectOf, readListing, suspectedOf, worthOdds } from "@/core/decide/buying";
import { type LadderAttempt, type LadderProblem, taking } from "@/core/policy/problem";
import { solveLadder } from "@/core/decide/ladder";
import { drawLot } from "@/core/decide/lot";
import { randomUnit } from "@/core/policy/random-unit";
import { HOUSE_ROUTES } from "@/core/decide/routes";
import { median, quantile } from "@/core/math/quantile";
import { seeded } from "@/core/math/random";
import { HOUSE_RATES } from "@/core/money/rates";
import { profileSchema } from "@/core/profile/profile";

const COUNT = Number(process.argv.slice(2).find((a) => /^\d+$/.test(a)) ?? 2000);

/** Histories instead of states, written apart from the solver: every order of attempts, stopping anywhere. */
function everyOrder(p: LadderProblem): number {
  const go = (tried: boolean[], cure: (LadderAttempt | null)[], counted: number[], depth: number): number => {
    let share = 1;
    let kept = 1 - p.comeback;
    let cap: number = p.cap;
    let can = true;
    p.faults.forEach((f, i) => {
      if (cure[i]) {
        cap = Math.max(cap, cure[i].cap);
        kept *= 1 - counted[i]!;
      } else if (f.leave) {
        share *= f.leave.share;
        kept *= 1 - f.leave.comeback;
      } else can = false;
    });
    const stop = p.giveUp[depth]!;
    let best = can
      ? Math.max(stop, taking(p.price[cap as 0] * share, p.sale) - (1 - kept) * p.comebackCost)
      : stop;
    for (const [i, a] of p.attempts.entries()) {
      if (tried[i] || a.cures.every((f) => cure[f])) continue;
      const d2 = Math.max(depth, a.depth);
      const next = tried.map((t, k) => t || k === i || (a.spends ?? []).includes(k));
      const cured = [...cure];
      const counts = [...counted];
      let first = true;
      for (const f of a.cures)
        if (!cured[f]) {
          cured[f] = a;
          counts[f] = first ? a.comeback : 0;
          first = false;
        }
      const q =
        a.success * go(next, cured, counts, d2) +
        a.breaks * p.giveUpBroken +
        (1 - a.success - a.breaks) * go(next, cure, counted, d2) -
        a.cost -
        (p.depths[d2]!.cost - p.depths[depth]!.cost);
      if (q > best) best = q;
    }
    return best;
  };
  return go(
    p.attempts.map(() => false),
    p.faults.map(() => null),
    p.faults.map(() => 0),
    p.openedTo,
  );
}

// 1. equal to every order, up to seven attempts
let equal = 0;
let worst = 0;
for (let i = 0; i < COUNT; i++) {
  const c = seeded(i + 1);
  const faults = 1 + (i % 3);
  const routes = faults === 1 ? 3 + (i % 5) : faults === 2 ? 2 + (i % 2) : 2;
  const joints = faults > 1 && i % 4 === 0 ? 1 : 0;
  const p = randomUnit(c, faults, routes, joints);
  const solved = solveLadder(p);
  const gap = solved.ok ? Math.abs(solved.value.value - everyOrder(p)) : Infinity;
  worst = Math.max(worst, gap);
  if (gap < 1e-6) equal++;
}
console.log(
  `Ladder equal to every order of up to 7 attempts: ${equal} of ${COUNT} random units; largest gap ${worst.toExponential(1)} cents`,
);

// 2. four faults, five routes each
const times: number[] = [];
const sizes: number[] = [];
let states = 0;
let proven = 0;
const LARGE = COUNT;
for (let i = 0; i < LARGE; i++) {
  const p = randomUnit(seeded(90_000 + i), 4, 5, 0);
  const began = performance.now();
  const solved = solveLadder(p);
  times.push(performance.now() - began);
  if (!solved.ok) continue;
  proven++; // every state that a bound does not settle is worked out: the value is exact
  sizes.push(solved.value.looked);
  states += solved.value.states;
}
console.log(
  `Four faults, five routes each, ${LARGE} units: exact in ${proven}; median ${median(times).toFixed(0)} ms, 95th percentile ${quantile(times, 0.95).toFixed(0)} ms, ` +
    `longest ${Math.max(...times).toFixed(0)} ms; looked at ${((100 * sizes.reduce((a, b) => a + b, 0)) / states).toFixed(1)} % of the states`,
);

// 3. against each school as a standing policy, on the seven models
const models = readdirSync("profiles").map((f) =>
  profileSchema.parse(JSON.parse(readFileSync(join("profiles", f), "utf8"))),
);
const gains = new Map<string, { units: number; less: number; value: number; ladder: number }>();
const c = seeded(7);
const UNITS = Math.min(400, Math.ceil(COUNT / 5));
for (let i = 0; i < UNITS; i++) {
  const profile = c.pick(models);
  const places = [...profile.controls, ...profile.functions];
  const measures = ["restOffset", "jumps", "reachMin"];
  const faults = Array.from({ length: 1 + Math.floor(c.next() * 2) }, (_, k) => ({
    id: String(k),
    number: k + 1,
    place: c.pick(places).id,
    measure: c.pick(measures),
  }));
  const market = profile.market!;
  const scale = c.between(0.8, 1.6);
  const input: DecideInput = {
    profile,
    revision: null,
    market: {
      ...market,
      aMinor: Math.round(market.aMinor * scale),
      bMinor: Math.round(market.bMinor * scale),
      cMinor: Math.round(market.cMinor * scale),
    },
    rates: HOUSE_RATES,
    routes: HOUSE_ROUTES,
    record: [],
    rules: [],
    faults,
    tried: [],
    openMinutes: 0,
    spent: { purchase: 0, parts: 0, minutes: 0 },
    customer: null,
    withheld: [],
    untested: [],
    hiddenBad: 0,
    caps: [],
  };
  const a = advise(input);
  for (const s of a.schools) {
    const g = gains.get(s.school) ?? { units: 0, less: 0, value: 0, ladder: 0 };
    g.units++;
    g.less += s.less;
    g.value += s.value;
    g.ladder += s.value + s.less;
    gains.set(s.school, g);
  }
}
console.log(
  `Mean worth of a unit, the ladder against one school alone (free to stop), ${UNITS} units of the seven models:`,
);
for (const [school, g] of [...gains].sort((x, y) => y[1].units - x[1].units))
  console.log(
    `  ${school.padEnd(10)} ${String(g.units).padStart(4)} units: ladder ${(g.ladder / g.units / 100).toFixed(2)}, school ${(g.value / g.units / 100).toFixed(2)}, ` +
      `${(g.less / g.units / 100).toFixed(2)} less a unit (ratio ${(g.value / g.ladder).toFixed(2)})`,
  );

// 4. a lot of 40 units, 10,000 draws
const dunlin = models.find((m) => m.id === "dunlin")!;
const base = {
  profile: dunlin,
  revision: null,
  market: dunlin.market!,
  rates: HOUSE_RATES,
  routes: HOUSE_ROUTES,
  record: [],
  rules: [],
};
const prospect = prospectOf(base, suspectedOf(dunlin, readListing("untested", dunlin), {}));
const odds = worthOdds(prospect);
const spent = Array.from({ length: 7 }, () => {
  const began = performance.now();
  drawLot(
    Array.from({ length: 40 }, () => odds),
    10_000,
    seeded(1),
  );
  return performance.now() - began;
});
console.log(
  `10,000 draws of a lot of 40 units (${odds.length} outcomes a unit): median ${median(spent).toFixed(0)} ms`,
);
