import { type Cap, type LadderProblem, sold } from "./problem";

/** What was done to a unit so far on the way, and what selling it as it then is brings. */

/** What became of each attempt and of each check: 0 not made yet; a check's outcome counts from 1. */
export const NOT_MADE = 0;
export const FAILED = 1;
export const WORKED = 2;
/** used up by another attempt */
export const SPENT = 3;

export type State = {
  tried: Uint8Array;
  asked: Uint8Array;
  depth: number;
  /** what was tried and how deep it is open: what does not hang on what is known is worked out once by it */
  key: string;
};

const keyed = (tried: Uint8Array, asked: Uint8Array, depth: number): State => ({
  tried,
  asked,
  depth,
  key: String.fromCharCode(depth + 1, ...tried),
});

export const stateAtStart = (p: LadderProblem): State =>
  keyed(new Uint8Array(p.attempts.length), new Uint8Array(p.checks?.length ?? 0), p.openedTo);

export const keyOf = (s: State): string => s.key + String.fromCharCode(...s.asked);

/** Which faults an attempt cured, as bits. */
export function curedIn(p: LadderProblem, s: State): number {
  let cured = 0;
  p.attempts.forEach((a, i) => {
    if (s.tried[i] === WORKED) for (const f of a.cures) cured |= 1 << f;
  });
  return cured;
}

/** The worst grade that the cures left room for. */
export const capIn = (p: LadderProblem, s: State): Cap =>
  p.attempts.reduce<Cap>((cap, a, i) => (s.tried[i] === WORKED && a.cap > cap ? a.cap : cap), p.cap);

export type Sale = { value: number; cap: Cap; share: number; kept: number };

/** Selling as it is; minus infinity where a fault neither is cured nor may be left. */
export function saleOf(p: LadderProblem, s: State, cured: number): Sale {
  const cap = capIn(p, s);
  let share = 1;
  let kept = 1 - p.comeback;
  p.attempts.forEach((a, i) => {
    if (s.tried[i] === WORKED) kept *= 1 - a.comeback;
  });
  for (const [f, { leave }] of p.faults.entries()) {
    if (cured & (1 << f)) continue;
    if (!leave) return { value: -Infinity, cap, share, kept };
    share *= leave.share;
    kept *= 1 - leave.comeback;
  }
  return { value: sold(p, cap, share, kept), cap, share, kept };
}

/** Where an attempt leads when it works and when it does not; null where it cannot be made. */
export function afterTry(
  p: LadderProblem,
  s: State,
  a: number,
  cured: number,
): { worked: State; failed: State } | null {
  const t = p.attempts[a]!;
  if (s.tried[a] !== NOT_MADE || t.cures.every((f) => cured & (1 << f))) return null;
  const depth = Math.max(s.depth, t.depth);
  const failed = s.tried.slice();
  for (const other of t.spends ?? []) if (failed[other] === NOT_MADE) failed[other] = SPENT;
  const worked = failed.slice();
  worked[a] = WORKED;
  failed[a] = FAILED;
  return { worked: keyed(worked, s.asked, depth), failed: keyed(failed, s.asked, depth) };
}

/** Where a check leads by each of its outcomes; null where it cannot be made or tells nothing any more. */
export function afterCheck(p: LadderProblem, s: State, c: number, cured: number): State[] | null {
  const check = p.checks![c]!;
  if (s.asked[c] !== NOT_MADE || check.faults.every((f) => cured & (1 << f))) return null;
  if (check.voided.some((a) => s.tried[a] === FAILED || s.tried[a] === WORKED)) return null;
  const depth = Math.max(s.depth, check.depth);
  return check.outcomes.map((_, o) => {
    const asked = s.asked.slice();
    asked[c] = o + 1;
    return depth === s.depth ? { ...s, asked } : keyed(s.tried, asked, depth);
  });
}
