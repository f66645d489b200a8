"use client";

import Box from "@mui/material/Box";
import Button from "@mui/material/Button";

import { usePractice } from "./usePractice";
import { say } from "@/features/practice/words/words";

/** Always in view at the practice bench: what is done here does not count. */
export function PracticeBar() {
  const { go, running } = usePractice();
  return (
    <Box
      role="region"
      aria-label={say("practiceBench")}
      sx={{
        display: "flex",
        gap: 2,
        alignItems: "center",
        flexWrap: "wrap",
        px: 2.5,
        py: 0.8,
        bgcolor: "primary.main",
        color: "primary.contrastText",
        fontWeight: 700,
      }}
    >
      {say("practiceBenchNothingHereCounts")}
      <Button
        color="inherit"
        variant="outlined"
        size="small"
        disabled={running}
        onClick={() => void go({ do: "leave" })}
      >
        {say("leaveToScoreOrGoOn")}
      </Button>
    </Box>
  );
}
