"use client";

import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Typography from "@mui/material/Typography";
import { useEffect, useState } from "react";
import { say } from "@/words/frame";
import { Text } from "@/ui/kit/layout";

/** A page that failed says what to do, inside the frame, so that the rest of the bench stays in reach. */
export default function PageError({
  error,
  reset,
}: {
  error: Error & { digest?: string };
  reset: () => void;
}) {
  // a page that failed because the workshop went away comes back by itself
  const [away, setAway] = useState(false);
  useEffect(() => {
    let gone = false;
    const look = async () => {
      const ok = await fetch("/health", { cache: "no-store" })
        .then((r) => r.ok)
        .catch(() => false);
      if (gone) return;
      if (!ok) setAway(true);
      else if (away) reset();
    };
    void look();
    const timer = setInterval(() => void look(), 2000);
    return () => {
      gone = true;
      clearInterval(timer);
    };
  }, [away, reset]);
  if (away)
    return (
      <Box role="status" sx={{ maxWidth: 560, py: 6 }}>
        <Text component="h1" variant="h1" after={1}>
          {say("theWorkshopIsOutOfReach")}
        </Text>
        <Typography>{say("nothingThatWasSavedIsLost")}</Typography>
      </Box>
    );
  return (
    <Box role="alert" sx={{ maxWidth: 560, py: 6 }}>
      <Text component="h1" variant="h1" after={1}>
        {say("thisPageCouldNotBeShown")}
      </Text>
      <Text after={2}>
        {say("nothingThatWasSavedIsLost2", {
          digest: error.digest ? say("theNumberDigestWhichIsIn", { digest: error.digest }) : "",
        })}
      </Text>
      <Button variant="contained" onClick={reset}>
        {say("tryAgain")}
      </Button>
    </Box>
  );
}
