import { expose } from "comlink";

import type { Lexicon } from "@/core/claim/lexicon";
import type { Place } from "@/core/base/finding";
import { ok, type Result } from "@/core/base/result";
import { adviceFile } from "@/core/casefile/advice";
import type { AdviceFile } from "@/core/casefile/format";
import { knownOfCase } from "@/core/casefile/known";
import { readCaseFile } from "@/core/casefile/read";
import { type Advice, advise } from "@/core/decide/advise";
import { type Flip, flipsOf } from "@/core/decide/flips";
import type { DecideInput } from "@/core/decide/build";
import {
  type FamilyRecord,
  type Prospect,
  prospectOf,
  type Reading,
  readListing,
  suspectedOf,
  type ProspectBase,
} from "@/core/decide/buying";
import { drawLot, type Worth } from "@/core/decide/lot";
import { worthOdds } from "@/core/decide/buying";
import { seeded } from "@/core/math/random";
import { type ModelProfile, placeName } from "@/core/profile/profile";

/**
 * Deciding off the page's main thread: ladders, what would change them, and what a listing or a lot may
 * bring.
 */

type Base = Omit<ProspectBase, "profile"> & { profile: ModelProfile };
export type ListingAsked = { base: Base; families: FamilyRecord; lexicon: Lexicon; words: string };
export type LotAsked = { lines: { asked: ListingAsked; count: number }[]; cost: number };
export type LotWorth = { mean: number; low: number; high: number; loss: number; units: number };

const DRAWS = 10_000;
const SEED = 20261125; // the same lot gives the same figures

const listing = (asked: ListingAsked): { reading: Reading; prospect: Prospect } => {
  const reading = readListing(asked.words, asked.base.profile, asked.lexicon);
  return {
    reading,
    prospect: prospectOf(asked.base, suspectedOf(asked.base.profile, reading, asked.families)),
  };
};

/** A case that somebody handed on, read and weighed; refusals name the place in its file. */
export type CaseRead = Result<
  { advice: Advice; file: AdviceFile; names: Record<string, string>; model: string; facts: number },
  Place
>;
function readCase(text: string): CaseRead {
  const read = readCaseFile(text, null);
  if (!read.ok) return read;
  const { profile, facts } = read.value;
  const known = knownOfCase(read.value);
  const advice = advise(known.input);
  const things = [...profile.controls, ...profile.functions].map((t) => [t.id, placeName(t)]);
  const parts = (profile.wiring?.nodes ?? []).map((n) => [n.id, n.name]);
  return ok({
    advice,
    file: adviceFile(read.value, known, advice),
    names: Object.fromEntries([...things, ...parts]) as Record<string, string>,
    model: profile.name,
    facts: facts.length,
  });
}

const api = {
  readCase,
  advise: (input: DecideInput): Advice => advise(input),
  flips: (input: DecideInput, advice: Advice): Flip[] => flipsOf(input, advice),
  listing,
  lot({ lines, cost }: LotAsked): LotWorth {
    const units: Worth[] = lines.flatMap(({ asked, count }) => {
      const odds = worthOdds(listing(asked).prospect);
      return Array.from({ length: count }, () => odds);
    });
    const totals = drawLot(units, DRAWS, seeded(SEED));
    const mean = totals.reduce((a, b) => a + b, 0) / DRAWS;
    const below = totals.findIndex((t) => t >= cost);
    return {
      mean,
      low: totals[DRAWS * 0.1]!,
      high: totals[DRAWS * 0.9]!,
      loss: (below < 0 ? DRAWS : below) / DRAWS,
      units: units.length,
    };
  },
};
export type DecideWorkerApi = typeof api;

expose(api);
