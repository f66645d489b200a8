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

type Reading = ReadingOf<"contact-sensor">["readings"][number];
const isOpen = (x: Reading): boolean => x.a === null || x.b === null;

/**
 * Whether a leg is open: it read so every time, or twice. One that did so once beside two good readings or
 * more may have been a clip that slipped.
 */
function isLegOpen(used: readonly Reading[]): boolean {
  const times = (leg: "a" | "b") => used.filter((x) => x[leg] === null).length;
  const most = Math.max(times("a"), times("b"));
  return most > 1 || (most === 1 && used.filter((x) => !isOpen(x)).length < 2);
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
  const held = r.readings.filter((x) => !x.finger);
  const leftOut = r.readings.length - held.length;
  const findings: Finding[] = leftOut ? [{ code: "finger-left-out", facts: { count: leftOut } }] : [];
  if (held.length === 0) return { v: 1, verdict: "not-tested", figures: [], findings };
  if (isLegOpen(held))
    return { v: 1, verdict: "fail", figures: [], findings: [...findings, { code: "leg-open" }] };
  const used = held.filter((x) => !isOpen(x));
  const slipped = used.length < held.length;
  if (slipped) findings.push({ code: "leg-open-once" });
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
  const verdict = verdictOf(figures, ["predictedOffset"]);
  // what the good readings show stands as a fault, and is no pass
  return { v: 1, verdict: slipped && verdict === "pass" ? "not-tested" : verdict, figures, findings };
}
