import { type Complaint, type Lexicon, readClaim } from "../claim/lexicon";
import type { Minor } from "../money/money";
import { totalOf } from "../money/rates";
import { type ModelProfile, placeName } from "../profile/profile";
import type { DecideInput } from "./build";
import { chanceOf, type Tally } from "../math/chances";
import { type Family, familyOf } from "./families";
import { worthOf } from "./advise";
import { type Leaf, normalBelow } from "./walk";
import type { Worth } from "./lot";

/** What a unit that is only described may bring, and what may be bid for it. */

export const RISKS = ["named", "vague", "untested"] as const;
export type Risk = (typeof RISKS)[number];

const UNTESTED =
  /\b(un-?tested|not tested|no test|as is|as-is|clearance|house clearing|cannot test|no way to test|spares or|for parts)\b/i;
const VAGUE =
  /\b(sometimes|maybe|might|think|seems?|not sure|probably|faulty|broken|problem|issue|acts? up|apparently)\b/i;
const FINE = /\b(works? (fine|well|perfectly|otherwise)|fully working|no faults?)\b/i;

export type Reading = { risk: Risk; complaints: Complaint[]; contradicts: boolean };

/** Reads a listing's words: what it names, and how far such words can be leaned on. */
export function readListing(
  words: string,
  profile: Pick<ModelProfile, "controls" | "functions">,
  lexicon?: Lexicon,
): Reading {
  const things = [...profile.controls, ...profile.functions].map((x) => ({
    id: x.id,
    kind: x.kind,
    name: placeName(x),
  }));
  const complaints = readClaim(words, things, lexicon);
  const contradicts = FINE.test(words) && (complaints.length > 0 || VAGUE.test(words));
  const riskOf = (): Risk => {
    if (UNTESTED.test(words) || (words.trim() === "" && complaints.length === 0)) return "untested";
    if (
      complaints.length > 0 &&
      complaints.length <= 2 &&
      complaints.every((c) => c.named) &&
      !contradicts &&
      !VAGUE.test(words)
    )
      return "named";
    return "vague";
  };
  const risk = riskOf();
  return { risk, complaints, contradicts };
}

/**
 * Chance that a unit has a fault of the family at one place, of those that are sold untested; the house's
 * guess.
 */
const HIDDEN: Record<Family, number> = {
  "stick-drift": 0.16,
  "stick-worn": 0.08,
  "stick-range": 0.03,
  "button-dome": 0.1,
  "button-membrane": 0.1,
  "button-switch": 0.07,
  trigger: 0.06,
  power: 0.12,
  port: 0.07,
  radio: 0.05,
  sound: 0.06,
  motor: 0.05,
  "board-part": 0.05,
  cord: 0.08,
  latch: 0.05,
};
/** A seller who names one fault has looked at the rest, more or less. */
const BY_RISK: Record<Risk, number> = { named: 0.35, vague: 0.7, untested: 1 };
const HIDDEN_CASES = 10;
const CLAIM_HOLDS = 0.9;

/** Of units of this model that were tested here: how many had a fault of the family. */
export type FamilyRecord = Partial<Record<Family, Tally>>;

export type Suspected = {
  place: string;
  name: string;
  family: Family;
  chance: number;
  claimed: boolean;
  cases: number;
};

const STICK_OUTCOME: Record<string, Family> = {
  jumps: "stick-worn",
  noise: "stick-worn",
  "dead-half": "stick-worn",
  dead: "stick-worn",
  "short-reach": "stick-range",
};

/**
 * Everything that may be wrong, with its chance: what is claimed, and one place of each family for what
 * nobody said.
 */
