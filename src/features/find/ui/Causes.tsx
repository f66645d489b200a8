"use client";

import Accordion from "@mui/material/Accordion";
import AccordionDetails from "@mui/material/AccordionDetails";
import AccordionSummary from "@mui/material/AccordionSummary";
import ExpandMore from "@mui/icons-material/ExpandMore";
import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Typography from "@mui/material/Typography";
import Link from "next/link";
import { type ReactNode, useState } from "react";

import type { Settings } from "@/contract/deeds";
import type { Wiring } from "@/core/profile/wiring";
import type { NextView } from "@/features/decide/next";
import type { FindView } from "@/features/find/view";
import { OUTCOME_WORDS, outcomeWords, readingWords } from "@/features/find/words/text";
import { Problem } from "@/ui/deed/Problem";
import { useDeed } from "@/ui/deed/useDeed";
import { FIGURES } from "@/ui/figures";
import { GraphView } from "./GraphView";
import { NextCheck } from "./NextCheck";
import { Fragments, Tries } from "./Trail";
import { Halvings } from "./Halvings";
import { Observations } from "./Observations";
import { say } from "@/features/find/words/words";
import { figure } from "@/text/format";
import type { Id } from "@/core/base/ids";
import { allOf, oneOf } from "@/text/lists";
import { SIZE } from "@/ui/tokens";
import { Block, Row, Text, Words } from "@/ui/kit/layout";

type CausesProps = {
  unitId: Id<"unit">;
  tag: string;
  find: FindView;
  next: NextView | null;
  wiring: Wiring;
  shop: Settings;
  nameOf: (id: string) => string;
  picked: string | null;
  onPick: (node: string) => void;
  canWork: boolean;
};

/** What Causes knows and does; the components below only show it. */
function useCauses({ unitId, tag, find, wiring, shop, nameOf, picked, onPick, canWork }: CausesProps) {
  const top = find.causes[0];
  const both = find.best.nodes.length > 1;
  const common = { unitId, find, wiring, shop, canWork };
  const partName = (id: string) => wiring.nodes.find((n) => n.id === id)?.name ?? id;
  const failing = find.seen.filter((s) => s.outcome !== "works");
  const loose = find.fragments.filter((f) => f.matchedTo === null && f.explained === "").length;
  return {
    unitId,
    find,
    wiring,
    nameOf,
    picked,
    onPick,
    canWork,
    top,
    both,
    common,
    partName,
    failing,
    loose,
    behind: (of: string) => `/units/${tag}/case?of=${encodeURIComponent(of)}`,
  };
}
type CausesState = ReturnType<typeof useCauses>;

/** Ranked causes with their reasons, the next check, and the trail behind them. */
export function Causes(props: CausesProps) {
  const s = useCauses(props);
  const { unitId, find, wiring, nameOf, canWork, top } = s;
  const { tag, next, shop } = props;

  return (
    <Block component="section" aria-label={say("cause")} after={3}>
      <Explanation {...s} />
      <Newest {...s} />
      {canWork && find.oneCause && <OneCause cause={find.oneCause} />}
      {top && <NextCheck {...{ unitId, tag, find, next, wiring, shop, nameOf, canWork }} />}
      <CauseList {...s} />
      {top && <Whole {...s} />}
      {top && (
        <Text variant="body2" color="text.secondary" before={0.5}>
          {say("fromSeenControlsAndFunctions", {
            seen: find.seen.length,
            observations: counted(find).length + find.tries.length,
            shopCases: find.shopCases
              ? say("andShopCasesOfTheShopS", {
                  shopCases: figure(find.shopCases, Number.isInteger(find.shopCases) ? 0 : 1),
                })
              : "",
          })}
        </Text>
      )}
      <WhatCounts {...s} />
    </Block>
  );
}

/** Several faults that one part explains are one: a key away from being so in the record. */
function OneCause({ cause }: { cause: NonNullable<FindView["oneCause"]> }) {
  const join = useDeed("fault.join");
  const all = async () => {
    for (const f of cause.faults) {
      const done = await join.run({ faultId: f.id, version: f.version, underId: cause.under.id });
      if (!done?.ok) return;
    }
  };
  return (
    <Row gap={1} before={0.5} at="center">
      <Text>
        {say("oneCauseExplains", {
          part: cause.part,
          faults: allOf([cause.under, ...cause.faults].map((f) => String(f.number))),
        })}
      </Text>
      <Button variant="outlined" disabled={join.running} onClick={() => void all()}>
        {say("putThemUnderOneCause")}
      </Button>
      <Problem problem={join.problem} />
    </Row>
  );
}

/** What the newest fact changed, at once and in figures. */
function Newest({ find }: CausesState) {
  if (!find.newest) return null;
  const { words, moved } = find.newest;
  return (
    <Text role="status" before={0.5}>
      {moved
        ? say("newestFactMoved", {
            fact: words,
            part: moved.part,
            without: shareOf(moved.without),
            with: shareOf(moved.with),
          })
        : say("newestFact", { fact: words })}
    </Text>
  );
}
const shareOf = (p: number): string => figure(p * 100, p < 0.1 ? 1 : 0);

