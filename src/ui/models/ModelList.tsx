"use client";

import Alert from "@mui/material/Alert";
import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Typography from "@mui/material/Typography";
import Link from "next/link";
import { useState } from "react";

import { type ModelProfile, profileSchema } from "@/core/profile/profile";
import { Problem } from "@/ui/deed/Problem";
import { useDeed } from "@/ui/deed/useDeed";
import { PlanView } from "@/ui/plan/PlanView";

/** The models that the shop knows. */
export function ModelList({
  models,
  canWork,
}: {
  models: { key: string; version: number; body: ModelProfile }[];
  canWork: boolean;
}) {
  const add = useDeed("profile.import");
  const [said, setSaid] = useState<{ ok: boolean; words: string[] } | null>(null);

  async function take(file: File | undefined, field: HTMLInputElement) {
    setSaid(null);
    if (!file) return;
    let json: unknown;
    try {
      json = JSON.parse(await file.text());
    } catch (error) {
      setSaid({ ok: false, words: [`${file.name} is not JSON: ${(error as Error).message}`] });
      field.value = "";
      return;
    }
    field.value = "";
    const parsed = profileSchema.safeParse(json);
    if (!parsed.success) {
      setSaid({
        ok: false,
        words: parsed.error.issues.slice(0, 8).map((i) => `${i.path.join(".") || "the file"}: ${i.message}`),
      });
      return;
    }
    const done = await add.run({ profile: parsed.data });
    if (done?.ok)
      setSaid({
        ok: true,
        words: [
          `${parsed.data.name} is imported as version ${done.value.version}. Units that are here keep the version they came with.`,
        ],
      });
  }

  return (
    <>
      <Box sx={{ display: "flex", gap: 1.5, alignItems: "center", mb: 2, flexWrap: "wrap" }}>
        <Typography component="h1" variant="h1" sx={{ mr: 1 }}>
          {models.length} models
        </Typography>
        {canWork && (
          <>
            <Button component="label" variant="outlined">
              Import a profile
              <input
                type="file"
                accept=".json,application/json"
                hidden
                aria-label="Import a profile"
                onChange={(e) => void take(e.target.files?.[0], e.target)}
              />
            </Button>
            <Button component={Link} href="/models/learn" variant="outlined">
              Learn a controller
            </Button>
          </>
        )}
        <Button component="a" href="/api/profile-schema" target="_blank">
          The format’s schema
        </Button>
      </Box>
      {said && (
        <Alert severity={said.ok ? "success" : "error"} role="alert" sx={{ mb: 2 }}>
          {!said.ok && "Nothing was imported. "}
          {said.words.map((w) => (
            <div key={w}>{w}</div>
          ))}
        </Alert>
      )}
      <Problem problem={add.problem} />
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
            <Box sx={{ fontWeight: 700, fontSize: "1.15rem" }}>{m.body.name}</Box>
            <Box sx={{ color: "text.secondary", fontSize: "0.9rem" }}>
              {m.body.maker}, version {m.version}. {m.body.summary}
            </Box>
          </Box>
        ))}
      </Box>
    </>
  );
}
