import { median } from "../math/quantile";
import type { ControlResult } from "../analyse/analyse";

/**
 * A unit's figures beside those of known-good units of its model: the difference against the spread that
 * those show.
 */

export type Compared = {
  name: string;
  value: number | null;
  /** median of the references, and how many stand behind it */
  reference: number | null;
  references: number;
  difference: number | null;
  /** robust standard deviation of the references; null with fewer than three */
  spread: number | null;
  /** the difference lies outside three spreads; null where no spread is known */
  outside: boolean | null;
};

const MAD_TO_SIGMA = 1.4826;
const OUTSIDE_SPREADS = 3;
const NEEDED = 3;

/**
 * `floor` is the least spread that is believed: references that happen to agree to the last digit are still
 * not identical.
 */
export function compareWith(
  name: string,
  value: number | null,
  references: readonly number[],
  floor: number,
): Compared {
  if (references.length === 0)
    return { name, value, reference: null, references: 0, difference: null, spread: null, outside: null };
  const middle = median(references);
  const difference = value === null ? null : value - middle;
  const spread =
    references.length < NEEDED
      ? null
      : Math.max(floor, MAD_TO_SIGMA * median(references.map((r) => Math.abs(r - middle))));
  return {
    name,
    value,
    reference: middle,
    references: references.length,
    difference,
    spread,
    outside: spread === null || difference === null ? null : Math.abs(difference) > OUTSIDE_SPREADS * spread,
  };
}

/** The figures of a control that are numbers, by the names of measures.md. */
export function numbersOf(result: ControlResult): Record<string, number> {
  const pairsOf = (): [string, number | null | undefined][] => {
    if (result.kind === "stick")
      return [
        ["restOffset", result.restOffset],
        ["restNoise", result.restNoise],
        ["safeDeadZone", result.safeDeadZone],
        ["returnSpread", result.returnSpread],
        ["reachMin", result.reachMin],
        ["circularityError", result.circularityError],
      ];
    if (result.kind === "trigger")
      return [
        ["restValue", result.restValue],
        ["fullPull", result.fullPull],
        ["backtrack", result.backtrack],
        ["largestStep", result.largestStep],
      ];
    return [["missRateUpper95", result.missRateUpper95]];
  };
  const pairs = pairsOf();
  return Object.fromEntries(pairs.filter((p): p is [string, number] => typeof p[1] === "number"));
}

/** The least spread of a share of travel that is believed: half a step of an 8-bit converter. */
export const TRAVEL_FLOOR = 1 / 256;
