"use client";

import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Link from "next/link";
import { useEffect, useState } from "react";

import { askToNotify, mayNotify } from "@/browser/call-out";
import type { WaitView } from "@/features/waits/deeds";
import { useDeed } from "@/ui/deed/useDeed";
import { FIGURES } from "@/ui/figures";
import { clockText, isOver } from "./waits";
import { say } from "@/words/frame";
import { SIZE } from "@/ui/tokens";

/**
 * What soaks, dries, cures and charges, with its time left; what is over stands first and calls until
 * somebody has seen it.
 */
export function WaitsBar({
  waits,
  now,
  canWork,
}: {
  waits: WaitView[];
  now: number | null;
  canWork: boolean;
}) {
  const sorted = [...waits].sort((a, b) => Date.parse(a.endsAt) - Date.parse(b.endsAt));
  return (
    <Box
      role="region"
      aria-label={say("waits")}
      sx={{
        display: "flex",
        overflowX: "auto",
        gap: 1,
        px: { xs: 1, md: 2.5 },
        py: 0.6,
        bgcolor: "bench.paper",
        borderTop: 1,
        borderColor: "bench.line",
        alignItems: "center",
      }}
    >
      {sorted.map((w) => (
        <Wait key={w.id} wait={w} now={now} canWork={canWork} />
      ))}
      <Notify />
    </Box>
  );
}

function Wait({ wait, now, canWork }: { wait: WaitView; now: number | null; canWork: boolean }) {
  const seen = useDeed("wait.seen");
  const over = isOver(wait, now);
  return (
    <Box
      sx={{
        display: "flex",
        alignItems: "center",
        gap: 1,
        px: 1,
        minHeight: 40,
        whiteSpace: "nowrap",
        border: 2,
        borderColor: over ? "caution.main" : "transparent",
        borderRadius: 1,
        bgcolor: over ? "background.paper" : "transparent",
      }}
    >
      <Box
        component="span"
        sx={{
          fontFamily: FIGURES,
          fontWeight: 700,
          fontSize: SIZE.title,
          color: over ? "caution.main" : "text.primary",
        }}
        suppressHydrationWarning
      >
        {over ? say("over") : clockText(wait, now)}
      </Box>
      <span>
        {wait.what}
        {wait.tag && (
          <>
            , <Link href={`/units/${wait.tag}/mend`}>{wait.tag}</Link>
          </>
        )}
      </span>
      {over && canWork && (
        <Button
          size="small"
          variant="contained"
          disabled={seen.running}
          onClick={() => void seen.run({ waitId: wait.id, outcome: "" })}
        >
          {say("seen")}
        </Button>
      )}
    </Box>
  );
}

function Notify() {
  const [state, setState] = useState("unknown");
  useEffect(() => {
    const timer = setTimeout(() => setState(mayNotify()), 0);
    return () => clearTimeout(timer);
  }, []);
  if (state !== "default") return null;
  return (
    <Button
      size="small"
      color="inherit"
      onClick={() => {
        setState("asked");
        void askToNotify();
      }}
    >
      {say("notifyMeAsWell")}
    </Button>
  );
}
