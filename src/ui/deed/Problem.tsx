"use client";

import Button from "@mui/material/Button";
import { useRouter } from "next/navigation";

import type { Refusal } from "@/contract/refusals";
import { refusalText } from "@/text/deed/refusals";
import { say } from "@/words/kit";
import { Notice } from "@/ui/kit/layout";

/** Why a change was refused, in words that say what to do. */
export function Problem({ problem }: { problem: Refusal | null }) {
  const router = useRouter();
  if (!problem) return null;
  const actionOf = () => {
    if (problem.code === "changed-meanwhile")
      return (
        <Button color="inherit" size="small" onClick={() => router.refresh()}>
          {say("showTheNewState")}
        </Button>
      );
    if (problem.code === "signed-out")
      return (
        <Button color="inherit" size="small" href="/sign-in" target="_blank">
          {say("signIn")}
        </Button>
      );
    return undefined;
  };
  return (
    <Notice severity="error" role="alert" around={1} action={actionOf()}>
      {refusalText(problem)}
    </Notice>
  );
}
