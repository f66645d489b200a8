import type { Analysis } from "../analyse/analyse";
import { compareWith, numbersOf, TRAVEL_FLOOR } from "./reference";

/**
 * Whether the bench itself has drifted: a reference unit measured again, against its own earlier
 * measurements.
 */
export type Drift = {
  verdict: "steady" | "drifted" | "measured-once";
  earlier: number;
  largest: { control: string; measure: string; change: number; allowed: number } | null;
};

const LEAST_ALLOWED = 3 * TRAVEL_FLOOR; // with one earlier measurement no spread is known yet

/**
 * `analyses` oldest first. A change counts beyond three spreads of the earlier measurements, and beyond what
 * a converter step explains.
 */
export function benchDrift(analyses: readonly Analysis[]): Drift {
  const latest = analyses.at(-1);
  const earlier = analyses.slice(0, -1);
  if (!latest || earlier.length === 0)
    return { verdict: "measured-once", earlier: earlier.length, largest: null };
  let largest: Drift["largest"] = null;
  let drifted = false;
  for (const [control, result] of Object.entries(latest.controls)) {
    if (result.kind === "button") continue; // a bound on a rate moves with the number of presses
    for (const [measure, value] of Object.entries(numbersOf(result))) {
      const before = earlier.flatMap((a) =>
        a.controls[control] ? (numbersOf(a.controls[control])[measure] ?? []) : [],
      );
      const c = compareWith(measure, value, before, TRAVEL_FLOOR);
      if (c.difference === null) continue;
      const allowed = Math.max(LEAST_ALLOWED, 3 * (c.spread ?? 0));
      const change = Math.abs(c.difference);
      if (change > allowed) drifted = true;
      if (!largest || change / allowed > largest.change / largest.allowed)
        largest = { control, measure, change, allowed };
    }
  }
  return { verdict: drifted ? "drifted" : "steady", earlier: earlier.length, largest };
}
