import "server-only";

import { createHash } from "node:crypto";

import type { Id } from "@/core/base/ids";
import type { Advice } from "@/core/decide/advise";
import type { DecideInput } from "@/core/decide/build";
import { solve } from "./input";

/**
 * Advice as it was last worked out for each unit, for as long as nothing changes that it rests on. Kept by the server
 * while it runs: after a start it is worked out anew.
 */

export type StandingAdvice = {
  advice: Advice;
  at: string;
  /** whether it rests on all that is known now; else it is what was advised before the newest fact */
  fresh: boolean;
};
type Kept = { digest: string; advice: Advice; at: Date };

const MOST_KEPT = 400;
// pages and route handlers are built apart and must share it
type Store = { kept: Map<string, Kept>; asked: Map<string, Promise<Kept>> };
const held = globalThis as { birdcageAdvice?: Store };
const store = (): Store =>
  (held.birdcageAdvice ??= { kept: new Map<string, Kept>(), asked: new Map<string, Promise<Kept>>() });

/** What the advice on a unit rests on, in one short text. */
export const digestOf = (input: DecideInput): string =>
  createHash("sha256").update(JSON.stringify(input)).digest("hex");

/** What was worked out for a unit last, at once; null when nothing was. */
export function keptAdvice(unitId: Id<"unit">, input: DecideInput): StandingAdvice | null {
  const had = store().kept.get(unitId);
  return had ? { advice: had.advice, at: had.at.toISOString(), fresh: had.digest === digestOf(input) } : null;
}

/** The advice on all that is known now: as kept, or worked out on another thread, once for all who ask. */
export async function adviceFor(unitId: Id<"unit">, input: DecideInput): Promise<Kept> {
  const { kept, asked } = store();
  const digest = digestOf(input);
  const had = kept.get(unitId);
  if (had?.digest === digest) return had;
  const key = `${unitId} ${digest}`;
  const waiting = asked.get(key);
  if (waiting) return waiting;
  const solving = solve(input).then((advice) => {
    const now = { digest, advice, at: new Date() };
    kept.delete(unitId);
    kept.set(unitId, now);
    for (const oldest of kept.keys()) {
      if (kept.size <= MOST_KEPT) break;
      kept.delete(oldest);
    }
    return now;
  });
  asked.set(key, solving);
  return solving.finally(() => asked.delete(key));
}
