"use client";

import Alert from "@mui/material/Alert";
import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import { useRouter } from "next/navigation";
import { useEffect, useState } from "react";

import { discard, keep, onOutboxChange, sendOne, type Waiting, waiting } from "@/browser/outbox";
import { refusalText } from "@/text/refusals";

const RETRY_MS = 10_000;

/** Recordings that this browser still holds: sent as soon as the server takes them. */
export function OutboxNotice() {
  const router = useRouter();
  const [items, setItems] = useState<Waiting[]>([]);
  const [signedOut, setSignedOut] = useState(false);

  useEffect(() => {
    let gone = false;
    const look = async () => {
      const now = await waiting().catch(() => []);
      if (!gone) setItems(now);
      for (const item of now.filter((i) => i.state === "ready")) {
        const sent = await sendOne(item.id);
        if (gone) return;
        if (sent.ok) router.refresh();
        else setSignedOut(sent.problem.code === "signed-out");
      }
    };
    void look();
    const timer = setInterval(look, RETRY_MS);
    const off = onOutboxChange(() => void waiting().then((now) => !gone && setItems(now)));
    window.addEventListener("online", look);
    return () => {
      gone = true;
      clearInterval(timer);
      off();
      window.removeEventListener("online", look);
    };
  }, [router]);

  if (items.length === 0) return null;
  return (
    <Box sx={{ mb: 2, display: "grid", gap: 1 }}>
      {items.map((item) => (
        <Alert
          key={item.id}
          severity={item.state === "refused" ? "error" : "info"}
          action={
            <Box sx={{ display: "flex", gap: 1 }}>
              {item.state === "unfinished" && (
                <Button
                  color="inherit"
                  size="small"
                  onClick={() =>
                    void keep({ ...item, state: "ready" })
                      .then(() => sendOne(item.id))
                      .then(() => router.refresh())
                  }
                >
                  Keep what was measured
                </Button>
              )}
              {item.state !== "ready" && (
                <Button color="inherit" size="small" onClick={() => void discard(item.id)}>
                  Discard
                </Button>
              )}
              {signedOut && item.state === "ready" && (
                <Button color="inherit" size="small" href="/sign-in" target="_blank">
                  Sign in
                </Button>
              )}
            </Box>
          }
        >
          {item.state === "unfinished" &&
            `${item.tag}: a test was left in the middle. What was measured until then is kept in this browser.`}
          {item.state === "ready" &&
            `${item.tag}: a recording waits in this browser${signedOut ? " until you sign in again" : " until the server answers"}. It is sent by itself, once.`}
          {item.state === "refused" && `${item.tag}: the recording was refused. ${item.problem ? refusalText(item.problem) : ""}`}
        </Alert>
      ))}
    </Box>
  );
}
