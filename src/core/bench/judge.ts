import { clopperPearsonUpper } from "../math/binomial";
import { median } from "../math/quantile";
import type { Limits } from "../grade/limits";
import { judgeChargeLog, judgeDischargeLog, judgeSupply, type Supply } from "./cells";
import { judgeContactSensor, t95 } from "./contact-sensor";
import { judgeLinkWatch } from "./links";
import type { Reading, ReadingOf } from "./readings";
import {
  type BenchFigure,
  type BenchResult,
  type Finding,
  isTooClose,
  least,
  most,
  plain,
  verdictOf,
  within,
} from "./result";
import { judgeMicrophone, judgeTone } from "./sound";

/**
 * What a reading is judged with: the unit's supply, the limits that hold for it, and the same figure of the
 * reference units.
 */
export type JudgeContext = {
  supply: Supply | null;
  limits: Limits;
  /** the median of a named figure over the reference units, or null when there is none */
  reference: (figure: string) => number | null;
};

/** The tries, and the rate of failing that they can rule out (Clopper and Pearson, one-sided 95 %). */
function judgeLatch(r: ReadingOf<"latch">, limits: Limits["bench"]): BenchResult {
  const slipped = r.tugs - r.held;
  const stuck = r.releases - r.letGo;
  const figures = [
    most("slipped", slipped, "count", 0),
    most("slipRateUpper95", clopperPearsonUpper(slipped, r.tugs, 0.95), "share", limits.latchSlipRate),
    plain("tugs", r.tugs, "count"),
    most("stuck", r.releases ? stuck : null, "count", 0),
  ];
  const findings: Finding[] = [];
  const bad = slipped > 0 || stuck > 0;
  if (slipped > 0) findings.push({ code: "latch-slips", facts: { count: slipped, tugs: r.tugs } });
  if (stuck > 0) findings.push({ code: "latch-sticks", facts: { count: stuck } });
  const enough = figures[1]!.keeps === true && r.releases > 0;
  if (!bad && !enough) findings.push({ code: r.releases ? "more-tugs" : "try-the-release" });
  const judged = () => {
    if (bad) return "fail";
    if (enough) return "pass";
    return "not-tested";
  };
  return { v: 1, verdict: judged(), figures, findings };
}

function judgeMotor(r: ReadingOf<"motor">): BenchResult {
  const findings: Finding[] = [];
  if (r.strength === "none") findings.push({ code: "motor-silent" });
  if (r.strength === "weak") findings.push({ code: "motor-weak" });
  if (r.rattle) findings.push({ code: "motor-rattles" });
  return { v: 1, verdict: findings.length ? "fail" : "pass", figures: [], findings };
}

/** Graded observations beside the measures: they say what an electric reading cannot. */
function judgeFeel(r: ReadingOf<"feel">): BenchResult {
  const findings: Finding[] = [];
  if (r.freePlay === "marked") findings.push({ code: "play-marked" });
  if (r.returns !== "springs-back")
    findings.push({ code: r.returns === "slow" ? "return-slow" : "return-hangs" });
  if (r.feel !== "normal") findings.push({ code: `feels-${r.feel}` });
  return { v: 1, verdict: findings.length ? "fail" : "pass", figures: [], findings };
}

/** A figure of repeats: Student's interval about it; a single reading has none. */
function repeated(f: BenchFigure, readings: readonly number[]): BenchFigure {
  const n = readings.length;
  if (n < 2 || f.value === null) return f;
  const mean = readings.reduce((a, b) => a + b, 0) / n;
  const spread = Math.sqrt(readings.reduce((s, x) => s + (x - mean) ** 2, 0) / (n - 1));
  const half = (t95(n - 1) * spread) / Math.sqrt(n);
  return within(f, f.value - half, f.value + half);
}

/** Powered resistance of the two triggers, left against right. */
function judgeTriggerDrag(r: ReadingOf<"trigger-drag">, limits: Limits["bench"]): BenchResult {
  const left = median(r.left);
  const right = median(r.right);
  const larger = Math.max(left, right);
  const figures = [
    repeated(least("dragLeft", left, "g", limits.triggerDragGrams), r.left),
    repeated(least("dragRight", right, "g", limits.triggerDragGrams), r.right),
    most(
      "dragDifference",
      larger > 0 ? Math.abs(left - right) / larger : null,
      "share",
      limits.triggerDragDifference,
    ),
  ];
  const findings: Finding[] = [];
  if (figures[2]!.keeps === false)
    findings.push({ code: left > right ? "drag-right-weak" : "drag-left-weak" });
  if (figures.some(isTooClose)) findings.push({ code: "too-close" });
  if (r.noise === "grinding") findings.push({ code: "gears-grind" });
  const verdict = r.noise === "grinding" ? "fail" : verdictOf(figures, ["dragLeft", "dragRight"]);
  return { v: 1, verdict, figures, findings };
}

/** Judges one reading by what is known of the unit; the one door for browser and server. */
export function judgeReading(reading: Reading, { supply, limits, reference }: JudgeContext): BenchResult {
  const unknown: Supply = { chemistry: "none", cells: 0, nominalVolts: 0, capacityMah: null };
  switch (reading.kind) {
    case "supply":
      return judgeSupply(reading, supply ?? unknown, limits.bench);
    case "charge-log":
      return judgeChargeLog(reading, supply ?? unknown, limits.bench);
    case "discharge-log":
      return judgeDischargeLog(reading, supply ?? unknown, limits.bench);
    case "link-watch":
      return judgeLinkWatch(reading, limits.bench);
    case "motor":
      return judgeMotor(reading);
    case "microphone":
      return judgeMicrophone(reading, limits.bench, reference("phrase"));
    case "tone":
      return judgeTone(reading, limits.bench, reference("toneLevel"));
    case "latch":
      return judgeLatch(reading, limits.bench);
    case "feel":
      return judgeFeel(reading);
    case "trigger-drag":
      return judgeTriggerDrag(reading, limits.bench);
    case "contact-sensor":
      return judgeContactSensor(reading, limits.bench, limits.stick.restOffset.C);
  }
}

/** What a reading is about: a function, a control or a supply of the profile. */
export function subjectOf(reading: Reading): string {
  if ("functionId" in reading) return reading.functionId;
  if (reading.kind === "contact-sensor") return `${reading.controlId}.${reading.axis}`;
  if ("controlId" in reading) return reading.controlId;
  return "supply" in reading ? reading.supply : "triggers";
}
