"use client";

import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Typography from "@mui/material/Typography";
import { useState } from "react";

import { decider } from "@/browser/decide";
import type { CaseRead } from "@/browser/decide-worker";
import type { Settings } from "@/contract/deeds";
import { say } from "@/features/casefile/words/words";
import { Ladder } from "@/features/decide/ui/Ladder";
import { NextAct } from "@/features/decide/ui/NextAct";
import { foundWords } from "@/text/findings";
import { figure } from "@/text/format";
import { allOf } from "@/text/lists";
import { Block, Notice, Row, Words } from "@/ui/kit/layout";

type Opened = Extract<CaseRead, { ok: true }>["value"];

const SHOWN_CAUSES = 6;
const LEAST_SHOWN = 0.02;

/** What the page knows of a case from a file; it is read and weighed here and sent nowhere. */
function useCaseFile() {
  const [opened, setOpened] = useState<Opened | null>(null);
  const [refused, setRefused] = useState<string | null>(null);
  const [reading, setReading] = useState(false);
  const take = async (chosen: File | undefined, input: HTMLInputElement) => {
    if (!chosen) return;
    setReading(true);
    setRefused(null);
    setOpened(null);
    try {
      const read = await decider().readCase(await chosen.text());
      if (read.ok) setOpened(read.value);
      else setRefused(foundWords(read.problem));
    } catch {
      setRefused(say("couldNotBeWeighed"));
    }
    setReading(false);
    input.value = ""; // the same file can be chosen again once it was mended
  };
  return { opened, refused, reading, take };
}

/** A case from a file: the same advice as at a unit of our own, and nothing of it is kept. */
export function OpenCase({ shop }: { shop: Settings }) {
  const { opened, refused, reading, take } = useCaseFile();
  return (
    <section aria-label={say("caseFromFile")}>
      <Typography component="h2" variant="h2">
        {say("caseFromFile")}
      </Typography>
      <Words quiet>{say("caseFromFileHelp")}</Words>
      <Block before={1} after={1}>
        <Button component="label" variant="outlined" disabled={reading}>
          {say("openCase")}
          <input
            type="file"
            accept=".json,application/json"
            hidden
            aria-label={say("openCase")}
            onChange={(e) => void take(e.target.files?.[0], e.target)}
          />
        </Button>
      </Block>
      {reading && <Words role="status">{say("beingWeighed")}</Words>}
      {refused !== null && (
        <Notice severity="error" role="alert">
          {say("notOpened", { why: refused })}
        </Notice>
      )}
      {opened && <Weighed opened={opened} shop={shop} />}
    </section>
  );
}

function Weighed({ opened, shop }: { opened: Opened; shop: Settings }) {
  const { advice, file, names } = opened;
  const nameOf = (id: string) => names[id] ?? id;
  const causes = file.causes.filter((c) => c.probability >= LEAST_SHOWN).slice(0, SHOWN_CAUSES);
  return (
    <Box data-testid="opened-case">
      <Words>
        {say("openedCase", { model: opened.model, facts: opened.facts, blocks: file.blocks.length })}
      </Words>
      <NextAct got={{ advice, at: null, fresh: true, failed: false }} shop={shop} />
      <Row gap={4} at="start">
        <Box sx={{ flex: 1, minWidth: 260 }}>
          <Typography component="h3" variant="h3">
            {say("whatMayBeBehind")}
          </Typography>
          <Box component="ul" aria-label={say("whatMayBeBehind")} sx={{ m: 0, pl: 2.5 }}>
            {causes.map((c) => (
              <li key={c.parts.join()}>
                <b>{figure(c.probability * 100, 0)} %</b>{" "}
                {c.parts.length > 0 ? allOf(c.parts.map(nameOf)) : say("elsewhere")}
              </li>
            ))}
          </Box>
        </Box>
        <Box sx={{ flex: 1, minWidth: 260 }}>
          <Typography component="h3" variant="h3">
            {say("inOrder")}
          </Typography>
          <Ladder advice={advice} tree={advice.tree} shop={shop} label={say("inOrder")} />
        </Box>
      </Row>
    </Box>
  );
}
