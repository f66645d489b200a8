import type { Grade } from "./grade";

/** Results that speak of the tester as much as of the unit. */

const FEWEST = 4;
const SHARE = 0.5;

/** How many controls of a test fail, where it is so many at once that the tester itself is in doubt; else null. */
export function failsAtOnce(grades: readonly Grade[]): { bad: number; all: number } | null {
  const measured = grades.filter((g) => g !== "untested");
  const bad = measured.filter((g) => g === "fail").length;
  return measured.length >= FEWEST && bad / measured.length >= SHARE ? { bad, all: measured.length } : null;
}
