"use client";

import Button from "@mui/material/Button";
import { useRouter } from "next/navigation";
import { useState } from "react";

import type { Refusal, Reply } from "@/contract/refusals";
import { say } from "@/features/practice/words/words";
import { Problem } from "@/ui/deed/Problem";

type Props = { unitId: string; check: string; lead?: boolean };

/** At the practice bench what is hidden answers a check: it is done, and its answer is written down. */
export function LookInside({ unitId, check, lead = true }: Props) {
  const router = useRouter();
  const [running, setRunning] = useState(false);
  const [problem, setProblem] = useState<Refusal | null>(null);
  const look = async () => {
    setRunning(true);
    const reply = await fetch("/api/practice", {
      method: "POST",
      headers: { "Content-Type": "application/json" },
      body: JSON.stringify({ do: "look", unitId, check }),
    })
      .then((r) => r.json() as Promise<Reply>)
      .catch((): Reply => ({ ok: false, problem: { code: "away" } }));
    setRunning(false);
    setProblem(reply.ok ? null : reply.problem);
    if (reply.ok) router.refresh();
  };
  return (
    <>
      <Button variant={lead ? "contained" : "outlined"} disabled={running} onClick={() => void look()}>
        {say("doItAndSee")}
      </Button>
      <Problem problem={problem} />
    </>
  );
}
