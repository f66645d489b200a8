"use client";

import Alert from "@mui/material/Alert";
import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Typography from "@mui/material/Typography";
import { useState } from "react";

import { askLong, sendFile } from "@/browser/long-work";
import type { ArchiveStep } from "@/contract/archive";
import { confirmPassword } from "@/ui/deed/confirm";
import { LongWork, useLongWork } from "@/ui/deed/LongWork";
import { say } from "@/features/people/words/words";
import { figure } from "@/text/format";
import { Row, Text } from "@/ui/kit/layout";

type Made = { key: string; bytes: number; units: number; people: number };

const PART_WORDS: Record<ArchiveStep["part"], string> = {
  write: say("writingIt"),
  read: say("readingItBack"),
  compare: say("comparingBoth"),
};

type ArchiveProps = { empty: boolean };

/** What Archive knows and does; the components below only show it. */
function useArchive({ empty }: ArchiveProps) {
  const [file, setFile] = useState<File | null>(null);
  const sending = useLongWork();
  const [done, setDone] = useState<{ units: number; people: number } | null>(null);
  const making = useLongWork();
  const [made, setMade] = useState<Made | null>(null);
  const make = async () => {
    const ask = () =>
      making.run(say("writingIt"), (signal, tell) =>
        askLong<ArchiveStep>("/api/archive/make", signal, ({ part, done, of }) =>
          tell({ words: PART_WORDS[part], share: done / of }),
        ),
      );
    let reply = await ask();
    if (reply && !reply.ok && reply.problem.code === "confirm-password" && (await confirmPassword()))
      reply = await ask();
    if (reply?.ok) setMade(reply.value as Made);
  };
  const send = async () => {
    if (!file) return;
    const reply = await sending.run(say("sendingIt"), (signal, tell) =>
      sendFile("/api/archive", file, {}, signal, (share) =>
        tell(share < 1 ? { words: say("sendingIt"), share } : { words: say("readingIn"), share: null }),
      ),
    );
    if (reply?.ok) setDone(reply.value as { units: number; people: number });
  };
  const body = () => {
    if (done)
      return (
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
      );
    if (empty)
      return (
        <>
          <Text around={1}>{say("thisWorkshopIsEmptyAnArchive")}</Text>
          <Row gap={1} at="center">
            <input
              type="file"
              accept=".zip,application/zip"
              aria-label={say("archiveFile")}
              onChange={(e) => setFile(e.target.files?.[0] ?? null)}
            />
            <Button variant="contained" disabled={!file || sending.running} onClick={() => void send()}>
              {say("readItIn")}
            </Button>
          </Row>
        </>
      );
    return <Text around={1}>{say("thereIsAWorkshopHereAlready")}</Text>;
  };
  return { sending, making, made, make, body };
}
type ArchiveState = ReturnType<typeof useArchive>;

/** The whole workshop as one file of open formats, and reading one into an empty workshop. */
export function Archive(props: ArchiveProps) {
  const s = useArchive(props);
  const { sending, body } = s;

  return (
    <Box sx={{ maxWidth: 760, display: "grid", gap: 2, gridTemplateColumns: "minmax(0,1fr)" }}>
      <Typography component="h1" variant="h1">
        {say("archive")}
      </Typography>
      <TakeOut {...s} />
      <section aria-label={say("readItIn")}>
        <Typography component="h2" variant="h2">
          {say("readOneIn")}
        </Typography>
        {body()}
        <LongWork work={sending} />
      </section>
    </Box>
  );
}

function TakeOut({ made, making, make }: ArchiveState) {
  return (
    <section aria-label={say("takeItOut")}>
      <Typography component="h2" variant="h2">
        {say("takeTheWholeWorkshopOut")}
      </Typography>
      <Text around={1}>{say("aZipOfCSVTablesWith")}</Text>
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
        <Button variant="contained" size="large" disabled={making.running} onClick={() => void make()}>
          {say("makeTheArchive")}
        </Button>
      )}
      <LongWork work={making} />
    </section>
  );
}
