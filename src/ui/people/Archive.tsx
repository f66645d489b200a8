"use client";

import Alert from "@mui/material/Alert";
import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Typography from "@mui/material/Typography";
import { useState } from "react";

import type { Refusal, Reply } from "@/contract/deeds";
import { confirmPassword } from "@/ui/deed/confirm";
import { Problem } from "@/ui/deed/Problem";
import { say } from "@/words/people";
import { figure } from "@/text/format";

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
        {say("archive")}
      </Typography>
      <section aria-label={say("takeItOut")}>
        <Typography component="h2" variant="h2">
          {say("takeTheWholeWorkshopOut")}
        </Typography>
        <Typography sx={{ my: 1 }}>{say("aZipOfCSVTablesWith")}</Typography>
        {made ? (
          <Alert
            severity="success"
            action={
              <Button color="inherit" component="a" href={`/api/archive?key=${made.key}`}>
                {say("downloadTheArchive")}
              </Button>
            }
          >
            {say("writtenReadBackAndFoundThe", {
              units: made.units,
              people: made.people,
              bytes: figure(made.bytes / 1024 / 1024, 1),
            })}
          </Alert>
        ) : (
          <Button variant="contained" size="large" disabled={making} onClick={() => void make()}>
            {making ? say("writingItAndReadingItBack") : say("makeTheArchive")}
          </Button>
        )}
        <Problem problem={notMade} />
      </section>
      <section aria-label={say("readItIn")}>
        <Typography component="h2" variant="h2">
          {say("readOneIn")}
        </Typography>
        {done ? (
          <Alert
            severity="success"
            action={
              <Button color="inherit" href="/">
                {say("goToTheBench")}
              </Button>
            }
          >
            {say("unitsUnitsAndPeoplePeopleAre", { units: done.units, people: done.people })}
          </Alert>
        ) : empty ? (
          <>
            <Typography sx={{ my: 1 }}>{say("thisWorkshopIsEmptyAnArchive")}</Typography>
            <Box sx={{ display: "flex", gap: 1, alignItems: "center", flexWrap: "wrap" }}>
              <input
                type="file"
                accept=".zip,application/zip"
                aria-label={say("archiveFile")}
                onChange={(e) => setFile(e.target.files?.[0] ?? null)}
              />
              <Button variant="contained" disabled={!file || running} onClick={() => void send()}>
                {running ? say("readingIn") : say("readItIn")}
              </Button>
            </Box>
          </>
        ) : (
          <Typography sx={{ my: 1 }}>{say("thereIsAWorkshopHereAlready")}</Typography>
        )}
        <Problem problem={problem} />
      </section>
    </Box>
  );
}
