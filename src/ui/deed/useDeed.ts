"use client";

import { useCallback, useEffect, useMemo, useRef, useState, useSyncExternalStore } from "react";

import { deedQueue, NOTHING_QUEUED } from "@/browser/deed-queue";
import type { DeedInput, DeedName, ValueOf } from "@/contract/deeds";
import type { Refusal } from "@/contract/refusals";
import { confirmPassword } from "./confirm";

type Outcome<D extends DeedName> = { ok: true; value: ValueOf<D> } | { ok: false; problem: Refusal };

export type Refused<D extends DeedName = DeedName> = { deed: D; problem: Refusal; input: DeedInput<D> };

export const useQueue = () =>
  useSyncExternalStore(deedQueue.subscribe, deedQueue.snapshot, () => NOTHING_QUEUED);

/**
 * Whether nothing of this person is on its way: only then may the address be written to, or a running refresh
 * is dropped.
 */
export const useQuiet = () => useSyncExternalStore(deedQueue.subscribe, deedQueue.isQuiet, () => true);

/**
 * Does deeds of a kind, one after another in the order of the hands. `pending` are the inputs that the page
 * does not show yet, for rows that say "saving"; `refusals` say which input was refused and why, until the
 * next act after all were answered. `run` answers null for what stands last in the queue already: a finger
 * that hit twice.
 */
export function useDeed<D extends DeedName>(deed: D) {
  const { deeds } = useQueue();
  const pending = useMemo(
    () => deeds.filter((d) => d.deed === deed && d.state !== "refused").map((d) => d.input as DeedInput<D>),
    [deeds, deed],
  );
  const [calls, setCalls] = useState(0);
  const [refusals, setRefusals] = useState<readonly Refused<D>[]>([]);
  const open = useRef(0);
  const alive = useRef(true);
  useEffect(() => {
    alive.current = true;
    return () => void (alive.current = false);
  }, []);

  const run = useCallback(
    async (input: DeedInput<D>): Promise<Outcome<D> | null> => {
      const asked = deedQueue.add(deed, input, () => alive.current);
      if (!asked) return null;
      // quick hands go on while earlier answers are on their way: what was refused of those stays to be read
      if (open.current === 0) setRefusals([]);
      setCalls((open.current += 1));
      let outcome = (await asked) as Outcome<D>;
      if (!outcome.ok && outcome.problem.code === "confirm-password" && (await confirmPassword()))
        outcome = ((await deedQueue.add(deed, input, () => alive.current)) as Outcome<D> | null) ?? outcome;
      setCalls((open.current -= 1));
      if (!outcome.ok) setRefusals((all) => [...all, { deed, problem: outcome.problem, input }]);
      return outcome;
    },
    [deed],
  );
  const clear = useCallback(() => setRefusals([]), []);
  return { run, running: calls > 0, pending, problem: refusals.at(-1)?.problem ?? null, refusals, clear };
}
