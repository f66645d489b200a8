import type { Half } from "../signal/dead-halves";
import type { Point } from "../signal/rest";

/**
 * Faults that the simulated controller can be given, one for every measure of docs/measures.md. All shares of
 * travel.
 */
export type StickFaults = {
  offset?: Point;
  /** standard deviation of each axis */
  noise?: number;
  /** leaps away at rest, per second */
  spikesPerSecond?: number;
  /** standard deviation of where the stick settles after a release, per axis */
  scatter?: number;
  /** share of releases after which it hangs far from the centre */
  sticksShare?: number;
  /** radius reached toward each half; 1 is full */
  reach?: Partial<Record<Half, number>>;
  /** 0 is a circle, 1 reaches the corners of a square */
  square?: number;
  dead?: Half;
  noAnswer?: boolean;
  /** leaps while it moves over this place of the x axis */
  wornAt?: number;
  /** how far it leaps there */
  leap?: number;
  leanDeg?: number;
};

export type TriggerFaults = {
  rest?: number;
  full?: number;
  /** the reading drops by this much in the middle of a rise */
  backtrack?: number;
  /** the reading leaps over this share of the travel */
  hole?: number;
  noAnswer?: boolean;
};

export type ButtonFaults = {
  missRate?: number;
  rimMissRate?: number;
  /** sides of the rim that miss more than the rest: top, right, bottom, left */
  rimMissBySide?: readonly [number, number, number, number];
  /** miss rates under another force than the usual */
  lightMissRate?: number;
  hardMissRate?: number;
  chatterRate?: number;
  extraRate?: number;
  stuck?: boolean;
  firesWith?: string;
};

export type ControllerFaults = {
  sticks?: Record<string, StickFaults>;
  triggers?: Record<string, TriggerFaults>;
  buttons?: Record<string, ButtonFaults>;
};
