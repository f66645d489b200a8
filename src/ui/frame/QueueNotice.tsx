"use client";

import Alert from "@mui/material/Alert";
import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import { useRouter } from "next/navigation";
import { useEffect, useRef, useTransition } from "react";

import { deedQueue, type QueuedDeed } from "@/browser/deed-queue";
import { deedWords } from "@/text/deed/deeds";
import { refusalText } from "@/text/deed/refusals";
import { personName } from "@/text/names";
import { useQueue } from "@/ui/deed/useDeed";
import { say } from "@/words/frame";
import { allOf } from "@/text/lists";

const LOOK_AGAIN_MS = 4000;
const REFRESH_LEAST_MS = 1200;

/**
 * Shows the page's new state once what waited is done: when nothing waits any more, and now and then on the
 * way. `drawn` is new with every drawing by the server: where it stayed, another step of the router swallowed
 * the refresh, and it is asked for again.
 */
function useNewState(deeds: readonly QueuedDeed[], drawn: string): void {
  const router = useRouter();
  const [running, start] = useTransition();
  const shown = useRef<string[]>([]);
  const before = useRef(drawn);
  const last = useRef(0);
  const done = deeds.filter((d) => d.state === "done").map((d) => d.id);
  const waits = deeds.some((d) => d.state === "waiting");
  const key = done.join();
  useEffect(() => {
    if (running) return;
    if (shown.current.length > 0 && drawn !== before.current) {
      const were = shown.current;
      shown.current = [];
      deedQueue.shown(were); // comes back here with what was done meanwhile
      return;
    }
    if (key === "") return;
    const begin = () => {
      last.current = Date.now();
      before.current = drawn;
      shown.current = key.split(",");
      start(() => router.refresh());
    };
    const wait = waits || shown.current.length > 0 ? last.current + REFRESH_LEAST_MS - Date.now() : 0;
    if (wait <= 0) return begin();
    const timer = setTimeout(begin, wait);
    return () => clearTimeout(timer);
  }, [running, key, waits, drawn, router]);
}

/** What waits in this browser and why, and what was refused after its page had gone. */
export function QueueNotice({
  person,
  practice,
  drawn,
}: {
  person: { id: string; name: string };
  practice: boolean;
  drawn: string;
}) {
  const { deeds, held } = useQueue();
  const { id, name } = person;
  useEffect(() => deedQueue.begin({ id, name }, practice), [id, name, practice]);
  useEffect(() => {
    if (held !== "signed-out") return;
    const timer = setInterval(() => deedQueue.wake(), LOOK_AGAIN_MS);
    return () => clearInterval(timer);
  }, [held]);
  useNewState(deeds, drawn);

  const mine = deeds.filter((d) => d.by.id === id && d.practice === practice);
  const waiting = mine.filter((d) => d.state === "waiting");
  const refused = mine.filter((d) => d.state === "refused");
  const others = deeds.filter((d) => d.state === "waiting" && d.by.id !== id);
  const names = [...new Set(others.map((d) => personName(d.by.name)))];
  return (
    <Box sx={{ display: "grid", gap: 1, "& > *": { mb: 0 }, "&:not(:empty)": { mb: 2 } }}>
      {refused.map((d) => (
        <Alert
          key={d.id}
          severity="error"
          role="alert"
          action={
            <Button color="inherit" size="small" onClick={() => deedQueue.discard(d.id)}>
              {say("dismiss")}
            </Button>
          }
        >
          {say("notSavedDeedProblem", { deed: deedWords(d.deed, d.input), problem: refusalText(d.problem!) })}
        </Alert>
      ))}
      {held !== null && waiting.length > 0 && (
        <Alert
          severity="warning"
          role="status"
          action={
            held === "signed-out" ? (
              <Button color="inherit" size="small" href="/sign-in" target="_blank">
                {say("signIn")}
              </Button>
            ) : undefined
          }
        >
          {say("waitingInThisBrowserHeld", {
            waiting: say("waitingChangesWait", { waiting: waiting.length }),
            held: held === "away" ? say("theWorkshopIsOutOfReach3") : say("signInAgainAsYourselfAnd"),
          })}
        </Alert>
      )}
      {others.length > 0 && (
        <Alert severity="info" role="status">
          {say("othersOfNamesWaitInThis", {
            others: say("othersChanges", { others: others.length }),
            names: allOf(names),
            names2: names.length,
          })}
        </Alert>
      )}
    </Box>
  );
}

/** How many answers are on their way just now; small, and where it moves nothing. */
export function Saving() {
  const { deeds } = useQueue();
  const waiting = deeds.filter((d) => d.state === "waiting").length;
  return (
    <Box
      component="span"
      role="status"
      aria-label={say("saving")}
      sx={{
        position: "fixed",
        right: 16,
        bottom: "calc(var(--bench-edge, 56px) + 8px)",
        zIndex: 6,
        pointerEvents: "none",
        "&:not(:empty)": {
          px: 1.2,
          py: 0.4,
          borderRadius: 1,
          bgcolor: "primary.main",
          color: "primary.contrastText",
          fontWeight: 700,
        },
      }}
    >
      {waiting > 1 ? say("savingWaiting", { waiting }) : ""}
    </Box>
  );
}
