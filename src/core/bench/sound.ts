import { quantile } from "../math/quantile";
import type { BenchLimits } from "../grade/limits";
import type { ReadingOf } from "./readings";
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

const Z95 = 1.96;
const LOUD_SHARE = 0.9; // a phrase has pauses, rubbing has strokes: the loud windows tell

/**
 * A microphone by the set phrase, a rubbed surface and silence; `phraseOfReference` in dBFS when a reference
 * unit was measured so.
 */
/** A level with its 95 % interval, by the order of the windows: no matter how their levels are spread. */
function levelOf(windows: readonly number[], share: number): { db: number; low: number; high: number } {
  const half = Z95 * Math.sqrt((share * (1 - share)) / Math.max(1, windows.length));
  const at = (p: number) => dbfs(quantile(windows, Math.min(1, Math.max(0, p))));
  return { db: at(share), low: at(share - half), high: at(share + half) };
}
type Level = ReturnType<typeof levelOf>;
const levelFigure = (name: string, l: Level) => within(plain(name, l.db, "dBFS"), l.low, l.high);
const overFloor = (f: BenchFigure, level: Level, floor: Level) =>
  within(f, level.low - floor.high, level.high - floor.low);

export function judgeMicrophone(
  r: ReadingOf<"microphone">,
  limits: BenchLimits,
  phraseOfReference: number | null,
): BenchResult {
  const floor = levelOf(r.quiet, 0.5);
  const phrase = levelOf(r.phrase, LOUD_SHARE);
  const rub = levelOf(r.rub, LOUD_SHARE);
  const below = phraseOfReference === null ? null : phraseOfReference - phrase.db;
  const figures = [
    levelFigure("noiseFloor", floor),
    levelFigure("phrase", phrase),
    levelFigure("rub", rub),
    overFloor(least("phraseOverFloor", phrase.db - floor.db, "dB", limits.phraseOverFloorDb), phrase, floor),
    overFloor(least("rubOverFloor", rub.db - floor.db, "dB", limits.rubOverFloorDb), rub, floor),
    most("belowReference", below, "dB", limits.belowReferenceDb),
  ];
  const findings: Finding[] = [];
  const bad = (name: string) => figures.find((f) => f.name === name)!.keeps === false;
  if (bad("phraseOverFloor") && bad("rubOverFloor")) findings.push({ code: "microphone-deaf" });
  else if (bad("phraseOverFloor")) findings.push({ code: "microphone-muffled" });
  else if (bad("rubOverFloor")) findings.push({ code: "not-this-opening" });
  if (bad("belowReference")) findings.push({ code: "below-reference" });
  if (figures.some(isTooClose)) findings.push({ code: "too-close" });
  if (phraseOfReference === null) findings.push({ code: "no-reference" });
  return { v: 1, verdict: verdictOf(figures, ["phraseOverFloor", "rubOverFloor"]), figures, findings };
}

/** An output by a tone heard through a microphone, against the same frequency in silence. */
export function judgeTone(
  r: ReadingOf<"tone">,
  limits: BenchLimits,
  levelOfReference: number | null,
): BenchResult {
  const silent = levelOf(r.silent, 0.5);
  const sounding = levelOf(r.sounding, 0.5);
  const figures = [
    levelFigure("silentLevel", silent),
    levelFigure("toneLevel", sounding),
    overFloor(
      least("toneOverSilence", sounding.db - silent.db, "dB", limits.toneOverSilenceDb),
      sounding,
      silent,
    ),
    most(
      "belowReference",
      levelOfReference === null ? null : levelOfReference - sounding.db,
      "dB",
      limits.belowReferenceDb,
    ),
  ];
  const findings: Finding[] = [];
  if (figures.some(isTooClose)) findings.push({ code: "too-close" });
  if (figures[2]!.keeps === false) findings.push({ code: "tone-not-heard" });
  if (figures[3]!.keeps === false) findings.push({ code: "below-reference" });
  return { v: 1, verdict: verdictOf(figures, ["toneOverSilence"]), figures, findings };
}
