"use client";

import Box from "@mui/material/Box";
import { type ReactNode, useState } from "react";

import type { Settings } from "@/contract/deeds";
import type { Advice } from "@/core/decide/advise";
import type { TreeNode } from "@/core/decide/walk";
import { totalOf } from "@/core/money/rates";
import { casesWords } from "@/features/decide/words/text";
import { money } from "@/text/format";
import { FIGURES } from "@/ui/figures";
import { TermList } from "./Terms";
import { say } from "@/features/decide/words/words";
import { checkNamed, outcomeWords } from "@/features/find/words/text";
import { allOf } from "@/text/lists";
import { SIZE } from "@/ui/tokens";
import { Block, Words } from "@/ui/kit/layout";

const GRADE = ["A", "B", "C"] as const;

/** The ladder: do this first; if the retest fails, then that; stop there. What follows a cure is set in. */
export function Ladder({
  advice,
  tree,
  shop,
  label,
}: {
  advice: Advice;
  tree: TreeNode;
  shop: Settings;
  label: string;
}) {
  return (
    <Box component="ol" aria-label={label} sx={{ listStyle: "none", m: 0, p: 0 }}>
      <Rungs node={tree} advice={advice} shop={shop} first />
    </Box>
  );
}

type RungsProps = {
  node: TreeNode;
  advice: Advice;
  shop: Settings;
  first?: boolean;
};

/** What Rungs knows and does; the components below only show it. */
function useRungs({ node, advice, shop, first = false }: RungsProps) {
  const [open, setOpen] = useState(false);
  const endOf = () => {
    if (node.do === "sell")
      return say("sellAtGradeCapShare", {
        cap: GRADE[node.cap],
        share: node.share < 1 ? say("toldWithItsLimitShareOf", { share: Math.round(node.share * 100) }) : "",
      });
    if (node.do === "give-up") return say("stopThereSellAsItIs");
    return say("andSoOn");
  };
  return { node, advice, shop, first, open, setOpen, endOf };
}
type RungsState = ReturnType<typeof useRungs>;
type Tried = Advice["options"][number];
type TryNode = Extract<TreeNode, { do: "try" }>;

function Rungs(props: RungsProps) {
  const s = useRungs(props);
  const { node, advice, shop, first, endOf } = s;

  if (node.do === "check") return <CheckRung {...{ node, advice, shop, first }} />;
  if (node.do !== "try")
    return (
      <Box
        component="li"
        sx={{ display: "grid", gridTemplateColumns: "104px minmax(0,1fr)", gap: 1.5, py: 0.6 }}
      >
        <Box sx={{ fontFamily: FIGURES, fontWeight: 700, textAlign: "right" }}>
          {money(Math.round(node.value), shop)}
        </Box>
        <Box sx={{ fontWeight: 700, color: node.do === "sell" ? "pass.main" : "caution.main" }}>
          {endOf()}
        </Box>
      </Box>
    );
  const option = advice.options[node.attempt]!;
  const nameOf = (p: string) => advice.places.find((x) => x.place === p)?.name ?? p;
  return (
    <>
      <RungRow first={first} figure={`${Math.round(node.success * 100)} %`} under={say("works")}>
        <RungHead {...s} option={option} />
        <Words size="small" quiet>
          {allOf(option.places.map(nameOf))}
          {option.twin && say("theTwinWhileItIsOpen")}{" "}
          {say("minutesMinCost", {
            minutes: Math.round(node.minutes),
            cost: money(Math.round(node.cost), shop),
          })}
          {option.leadDays > 0 && say("partInLeadDaysDays", { leadDays: option.leadDays })}
          {option.route.grade !== "A" && say("atBestGradeGrade", { grade: option.route.grade })}
        </Words>
        <RungDetail {...s} node={node} option={option} />
        <WhenItWorked {...{ node, advice, shop }} />
        <Words size="small" before={0.5} quiet>
          {say("ifTheRetestFails")}
        </Words>
      </RungRow>
      <Rungs {...{ advice, shop }} node={node.failed} />
    </>
  );
}

/** One rung: its figure at the left with what it counts, the act at the right. */
function RungRow({
  first,
  figure,
  under,
  children,
}: {
  first: boolean | undefined;
  figure: string;
  under: string;
  children: ReactNode;
}) {
  return (
    <Box
      component="li"
      sx={{
        display: "grid",
        gridTemplateColumns: "104px minmax(0,1fr)",
        gap: 1.5,
        py: 0.8,
        borderTop: first ? 0 : 1,
        borderColor: "divider",
      }}
    >
      <Box sx={{ textAlign: "right" }}>
        <Box
          sx={{
            fontFamily: FIGURES,
            fontWeight: 700,
            fontSize: first ? SIZE.head : SIZE.title,
            lineHeight: 1.1,
          }}
        >
          {figure}
        </Box>
        <Words size="fine" quiet>
          {under}
        </Words>
      </Box>
      <Box sx={{ minWidth: 0 }}>{children}</Box>
    </Box>
  );
}

