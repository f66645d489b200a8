import type { BenchLimits } from "../grade/limits";
import type { ReadingOf } from "./readings";
import {
  type BenchFigure,
  type BenchResult,
  type Finding,
  isTooClose,
  most,
  plain,
  verdictOf,
  within,
} from "./result";

/** Two-sided 95 % points of Student's t for 1 to 10 degrees of freedom; beyond that the normal's. */
const T95 = [12.706, 4.303, 3.182, 2.776, 2.571, 2.447, 2.365, 2.306, 2.262, 2.228];
export const t95 = (degrees: number) => T95[degrees - 1] ?? 1.96;

/**
 * A leg that read open every time, or twice, is open; one that did so once beside two good readings or more
 * may have been a clip that slipped: read again. Null when none did.
 */
function openedOf(used: ReadingOf<"contact-sensor">["readings"]): "leg-open" | "leg-open-once" | null {
  const times = (leg: "a" | "b") => used.filter((x) => x[leg] === null).length;
  const most = Math.max(times("a"), times("b"));
  if (most === 0) return null;
  return most === 1 && used.filter((x) => x.a !== null && x.b !== null).length >= 2
    ? "leg-open-once"
    : "leg-open";
}

/**
 * Imbalance (a - b) / (a + b) of the two half-resistances of a contact sensor at rest; times the gain it
 * predicts the axis offset that this sensor will give. Readings with a finger on the part are left out;
 * repeats give the uncertainty. `offsetLimit` is the stick's rest offset beyond which it fails. Source:
 * docs/measures.md, "Electrical readings".
 */
export function judgeContactSensor(
  r: ReadingOf<"contact-sensor">,
  limits: BenchLimits,
  offsetLimit: number,
): BenchResult {
  const used = r.readings.filter((x) => !x.finger);
  const leftOut = r.readings.length - used.length;
  const findings: Finding[] = leftOut ? [{ code: "finger-left-out", facts: { count: leftOut } }] : [];
  if (used.length === 0) return { v: 1, verdict: "not-tested", figures: [], findings };
  const opened = openedOf(used);
  if (opened !== null)
    return {
      v: 1,
      verdict: opened === "leg-open" ? "fail" : "not-tested",
      figures: [],
      findings: [...findings, { code: opened }],
    };
  const sums = used.map((x) => x.a! + x.b!);
  const ratios = used.map((x, i) => (sums[i]! > 0 ? (x.a! - x.b!) / sums[i]! : 0));
  const mean = (v: readonly number[]) => v.reduce((s, x) => s + x, 0) / v.length;
  const imbalance = mean(ratios);
  const spread =
    ratios.length > 1
      ? Math.sqrt(ratios.reduce((s, x) => s + (x - imbalance) ** 2, 0) / (ratios.length - 1))
      : null;
  const half = spread === null ? null : (t95(ratios.length - 1) * spread) / Math.sqrt(ratios.length);
  const total = mean(sums);
  const deviation = total / r.nominalOhms - 1;
  const gain = limits.sensorGain;
  const offset = imbalance * gain;
  const interval = (v: number, h: number | null) => (h === null ? {} : { low: v - h, high: v + h });
  const size = most("predictedOffset", Math.abs(offset), "travel", offsetLimit);
  const judged =
    half === null ? size : within(size, Math.abs(offset) - half * gain, Math.abs(offset) + half * gain);
  const figures: BenchFigure[] = [
    { ...plain("imbalance", imbalance, "share"), ...interval(imbalance, half) },
    { ...judged, value: offset, ...interval(offset, half === null ? null : half * gain) },
    { ...most("totalDeviation", Math.abs(deviation), "share", limits.trackTolerance), value: deviation },
    plain("total", total, "ohm"),
    plain("repeats", used.length, "count"),
  ];
  if (Math.abs(deviation) > limits.trackTolerance) findings.push({ code: "track-broken" });
  if (spread === null) findings.push({ code: "one-reading" });
  else if (half! * gain > offsetLimit / 2) findings.push({ code: "readings-scatter" });
  if (figures.some(isTooClose)) findings.push({ code: "too-close" });
  return { v: 1, verdict: verdictOf(figures, ["predictedOffset"]), figures, findings };
}
