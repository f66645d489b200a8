import type { CheckResult } from "@/core/bench/result";
import type { Grade } from "@/core/grade/grade";
import { LEAST_SIGN, LETTER_FROM, type Sign, signPaths } from "@/core/grade/sign";
import { GRADE_WORDS } from "@/text/measures";
import { say } from "@/words/kit";

/** The state code on a page: core/grade/sign.ts drawn in the colours of the theme, with its word for who cannot see it. */
export type ShownState = Sign;

export const stateOfGrade = (grade: Grade): ShownState => grade;
export const stateOfCheck = (result: CheckResult): ShownState =>
  result === "not-tested" ? "untested" : result;

export const STATE_WORDS: Record<ShownState, string> = {
  A: GRADE_WORDS.A,
  B: GRADE_WORDS.B,
  C: GRADE_WORDS.C,
  pass: say("statePass"),
  caution: say("stateCaution"),
  fail: say("stateFail"),
  untested: say("notTested"),
  "not-fitted": say("notFitted"),
};

const ROLE: Record<ShownState, "pass" | "caution" | "fail" | null> = {
  A: "pass",
  B: "pass",
  pass: "pass",
  C: "caution",
  caution: "caution",
  fail: "fail",
  untested: null,
  "not-fitted": null,
};
export const stateColour = (state: ShownState): string =>
  ROLE[state] ? `var(--mui-palette-${ROLE[state]}-main)` : "var(--mui-palette-text-secondary)";
const onColour = (state: ShownState): string =>
  ROLE[state] ? `var(--mui-palette-${ROLE[state]}-contrastText)` : "var(--mui-palette-background-paper)";

/** Whether nothing is wrong with what has this state: it needs no second look. */
export const isGood = (state: ShownState): boolean => state === "A" || state === "B" || state === "pass";

type ShapeProps = {
  state: ShownState;
  x?: number;
  y?: number;
  r: number;
  /** whether there is room for the grade's letter */
  letter?: boolean;
};

/** The sign as SVG children, centred at (x, y) with radius r, on ground of its own so that nothing shows through. */
export function StateShape({ state, x = 0, y = 0, r, letter = false }: ShapeProps) {
  const tones = { sign: stateColour(state), ground: onColour(state) };
  return (
    <>
      <circle cx={x} cy={y} r={r} fill="var(--mui-palette-background-paper)" />
      {signPaths(state, x, y, r, letter).map(({ d, line, tone }, i) => (
        <path
          key={i}
          d={d}
          fill={line === null ? tones[tone] : "none"}
          stroke={line === null ? undefined : tones[tone]}
          strokeWidth={line ?? undefined}
        />
      ))}
    </>
  );
}

/** The sign by itself, in pixels: at least 12, and with its letter from 16. */
export function StateMark({ state, size = 18 }: { state: ShownState; size?: number }) {
  const side = Math.max(LEAST_SIGN, size);
  return (
    <svg
      width={side}
      height={side}
      viewBox="-10 -10 20 20"
      role="img"
      aria-label={STATE_WORDS[state]}
      style={{ flexShrink: 0 }}
    >
      <StateShape state={state} r={9.8} letter={side >= LETTER_FROM} />
    </svg>
  );
}
