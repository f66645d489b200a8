"use client";

import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Typography from "@mui/material/Typography";
import { useState } from "react";
import { say } from "@/features/release/words/words";
import { Block } from "@/ui/kit/layout";

/** A text for a listing, made from the facts; to copy. */
export function Listing({ text }: { text: string }) {
  const [copied, setCopied] = useState(false);
  const copy = async () => {
    await navigator.clipboard.writeText(text).catch(() => null);
    setCopied(true);
  };
  return (
    <Block component="details" around={2}>
      <Box component="summary" sx={{ cursor: "pointer", fontWeight: 600 }}>
        {say("textForAListing")}
      </Box>
      <Typography
        component="pre"
        aria-label={say("textForAListing")}
        tabIndex={0}
        sx={{
          whiteSpace: "pre-wrap",
          fontFamily: "inherit",
          bgcolor: "background.paper",
          border: 1,
          borderColor: "divider",
          p: 1.5,
          my: 1,
        }}
      >
        {text}
      </Typography>
      <Button variant="outlined" onClick={() => void copy()}>
        {copied ? say("copied") : say("copyIt")}
      </Button>
    </Block>
  );
}
