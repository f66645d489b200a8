"use client";

import { useRouter } from "next/navigation";
import { useCallback, useRef, useState } from "react";

import type { DeedInput, DeedName, Refusal, ValueOf } from "@/contract/deeds";

type Outcome<D extends DeedName> = { ok: true; value: ValueOf<D> } | { ok: false; problem: Refusal };

async function send<D extends DeedName>(deed: D, requestId: string, input: DeedInput<D>): Promise<Outcome<D>> {
  try {
    const response = await fetch(`/api/do/${deed}`, {
      method: "POST",
      headers: { "Content-Type": "application/json" },
      body: JSON.stringify({ requestId, input }),
    });
    return (await response.json()) as Outcome<D>;
  } catch {
    return { ok: false, problem: { code: "busy" } };
  }
}

/**
 * Does a deed and shows the new state. While one runs a second call is ignored; a repeat of the same input after a
 * lost answer carries the same request id, so that it has one effect.
 */
export function useDeed<D extends DeedName>(deed: D) {
  const router = useRouter();
  const [running, setRunning] = useState(false);
  const [problem, setProblem] = useState<Refusal | null>(null);
  const busy = useRef(false);
  const pending = useRef<{ key: string; id: string } | null>(null);

  const run = useCallback(
    async (input: DeedInput<D>): Promise<Outcome<D> | null> => {
      if (busy.current) return null;
      busy.current = true;
      setRunning(true);
      setProblem(null);
      const key = JSON.stringify(input);
      if (pending.current?.key !== key) pending.current = { key, id: crypto.randomUUID() };
      const outcome = await send(deed, pending.current.id, input);
      // a lost answer may have been done: keep the id, so that trying again does not do it twice
      if (outcome.ok || outcome.problem.code !== "busy") pending.current = null;
      busy.current = false;
      setRunning(false);
      if (outcome.ok) router.refresh();
      else setProblem(outcome.problem);
      return outcome;
    },
    [deed, router],
  );
  return { run, running, problem, clear: () => setProblem(null) };
}
