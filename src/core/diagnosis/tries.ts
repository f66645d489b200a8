/** The trail of tries: one change at a time, a retest for each, and a cure believed only when it is shown. */

export const TRY_OUTCOMES = ["cured", "better", "same", "worse"] as const;
export type TryOutcome = (typeof TRY_OUTCOMES)[number];
export const TRY_ACTIONS = [
  "clean",
  "reseat",
  "resolder",
  "replace",
  "swap",
  "calibrate",
  "reheat",
  "other",
] as const;
export type TryAction = (typeof TRY_ACTIONS)[number];

export type Try = {
  number: number;
  suspect: string;
  action: TryAction;
  at: Date;
  outcome: TryOutcome | null;
  /** what undoing it showed: the fault came back, or it did not */
  undone: "came-back" | "stayed-away" | null;
};
/** A later measurement of what the try was about. */
export type Retest = { at: Date; works: boolean };

export type Cure = "proven-by-undoing" | "proven-by-repeats" | "unproven" | "refuted" | "none";

const REPEATS_NEEDED = 2;
const APART_MS = 12 * 3600_000; // two tests in one sitting are one occasion

/** Whether a cure is proven: undoing it brings the fault back, or the result holds on repeats well apart. */
export function cureOf(t: Try, retests: readonly Retest[]): Cure {
  if (t.outcome !== "cured") return "none";
  if (t.undone === "came-back") return "proven-by-undoing";
  if (t.undone === "stayed-away") return "unproven"; // something else cured it
  const later = retests.filter((r) => r.at > t.at);
  if (later.some((r) => !r.works)) return "refuted";
  let occasions = 0;
  let last = -Infinity;
  for (const r of later)
    if (r.at.getTime() - last >= APART_MS) {
      occasions++;
      last = r.at.getTime();
    }
  return occasions >= REPEATS_NEEDED ? "proven-by-repeats" : "unproven";
}

/** When an unproven cure wants its second test. */
export const secondTestDue = (t: Try, retests: readonly Retest[]): Date | null =>
  cureOf(t, retests) === "unproven"
    ? new Date(Math.max(t.at.getTime(), ...retests.map((r) => r.at.getTime())) + APART_MS)
    : null;

/** Changes that nobody has tested yet: more than one means that a cure cannot be credited to any. */
export const untestedChanges = (tries: readonly Try[]): Try[] => tries.filter((t) => t.outcome === null);

/** Treatments that already failed and have no new evidence since: not to be proposed again. */
export function spentTreatments(
  tries: readonly Try[],
  evidenceAt: readonly Date[],
): { suspect: string; action: TryAction }[] {
  return tries
    .filter((t) => (t.outcome === "same" || t.outcome === "worse") && !evidenceAt.some((at) => at > t.at))
    .map(({ suspect, action }) => ({ suspect, action }));
}