export function suspectedOf(profile: ModelProfile, reading: Reading, record: FamilyRecord): Suspected[] {
  const out: Suspected[] = [];
  const name = (id: string) =>
    placeName([...profile.controls, ...profile.functions].find((x) => x.id === id)!);
  for (const c of reading.complaints) {
    const each = Math.min(CLAIM_HOLDS, (CLAIM_HOLDS * 1.2) / Math.max(1, c.places.length));
    for (const place of c.places.slice(0, 4)) {
      const base = familyOf(profile, place, null);
      if (!base || out.some((s) => s.place === place)) continue;
      const family = base === "stick-drift" ? (STICK_OUTCOME[c.outcome] ?? base) : base;
      out.push({ place, name: name(place), family, chance: each, claimed: true, cases: 0 });
    }
  }
  const seen = new Set<string>();
  for (const x of [...profile.controls, ...profile.functions]) {
    const family = familyOf(profile, x.id, null);
    if (!family || out.some((s) => s.place === x.id)) continue;
    // sticks and triggers each, of everything else the first stands for its family
    const key = family === "stick-drift" || family === "trigger" ? x.id : family;
    if (seen.has(key)) continue;
    seen.add(key);
    const tally = record[family] ?? { yes: 0, no: 0 };
    const chance = chanceOf({ mean: HIDDEN[family] * BY_RISK[reading.risk], cases: HIDDEN_CASES }, tally, {
      yes: 0,
      no: 0,
    });
    out.push({
      place: x.id,
      name: name(x.id),
      family,
      chance: chance.mean,
      claimed: false,
      cases: tally.yes + tally.no,
    });
  }
  return out.sort((a, b) => b.chance - a.chance);
}

export type Scenario = { faults: Suspected[]; chance: number; value: number; first: string | null };
export type Prospect = {
  suspected: Suspected[];
  scenarios: Scenario[];
  /** chance that is in the scenarios worked out; the rest is worth what its parts bring */
  covered: number;
  /** expected value before purchase and carriage */
  worth: number;
  leaves: Leaf[];
  keep: number;
  priceSpread: number;
  parts: { name: string; make: string; chance: number; priceMinor: Minor; leadDays: number }[];
};

const MOST_AT_ONCE = 3;
const LEAST_CHANCE = 0.002;
const MEASURE: Partial<Record<Family, string>> = { "stick-worn": "jumps", "stick-range": "reachMin" };

/** What is known before a unit is there. */
export type ProspectBase = Omit<
  DecideInput,
  "faults" | "tried" | "withheld" | "untested" | "hiddenBad" | "caps" | "spent" | "openMinutes" | "customer"
>;

/**
 * Every likely set of faults with its chance; sets of more than three, and rarer than one in 500, are left
 * over.
 */
export function faultSets(suspected: readonly Suspected[]): { faults: Suspected[]; chance: number }[] {
  const sets: { faults: Suspected[]; chance: number }[] = [];
  const go = (i: number, faults: Suspected[], chance: number): void => {
    if (chance < LEAST_CHANCE) return;
    const s = suspected[i];
    if (!s) {
      sets.push({ faults, chance });
      return;
    }
    if (faults.length < MOST_AT_ONCE) go(i + 1, [...faults, s], chance * s.chance);
    go(i + 1, faults, chance * (1 - s.chance));
  };
  go(0, [], 1);
  return sets.sort((a, b) => b.chance - a.chance);
}

/** Values every likely set of faults by its own ladder. What is left over is taken as worth its parts. */
export function prospectOf(base: ProspectBase, suspected: readonly Suspected[]): Prospect {
  const input = (faults: readonly Suspected[]): DecideInput => ({
    ...base,
    faults: faults.map((f, i) => ({
      id: String(i),
      number: i + 1,
      place: f.place,
      measure: MEASURE[f.family] ?? null,
    })),
    tried: [],
    withheld: [],
    untested: [],
    hiddenBad: 0,
    caps: [],
    openMinutes: 0,
    spent: { purchase: 0, parts: 0, minutes: 0 },
    customer: null,
  });
  const sets = faultSets(suspected);
  const covered = sets.reduce((s, x) => s + x.chance, 0);
  const leaves: Leaf[] = [];
  const parts = new Map<string, Prospect["parts"][number]>();
  let keep = 1 - base.rates.feeShare;
  const scenarios = sets.map(({ faults, chance }): Scenario => {
    const worth = worthOf(input(faults));
    keep = worth.keep;
    for (const l of worth.leaves) leaves.push({ ...l, chance: l.chance * chance });
    const { first } = worth;
    const part = first?.slot ? -(first.terms.find((t) => t.code === "part")?.minor ?? 0) : 0;
    if (first?.slot) {
      const key = `${first.slot.id} ${first.route.part!.make}`;
      const had = parts.get(key) ?? {
        name: first.slot.name,
        make: first.route.part!.make,
        chance: 0,
        priceMinor: part,
        leadDays: first.leadDays,
      };
      parts.set(key, { ...had, chance: had.chance + chance });
    }
    return { faults, chance, value: worth.value, first: first?.route.name ?? null };
  });
  const strip = Math.max(0, totalOf(stripOnly(base)));
  if (covered < 1 - 1e-9)
    leaves.push({
      chance: 1 - covered,
      money: strip,
      minutes: base.rates.stripHours * 60,
      price: 0,
      end: "given-up",
    });
  const worth = leaves.reduce((s, l) => s + l.chance * l.money, 0);
  return {
    suspected: [...suspected],
    scenarios,
    covered,
    worth,
    leaves,
    keep,
    priceSpread: base.rates.priceSpread,
    parts: [...parts.values()].sort((a, b) => b.chance - a.chance).slice(0, 6),
  };
}

