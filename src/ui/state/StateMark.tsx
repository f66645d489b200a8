import type { Grade } from "@/core/grade/grade";
import type { CheckResult } from "@/core/bench/result";
import { say } from "@/words/kit";

/**
 * State by shape as well as colour: pass a disc, caution a triangle, fail a square, not tested a hollow
 * dashed disc, not fitted a bar.
 */
export type ShownState = "pass" | "caution" | "fail" | "untested" | "not-fitted";

export const stateOfGrade = (grade: Grade): ShownState => {
  if (grade === "fail") return "fail";
  if (grade === "untested") return "untested";
  if (grade === "C") return "caution";
  return "pass";
};
export const stateOfCheck = (result: CheckResult): ShownState =>
  result === "not-tested" ? "untested" : result;

export const STATE_WORDS: Record<ShownState, string> = {
  pass: say("statePass"),
  caution: say("stateCaution"),
  fail: say("stateFail"),
  untested: say("notTested"),
  "not-fitted": say("notFitted"),
};

export const stateColour = (state: ShownState): string =>
  state === "untested" || state === "not-fitted"
    ? "var(--mui-palette-text-secondary)"
    : `var(--mui-palette-${state}-main)`;

/** The mark as SVG children, centred at (x, y) with radius r. */
export function StateShape({
  state,
  x = 0,
  y = 0,
  r,
}: {
  state: ShownState;
  x?: number;
  y?: number;
  r: number;
}) {
  const colour = stateColour(state);
  if (state === "pass") return <circle cx={x} cy={y} r={r} fill={colour} />;
  if (state === "fail")
    return <rect x={x - r * 0.9} y={y - r * 0.9} width={r * 1.8} height={r * 1.8} fill={colour} />;
  if (state === "caution")
    return <path d={`M${x} ${y - r * 1.1}L${x + r * 1.1} ${y + r * 0.85}H${x - r * 1.1}Z`} fill={colour} />;
  if (state === "untested")
    return (
      <circle
        cx={x}
        cy={y}
        r={r * 0.85}
        fill="none"
        stroke={colour}
        strokeWidth={r * 0.32}
        strokeDasharray={`${r * 0.7} ${r * 0.5}`}
      />
    );
  return <rect x={x - r} y={y - r * 0.22} width={r * 2} height={r * 0.44} fill={colour} />;
}

export function StateMark({ state, size = 16 }: { state: ShownState; size?: number }) {
  return (
    <svg
      width={size}
      height={size}
      viewBox="-10 -10 20 20"
      role="img"
      aria-label={STATE_WORDS[state]}
      style={{ flexShrink: 0 }}
    >
      <StateShape state={state} r={8} />
    </svg>
  );
}
