"use client";

import { useState } from "react";
import type { z } from "@/core/base/schema";

import type { Refusal, Reply } from "@/contract/refusals";
import type { practiceSchema } from "@/contract/practice";

/** Goes to the practice bench or back: the page is loaded anew, since its records are others. */
export function usePractice() {
  const [running, setRunning] = useState(false);
  const [problem, setProblem] = useState<Refusal | null>(null);
  const go = async (asked: z.input<typeof practiceSchema>) => {
    setRunning(true);
    setProblem(null);
    const reply = await fetch("/api/practice", {
      method: "POST",
      headers: { "Content-Type": "application/json" },
      body: JSON.stringify(asked),
    })
      .then((r) => r.json() as Promise<Reply>)
      .catch((): Reply => ({ ok: false, problem: { code: "away" } }));
    if (reply.ok) window.location.assign((reply.value as { href: string }).href);
    else {
      setProblem(reply.problem);
      setRunning(false);
    }
  };
  return { go, running, problem };
}
