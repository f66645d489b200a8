"use client";

import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Typography from "@mui/material/Typography";

/** A page that failed says what to do, inside the frame, so that the rest of the bench stays in reach. */
export default function PageError({ error, reset }: { error: Error & { digest?: string }; reset: () => void }) {
  return (
    <Box role="alert" sx={{ maxWidth: 560, py: 6 }}>
      <Typography component="h1" variant="h1" sx={{ mb: 1 }}>
        This page could not be shown
      </Typography>
      <Typography sx={{ mb: 2 }}>
        Nothing that was saved is lost. Try again; if it stays so, tell the lead
        {error.digest ? ` the number ${error.digest}, which is in the log` : ""}.
      </Typography>
      <Button variant="contained" onClick={reset}>
        Try again
      </Button>
    </Box>
  );
}
