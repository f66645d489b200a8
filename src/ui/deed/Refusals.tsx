"use client";

import { deedWords } from "@/text/deed/deeds";
import { refusalText } from "@/text/deed/refusals";
import { Problem } from "./Problem";
import type { Refused } from "./useDeed";
import { say } from "@/words/kit";
import { Notice } from "@/ui/kit/layout";

/** What was refused of many quick acts, each by its name; a single one in the usual form. */
export function Refusals({ refusals }: { refusals: readonly Refused[] }) {
  if (refusals.length === 0) return null;
  const [only] = refusals;
  if (refusals.length === 1 && only!.problem.code === "changed-meanwhile")
    return <Problem problem={only!.problem} />;
  return (
    <Notice severity="error" role="alert" around={1}>
      {refusals.map((r, i) => (
        <div key={i}>
          {say("notSavedDeedProblem", { deed: deedWords(r.deed, r.input), problem: refusalText(r.problem) })}
        </div>
      ))}
    </Notice>
  );
}
