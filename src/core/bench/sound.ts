import { median, quantile } from "../math/quantile";
import type { BenchLimits } from "../grade/limits";
import type { ReadingOf } from "./readings";
import { type BenchResult, type Finding, least, most, plain, verdictOf } from "./result";

/** Levels of sound in dBFS: 0 is a full-scale root mean square of 1. */

const FLOOR_DB = -120;
export const dbfs = (rms: number): number => (rms <= 0 ? FLOOR_DB : Math.max(FLOOR_DB, 20 * Math.log10(rms)));

export function rms(samples: ArrayLike<number>): number {
  let sum = 0;
  for (let i = 0; i < samples.length; i++) sum += samples[i]! * samples[i]!;
  return samples.length ? Math.sqrt(sum / samples.length) : 0;
}

/**
 * Root mean square of one frequency in the samples (Goertzel 1958), so that a tone is heard below other
 * noise.
 */
export function toneLevel(samples: ArrayLike<number>, hz: number, sampleRate: number): number {
  const w = (2 * Math.PI * hz) / sampleRate;
  const c = 2 * Math.cos(w);
  let s1 = 0;
  let s2 = 0;
  for (let i = 0; i < samples.length; i++) {
    const s = samples[i]! + c * s1 - s2;
    s2 = s1;
    s1 = s;
  }
  const power = s1 * s1 + s2 * s2 - c * s1 * s2;
  return samples.length ? Math.sqrt(2 * Math.max(0, power)) / samples.length : 0;
}

const LOUD_SHARE = 0.9; // a phrase has pauses, rubbing has strokes: the loud windows tell

/**
 * A microphone by the set phrase, a rubbed surface and silence; `phraseOfReference` in dBFS when a reference
 * unit was measured so.
 */
export function judgeMicrophone(
  r: ReadingOf<"microphone">,
  limits: BenchLimits,
  phraseOfReference: number | null,
): BenchResult {
  const floor = dbfs(median(r.quiet));
  const phrase = dbfs(quantile(r.phrase, LOUD_SHARE));
  const rub = dbfs(quantile(r.rub, LOUD_SHARE));
  const below = phraseOfReference === null ? null : phraseOfReference - phrase;
  const figures = [
    plain("noiseFloor", floor, "dBFS"),
    plain("phrase", phrase, "dBFS"),
    plain("rub", rub, "dBFS"),
    least("phraseOverFloor", phrase - floor, "dB", limits.phraseOverFloorDb),
    least("rubOverFloor", rub - floor, "dB", limits.rubOverFloorDb),
    most("belowReference", below, "dB", limits.belowReferenceDb),
  ];
  const findings: Finding[] = [];
  const bad = (name: string) => figures.find((f) => f.name === name)!.keeps === false;
  if (bad("phraseOverFloor") && bad("rubOverFloor")) findings.push({ code: "microphone-deaf" });
  else if (bad("phraseOverFloor")) findings.push({ code: "microphone-muffled" });
  else if (bad("rubOverFloor")) findings.push({ code: "not-this-opening" });
  if (bad("belowReference")) findings.push({ code: "below-reference" });
  if (phraseOfReference === null) findings.push({ code: "no-reference" });
  return { v: 1, verdict: verdictOf(figures, ["phraseOverFloor", "rubOverFloor"]), figures, findings };
}

/** An output by a tone heard through a microphone, against the same frequency in silence. */
export function judgeTone(
  r: ReadingOf<"tone">,
  limits: BenchLimits,
  levelOfReference: number | null,
): BenchResult {
  const silent = dbfs(median(r.silent));
  const sounding = dbfs(median(r.sounding));
  const figures = [
    plain("silentLevel", silent, "dBFS"),
    plain("toneLevel", sounding, "dBFS"),
    least("toneOverSilence", sounding - silent, "dB", limits.toneOverSilenceDb),
    most(
      "belowReference",
      levelOfReference === null ? null : levelOfReference - sounding,
      "dB",
      limits.belowReferenceDb,
    ),
  ];
  const findings: Finding[] = [];
  if (figures[2]!.keeps === false) findings.push({ code: "tone-not-heard" });
  if (figures[3]!.keeps === false) findings.push({ code: "below-reference" });
  return { v: 1, verdict: verdictOf(figures, ["toneOverSilence"]), figures, findings };
}
