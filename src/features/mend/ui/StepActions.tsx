import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import { useEffect, useState } from "react";

import { canSpeak } from "@/browser/speech";
import { say } from "@/features/mend/words/words";
import { Kbd } from "@/ui/kit/Kbd";
import { SIZE } from "@/ui/tokens";
import { keyName } from "./bindings";
import { GAP, type StepState } from "./useStep";

/** What a hand can do at a step, always in reach. */

export function StepActions({
  canWork,
  step,
  finish,
  doneWords,
  bound,
  look,
  at,
  line,
  takeBack,
  order,
  work,
  setAsking,
  photograph,
  picture,
  file,
  keep,
  aloud,
  pictureWords,
}: StepState) {
  return (
    <Box
      sx={{
        display: "flex",
        gap: 1.5,
        flexWrap: "wrap",
        alignItems: "center",
        position: { md: "sticky" },
        bottom: "var(--bench-edge, 56px)",
        zIndex: 4,
        py: 1,
        bgcolor: "background.default",
      }}
    >
      <Button
        variant="contained"
        size="large"
        disabled={!canWork || step.done || step.phase === "look"}
        onClick={() => void finish()}
        sx={{ fontSize: SIZE.title, minHeight: 64, px: 4 }}
      >
        {doneWords()}
        &nbsp;
        <Kbd>{keyName(bound.keys.done)}</Kbd>
      </Button>
      <Button size="large" sx={GAP} onClick={() => look(at - 1)} disabled={at === 0}>
        {say("back")} <Kbd>←</Kbd>
      </Button>
      <Button size="large" sx={GAP} onClick={() => look(at + 1)} disabled={at === line.length - 1}>
        {say("next")} <Kbd>→</Kbd>
      </Button>
      <MoreActions
        canWork={canWork}
        takeBack={takeBack}
        order={order}
        work={work}
        bound={bound}
        setAsking={setAsking}
        photograph={photograph}
        picture={picture}
        file={file}
        keep={keep}
      />
      <SpeakButton onSpeak={aloud} label={keyName(bound.keys.aloud)} />
      <span role="status">{pictureWords()}</span>
    </Box>
  );
}

function MoreActions({
  canWork,
  takeBack,
  order,
  work,
  bound,
  setAsking,
  photograph,
  picture,
  file,
  keep,
}: Pick<
  StepState,
  | "canWork"
  | "takeBack"
  | "order"
  | "work"
  | "bound"
  | "setAsking"
  | "photograph"
  | "picture"
  | "file"
  | "keep"
>) {
  return (
    canWork && (
      <>
        <Button
          size="large"
          sx={GAP}
          onClick={() => void takeBack()}
          disabled={order.begun === 0 && work.pending.length === 0}
        >
          {say("undo")} <Kbd>{keyName(bound.keys.undo)}</Kbd>
        </Button>
        <Button size="large" color="error" sx={GAP} onClick={() => setAsking(true)}>
          {say("problem")} <Kbd>{keyName(bound.keys.problem)}</Kbd>
        </Button>
        <Button size="large" sx={GAP} onClick={() => void photograph()} disabled={picture === "taking"}>
          {say("picture")} <Kbd>{keyName(bound.keys.picture)}</Kbd>
        </Button>
        <input
          ref={file}
          type="file"
          accept="image/*"
          capture="environment"
          hidden
          aria-label={say("aPictureOfThisStep")}
          onChange={(e) => e.target.files?.[0] && void keep(e.target.files[0])}
        />
      </>
    )
  );
}

function SpeakButton({ onSpeak, label }: { onSpeak: () => void; label: string }) {
  const [can, setCan] = useState(false);
  useEffect(() => {
    const timer = setTimeout(() => setCan(canSpeak()), 0);
    return () => clearTimeout(timer);
  }, []);
  if (!can) return null;
  return (
    <Button size="large" sx={GAP} onClick={onSpeak}>
      {say("readAloud2")} <Kbd>{label}</Kbd>
    </Button>
  );
}
