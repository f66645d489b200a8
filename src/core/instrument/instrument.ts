import type { Result } from "../base/result";

/**
 * An instrument that gives one figure at a time, whatever stands behind it: the person, a made-up one, or one
 * on a serial line.
 */

export const QUANTITIES = [
  "volts",
  "loaded-volts",
  "amps",
  "ohms",
  "milliamps",
  "grams",
  "millimetres",
] as const;
export type Quantity = (typeof QUANTITIES)[number];

export type InstrumentProblem =
  | { code: "no-answer"; afterMs: number }
  | { code: "not-understood"; answer: string }
  | { code: "overload" }
  | { code: "instrument-error"; text: string }
  | { code: "line-lost" }
  | { code: "cannot"; quantity: Quantity };

export interface Instrument {
  readonly label: string;
  /** a positive figure in the quantity's unit; `overload` means an open circuit for ohms */
  read(quantity: Quantity): Promise<Result<number, InstrumentProblem>>;
}