/** The parts of a unit of which nothing is known, half of them taken as good. */
const stripOnly = (base: ProspectBase) => [
  {
    code: "parts-value" as const,
    minor: Math.round(
      (base.profile.slots ?? []).reduce((s, x) => s + x.resaleMinor, 0) * base.rates.partsYield * 0.5,
    ),
  },
  { code: "strip-labour" as const, minor: -Math.round(base.rates.stripHours * base.rates.labourPerHour) },
];

/** Chance that the unit brings less than it cost to get. */
export function lossAt(p: Pick<Prospect, "leaves" | "keep" | "priceSpread">, landed: Minor): number {
  return p.leaves.reduce((sum, l) => {
    const sd = l.price * p.keep * p.priceSpread;
    const chanceOfLess = () => {
      if (sd > 0) return normalBelow((landed - l.money) / sd);
      if (landed > l.money) return 1;
      return 0;
    };
    return sum + l.chance * chanceOfLess();
  }, 0);
}

/** Expected margin and chance of a loss along the bid, carriage included in what it costs. */
export function bidCurve(
  p: Prospect,
  carriage: Minor,
  upTo: Minor,
  steps = 40,
): { bid: Minor; margin: number; loss: number }[] {
  return Array.from({ length: steps + 1 }, (_, i) => {
    const bid = Math.round((upTo * i) / steps);
    return { bid, margin: p.worth - bid - carriage, loss: lossAt(p, bid + carriage) };
  });
}

/**
 * The highest bid that keeps the wished margin on average and the chance of a loss within what is accepted;
 * null when none does.
 */
export function highestBid(
  p: Prospect,
  carriage: Minor,
  wished: Minor,
  mostLoss: number,
): { bid: Minor | null; binds: "margin" | "loss" } {
  const byMargin = Math.floor(p.worth - carriage - wished);
  const fits = (bid: number) => lossAt(p, bid + carriage) <= mostLoss;
  if (byMargin < 0) return { bid: null, binds: "margin" };
  if (!fits(0)) return { bid: null, binds: "loss" };
  let lo = 0;
  let hi = byMargin;
  if (fits(hi)) return { bid: byMargin, binds: "margin" };
  while (hi - lo > 1) {
    const mid = (lo + hi) >> 1;
    if (fits(mid)) lo = mid;
    else hi = mid;
  }
  return { bid: lo, binds: "loss" };
}

/** One unit of a lot as odds over what it brings, a price's own spread in three points. */
export function worthOdds(p: Prospect): Worth {
  return p.leaves.flatMap((l) => {
    const sd = l.price * p.keep * p.priceSpread;
    if (sd === 0) return [{ value: l.money, chance: l.chance }];
    const step = Math.sqrt(3) * sd; // three points that keep mean and variance: 1/6, 2/3, 1/6
    return [
      { value: l.money - step, chance: l.chance / 6 },
      { value: l.money, chance: (l.chance * 2) / 3 },
      { value: l.money + step, chance: l.chance / 6 },
    ];
  });
}
