/**
 * The whole shop, simulated: units with a hidden truth go through bid, baseline, acts, retests and an ending,
 * by the advice and by others; the truth and the retests share no table with the advice (bench/floor).
 * npm run bench:shopfloor [-- N [FIRST_SEED]]: N units that were bought, 1,400 when not said.
 */
import { spawn } from "node:child_process";
import { readdirSync, readFileSync } from "node:fs";
import { text } from "node:stream/consumers";

import { highestBid, prospectOf, readListing, suspectedOf } from "@/core/decide/buying";
import { HOUSE_ROUTES, SCHOOLS } from "@/core/decide/routes";
import { seeded } from "@/core/math/random";
import { HOUSE_RATES } from "@/core/money/rates";
import { profileSchema } from "@/core/profile/profile";
import { Case, type Done } from "./floor/case";
import { cheapest, knowsTheOdds, school, seesTheTruth, today } from "./floor/players";
import { bothStations, type Stated } from "./floor/stations";
import { wiresOf, World } from "./floor/truth";
import { drawUnit, type FloorUnit } from "./floor/units";

const [COUNT = 1400, FIRST = 1] = process.argv
  .slice(2)
  .filter((a) => /^\d+$/.test(a))
  .map(Number);
const WISHED_MARGIN = 400;
const ACCEPTED_LOSS = 0.35;
const WORLDS = 10;

const models = readdirSync("profiles").map((f) => {
  const profile = profileSchema.parse(JSON.parse(readFileSync(`profiles/${f}`, "utf8")));
  return { profile, wires: wiresOf(profile) };
});

/** What the advice would bid for such words, in shares of the going price as found. */
const bids = new Map<string, number | null>();
function bidFor(unit: FloorUnit): number | null {
  const market = unit.profile.market!;
  const key = `${unit.profile.id} ${unit.words}`;
  if (!bids.has(key)) {
    const base = {
      profile: unit.profile,
      revision: null,
      market,
      rates: HOUSE_RATES,
      routes: HOUSE_ROUTES,
      record: [],
      rules: [],
    };
    const prospect = prospectOf(base, suspectedOf(unit.profile, readListing(unit.words, unit.profile), {}));
    bids.set(key, highestBid(prospect, HOUSE_RATES.carriageOut, WISHED_MARGIN, ACCEPTED_LOSS).bid);
  }
  const bid = bids.get(key)!;
  return bid === null ? null : bid * unit.scale;
}

const stated: Stated[] = [];
const PLAYERS: Record<string, (unit: FloorUnit, world: World) => Done> = {
  "(a) both stations": bothStations(stated),
  "(b) today's rules": today,
  ...Object.fromEntries(SCHOOLS.map((s) => [`(c) ${s} only`, school(s)])),
  "(d) cheapest first": cheapest,
  "(e) sees the truth": seesTheTruth,
  "(f) knows the odds": knowsTheOdds,
  "stops at once": (unit, world) => new Case(unit, world).giveUp(),
};
let offered = 0;
let faulty = 0;
let seed = FIRST * 100_000;
const units: FloorUnit[] = [];
const worlds: World[] = [];
for (let w = 0; w < WORLDS; w++) {
  const world = new World(seeded(FIRST * 77 + w));
  while (units.length < ((w + 1) * COUNT) / WORLDS) {
    const unit = drawUnit(seeded(seed), seed, models, world);
    seed++;
    offered++;
    const bid = bidFor(unit);
    if (bid === null || unit.askMinor > bid) continue;
    units.push(unit);
    worlds.push(world);
    if (unit.faults.length > 0) faulty++;
  }
}
const bought = units.length;

/** How each player did at a unit, and what Find stated there; each unit is a story of its own. */
type Played = { unit: number; done: Record<string, { done: Done; ms: number }>; stated: Stated[] };
function play(i: number): Played {
  stated.length = 0;
  const done = Object.entries(PLAYERS).map(([name, player]) => {
    const began = performance.now();
    return [name, { done: player(units[i]!, worlds[i]!), ms: performance.now() - began }] as const;
  });
  return { unit: i, done: Object.fromEntries(done), stated: [...stated] };
}
const half = (odd: number) => units.flatMap((_, i) => (i % 2 === odd ? [play(i)] : []));

// one half of the units on each of two cores: the child prints its half, and nothing else
if (process.env.BIRDCAGE_FLOOR_HALF) {
  process.stdout.write(JSON.stringify(half(1)), () => process.exit(0));
  await new Promise(() => undefined);
}
const child = spawn(process.execPath, [...process.execArgv, ...process.argv.slice(1)], {
  env: { ...process.env, BIRDCAGE_FLOOR_HALF: "1" },
  stdio: ["ignore", "pipe", "inherit"],
});
const mine = half(0);
const played = [...mine, ...(JSON.parse(await text(child.stdout)) as Played[])].sort(
  (a, b) => a.unit - b.unit,
);
const results = new Map<string, Done[]>(
  Object.keys(PLAYERS).map((k) => [k, played.map((p) => p.done[k]!.done)]),
);
const took = new Map<string, number>(
  Object.keys(PLAYERS).map((k) => [k, played.reduce((s, p) => s + p.done[k]!.ms, 0)]),
);
const said = played.flatMap((p) => p.stated);

