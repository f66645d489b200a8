"use client";

import Button from "@mui/material/Button";
import Dialog from "@mui/material/Dialog";
import DialogActions from "@mui/material/DialogActions";
import DialogContent from "@mui/material/DialogContent";
import DialogTitle from "@mui/material/DialogTitle";
import TextField from "@mui/material/TextField";
import Typography from "@mui/material/Typography";
import { useEffect, useRef, useState } from "react";

import type { Refusal, Reply } from "@/contract/refusals";
import { Form } from "@/ui/fields/Form";
import { setAsker } from "./confirm";
import { Problem } from "./Problem";
import { say } from "@/words/kit";

/** Asks for the person's own password before what cannot be taken back; it holds for five minutes. */
export function ConfirmPassword() {
  const [open, setOpen] = useState(false);
  const [password, setPassword] = useState("");
  const [problem, setProblem] = useState<Refusal | null>(null);
  const [sending, setSending] = useState(false);
  const settle = useRef<((done: boolean) => void) | null>(null);
  useEffect(() => {
    setAsker(() => {
      settle.current?.(false);
      setPassword("");
      setProblem(null);
      setOpen(true);
      return new Promise((resolve) => (settle.current = resolve));
    });
    return () => setAsker(null);
  }, []);
  const end = (done: boolean) => {
    setOpen(false);
    settle.current?.(done);
    settle.current = null;
  };
  const send = async () => {
    setSending(true);
    setProblem(null);
    const reply = await fetch("/api/confirm", {
      method: "POST",
      headers: { "Content-Type": "application/json" },
      body: JSON.stringify({ password }),
    })
      .then((r) => r.json() as Promise<Reply>)
      .catch((): Reply => ({ ok: false, problem: { code: "away" } }));
    setSending(false);
    if (reply.ok) end(true);
    else setProblem(reply.problem);
  };
  return (
    <Dialog open={open} onClose={() => end(false)} aria-labelledby="confirm-password">
      <Form onSend={send}>
        <DialogTitle id="confirm-password">{say("yourPasswordOnceMore")}</DialogTitle>
        <DialogContent sx={{ display: "grid", gap: 1.5, maxWidth: 420 }}>
          <Typography>{say("thisOpensTheWorkshopToSomebody")}</Typography>
          <TextField
            label={say("yourPassword")}
            type="password"
            autoComplete="current-password"
            autoFocus
            required
            value={password}
            onChange={(e) => setPassword(e.target.value)}
          />
          <Problem problem={problem} />
        </DialogContent>
        <DialogActions>
          <Button onClick={() => end(false)}>{say("cancel")}</Button>
          <Button type="submit" variant="contained" disabled={sending || password === ""}>
            {say("goOn")}
          </Button>
        </DialogActions>
      </Form>
    </Dialog>
  );
}
