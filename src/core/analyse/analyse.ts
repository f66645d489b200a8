import { type Verdict, gradeButton, gradeStick, gradeTrigger } from "../grade/grade";
import { HOUSE_LIMITS, type Limits } from "../grade/limits";
import {
  type SmallestSeen,
  buttonSeen,
  stickSeen,
  triggerSeen,
  withheldButton,
  withheldStick,
  withheldTrigger,
} from "../grade/seen";
import { weightedQuantile } from "../math/quantile";
import { type InputMap, type MappedControl, axisTriggerValue, hatPressed } from "../input/input";
import type { Recording } from "../recording/recording";
import {
  type ButtonColumns,
  type ButtonMeasures,
  type CuedPress,
  type RimPress,
  findPresses,
  measureButton,
} from "../signal/button";
import { type Prepared, prepare } from "../signal/rows";
import { releaseRiskOf } from "../signal/risk";
import { HOUSE_MISS_TEST, type MissTest } from "../signal/sprt";
import { type StickEvidence, type StickMeasures, measureStick } from "../signal/stick";
import {
  type Pull,
  type TriggerDoubt,
  type TriggerMarks,
  type TriggerMeasures,
  measureTrigger,
} from "../signal/trigger";

export type Sampling = {
  samples: number;
  durationMs: number;
  medianIntervalMs: number;
  p99IntervalMs: number;
};
type Judged = Verdict & { smallestSeen: SmallestSeen };
export type StickResult = { kind: "stick" } & StickMeasures & Judged;
export type TriggerResult = { kind: "trigger" } & TriggerMeasures & Judged;
export type ButtonResult = { kind: "button" } & ButtonMeasures & Judged;
export type ControlResult = StickResult | TriggerResult | ButtonResult;

export type Analysis = {
  format: "birdcage-analysis";
  /** 1 for what was analysed before idle, held pulls and the smallest defect were told; still read */
  version: 1 | 2;
  sampling: Sampling;
  /** the chance that one of the buttons is bad after these presses, in the middle and on the rims */
  releaseRisk: number | null;
  rimRisk: number | null;
  controls: Record<string, ControlResult>;
};

/** What the measures do not carry and a live page or a plot needs. */
export type Evidence = {
  sticks: Record<string, StickEvidence>;
  pulls: Record<string, Pull[]>;
  marks: Record<string, TriggerMarks>;
  cued: Record<string, CuedPress[]>;
  rims: Record<string, RimPress[]>;
};

export type Rules = { limitsFor: (control: string) => Limits; missTest: MissTest };
export const HOUSE_RULES: Rules = { limitsFor: () => HOUSE_LIMITS, missTest: HOUSE_MISS_TEST };

function sampling(t: Float64Array): Sampling {
  const intervals = new Float64Array(Math.max(0, t.length - 1));
  for (let i = 0; i < intervals.length; i++) intervals[i] = t[i + 1]! - t[i]!;
  const w = new Float64Array(intervals.length).fill(1);
  const at = (p: number) => (intervals.length ? weightedQuantile(intervals, w, p) : 0);
  return {
    samples: t.length,
    durationMs: t.length ? t[t.length - 1]! - t[0]! : 0,
    medianIntervalMs: at(0.5),
    p99IntervalMs: at(0.99),
  };
}

/**
 * A control's columns, mapped: x and y for a stick, a value in 0..1 otherwise; null when a column is absent.
 */
export function columnsOf(
  r: Recording,
  c: MappedControl,
): { x: Float64Array; y: Float64Array } | { v: Float64Array } | null {
  const flipped = (column: Float64Array, flip: boolean | undefined) =>
    flip ? column.map((v) => -v) : column;
  if (c.kind === "stick") {
    const x = r.axes[c.input.axes[0]];
    const y = r.axes[c.input.axes[1]];
    return x && y ? { x: flipped(x, c.input.flip?.[0]), y: flipped(y, c.input.flip?.[1]) } : null;
  }
  const input = c.input;
  if ("button" in input) {
    const v = r.buttons[input.button];
    return v ? { v } : null;
  }
  const raw = r.axes["axis" in input ? input.axis : input.hat];
  if (!raw) return null;
  return {
    v: raw.map("axis" in input ? (a) => axisTriggerValue(input, a) : (a) => (hatPressed(input, a) ? 1 : 0)),
  };
}

/**
 * Analyses a recording by docs/measures.md: every mapped control whose columns are present, with grade and
 * reasons. Time linear in rows for each control that a step names; memory linear in rows.
 */
export function analyse(
  recording: Recording,
  map: InputMap,
  rules: Rules = HOUSE_RULES,
): { analysis: Analysis; evidence: Evidence } {
  const rates = sampling(recording.t);
  const p: Prepared = prepare(recording, rates.medianIntervalMs);
  const evidence: Evidence = { sticks: {}, pulls: {}, marks: {}, cued: {}, rims: {} };
  const values = map.controls.flatMap((c) => {
    const columns = columnsOf(recording, c);
    return columns ? [{ c, columns }] : [];
  });
  const presses: ButtonColumns[] = values.flatMap(({ c, columns }) =>
    "v" in columns ? [{ id: c.id, presses: findPresses(recording.t, columns.v) }] : [],
  );
  const controls: Record<string, ControlResult> = {};
  for (const { c, columns } of values) {
    if ("x" in columns) {
      const { measures, evidence: own } = measureStick(p, c.id, columns.x, columns.y);
      evidence.sticks[c.id] = own;
      controls[c.id] = judgedStick(measures, own, rules.limitsFor(c.id).stick);
    } else if (c.kind === "trigger") {
      const { measures, pulls, marks, doubt } = measureTrigger(p, c.id, columns.v);
      evidence.pulls[c.id] = pulls;
      evidence.marks[c.id] = marks;
      controls[c.id] = judgedTrigger(measures, doubt, rules.limitsFor(c.id).trigger);
    } else {
      const { measures, cued, rim, firedOnce } = measureButton(p, c.id, columns.v, presses, rules.missTest);
      evidence.cued[c.id] = cued;
      evidence.rims[c.id] = rim;
      const smallestSeen = buttonSeen(measures);
      const kept = withheldButton(measures, smallestSeen);
      controls[c.id] = { kind: "button", ...kept, ...gradeButton(kept, firedOnce), smallestSeen };
    }
  }
  const buttons = Object.values(controls).filter((r) => r.kind === "button");
  return {
    analysis: {
      format: "birdcage-analysis",
      version: 2,
      sampling: rates,
      releaseRisk: releaseRiskOf(buttons.map((b) => b.releaseRisk)),
      rimRisk: releaseRiskOf(buttons.map((b) => b.rim?.releaseRisk ?? null)),
      controls,
    },
    evidence,
  };
}

function judgedStick(measures: StickMeasures, own: StickEvidence, limits: Limits["stick"]): StickResult {
  const smallestSeen = stickSeen(measures, own.doubt, limits);
  const kept = withheldStick(measures, smallestSeen, limits);
  return { kind: "stick", ...kept, ...gradeStick(kept, own, limits, smallestSeen), smallestSeen };
}

function judgedTrigger(
  measures: TriggerMeasures,
  doubt: TriggerDoubt | null,
  limits: Limits["trigger"],
): TriggerResult {
  const smallestSeen = triggerSeen(measures, doubt, limits);
  const kept = withheldTrigger(measures, smallestSeen, limits);
  return { kind: "trigger", ...kept, ...gradeTrigger(kept, limits, smallestSeen), smallestSeen };
}
