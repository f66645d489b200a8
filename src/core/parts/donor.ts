import type { Grade } from "../grade/grade";
import type { Minor } from "../money/money";
import type { Slot } from "../profile/slots";
import type { CheckResult } from "../record/standing";
import { spread } from "../money/spread";

/** A donor is a map of its parts. What a part is like is read from the unit's own tests, and never guessed. */

export type DonorEvidence = {
  /** the latest full test's grade of each control */
  controls: Readonly<Record<string, Grade>>;
  checks: Readonly<Record<string, CheckResult>>;
  /** places with a fault that was never mended */
  faulty: readonly string[];
};
export type PartCondition = "good" | "unknown" | "worn" | "bad";
export type PartReading = {
  state: PartCondition;
  why: { place: string; found: "fault" | "fail" | "C" | "good" | "not-tested" }[];
};

/**
 * Bad when anything that the part serves fails, worn when something only just passes (grade C), good when all of it was tested and
 * passes, else unknown. A part that serves what others serve too (a board) is no better known than the worst of it.
 */
export function partCondition(slot: Pick<Slot, "serves">, e: DonorEvidence): PartReading {
  const why = slot.serves.map((place): PartReading["why"][number] => {
    if (e.faulty.includes(place)) return { place, found: "fault" };
    const grade = e.controls[place];
    if (grade === "fail") return { place, found: "fail" };
    if (grade === "C") return { place, found: "C" };
    if (grade === "A" || grade === "B") return { place, found: "good" };
    const check = e.checks[place];
    if (check === "fail") return { place, found: "fail" };
    return { place, found: check === "pass" ? "good" : "not-tested" };
  });
  const has = (found: string) => why.some((w) => w.found === found);
  return {
    state: has("fault") || has("fail") ? "bad" : has("not-tested") ? "unknown" : has("C") ? "worn" : "good",
    why,
  };
}

/** How much of its going price a part in each state weighs when the donor's cost is spread over its parts. */
export const STATE_WEIGHT: Record<PartCondition | "gone", number> = { good: 1, unknown: 0.5, worn: 0.4, bad: 0, gone: 0 };

/**
 * Spreads what a donor cost over the parts that can be had from it; parts already taken keep the share they left with.
 * Adds up to the cent; all of it stays unspread when nothing can be had.
 */
export function donorShares(
  cost: Minor,
  parts: readonly { slot: string; worth: Minor; state: PartCondition | "gone"; takenAt: Minor | null }[],
): Map<string, Minor> {
  const taken = parts.reduce((s, p) => s + (p.takenAt ?? 0), 0);
  const left = parts.filter((p) => p.takenAt === null && STATE_WEIGHT[p.state] > 0);
  const shares = spread(
    Math.max(0, cost - taken),
    left.map((p) => p.worth * STATE_WEIGHT[p.state]),
  );
  return new Map([
    ...parts.map((p): [string, Minor] => [p.slot, p.takenAt ?? 0]),
    ...left.map((p, i): [string, Minor] => [p.slot, shares[i]!]),
  ]);
}