/** A look before something is tried: what each outcome leads to is set in under it. */
function CheckRung({ node, advice, shop, first }: RungsProps & { node: Extract<TreeNode, { do: "check" }> }) {
  const check = advice.checks[node.check]!;
  return (
    <RungRow first={first} figure={`${Math.round(node.minutes)} min`} under={say("toLook")}>
      <Words strong>{checkNamed(check.kind, check.name)}</Words>
      {node.outcomes.map((o) => (
        <Box key={o.code} sx={{ mt: 0.5, pl: 1.5, borderLeft: 3, borderColor: "divider" }}>
          <Words size="small">
            {say("ifOutcomeInAHundred", {
              outcome: outcomeWords(o.code),
              chance: Math.round(o.chance * 100),
            })}
          </Words>
          <Box component="ol" sx={{ listStyle: "none", m: 0, p: 0 }}>
            <Rungs {...{ advice, shop }} node={o.then} />
          </Box>
        </Box>
      ))}
    </RungRow>
  );
}

/** What comes after a good retest: the next fault's rungs, or the end of the way. */
const WhenItWorked = ({ node, advice, shop }: RungsProps & { node: TryNode }) =>
  node.worked.do === "sell" ? (
    <Box sx={{ fontSize: SIZE.small, color: "pass.main", fontWeight: 600 }}>
      {say("goodRetestWorked", { worked: endWords(node.worked, shop) })}
    </Box>
  ) : (
    <Box sx={{ mt: 0.5, pl: 1.5, borderLeft: 3, borderColor: "pass.main" }}>
      <Words size="small" quiet>
        {say("whenTheRetestIsGood")}
      </Words>
      <Box component="ol" sx={{ listStyle: "none", m: 0, p: 0 }}>
        <Rungs {...{ advice, shop }} node={node.worked} />
      </Box>
    </Box>
  );

function RungDetail({ open, shop, node, option }: RungsState & { node: TryNode; option: Tried }) {
  return (
    open && (
      <Block before={0.5} after={1}>
        <TermList terms={option.terms} shop={shop} />
        <Words size="small" before={0.5}>
          {say("costTermsAndTheStripDown", { terms: money(-totalOf(option.terms), shop) })}
          <br />
          {say("worksChance90BetweenLowAnd", {
            chance: casesWords(option.chance),
            low: Math.round(option.chance.low * 100),
            high: Math.round(option.chance.high * 100),
          })}
          <br />
          {say("comesBackMeanComebackBreaks", {
            mean: Math.round(option.comeback.mean * 100),
            comeback: casesWords(option.comeback),
            breaks: Math.round(node.breaks * 100),
          })}
          {option.unbuyable.length > 0 && say("nobodySellsOnTheWay", { parts: option.unbuyable.join(", ") })}
          {option.route.tools.length > 0 && (
            <>
              <br />
              {say("needsToolsSkillSkillOf4", {
                tools: option.route.tools.join(", "),
                skill: option.route.skill,
              })}
              {option.route.waitMinutes > 0 &&
                say("waitMinutesMinOfWaiting", { waitMinutes: option.route.waitMinutes })}
              .
            </>
          )}
          {option.route.discloses && (
            <>
              <br />
              {say("aBuyerIsToldDiscloses", { discloses: option.route.discloses })}
            </>
          )}
          {option.route.changesCharacter && (
            <>
              <br />
              {say("changesTheUnitSCharacterSome")}
            </>
          )}
        </Words>
      </Block>
    )
  );
}

function RungHead({ open, setOpen, first, option }: RungsState & { option: Tried }) {
  return (
    <Box
      component="button"
      aria-expanded={open}
      onClick={() => setOpen(!open)}
      sx={{
        all: "unset",
        cursor: "pointer",
        fontWeight: 700,
        fontSize: first ? SIZE.lead : SIZE.body,
        "&:focus-visible": { outline: "3px solid" },
      }}
    >
      {first ? say("first") : ""}
      {option.route.name}
    </Box>
  );
}

const endWords = (node: TreeNode, shop: Settings): string =>
  node.do === "sell"
    ? say("sellAtGradeCapLeavesNode", { cap: GRADE[node.cap], node: money(Math.round(node.value), shop) })
    : "";
