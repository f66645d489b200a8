import { z } from "../base/schema";

import type { Minor } from "../money/money";
import { labourOf, type Rates } from "../money/rates";
import type { PieceCheck } from "./catalogue";
import { badShare } from "./sampling";

/** One piece of an incoming batch: what was measured and seen of it, and whether it is good. */

export const pieceReadingSchema = z.strictObject({
  /** half-resistances in ohms of a contact sensor with the wiper centred; null for an open leg */
  ohms: z
    .tuple([z.number().positive().max(1e9).nullable(), z.number().positive().max(1e9).nullable()])
    .nullable(),
  thicknessMm: z.number().positive().max(500).nullable(),
  feel: z.int().min(1).max(5).nullable(),
  /** tell-tales that look like a copy's; null when they were not looked at */
  tells: z.array(z.string().max(40)).max(8).nullable(),
});
export type PieceReading = z.infer<typeof pieceReadingSchema>;

export type PieceFinding =
  | { code: "imbalance"; value: number; limit: number }
  | { code: "leg-open" }
  | { code: "thickness"; value: number; low: number; high: number }
  | { code: "feel"; value: number; limit: number }
  | { code: "tell"; kind: string }
  | { code: "missing"; what: "ohms" | "thickness" | "feel" | "tells" };
export type PieceVerdict = {
  verdict: "good" | "bad" | "not-tested";
  imbalance: number | null;
  findings: PieceFinding[];
};

/** Bad when anything is beyond its limit; good only when everything that the part asks was measured. */
export function judgePiece(check: PieceCheck, r: PieceReading): PieceVerdict {
  const bad: PieceFinding[] = [];
  const missing: PieceFinding[] = [];
  let imbalance: number | null = null;
  if (r.ohms?.some((x) => x === null)) bad.push({ code: "leg-open" });
  else if (r.ohms) imbalance = (r.ohms[0]! - r.ohms[1]!) / (r.ohms[0]! + r.ohms[1]!);
  if (check.imbalanceMax !== undefined) {
    if (!r.ohms) missing.push({ code: "missing", what: "ohms" });
    else if (imbalance !== null && Math.abs(imbalance) > check.imbalanceMax)
      bad.push({ code: "imbalance", value: imbalance, limit: check.imbalanceMax });
  }
  if (check.thicknessMm) {
    const [low, high] = check.thicknessMm;
    if (r.thicknessMm === null) missing.push({ code: "missing", what: "thickness" });
    else if (r.thicknessMm < low || r.thicknessMm > high)
      bad.push({ code: "thickness", value: r.thicknessMm, low, high });
  }
  if (check.feelMin !== undefined) {
    if (r.feel === null) missing.push({ code: "missing", what: "feel" });
    else if (r.feel < check.feelMin) bad.push({ code: "feel", value: r.feel, limit: check.feelMin });
  }
  if (check.tells) {
    if (r.tells === null) missing.push({ code: "missing", what: "tells" });
    else bad.push(...r.tells.map((kind): PieceFinding => ({ code: "tell", kind })));
  }
  const verdictOf = () => {
    if (bad.length) return "bad";
    if (missing.length) return "not-tested";
    return "good";
  };
  return {
    verdict: verdictOf(),
    imbalance,
    findings: [...bad, ...missing],
  };
}

export type UsablePrice = {
  pieces: number;
  measured: number;
  bad: number;
  share: { seen: number | null; low: number; high: number };
  /**
   * goods and carriage, inspection, and what pieces that slip through cost; over the pieces that can be used
   */
  goods: Minor;
  inspection: Minor;
  slips: Minor;
  each: number | null;
  /** the same with the share of bad pieces at the ends of its interval */
  low: number | null;
  high: number | null;
};

export type PriceAsked = {
  pieces: number;
  costMinor: Minor;
  measured: number;
  bad: number;
  minutes: number;
  /** what a bad piece costs that is only found once it is fitted: the work again, or a return */
  slipMinor: Minor;
};

/**
 * The price of a usable piece. Measured pieces that are bad are out; of those not measured the batch's share
 * is bad and slips through.
 */
export function usablePrice(a: PriceAsked, rates: Pick<Rates, "labourPerHour">): UsablePrice {
  const share = badShare(a.pieces, a.measured, a.bad);
  const inspection = labourOf(a.minutes, rates as Rates);
  const at = (bad: number) => {
    const slipping = Math.max(0, bad - a.bad);
    const usable = a.pieces - a.bad - slipping;
    return {
      slips: Math.round(slipping * a.slipMinor),
      each: usable > 0 ? (a.costMinor + inspection + slipping * a.slipMinor) / usable : null,
    };
  };
  // nothing measured: what one knows is nothing, and the price is not known
  const middle = share.seen === null ? null : at(share.seen * a.pieces);
  return {
    pieces: a.pieces,
    measured: a.measured,
    bad: a.bad,
    share,
    goods: a.costMinor,
    inspection,
    slips: middle?.slips ?? 0,
    each: middle?.each ?? null,
    low: share.seen === null ? null : at(share.low * a.pieces).each,
    high: share.seen === null ? null : at(share.high * a.pieces).each,
  };
}
