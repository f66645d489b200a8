"use client";

import Button from "@mui/material/Button";

import { functionsOf, type ModelProfile } from "@/core/profile/profile";
import { say } from "@/features/test/words/words";
import { refusalText } from "@/text/deed/refusals";
import { Notice, Row } from "@/ui/kit/layout";

/** Whether an answer calls a radio dead, which is asked about first: a bond to a former host looks the same. */
export const callsRadioDead = (profile: ModelProfile, functionId: string | null, result: string): boolean =>
  result === "fail" && functionsOf(profile, null).some((f) => f.id === functionId && f.kind === "radio");

/** How this model's bond is cleared, before its radio is called dead; Enter alone says that it was not. */
export const BondFirst = ({
  profile,
  onCleared,
  onNotYet,
}: {
  profile: ModelProfile;
  onCleared: () => void;
  onNotYet: () => void;
}) => (
  <Notice severity="warning" role="alert" around={1}>
    {refusalText({ code: "clear-the-bond", steps: profile.prepare?.bond ?? null })}
    <Row gap={1} before={1}>
      <Button variant="outlined" color="inherit" autoFocus onClick={onNotYet}>
        {say("notYet")}
      </Button>
      <Button variant="contained" onClick={onCleared}>
        {say("clearedAndStillFails")}
      </Button>
    </Row>
  </Notice>
);
