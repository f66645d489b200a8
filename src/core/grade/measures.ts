/**
 * Every measure that a grade rests on, by what it says of the part, gravest first: what no calibration can
 * cure stands before what one may. One that is not listed does not compile, nor one without its words
 * (text/measures.ts).
 */
export const MEASURES = [
  "noAnswer",
  "deadHalves",
  "stuckAtRest",
  "jumps",
  "stuckReleases",
  "decision",
  "rim.decision",
  "restSpikes",
  "restNoise",
  "fullPull",
  "largestStep",
  "backtrack",
  "holdSag",
  "chatter",
  "firesWith",
  "extra",
  "idle",
  "reachMin",
  "circularityError",
  "safeDeadZone",
  "restOffset",
  "restValue",
] as const;
export type Measure = (typeof MEASURES)[number];
