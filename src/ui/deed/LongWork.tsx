"use client";

import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import LinearProgress from "@mui/material/LinearProgress";
import { useEffect, useRef, useState } from "react";

import type { Refusal, Reply } from "@/contract/refusals";
import { isStop } from "@/browser/long-work";
import { Problem } from "@/ui/deed/Problem";
import { figure } from "@/text/format";
import { say } from "@/words/kit";
import { Row } from "@/ui/kit/layout";

/** How far some work is: in words, and its share from 0 to 1, or null where nobody knows. */
type Progress = { words: string; share: number | null };

/**
 * Work at the server for which a person waits: how far it is is shown, and it can be stopped; whoever leaves
 * the page stops it too. `run` begins it and gives the reply, or null when it was stopped.
 */
export function useLongWork() {
  const [progress, setProgress] = useState<Progress | null>(null);
  const [problem, setProblem] = useState<Refusal | null>(null);
  const [stopped, setStopped] = useState(false);
  const work = useRef<AbortController | null>(null);
  useEffect(() => () => work.current?.abort(), []);
  const run = async (
    words: string,
    ask: (signal: AbortSignal, tell: (progress: Progress) => void) => Promise<Reply>,
  ): Promise<Reply | null> => {
    const mine = (work.current = new AbortController());
    setProgress({ words, share: null });
    setProblem(null);
    setStopped(false);
    try {
      const reply = await ask(mine.signal, setProgress);
      if (!reply.ok) setProblem(reply.problem);
      return reply;
    } catch (error) {
      if (isStop(error)) setStopped(true);
      else setProblem({ code: "away" });
      return null;
    } finally {
      setProgress(null);
    }
  };
  return { run, stop: () => work.current?.abort(), running: progress !== null, progress, problem, stopped };
}

/** What stands on the page meanwhile, and what came of it when nothing did. */
export function LongWork({
  work: { progress, problem, stopped, stop },
}: {
  work: ReturnType<typeof useLongWork>;
}) {
  return (
    <>
      {progress && (
        <Box
          sx={{ display: "flex", gap: 1.5, alignItems: "center", flexBasis: "100%", my: 1, maxWidth: 620 }}
        >
          <Box sx={{ flex: 1 }}>
            <Row role="status" after={0.5} oneLine spread>
              <span>{progress.words}</span>
              {progress.share !== null && (
                <span>{say("percentOf", { percent: figure(progress.share * 100) })}</span>
              )}
            </Row>
            <LinearProgress
              aria-label={progress.words}
              {...(progress.share === null
                ? {}
                : { variant: "determinate" as const, value: progress.share * 100 })}
            />
          </Box>
          <Button variant="outlined" onClick={stop}>
            {say("stop")}
          </Button>
        </Box>
      )}
      {stopped && <Box role="status">{say("stoppedNothingWasKept")}</Box>}
      <Problem problem={problem} />
    </>
  );
}
