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
import { Fact } from "@/features/intake/ui/IntakeStation";
import { PlanView } from "@/ui/plan/PlanView";
import { PlanFrame, Station } from "@/features/units/ui/unit/Station";
import { codeWords } from "@/words/codes";
import { mark } from "@/words/figures";
import { say } from "@/features/models/words/words";
import { allOf } from "@/text/lists";
import { Row, Text } from "@/ui/kit/layout";

type ModelViewProps = {
  profile: ModelProfile;
  version: number;
  shop: Settings;
};

/** What ModelView knows and does; the components below only show it. */
function useModelView({ profile, version, shop }: ModelViewProps) {
  const [picked, setPicked] = useState<string | null>(null);
  const control = profile.controls.find((c) => c.id === picked);
  const rules = rulesOf(profile, shop.limits);
  const changed = [
    ...Object.keys(profile.limits?.stick ?? {}),
    ...Object.keys(profile.limits?.trigger ?? {}),
  ];
  return { profile, version, shop, picked, setPicked, control, rules, changed };
}
type ModelViewState = ReturnType<typeof useModelView>;

/** A model's profile, to be read: controls on the plan, functions, power, revisions, accessories, limits. */
export function ModelView(props: ModelViewProps) {
  const s = useModelView(props);
  const { profile, version, picked, setPicked } = s;

  return (
    <Station
      plan={
        <PlanFrame>
          <PlanView profile={profile} revision={null} selected={picked} onPick={setPicked} />
        </PlanFrame>
      }
    >
      <Row gap={2} at="baseline">
        <Typography component="h1" variant="h1">
          {profile.maker} {profile.name}
        </Typography>
        <Typography color="text.secondary">{say("versionVersion", { version })}</Typography>
        <Button component="a" href={`/api/profiles/${profile.id}`} variant="outlined" size="small" download>
          {say("exportAsJSON")}
        </Button>
        <Button component={Link} href={`/models/${profile.id}/guide`} variant="outlined" size="small">
          {say("guideGuide", {
            guide: profile.guide ? say("stepsSteps", { steps: profile.guide.steps.length }) : say("noneYet"),
          })}
        </Button>
      </Row>
      <Text around={1}>{profile.summary}</Text>
      <ControlDetail {...s} />
      <WhatItHas {...s} />
    </Station>
  );
}

function ControlDetail({ control, rules }: ModelViewState) {
  return control ? (
    <Box
      sx={{
        my: 2,
        p: 2,
        bgcolor: "background.paper",
        border: 1,
        borderColor: "divider",
        borderRadius: 1,
      }}
    >
      <Typography component="h2" variant="h2">
        {placeName(control)}
      </Typography>
      <div>
        {say("kindSideXMmFromThe", {
          kind: codeWords(control.kind),
          side: codeWords(control.side),
          x: control.at.x,
          y: control.at.y,
          input: inputWords(control.input),
        })}
        {control.kind === "stick" && say("sensorSensor", { sensor: codeWords(control.sensor) })}
        {control.kind === "button" &&
          say("contactContactRim", {
            contact: codeWords(control.contact),
            rim: control.rim ? say("theRimIsTestedToo") : "",
          })}
      </div>
      {control.kind !== "button" && (
        <div>
          {say("limitsForGradeAKind", {
            kind: Object.entries(rules.limitsFor(control.id)[control.kind])
              .map(([m, l]) => `${measureName(m)} ${percent(l.A)}`)
              .join(", "),
          })}
        </div>
      )}
    </Box>
  ) : (
    <Text color="text.secondary" around={2}>
      {say("pickAControlOnThePlan")}
    </Text>
  );
}

function WhatItHas({ profile, shop, changed }: ModelViewState) {
  return (
    <Box sx={{ display: "grid", gridTemplateColumns: { sm: "1fr 1fr" }, gap: 2 }}>
      <Fact label={say("revisions")}>
        {profile.revisions.map((r) => (
          <div key={r.id}>
            {say("nameOutsideOutsideInsideInside", { name: r.name, outside: r.outside, inside: r.inside })}
          </div>
        ))}
      </Fact>
      <Fact label={say("power")}>
        {profile.power.map((p, i) => (
          <div key={i}>
            {p.half && `${p.half}: `}
            {p.kind === "cord"
              ? say("byCord")
              : `${p.cells} × ${p.chemistry}, ${mark(p.nominalVolts)} V${p.capacityMah ? say("capacityMahMAh", { capacityMah: p.capacityMah }) : ""}`}
          </div>
        ))}
      </Fact>
      <Fact
        label={say("controlsControlsFunctionsFunctions", {
          controls: profile.controls.length,
          functions: profile.functions.length,
        })}
      >
        {profile.functions.map((f) => f.name).join(", ")}
      </Fact>
      <Fact label={say("accessories")}>
        {profile.accessories.map((a) => `${a.name} ${money(a.costMinor, shop)}`).join(", ") || say("none")}
      </Fact>
      <Fact label={say("limitsOfItsOwn")}>
        {changed.length ? changed.map(measureName).join(", ") : say("noneTheShopSHold")}
      </Fact>
    </Box>
  );
}

function inputWords(input: ModelProfile["controls"][number]["input"]): string {
  if ("axes" in input) return say("axesAxes", { axes: allOf(input.axes.map(String)) });
  if ("button" in input) return say("buttonButton", { button: input.button });
  if ("axis" in input)
    return say("axisAxisFromReleasedToPulled", {
      axis: input.axis,
      released: input.released,
      pulled: input.pulled,
    });
  return say("axisHatAtValues", { hat: input.hat, values: input.values.join(", ") });
}
