import type { Evidence } from "./belief";

/**
 * What can be seen at a place, and how strongly each speaks for the part there: chance if it is at fault, and
 * if it is sound.
 */
export const PLACE_FINDINGS = {
  sound: { ifFaulty: 0.25, ifSound: 0.9 },
  "corrosion-slight": { ifFaulty: 0.15, ifSound: 0.08 },
  "corrosion-strong": { ifFaulty: 0.35, ifSound: 0.02 },
  "cracked-joint": { ifFaulty: 0.35, ifSound: 0.004 },
  "bridged-joint": { ifFaulty: 0.25, ifSound: 0.004 },
  residue: { ifFaulty: 0.08, ifSound: 0.08 }, // harmless by itself: it is cleaned and looked under
  "missing-tooth": { ifFaulty: 0.3, ifSound: 0.003 },
  worn: { ifFaulty: 0.4, ifSound: 0.05 },
  dirty: { ifFaulty: 0.25, ifSound: 0.1 },
  bent: { ifFaulty: 0.35, ifSound: 0.01 },
  eaten: { ifFaulty: 0.4, ifSound: 0.004 },
  torn: { ifFaulty: 0.4, ifSound: 0.003 },
  "loose-piece": { ifFaulty: 0.3, ifSound: 0.02 },
} as const;
export type PlaceFinding = keyof typeof PLACE_FINDINGS;

export const placeEvidence = (part: number, finding: PlaceFinding): Evidence => ({
  kind: "check",
  about: [part],
  ...PLACE_FINDINGS[finding],
});

/** A loose piece matched to a part says that something broke off there. */
export const fragmentEvidence = (part: number): Evidence => ({
  kind: "check",
  about: [part],
  ifFaulty: 0.5,
  ifSound: 0.03,
});

/**
 * What a treatment of one part showed, as evidence: a cure speaks for it alone, no change against it.
 * @param share of a cure, how much of it this treatment has earned, 0 to 1: none speaks for nothing
 */
export const treatmentEvidence = (
  part: number,
  outcome: "cured" | "better" | "same" | "worse",
  share = 1,
): Evidence => {
  const about = [part];
  if (outcome === "cured") return { kind: "cure", about, ifAll: 0.06 + 0.84 * share, ifNot: 0.06 };
  if (outcome === "better") return { kind: "cure", about, ifAll: 0.3, ifNot: 0.15 };
  return { kind: "cure", about, ifAll: 0.08, ifNot: 0.9 };
};

/**
 * A reading at a test point is off when it lies outside what healthy units show, or, without any, more than a
 * tenth from what is expected.
 */
export function pointIsOff(
  value: number,
  expects: number | null,
  healthy: readonly number[],
): { off: boolean | null; middle: number | null; allowed: number | null } {
  const sorted = [...healthy].sort((a, b) => a - b);
  const middle = sorted.length ? sorted[Math.floor((sorted.length - 1) / 2)]! : expects;
  if (middle === null) return { off: null, middle: null, allowed: null };
  const deviations = sorted.map((v) => Math.abs(v - middle)).sort((a, b) => a - b);
  const spread = sorted.length >= 3 ? 3 * 1.4826 * deviations[Math.floor(deviations.length / 2)]! : 0;
  const allowed = Math.max(spread, Math.abs(middle) * 0.1, middle === 0 ? 2 : 0.02);
  return { off: Math.abs(value - middle) > allowed, middle, allowed };
}