const mean = (v: readonly number[]) => v.reduce((s, x) => s + x, 0) / Math.max(1, v.length);
/** A mean and the half of its 95 % interval, by the normal. */
function withHalf(v: readonly number[]): [number, number] {
  const m = mean(v);
  const sd = Math.sqrt(v.reduce((s, x) => s + (x - m) ** 2, 0) / Math.max(1, v.length - 1));
  return [m, (1.96 * sd) / Math.sqrt(v.length)];
}
/** Money an hour, with the half of its interval by the delta method. */
function anHour(all: readonly Done[]): [number, number] {
  const minutes = mean(all.map((d) => d.minutes));
  const rate = mean(all.map((d) => d.marginMinor)) / minutes;
  const [, half] = withHalf(all.map((d) => (d.marginMinor - rate * d.minutes) / minutes));
  return [rate * 60, half * 60];
}
const money = (minor: number) => (minor / 100).toFixed(2);
const count = (v: readonly Done[], of: (d: Done) => boolean) => v.filter(of).length;

console.log(
  `${offered} offered, ${bought} bought by the same bid, ${faulty} of these with a fault; ${WORLDS} worlds, odds off by up to 3 times, 5 % of looks wrong\n`,
);
console.log(
  `${"player".padEnd(22)}${"margin a unit".padStart(17)}${"an hour".padStart(16)}${"minutes".padStart(9)}${"wrong parts".padStart(13)}${"sold".padStart(7)}${"gave up".padStart(9)}${"bad out, stays".padStart(16)}${"comes and goes".padStart(16)}${"ms each".padStart(9)}`,
);
for (const [name, all] of results) {
  const [m, half] = withHalf(all.map((d) => d.marginMinor));
  const minutes = mean(all.map((d) => d.minutes));
  const [hour, hourHalf] = anHour(all);
  console.log(
    `${name.padEnd(22)}${`${money(m)} ± ${money(half)}`.padStart(17)}${`${money(hour)} ± ${money(hourHalf)}`.padStart(16)}${minutes.toFixed(1).padStart(9)}${mean(
      all.map((d) => d.wrongParts),
    )
      .toFixed(2)
      .padStart(
        13,
      )}${String(count(all, (d) => d.sold)).padStart(7)}${String(count(all, (d) => d.gaveUp)).padStart(9)}${String(count(all, (d) => d.badOut === "constant")).padStart(16)}${String(count(all, (d) => d.badOut === "fickle")).padStart(16)}${(took.get(name)! / all.length).toFixed(1).padStart(9)}`,
  );
}

const of = (name: string) => results.get(name)!.map((d) => d.marginMinor);
function paired(a: string, b: string): void {
  const x = of(a);
  const y = of(b);
  const [m, half] = withHalf(x.map((v, i) => v - y[i]!));
  console.log(`  ${a} less ${b}: ${money(m)} a unit, 95 % from ${money(m - half)} to ${money(m + half)}`);
}
const over = (name: string) => mean(of(name)) - mean(of("stops at once"));
const best = [...results.keys()]
  .filter((k) => k.startsWith("(c)") || k.startsWith("(d)"))
  .sort((a, b) => mean(of(b)) - mean(of(a)))[0]!;
console.log("\nover stopping at once, as a share of (f):");
for (const name of ["(a) both stations", "(b) today's rules", best])
  console.log(
    `  ${name}: ${((100 * over(name)) / over("(f) knows the odds")).toFixed(1)} % (aim of (a): 95 %)`,
  );
console.log(`paired, ${bought} units:`);
paired("(a) both stations", "(b) today's rules");
paired("(a) both stations", best);
paired("(f) knows the odds", "(b) today's rules");
paired("(e) sees the truth", "(f) knows the odds");

const bestOfAll = results.get("(e) sees the truth")!;
const paid = results
  .get("(a) both stations")!
  .filter((d, i) => d.gaveUp && bestOfAll[i]!.sold && bestOfAll[i]!.marginMinor > d.marginMinor).length;
console.log(`given up by (a) though mending paid for who sees the truth: ${paid} of ${bought}`);
const fickle = results.get("(a) both stations")!.filter((_, i) => units[i]!.faults.some((f) => f.shows < 1));
const fickleBest = bestOfAll.filter((_, i) => units[i]!.faults.some((f) => f.shows < 1));
console.log(
  `faults that come and go, ${fickle.length} units: ${count(fickle, (d) => d.badOut === "fickle")} went out with one by (a); ${money(mean(fickleBest.map((d) => d.marginMinor)) - mean(fickle.map((d) => d.marginMinor)))} a unit less than who sees the truth`,
);
console.log("stated by Find when it stops, against how often it was right:");
for (let bin = 0; bin < 10; bin++) {
  const some = said.filter((s) => Math.min(9, Math.floor(s.said * 10)) === bin);
  if (some.length > 0)
    console.log(
      `  ${(bin / 10).toFixed(1)} to ${((bin + 1) / 10).toFixed(1)}: right ${mean(some.map((s) => Number(s.right))).toFixed(2)}, in ${some.length}`,
    );
}
