"use client";

import Box from "@mui/material/Box";

import type { Analysis } from "@/core/analyse/analyse";
import { type Grade, worstFirst } from "@/core/grade/grade";
import { placeName, type ProfileControl } from "@/core/profile/profile";
import { say } from "@/features/test/words/words";
import { figure } from "@/text/format";
import { reasonText } from "@/text/measures";
import { FIGURES } from "@/ui/figures";
import { Block, Row, Text } from "@/ui/kit/layout";
import { StateMark, stateOfGrade } from "@/ui/state/StateMark";
import { SIZE } from "@/ui/tokens";

const MOST = 6;
const RANK: Record<Grade, number> = { fail: 0, C: 1, B: 2, untested: 3, A: 4 };

type Props = {
  controls: readonly ProfileControl[];
  analysis: Analysis | null;
  /** controls whose steps are still to come */
  open: readonly string[];
  risk: { now: number; aim: number | null } | null;
};

/** What the test has found while it runs: worst first, what is still open, and the risk that is left. */
export function FoundSoFar({ controls, analysis, open, risk }: Props) {
  const gradeOf = (id: string): Grade => analysis?.controls[id]?.grade ?? "untested";
  const measured = controls.filter((c) => gradeOf(c.id) !== "untested");
  const flawed = measured
    .filter((c) => gradeOf(c.id) !== "A")
    .sort((a, b) => RANK[gradeOf(a.id)] - RANK[gradeOf(b.id)]);
  const waiting = controls.filter((c) => open.includes(c.id));
  return (
    <Block component="section" aria-label={say("foundSoFar")}>
      <Text component="h3" size="lead" strong>
        {say("foundSoFar")}
      </Text>
      <Text color="text.secondary" size="small" after={1}>
        {say("measuredOf", { done: measured.length, all: controls.length })}
      </Text>
      {risk && <Risk {...risk} />}
      {flawed.slice(0, MOST).map((c) => {
        const [worst] = worstFirst(
          analysis!.controls[c.id]!.reasons.filter((r) => r.grade !== "A" && r.grade !== "untested"),
        );
        return (
          <Row key={c.id} gap={1} after={0.5} oneLine>
            <StateMark state={stateOfGrade(gradeOf(c.id))} size={18} />
            <Box sx={{ minWidth: 0 }}>
              <b>{placeName(c)}</b>
              {worst && (
                <Text size="small" color="text.secondary">
                  {reasonText(worst)}
                </Text>
              )}
            </Box>
          </Row>
        );
      })}
      {flawed.length > MOST && <Text>{say("andMoreFlawed", { more: flawed.length - MOST })}</Text>}
      {measured.length > 0 && flawed.length === 0 && <Text>{say("allOfThemGradeA")}</Text>}
      {waiting.length > 0 && (
        <Text size="small" color="text.secondary" before={1}>
          {say("stillOpen", { names: namesOf(waiting) })}
        </Text>
      )}
    </Block>
  );
}

const NAMED = 4;
const namesOf = (controls: readonly ProfileControl[]): string => {
  const names = controls.slice(0, NAMED).map((c) => placeName(c));
  const rest = controls.length - names.length;
  return rest > 0 ? say("namesAndMore", { names: names.join(", "), more: rest }) : names.join(", ");
};

/** The chance falls with every press; a proof is over when few bad buttons can be left. */
function Risk({ now, aim }: { now: number; aim: number | null }) {
  const isLow = aim !== null && now < aim;
  return (
    <Block component="section" aria-label={say("chanceOfABadButton")} after={1.5}>
      <Text color="text.secondary" size="small">
        {say("chanceOfABadButton")}
      </Text>
      <Box sx={{ fontFamily: FIGURES, fontSize: SIZE.big, fontWeight: 700, lineHeight: 1.1 }}>
        {figure(now * 100, 2)} %
      </Box>
      {aim !== null && (
        <Text size="small" color={isLow ? "pass.main" : "text.secondary"}>
          {isLow ? say("lowEnoughToLeave") : say("wantedUnder", { aim: figure(aim * 100, 2) })}
        </Text>
      )}
    </Block>
  );
}
