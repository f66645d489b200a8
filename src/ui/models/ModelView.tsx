"use client";

import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Typography from "@mui/material/Typography";
import Link from "next/link";
import { useState } from "react";

import type { Settings } from "@/contract/deeds";
import { type ModelProfile, placeName, rulesOf } from "@/core/profile/profile";
import { money } from "@/text/format";
import { measureName, percent } from "@/text/measures";
import { Fact } from "@/ui/intake/IntakeStation";
import { PlanView } from "@/ui/plan/PlanView";
import { PlanFrame, Station } from "@/ui/unit/Station";

/** A model's profile, to be read: controls on the plan, functions, power, revisions, accessories, limits. */
export function ModelView({ profile, version, shop }: { profile: ModelProfile; version: number; shop: Settings }) {
  const [picked, setPicked] = useState<string | null>(null);
  const control = profile.controls.find((c) => c.id === picked);
  const rules = rulesOf(profile, shop.limits);
  const changed = [...Object.keys(profile.limits?.stick ?? {}), ...Object.keys(profile.limits?.trigger ?? {})];
  return (
    <Station
      plan={
        <PlanFrame>
          <PlanView profile={profile} revision={null} selected={picked} onPick={setPicked} />
        </PlanFrame>
      }
    >
      <Box sx={{ display: "flex", gap: 2, alignItems: "baseline", flexWrap: "wrap" }}>
        <Typography component="h1" variant="h1">
          {profile.maker} {profile.name}
        </Typography>
        <Typography color="text.secondary">version {version}</Typography>
        <Button component="a" href={`/api/profiles/${profile.id}`} variant="outlined" size="small" download>
          Export as JSON
        </Button>
        <Button component={Link} href={`/models/${profile.id}/guide`} variant="outlined" size="small">
          Guide: {profile.guide ? `${profile.guide.steps.length} steps` : "none yet"}
        </Button>
      </Box>
      <Typography sx={{ my: 1 }}>{profile.summary}</Typography>
      {control ? (
        <Box sx={{ my: 2, p: 2, bgcolor: "background.paper", border: 1, borderColor: "divider", borderRadius: 1 }}>
          <Typography component="h2" variant="h2">
            {placeName(control)}
          </Typography>
          <div>
            {control.kind}, {control.side}, {control.at.x} mm from the left and {control.at.y} mm from the top of the plan. Reads{" "}
            {inputWords(control.input)}.{control.kind === "stick" && ` Sensor: ${control.sensor}.`}
            {control.kind === "button" && ` ${control.contact} contact${control.rim ? "; the rim is tested too" : ""}.`}
          </div>
          {control.kind !== "button" && (
            <div>
              Limits for grade A:{" "}
              {Object.entries(rules.limitsFor(control.id)[control.kind])
                .map(([m, l]) => `${measureName(m)} ${percent(l.A)}`)
                .join(", ")}
              .
            </div>
          )}
        </Box>
      ) : (
        <Typography color="text.secondary" sx={{ my: 2 }}>
          Pick a control on the plan to see where it reads from.
        </Typography>
      )}
      <Box sx={{ display: "grid", gridTemplateColumns: { sm: "1fr 1fr" }, gap: 2 }}>
        <Fact label="Revisions">
          {profile.revisions.map((r) => (
            <div key={r.id}>
              {r.name}: outside, {r.outside}; inside, {r.inside}
            </div>
          ))}
        </Fact>
        <Fact label="Power">
          {profile.power.map((p, i) => (
            <div key={i}>
              {p.half && `${p.half}: `}
              {p.kind === "cord"
                ? "by cord"
                : `${p.cells} × ${p.chemistry}, ${p.nominalVolts} V${p.capacityMah ? `, ${p.capacityMah} mAh` : ""}`}
            </div>
          ))}
        </Fact>
        <Fact label={`${profile.controls.length} controls, ${profile.functions.length} functions`}>
          {profile.functions.map((f) => f.name).join(", ")}
        </Fact>
        <Fact label="Accessories">
          {profile.accessories.map((a) => `${a.name} ${money(a.costMinor, shop)}`).join(", ") || "none"}
        </Fact>
        <Fact label="Limits of its own">{changed.length ? changed.map(measureName).join(", ") : "none: the shop’s hold"}</Fact>
      </Box>
    </Station>
  );
}

function inputWords(input: ModelProfile["controls"][number]["input"]): string {
  if ("axes" in input) return `axes ${input.axes.join(" and ")}`;
  if ("button" in input) return `button ${input.button}`;
  if ("axis" in input) return `axis ${input.axis} from ${input.released} to ${input.pulled}`;
  return `axis ${input.hat} at ${input.values.join(", ")}`;
}
