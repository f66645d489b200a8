import type { ReadingKind } from "../bench/readings";

/** A reading that is no pass and still speaks of what is in the unit. */
export type StandingReading = {
  reading: ReadingKind;
  /** a control, an axis of one (`stick.left.x`), or a supply */
  subject: string;
  verdict: "fail" | "doubtful";
};
