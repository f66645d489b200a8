"use client";

import Alert from "@mui/material/Alert";
import Button from "@mui/material/Button";
import { useRouter } from "next/navigation";

import type { Refusal } from "@/contract/refusals";
import { refusalText } from "@/text/deed/refusals";
import { say } from "@/words/kit";

/** Why a change was refused, in words that say what to do. */
export function Problem({ problem }: { problem: Refusal | null }) {
  const router = useRouter();
  if (!problem) return null;
  return (
    <Alert
      severity="error"
      role="alert"
      sx={{ my: 1 }}
      action={
        problem.code === "changed-meanwhile" ? (
          <Button color="inherit" size="small" onClick={() => router.refresh()}>
            {say("showTheNewState")}
          </Button>
        ) : problem.code === "signed-out" ? (
          <Button color="inherit" size="small" href="/sign-in" target="_blank">
            {say("signIn")}
          </Button>
        ) : undefined
      }
    >
      {refusalText(problem)}
    </Alert>
  );
}
