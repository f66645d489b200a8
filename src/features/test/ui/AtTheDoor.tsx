"use client";

import Box from "@mui/material/Box";
import Link from "next/link";

import { Mates } from "@/features/units/ui/Mates";
import type { UnitView } from "@/features/units/view";
import { say } from "@/features/test/words/words";
import { Block, Notice, Row, Text, Words } from "@/ui/kit/layout";
import { codeWords } from "@/words/codes";

const cellsWords = ({ cells, cellsAt }: UnitView["unit"]["intake"]): string =>
  [say("itsCells", { are: codeWords(cells) }), cells === "taken-out" ? cellsAt : ""]
    .filter(Boolean)
    .join(", ");

/** What was told and seen at the door, where the first test begins: its photographs, and all that asks for a look. */
export function AtTheDoor({ view }: { view: UnitView }) {
  const { unit, photos, profile } = view;
  const { intake } = unit;
  const said = [
    ...intake.told.map((t) => codeWords(t)),
    unit.liquid ? say("tookLiquid") : "",
    intake.openedBefore ? say("openedBefore") : "",
    ...intake.handsLeft.map((h) => codeWords(h)),
    intake.rattle === "none" ? "" : say("rattlesOf", { what: codeWords(intake.rattle) }),
    intake.cells === "not-noted" ? "" : cellsWords(intake),
    intake.makersCover === "runs" ? say("underTheMakersCover") : "",
    intake.smell === "none" ? "" : say("smells", { how: codeWords(intake.smell) }),
    intake.grime === "none" ? "" : say("isGrimy", { how: codeWords(intake.grime) }),
    intake.history,
    intake.remark,
  ].filter(Boolean);
  const missing = profile.accessories.filter((a) => !intake.accessories.includes(a.id)).map((a) => a.name);
  const marks = intake.marks.filter((m) => m.gone === null);
  return (
    <Block component="section" aria-label={say("atTheDoor")} before={2}>
      <Row gap={1} at="baseline">
        <Text component="h3" size="lead" strong>
          {say("atTheDoor")}
        </Text>
        <Link href={`/units/${unit.tag}/intake`}>{say("correctIt")}</Link>
      </Row>
      {intake.hygiene !== "none" && (
        <Notice severity="warning" role="note" after={1}>
          {intake.hygiene === "strong" ? say("glovesAndMaskFirst") : say("glovesOn")}
        </Notice>
      )}
      <Words>{said.length > 0 ? said.join("; ") : say("nothingWasTold")}</Words>
      {marks.length > 0 && (
        <Words>
          {say("marksOnThePlan", {
            marks: marks
              .map((m, i) => [i + 1, codeWords(m.kind), m.words].filter(Boolean).join(" "))
              .join(", "),
          })}
        </Words>
      )}
      {missing.length > 0 && <Words>{say("cameWithout", { missing: missing.join(", ") })}</Words>}
      <Mates view={view} />
      {photos.length > 0 && (
        <Box sx={{ display: "flex", flexWrap: "wrap", gap: 1, mt: 1 }}>
          {photos.map((p, i) => (
            <a key={p.id} href={`/api/photos/${p.id}`} target="_blank" rel="noreferrer">
              {/* eslint-disable-next-line @next/next/no-img-element -- kept in the database, already cut to size */}
              <img
                src={`/api/photos/${p.id}?small`}
                alt={p.caption || say("photographOfTheDoor", { i: i + 1 })}
                style={{ width: 110, height: 110, objectFit: "cover", borderRadius: 4, display: "block" }}
              />
            </a>
          ))}
        </Box>
      )}
    </Block>
  );
}
