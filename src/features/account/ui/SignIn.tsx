"use client";

import Alert from "@mui/material/Alert";
import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import TextField from "@mui/material/TextField";
import Typography from "@mui/material/Typography";
import { type FormEvent, useEffect, useState } from "react";

import { startWorker } from "@/browser/reach";
import type { Refusal } from "@/contract/refusals";
import { refusalText } from "@/text/deed/refusals";
import { say } from "@/features/people/words/words";
import { SIZE } from "@/ui/tokens";
import { Text } from "@/ui/kit/layout";

const WHY: Record<string, string> = {
  wrong: say("nameOrPasswordIsNotRight"),
  "too-many": say("tooManyTriesWait15Minutes"),
  away: say("theWorkshopIsOutOfReach"),
};

export function SignIn({ shop, next }: { shop: string; next: string }) {
  const [why, setWhy] = useState<string | null>(null);
  const [running, setRunning] = useState(false);
  useEffect(startWorker, []);

  async function submit(e: FormEvent<HTMLFormElement>) {
    e.preventDefault();
    if (running) return;
    setRunning(true);
    setWhy(null);
    const form = new FormData(e.currentTarget);
    try {
      const response = await fetch("/api/sign-in", {
        method: "POST",
        headers: { "Content-Type": "application/json" },
        body: JSON.stringify({ name: form.get("name"), password: form.get("password") }),
      });
      if (response.ok) {
        window.location.assign(next);
        return;
      }
      const reply = (await response.json()) as { why?: string; problem?: Refusal };
      setWhy(reply.problem ? refusalText(reply.problem) : WHY[reply.why ?? "wrong"]!);
    } catch {
      setWhy(WHY.away!);
    }
    setRunning(false);
  }

  return (
    <Box component="main" sx={{ minHeight: "100vh", display: "grid", placeItems: "center", p: 2 }}>
      <Box component="form" onSubmit={submit} sx={{ width: "min(400px, 100%)", display: "grid", gap: 2 }}>
        <Text color="text.secondary">{shop}</Text>
        <Typography component="h1" sx={{ fontSize: SIZE.big, fontWeight: 800, lineHeight: 1, mb: 1 }}>
          {say("birdcage")}
        </Typography>
        <TextField name="name" label={say("name")} autoComplete="username" autoFocus required size="medium" />
        <TextField
          name="password"
          label={say("password")}
          type="password"
          autoComplete="current-password"
          required
          size="medium"
        />
        {why && (
          <Alert severity="error" role="alert">
            {why}
          </Alert>
        )}
        <Button type="submit" variant="contained" size="large" disabled={running}>
          {say("signIn")}
        </Button>
      </Box>
    </Box>
  );
}
