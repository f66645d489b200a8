"use client";

import Alert from "@mui/material/Alert";
import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Typography from "@mui/material/Typography";
import { useState } from "react";

import type { Refusal, Reply } from "@/contract/deeds";
import { confirmPassword } from "@/ui/deed/confirm";
import { Problem } from "@/ui/deed/Problem";

type Made = { key: string; bytes: number; units: number; people: number };

/** The whole workshop as one file of open formats, and reading one into an empty workshop. */
export function Archive({ empty }: { empty: boolean }) {
  const [file, setFile] = useState<File | null>(null);
  const [running, setRunning] = useState(false);
  const [problem, setProblem] = useState<Refusal | null>(null);
  const [done, setDone] = useState<{ units: number; people: number } | null>(null);
  const [making, setMaking] = useState(false);
  const [made, setMade] = useState<Made | null>(null);
  const [notMade, setNotMade] = useState<Refusal | null>(null);
  const make = async () => {
    setNotMade(null);
    const ask = async () => {
      setMaking(true);
      const reply = await fetch("/api/archive/make", { method: "POST" })
        .then((r) => r.json() as Promise<Reply>)
        .catch((): Reply => ({ ok: false, problem: { code: "away" } }));
      setMaking(false);
      return reply;
    };
    let reply = await ask();
    if (!reply.ok && reply.problem.code === "confirm-password" && (await confirmPassword())) reply = await ask();
    if (reply.ok) setMade(reply.value as Made);
    else setNotMade(reply.problem);
  };
  const send = async () => {
    if (!file) return;
    setRunning(true);
    setProblem(null);
    const reply = await fetch("/api/archive", { method: "POST", body: file })
      .then((r) => r.json() as Promise<Reply>)
      .catch((): Reply => ({ ok: false, problem: { code: "away" } }));
    setRunning(false);
    if (reply.ok) setDone(reply.value as { units: number; people: number });
    else setProblem(reply.problem);
  };
  return (
    <Box sx={{ maxWidth: 760, display: "grid", gap: 2, gridTemplateColumns: "minmax(0,1fr)" }}>
      <Typography component="h1" variant="h1">
        Archive
      </Typography>
      <section aria-label="Take it out">
        <Typography component="h2" variant="h2">
          Take the whole workshop out
        </Typography>
        <Typography sx={{ my: 1 }}>
          A zip of CSV tables with their description (Frictionless data package), recordings and photographs. It names customers:
          keep it safe. Passwords, sessions, addresses of questions and calendars, and the signing key are not in it; public keys
          are, so that old certificates still verify.
        </Typography>
        {made ? (
          <Alert
            severity="success"
            action={
              <Button color="inherit" component="a" href={`/api/archive?key=${made.key}`}>
                Download the archive
              </Button>
            }
          >
            Written, read back and found the same: {made.units} units, {made.people} people,{" "}
            {(made.bytes / 1024 / 1024).toFixed(1)} MB. It waits here for an hour.
          </Alert>
        ) : (
          <Button variant="contained" size="large" disabled={making} onClick={() => void make()}>
            {making ? "Writing it and reading it back …" : "Make the archive"}
          </Button>
        )}
        <Problem problem={notMade} />
      </section>
      <section aria-label="Read it in">
        <Typography component="h2" variant="h2">
          Read one in
        </Typography>
        {done ? (
          <Alert
            severity="success"
            action={
              <Button color="inherit" href="/">
                Go to the bench
              </Button>
            }
          >
            {done.units} units and {done.people} people are here. Who had no password here before gets one from a lead under
            People.
          </Alert>
        ) : empty ? (
          <>
            <Typography sx={{ my: 1 }}>
              This workshop is empty. An archive fills it: all of it, or nothing when anything in it is wrong. Your own password
              stays.
            </Typography>
            <Box sx={{ display: "flex", gap: 1, alignItems: "center", flexWrap: "wrap" }}>
              <input
                type="file"
                accept=".zip,application/zip"
                aria-label="Archive file"
                onChange={(e) => setFile(e.target.files?.[0] ?? null)}
              />
              <Button variant="contained" disabled={!file || running} onClick={() => void send()}>
                {running ? "Reading in …" : "Read it in"}
              </Button>
            </Box>
          </>
        ) : (
          <Typography sx={{ my: 1 }}>
            There is a workshop here already. An archive is read into an empty one only: start Birdcage with a new database, sign
            in as lead, and come back to this page.
          </Typography>
        )}
        <Problem problem={problem} />
      </section>
    </Box>
  );
}