/** What was seen and read, as far as it still counts. */
const counted = (find: CausesState["find"]) =>
  [...find.observations, ...find.readings].filter((x) => !x.ended);

function Explanation({ top, failing, both, find, partName, behind }: CausesState) {
  return top ? (
    <Row gap={2} at="baseline">
      <Box sx={{ fontFamily: FIGURES, fontSize: SIZE.huge, fontWeight: 700, lineHeight: 1 }}>
        <Link
          href={behind(top.node)}
          aria-label={say("factsBehindFigure", { what: top.name })}
          style={FIGURE_LINK}
        >
          {Math.round(top.probability * 100)} %
        </Link>
      </Box>
      <Typography
        component="h2"
        sx={{
          fontSize: SIZE.figure,
          fontWeight: 800,
          lineHeight: 1.1,
          "&::first-letter": { textTransform: "uppercase" },
        }}
      >
        {top.name}
      </Typography>
      <Typography color="text.secondary">
        {[
          ...failing.map((s) => `${s.name} ${OUTCOME_WORDS[s.outcome]}`),
          ...find.readings.filter((r) => !r.ended && r.verdict !== "pass").map(readingWords),
        ].join(", ") || say("nothingFailsNow")}
        {both && say("bestExplanationTogetherNodes", { nodes: allOf(find.best.nodes.map(partName)) })}
      </Typography>
    </Row>
  ) : (
    <Text color="text.secondary" size="lead">
      {find.seen.length ? say("nothingThatWasTestedFailsNow") : say("nothingWasTestedYetTestIt")}
    </Text>
  );
}

/** Whole explanations, which add up to a hundred with all others: the list above says how often each part is in one. */
function Whole({ find, partName, nameOf }: CausesState) {
  const shown = find.explanations.filter((e) => e.probability >= LEAST_SHOWN);
  const left = 1 - shown.reduce((s, e) => s + e.probability, 0);
  const wordsOf = (e: FindView["explanations"][number]) =>
    allOf([
      ...e.nodes.map(partName),
      ...e.elsewhere.map((p) => say("somethingElseAt", { place: nameOf(p) })),
    ]);
  return (
    <Text before={0.5}>
      {say("wholeExplanations", {
        all: shown.map((e) => `${wordsOf(e)} ${shareOf(e.probability)} %`).join("; "),
        left: shareOf(Math.max(0, left)),
      })}{" "}
      {say("somethingElseInAll", { share: shareOf(find.somethingElse) })}
    </Text>
  );
}
const LEAST_SHOWN = 0.03;

/** A figure that opens to the facts behind it. */
const FIGURE_LINK = {
  color: "inherit",
  textDecorationStyle: "dotted",
  textDecorationThickness: 2,
  textUnderlineOffset: 5,
} as const;

function CauseList({ find, onPick, picked, behind }: CausesState) {
  return (
    <Box sx={{ display: "grid", gap: 0.3 }} role="list" aria-label={say("causesMostLikelyFirst")}>
      {find.causes.map((c) => (
        <Box
          key={c.node}
          role="listitem"
          sx={{
            display: "grid",
            gridTemplateColumns: "62px minmax(0, 1fr)",
            gap: 1,
            alignItems: "start",
            py: 0.4,
          }}
        >
          <Words size="lead" strong figures>
            <Link
              href={behind(c.node)}
              aria-label={say("factsBehindFigure", { what: c.name })}
              style={FIGURE_LINK}
            >
              {figure(c.probability * 100, c.probability < 0.1 ? 1 : 0)} %
            </Link>
          </Words>
          <Box>
            <Box
              component="button"
              onClick={() => onPick(c.node)}
              aria-pressed={picked === c.node}
              sx={{
                all: "unset",
                cursor: "pointer",
                fontWeight: 700,
                textDecoration: picked === c.node ? "underline" : undefined,
                "&:focus-visible": { outline: "3px solid" },
              }}
            >
              {c.name}
            </Box>
            <Box sx={{ height: 6, bgcolor: "divider", borderRadius: 1, my: 0.3 }}>
              <Box
                sx={{ height: 6, width: `${c.probability * 100}%`, bgcolor: "fail.main", borderRadius: 1 }}
              />
            </Box>
            <Words size="small" quiet>
              {c.because.map((r) => `${r.weight > 0 ? say("for") : say("against")}: ${r.what}`).join("; ") ||
                say("byItsStartingOddsAlone")}
            </Words>
          </Box>
        </Box>
      ))}
      {find.fragments
        .filter((f) => f.matchedTo === null && f.explained === "")
        .map((f) => (
          <Box
            key={f.id}
            role="listitem"
            sx={{ display: "grid", gridTemplateColumns: "62px minmax(0, 1fr)", gap: 1, py: 0.4 }}
          >
            <Words size="lead" strong figures>
              ?
            </Words>
            <Box>
              <b>{say("whateverLoosePieceNumberBroke", { number: f.number })}</b>
              <Words size="small" quiet>
                {say("whatFitsNothingSoFarAnother", { what: f.what })}
              </Words>
            </Box>
          </Box>
        ))}
    </Box>
  );
}

