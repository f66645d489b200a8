import { expose } from "comlink";

import type { Lexicon } from "@/core/claim/lexicon";
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
import type { ModelProfile } from "@/core/profile/profile";

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

const api = {
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
