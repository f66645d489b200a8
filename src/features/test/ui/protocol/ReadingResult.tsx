"use client";

import Box from "@mui/material/Box";
import Typography from "@mui/material/Typography";

import type { Compared } from "@/core/bench/reference";
import type { BenchResult } from "@/core/bench/result";
import {
  figureInterval,
  figureSmallest,
  figureLimit,
  figureName,
  figureValue,
  findingText,
  inUnit,
} from "@/features/test/words/text";
import { CHECK_NAMES } from "@/features/case/words/text";
import { stateColour, StateMark, stateOfCheck } from "@/ui/state/StateMark";
import { BigFigure } from "@/features/units/ui/unit/Station";
import { say } from "@/features/test/words/words";
import { SIZE } from "@/ui/tokens";
import { Block, Row } from "@/ui/kit/layout";

/**
 * What a reading came to: the verdict, each figure with its limit, what it says, and the same figures of the
 * reference units.
 */
export function ReadingResult({
  result,
  head,
  beside,
}: {
  result: BenchResult;
  head: React.ReactNode;
  beside: Compared[];
}) {
  const state = stateOfCheck(result.verdict);
  const known = beside.filter((c) => c.references > 0);
  return (
    <Box
      component="section"
      aria-label={say("whatWasMeasured")}
      sx={{ bgcolor: "background.paper", border: 1, borderColor: "divider", borderRadius: 1, p: 2, mb: 2 }}
    >
      <Row gap={1} after={1} at="center">
        <StateMark state={state} size={22} />
        <Typography sx={{ fontSize: SIZE.head, fontWeight: 800, color: stateColour(state) }}>
          {CHECK_NAMES[result.verdict]}
        </Typography>
        <Typography color="text.secondary" variant="body2">
          {head}
        </Typography>
      </Row>
      <Box sx={{ display: "grid", gridTemplateColumns: "repeat(auto-fill, minmax(165px, 1fr))", gap: 2 }}>
        {result.figures.map((f) => {
          const stateOf = () => {
            if (f.keeps === null) return "untested";
            if (f.keeps) return "pass";
            return "fail";
          };
          return (
            <BigFigure
              key={f.name}
              value={
                <Box component="span" sx={{ fontSize: figureValue(f).length > 9 ? SIZE.title : undefined }}>
                  {figureValue(f)}
                </Box>
              }
              colour={f.keeps === false ? stateColour("fail") : undefined}
              label={
                <>
                  {f.limit && <StateMark state={stateOf()} size={16} />}
                  {figureName(f.name)}
                </>
              }
              detail={[figureLimit(f), figureInterval(f), figureSmallest(f)].filter(Boolean).join("; ")}
            />
          );
        })}
      </Box>
      {result.findings.length > 0 && (
        <Box component="ul" sx={{ m: 0, mt: 1.5, pl: 2.5 }}>
          {result.findings.map((f, i) => (
            <li key={i}>{findingText(f)}</li>
          ))}
        </Box>
      )}
      {known.length > 0 && (
        <Block before={1.5}>
          <Typography component="h3" variant="h3">
            {say("besideTheReferenceUnits")}
          </Typography>
          {known.map((c) => {
            const unit = result.figures.find((f) => f.name === c.name)!.unit;
            return (
              <div key={c.name}>
                {figureName(c.name)}: {inUnit(c.reference!, unit)} ({c.references}{" "}
                {c.references === 1 ? say("unit") : say("units")}); {spreadWords(c)}
              </div>
            );
          })}
        </Block>
      )}
    </Box>
  );
}

export const spreadWords = (c: Compared): string => {
  if (c.outside === null) return say("tooFewReferencesForASpread");
  if (c.outside) return say("outsideTheirSpread");
  return say("withinTheirSpread");
};