function WhatCounts({ find, common, picked, loose, wiring, top, nameOf }: CausesState) {
  return (
    <Block before={2}>
      <Fold
        title={say("seenInsideObservations", {
          observations: counted(find).length,
        })}
        open={find.observations.length > 0}
      >
        <Observations {...common} picked={picked} />
      </Fold>
      <Fold title={say("triesTries", { tries: find.tries.length })} open={find.tries.length > 0}>
        <Tries {...common} picked={picked} />
      </Fold>
      <Fold
        title={say("loosePiecesFragmentsLoose", {
          fragments: find.fragments.length,
          loose: loose ? say("looseUnmatched", { loose }) : "",
        })}
        open={loose > 0}
      >
        <Fragments {...common} />
      </Fold>
      <Fold
        title={say("worksHereFailsThereHalvings", { halvings: find.halvings.length })}
        open={find.halvings.some((h) => !h.closed)}
      >
        <Halvings {...common} />
      </Fold>
      <Fold title={say("readingsBesideHealthyUnits")}>
        <Readings find={find} wiring={wiring} />
      </Fold>
      {top && (
        <Fold title={say("whatDependsOnWhat")}>
          <GraphView wiring={wiring} seen={find.seen} causes={find.causes} />
        </Fold>
      )}
      <Fold title={say("similarCasesSimilar", { similar: find.similar.length })} open={false}>
        <Typography color="text.secondary">{say("analogyNotEvidenceTheyDoNot")}</Typography>
        {find.similar.map((s) => (
          <div key={s.tag}>
            <Link href={`/units/${s.tag}/find`}>{s.tag}</Link>{" "}
            {say("sameModelLikenessAlikeCured", {
              sameModel: s.sameModel ? "" : `(${s.model}) `,
              likeness: Math.round(s.likeness * 100),
              cured: s.cured,
            })}
          </div>
        ))}
        {find.similar.length === 0 && <div>{say("noneYet")}</div>}
      </Fold>
      {find.complaints.length > 0 && (
        <Fold title={say("whatTheClaimSaysComplaints", { complaints: find.complaints.length })}>
          {find.complaints.map((c, i) => (
            <div key={i}>
              “{c.words}”: {oneOf(c.places.map(nameOf)) || say("noPlaceNamed")} {OUTCOME_WORDS[c.outcome]}
              {c.axis && say("axisAxis", { axis: c.axis })}
              {c.direction && say("toTheDirection", { direction: c.direction })}
            </div>
          ))}
        </Fold>
      )}
    </Block>
  );
}

/**
 * What is inside is drawn when it is opened first, and stays from then on with whatever was typed into it.
 */
function Fold({ title, open = false, children }: { title: string; open?: boolean; children: ReactNode }) {
  const [drawn, setDrawn] = useState(open);
  return (
    <Accordion
      defaultExpanded={open}
      onChange={() => setDrawn(true)}
      disableGutters
      sx={{
        bgcolor: "transparent",
        boxShadow: "none",
        borderBottom: 1,
        borderColor: "divider",
        "&::before": { display: "none" },
      }}
    >
      <AccordionSummary expandIcon={<ExpandMore />} sx={{ px: 0.5, minHeight: 40, fontWeight: 700 }}>
        {title}
      </AccordionSummary>
      <AccordionDetails sx={{ px: 0.5, pt: 0 }}>{drawn && children}</AccordionDetails>
    </Accordion>
  );
}

/** Point by point: this unit's figure, what healthy units show, and what lies outside. */
function Readings({ find, wiring }: { find: FindView; wiring: Wiring }) {
  return (
    <Box
      component="table"
      sx={{
        width: "100%",
        borderCollapse: "collapse",
        "& td, & th": { textAlign: "left", py: 0.3, pr: 2, borderBottom: 1, borderColor: "divider" },
      }}
    >
      <thead>
        <tr>
          <th>{say("point")}</th>
          <th>{say("here")}</th>
          <th>{say("healthy")}</th>
          <th>{say("standsBehindIt")}</th>
          <th />
        </tr>
      </thead>
      <tbody>
        {wiring.points.map((p) => {
          const r = find.points.find((x) => x.id === p.id);
          const unit = p.quantity === "volts" ? "V" : "Ω";
          const basisOf = () => {
            if (r?.healthy.length) return say("healthyHealthyUnit", { healthy: r.healthy.length });
            if (p.expects !== null) return say("theModelSProfile");
            return "";
          };
          return (
            <tr key={p.id}>
              <td>{p.name}</td>
              <td>
                <b>{r?.value != null ? `${r.value} ${unit}` : say("notRead")}</b>
              </td>
              <td>{r?.middle != null ? `${r.middle} ${unit}` : say("notKnown")}</td>
              <td>{basisOf()}</td>
              <td>{r?.off == null ? "" : outcomeWords(r.off ? "off" : "right")}</td>
            </tr>
          );
        })}
      </tbody>
    </Box>
  );
}
