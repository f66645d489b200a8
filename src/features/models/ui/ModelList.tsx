"use client";

import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Typography from "@mui/material/Typography";
import Link from "next/link";
import { useState } from "react";

import { type ModelProfile, profileSchema } from "@/core/profile/profile";
import { Problem } from "@/ui/deed/Problem";
import { useDeed } from "@/ui/deed/useDeed";
import { PlanView } from "@/ui/plan/PlanView";
import { say } from "@/features/models/words/words";
import { placesOf } from "@/core/base/finding";
import { foundWords } from "@/text/findings";
import { Notice, Row, Words } from "@/ui/kit/layout";

type ModelListProps = {
  models: { key: string; version: number; body: ModelProfile }[];
  canWork: boolean;
};

/** What ModelList knows and does; the components below only show it. */
function useModelList({ models, canWork }: ModelListProps) {
  const add = useDeed("profile.import");
  const [said, setSaid] = useState<{ ok: boolean; words: string[] } | null>(null);

  async function take(file: File | undefined, field: HTMLInputElement) {
    setSaid(null);
    if (!file) return;
    let json: unknown;
    try {
      json = JSON.parse(await file.text());
    } catch (error) {
      setSaid({
        ok: false,
        words: [say("fileIsNotJSONError", { file: file.name, error: (error as Error).message })],
      });
      field.value = "";
      return;
    }
    field.value = "";
    const parsed = profileSchema.safeParse(json);
    if (!parsed.success) {
      setSaid({
        ok: false,
        words: placesOf(parsed.error, 8).map(foundWords),
      });
      return;
    }
    const done = await add.run({ profile: parsed.data });
    if (done?.ok)
      setSaid({
        ok: true,
        words: [
          say("parsedIsImportedAsVersionVersion", { parsed: parsed.data.name, version: done.value.version }),
        ],
      });
  }
  return { models, canWork, add, said, take };
}
type ModelListState = ReturnType<typeof useModelList>;

/** The models that the shop knows. */
export function ModelList(props: ModelListProps) {
  const s = useModelList(props);
  const { models, add, said } = s;

  return (
    <>
      <Row gap={1.5} after={2} at="center">
        <Typography component="h1" variant="h1" sx={{ mr: 1 }}>
          {say("modelsModels", { models: models.length })}
        </Typography>
        <ImportProfile {...s} />
        <Button component="a" href="/api/profile-schema" target="_blank">
          {say("theFormatSSchema")}
        </Button>
      </Row>
      {said && (
        <Notice severity={said.ok ? "success" : "error"} role="alert" after={2}>
          {!said.ok && say("nothingWasImported")}
          {said.words.map((w) => (
            <div key={w}>{w}</div>
          ))}
        </Notice>
      )}
      <Problem problem={add.problem} />
      <ModelRows {...s} />
    </>
  );
}

function ImportProfile({ canWork, take }: ModelListState) {
  return (
    canWork && (
      <>
        <Button component="label" variant="outlined">
          {say("importAProfile")}
          <input
            type="file"
            accept=".json,application/json"
            hidden
            aria-label={say("importAProfile")}
            onChange={(e) => void take(e.target.files?.[0], e.target)}
          />
        </Button>
        <Button component={Link} href="/models/learn" variant="outlined">
          {say("learnAController")}
        </Button>
      </>
    )
  );
}

function ModelRows({ models }: ModelListState) {
  return (
    <Box sx={{ display: "grid", gridTemplateColumns: "repeat(auto-fill, minmax(250px, 1fr))", gap: 2 }}>
      {models.map((m) => (
        <Box
          key={m.key}
          component={Link}
          href={`/models/${m.key}`}
          sx={{
            display: "block",
            bgcolor: "background.paper",
            border: 1,
            borderColor: "divider",
            borderRadius: 1,
            p: 2,
            color: "text.primary",
            textDecoration: "none",
            "&:hover": { borderColor: "primary.main" },
          }}
        >
          <Box sx={{ height: 130, mb: 1 }}>
            <PlanView profile={m.body} revision={null} plain />
          </Box>
          <Words size="lead" strong>
            {m.body.name}
          </Words>
          <Words size="small" quiet>
            {say("makerVersionVersionSummary", {
              maker: m.body.maker,
              version: m.version,
              summary: m.body.summary,
            })}
          </Words>
        </Box>
      ))}
    </Box>
  );
}
