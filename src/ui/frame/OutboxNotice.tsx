"use client";

import Alert from "@mui/material/Alert";
import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import { useRouter } from "next/navigation";
import { useEffect, useState } from "react";

import {
  beginOutbox,
  discard,
  isMine,
  isRunningHere,
  keep,
  type Maker,
  onOutboxChange,
  sendOne,
  type Waiting,
  waiting,
} from "@/browser/outbox";
import type { Role } from "@/contract/roles";
import { personName } from "@/text/names";
import { refusalText } from "@/text/deed/refusals";
import { say } from "@/words/frame";
import { Row } from "@/ui/kit/layout";

const RETRY_MS = 10_000;

/**
 * Recordings that this browser still holds: sent as soon as the server takes them, or saved as a file by
 * hand.
 */
export function OutboxNotice({ person, practice }: { person: Maker & { role: Role }; practice: boolean }) {
  const router = useRouter();
  const [items, setItems] = useState<Waiting[]>([]);
  const [signedOut, setSignedOut] = useState(false);
  const { id, name, role } = person;

  useEffect(() => {
    let gone = false;
    beginOutbox({ id, name }, practice);
    const look = async () => {
      const now = await waiting().catch(() => []);
      if (!gone) setItems(now);
      // a viewer measures nothing: what waits here is somebody's who will be back
      for (const item of role === "viewer" ? [] : now.filter((i) => i.state === "ready" && isMine(i))) {
        const sent = await sendOne(item.id);
        if (gone) return;
        if (sent.ok) router.refresh();
        else setSignedOut(sent.problem.code === "signed-out");
      }
    };
    const lookNow = () => void look();
    lookNow();
    const timer = setInterval(lookNow, RETRY_MS);
    const off = onOutboxChange(() => void waiting().then((now) => !gone && setItems(now)));
    window.addEventListener("online", lookNow);
    return () => {
      gone = true;
      clearInterval(timer);
      off();
      window.removeEventListener("online", lookNow);
    };
  }, [router, id, name, role, practice]);

  const sendNow = (item: Waiting) =>
    void keep({ ...item, state: "ready", problem: undefined })
      .then(() => sendOne(item.id))
      .then((sent) => sent.ok && router.refresh());
  const isOurs = (item: Waiting) => role !== "viewer" && isMine(item);

  const left = items.filter((item) => !isRunningHere(item));
  if (left.length === 0) return null;
  return (
    <Box sx={{ mb: 2, display: "grid", gap: 1 }}>
      {left.map((item) => (
        <Alert
          key={item.id}
          severity={item.state === "refused" && isOurs(item) ? "error" : "info"}
          action={
            <Row gap={1}>
              {isOurs(item) && (
                <Button color="inherit" size="small" onClick={() => sendNow(item)}>
                  {item.state === "unfinished" ? say("keepWhatWasMeasured") : say("sendItNow")}
                </Button>
              )}
              <Button color="inherit" size="small" onClick={() => void saveAsFile(item)}>
                {say("saveAsAFile")}
              </Button>
              {isOurs(item) && item.state !== "ready" && (
                <Button color="inherit" size="small" onClick={() => void discard(item.id)}>
                  {say("discard")}
                </Button>
              )}
              {signedOut && isOurs(item) && item.state === "ready" && (
                <Button color="inherit" size="small" href="/sign-in" target="_blank">
                  {say("signIn")}
                </Button>
              )}
            </Row>
          }
        >
          {noticeOf(item, isOurs(item), signedOut)}
        </Alert>
      ))}
    </Box>
  );
}

function noticeOf(item: Waiting, ours: boolean, signedOut: boolean): string {
  if (!ours) {
    const whose = item.by ? personName(item.by.name) : say("itsMaker");
    return say("tagARecordingOfWhosePractice", {
      tag: item.tag,
      whose,
      practice: item.practice ? say("sPractice") : "",
      practice2: item.practice ? say("andPractises") : "",
    });
  }
  switch (item.state) {
    case "unfinished":
      return say("tagATestWasLeftIn", { tag: item.tag });
    case "ready":
      return say("tagARecordingWaitsInThis", {
        tag: item.tag,
        signedOut: signedOut ? say("untilYouSignInAgain") : say("untilTheServerAnswers"),
      });
    case "refused":
      return say("tagTheRecordingWasRefusedAnd", {
        tag: item.tag,
        problem: item.problem ? refusalText(item.problem) : "",
      });
  }
}

/** The recording as the interchange format, to be imported elsewhere or kept. */
async function saveAsFile(item: Waiting): Promise<void> {
  const csv = await new Response(item.csvGz.stream().pipeThrough(new DecompressionStream("gzip"))).blob();
  const link = document.createElement("a");
  link.href = URL.createObjectURL(csv);
  link.download = `${item.tag}-${new Date(item.startedAt).toISOString().slice(0, 16).replaceAll(":", "")}.csv`;
  link.click();
  URL.revokeObjectURL(link.href);
}
