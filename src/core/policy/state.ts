import { type Cap, type LadderProblem, sold } from "./problem";

/** What was done to a unit so far on the way, and what selling it as it then is brings. */

/** What became of each attempt, then of each check: 0 not made yet; a check's outcome counts from 1. */
export const NOT_MADE = 0;
export const FAILED = 1;
export const WORKED = 2;
/** used up by another attempt */
export const SPENT = 3;

export type State = { did: Uint8Array; depth: number };

export const stateAtStart = (p: LadderProblem): State => ({
  did: new Uint8Array(p.attempts.length + (p.checks?.length ?? 0)),
  depth: p.openedTo,
});

export const keyOf = (s: State): string => String.fromCharCode(s.depth + 1, ...s.did);

/** Which faults an attempt cured, as bits. */
export function curedIn(p: LadderProblem, s: State): number {
  let cured = 0;
  p.attempts.forEach((a, i) => {
    if (s.did[i] === WORKED) for (const f of a.cures) cured |= 1 << f;
  });
  return cured;
}

/** The worst grade that the cures left room for. */
export const capIn = (p: LadderProblem, s: State): Cap =>
  p.attempts.reduce<Cap>((cap, a, i) => (s.did[i] === WORKED && a.cap > cap ? a.cap : cap), p.cap);

export type Sale = { value: number; cap: Cap; share: number; kept: number };

/** Selling as it is; minus infinity where a fault neither is cured nor may be left. */
export function saleOf(p: LadderProblem, s: State, cured: number): Sale {
  const cap = capIn(p, s);
  let share = 1;
  let kept = 1 - p.comeback;
  p.attempts.forEach((a, i) => {
    if (s.did[i] === WORKED) kept *= 1 - a.comeback;
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
  if (s.did[a] !== NOT_MADE || t.cures.every((f) => cured & (1 << f))) return null;
  const depth = Math.max(s.depth, t.depth);
  const spent = s.did.slice();
  for (const other of t.spends ?? []) if (spent[other] === NOT_MADE) spent[other] = SPENT;
  const worked = spent.slice();
  worked[a] = WORKED;
  const failed = spent;
  failed[a] = FAILED;
  return { worked: { did: worked, depth }, failed: { did: failed, depth } };
}

/** Where a check leads by each of its outcomes; null where it cannot be made or tells nothing any more. */
export function afterCheck(p: LadderProblem, s: State, c: number, cured: number): State[] | null {
  const check = p.checks![c]!;
  const at = p.attempts.length + c;
  if (s.did[at] !== NOT_MADE || check.faults.every((f) => cured & (1 << f))) return null;
  if (check.voided.some((a) => s.did[a] === FAILED || s.did[a] === WORKED)) return null;
  const depth = Math.max(s.depth, check.depth);
  return check.outcomes.map((_, o) => {
    const did = s.did.slice();
    did[at] = o + 1;
    return { did, depth };
  });
}
