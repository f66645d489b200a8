import { median } from "../math/quantile";
import type { BenchLimits } from "../grade/limits";
import { FLEX_PLACES, PUSH_PLACES, type ReadingOf } from "./readings";
import { type BenchFigure, type BenchResult, type Finding, least, most, plain } from "./result";

export type Dropout = { atMs: number; ms: number };

const gapsOf = (times: readonly number[]): number[] => times.slice(1).map((t, i) => t - times[i]!);

/** The shortest gap that counts as a dropout, in ms. */
function shortestDropout(times: readonly number[], leastMs: number): number {
  const usual = median(gapsOf(times).filter((g) => g > 0));
  return Math.max(leastMs, 8 * (Number.isNaN(usual) ? 0 : usual));
}

/**
 * Gaps in which no fresh data came: longer than `leastMs` and than eight usual intervals, so that a slow pad
 * is not a lost one.
 */
export function findDropouts(times: readonly number[], leastMs: number): Dropout[] {
  const gaps = gapsOf(times);
  const threshold = shortestDropout(times, leastMs);
  return gaps.flatMap((ms, i) => (ms > threshold ? [{ atMs: times[i]!, ms }] : []));
}

type Mark = { t: number; place: string; metres?: number | undefined };

/** Metres walked at time t: between two marks in proportion, before the first 0, after the last the last. */
export function metresAt(marks: readonly Mark[], t: number): number {
  const placed = marks.filter((m) => m.metres !== undefined);
  let before = { t: 0, metres: 0 };
  for (const m of placed) {
    const here = { t: m.t, metres: m.metres! };
    if (here.t >= t) return here.t === before.t ? here.metres : between(before, here, t);
    before = here;
  }
  return before.metres;
}
const between = (a: { t: number; metres: number }, b: { t: number; metres: number }, t: number) =>
  a.metres + ((b.metres - a.metres) * (t - a.t)) / (b.t - a.t);

const placeAt = (marks: readonly Mark[], t: number): string | null =>
  marks.filter((m) => m.t <= t).at(-1)?.place ?? null;

function timePerPlace(marks: readonly Mark[], end: number): Map<string, number> {
  const out = new Map<string, number>();
  marks.forEach((m, i) => out.set(m.place, (out.get(m.place) ?? 0) + (marks[i + 1]?.t ?? end) - m.t));
  return out;
}

/**
 * Judges a watched link: radio by the distance of its first dropout, a cord by place along it, a port by the
 * way it was pushed.
 */
export function judgeLinkWatch(r: ReadingOf<"link-watch">, limits: BenchLimits): BenchResult {
  const drops = findDropouts(r.times, limits.dropoutMs);
  const lasted = r.times.at(-1)! - r.times[0]!;
  const common: BenchFigure[] = [
    most("dropouts", drops.length, "count", 0),
    plain("longestGap", Math.max(0, ...drops.map((d) => d.ms)), "ms"),
    plain("shortestGapSeen", shortestDropout(r.times, limits.dropoutMs), "ms"),
    plain("watched", lasted / 1000, "s"),
  ];
  if (r.what === "radio") return judgeRadio(r, drops, common, limits);
  const places: readonly string[] = r.what === "cord" ? FLEX_PLACES : PUSH_PLACES;
  const spent = timePerPlace(r.marks, r.times.at(-1)!);
  const missing = places.filter((p) => (spent.get(p) ?? 0) < limits.secondsPerPlace * 1000);
  const findings: Finding[] = [];
  for (const place of places) {
    const count = drops.filter((d) => placeAt(r.marks, d.atMs) === place).length;
    common.push(most(`dropouts.${place}`, missing.includes(place) && count === 0 ? null : count, "count", 0));
    if (count > 0) findings.push({ code: "drops-at", facts: { place, count } });
  }
  const lostCharge = PUSH_PLACES.filter((p) => r.chargingAt[p] === false);
  if (lostCharge.length) findings.push({ code: "charge-lost-at", facts: { places: lostCharge.join(", ") } });
  const slack = r.plugHold === "loose" || r.plugHold === "falls-out";
  if (slack) findings.push({ code: r.plugHold === "loose" ? "plug-loose" : "plug-falls-out" });
  if (missing.length) findings.push({ code: "places-left", facts: { places: missing.join(", ") } });
  const bad = drops.length > 0 || lostCharge.length > 0 || slack;
  const incomplete = missing.length > 0 || (r.what === "port" && r.plugHold === null);
  const judged = () => {
    if (bad) return "fail";
    if (incomplete) return "not-tested";
    return "pass";
  };
  return { v: 1, verdict: judged(), figures: common, findings };
}

function judgeRadio(
  r: ReadingOf<"link-watch">,
  drops: readonly Dropout[],
  common: readonly BenchFigure[],
  limits: BenchLimits,
): BenchResult {
  const walked = Math.max(0, ...r.marks.map((m) => m.metres ?? 0));
  const first = drops[0] ? metresAt(r.marks, drops[0].atMs) : null;
  const clean = first ?? walked;
  const keepsOf = () => {
    if (first === null) {
      if (walked >= limits.radioMetres) return true;
      return null;
    }
    return clean >= limits.radioMetres;
  };
  const figures: BenchFigure[] = [
    {
      ...least("cleanReach", clean, "m", limits.radioMetres),
      keeps: keepsOf(),
    },
    plain("firstDropout", first, "m"),
    plain("walked", walked, "m"),
    ...common.map((f) => ({ ...f, keeps: null })),
  ];
  const findings: Finding[] = [];
  if (first !== null) findings.push({ code: "radio-drops", facts: { metres: Math.round(first * 10) / 10 } });
  else if (walked < limits.radioMetres)
    findings.push({ code: "walk-farther", facts: { metres: limits.radioMetres } });
  const verdictOf = () => {
    if (first !== null) {
      if (first >= limits.radioMetres) return "pass";
      return "fail";
    }
    if (walked >= limits.radioMetres) return "pass";
    return "not-tested";
  };
  const verdict = verdictOf();
  return { v: 1, verdict, figures, findings };
}
