"use client";

import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Typography from "@mui/material/Typography";
import dynamic from "next/dynamic";
import Link from "next/link";
import { useState } from "react";

import { isNamedIn } from "@/core/case/faults";
import { type Grade, type Reason, worstFirst } from "@/core/grade/grade";
import { controlsOf, type ModelProfile, placeName, rulesOf } from "@/core/profile/profile";
import type { Plots } from "@/core/plots/plots";
import type { QuickControl } from "@/core/quicklook/quick-look";
import type { Analysis, ControlResult, TriggerResult } from "@/core/analyse/analyse";
import type { Limits } from "@/core/grade/limits";
import { triageConfidence } from "@/core/quicklook/confidence";
import { calibrationOutlook } from "@/core/analyse/calibration-outlook";
import type { TestPurpose } from "@/core/record/standing";
import type { Healthy, ReferenceSheet } from "@/features/test/readings";
import type { FaultView } from "@/features/units/view";
import { calibrationText } from "@/features/test/words/text";
import { spreadWords } from "@/features/test/ui/protocol/ReadingResult";
import { evidenceOf, viewOf } from "./Evidence";
import { day, type Shop, count, figure } from "@/text/format";
import { figuresOf, GRADE_WORDS, measureName, percent, reasonText } from "@/text/measures";
import { quickFaultText } from "@/features/case/words/text";
import { Refusals } from "@/ui/deed/Refusals";
import { useDeed } from "@/ui/deed/useDeed";
import { Kbd } from "@/ui/kit/Kbd";
import { useKeys } from "@/ui/kit/keys";
import { PlanView } from "@/ui/plan/PlanView";
import { isGood, STATE_WORDS, stateColour, StateMark, stateOfGrade } from "@/ui/state/StateMark";
import { BigFigure, PlanFrame, Station } from "@/features/units/ui/unit/Station";
import { say } from "@/features/test/words/words";
import type { Id } from "@/core/base/ids";
import { SIZE } from "@/ui/tokens";
import { Block, Row, Text } from "@/ui/kit/layout";

const Charts = {
  Edge: dynamic(() => import("@/ui/charts/charts").then((m) => m.EdgePlot), { ssr: false }),
};

export type ShownRecording = {
  id: string;
  purpose: TestPurpose;
  spot: { controls: string[]; force: string } | null;
  grade: Grade;
  analysis: Analysis;
  plots: Plots;
  quick: QuickControl[] | null;
};

type Props = {
  unitId: Id<"unit">;
  tag: string;
  profile: ModelProfile;
  revision: string | null;
  house: Limits;
  recording: ShownRecording;
  faults: FaultView[];
  canName: boolean;
  foundWhen: "test" | "proof";
  head: React.ReactNode;
  /** what is told of the recording, below its result */
  foot?: React.ReactNode;
  aside?: React.ReactNode;
  healthy: Healthy;
  /** the reference units of this model, if there are any */
  sheet?: { of: ReferenceSheet; shop: Shop } | null;
  /** address of this unit's tests, where a control can be looked at a second time */
  spotBase?: string | null;
};

const RANK: Record<Grade, number> = { fail: 0, untested: 1, C: 2, B: 3, A: 4 };

/**
 * A recording's result: every control on the plan, and for the one looked at the figures, the reasons and the
 * plots.
 */
export function Result(props: Props) {
  const { profile, revision, house, recording, faults, canName, unitId } = props;
  const all = controlsOf(profile, revision);
  const controls = recording.spot ? all.filter((c) => recording.spot!.controls.includes(c.id)) : all;
  const quickFaults = (id: string) => recording.quick?.find((q) => q.id === id)?.faults ?? [];
  const gradeOf = (id: string): Grade =>
    quickFaults(id).length ? "fail" : (recording.analysis.controls[id]?.grade ?? "untested");
  const worst = [...controls].sort((a, b) => RANK[gradeOf(a.id)] - RANK[gradeOf(b.id)]);
  const [picked, setPicked] = useState<string | null>(null);
  const selected = controls.find((c) => c.id === picked) ?? worst[0]!;
  const result = recording.analysis.controls[selected.id];
  const rules = rulesOf(profile, house);
  const { healthy } = props;
  const measured = recording.purpose !== "quick";
  const states = Object.fromEntries(controls.map((c) => [c.id, stateOfGrade(gradeOf(c.id))]));

  const addFault = useDeed("fault.add");
  const isSaving = (place: string, measure: string) =>
    addFault.pending.some((p) => p.unitId === unitId && p.place === place && p.measure === measure);
  const isNamed = (place: string, measure: string) =>
    faults.some((f) => f.status === "open" && isNamedIn(f, { place, measure })) || isSaving(place, measure);
  const failing = worstFirst(
    (result?.reasons ?? []).filter((r) => r.grade === "fail" || r.grade === "C" || r.grade === "B"),
  );
  const nextToName = failing.find((r) => !isNamed(selected.id, r.measure));
  const nameIt = (r: Reason | undefined) => {
    if (!r || !canName) return;
    void addFault.run({
      unitId,
      place: selected.id,
      kind: measureName(r.measure),
      words: reasonText(r),
      foundWhen: props.foundWhen,
      measure: r.measure,
      recordingId: recording.id,
    });
  };
  const step = (by: number) => {
    const i = worst.findIndex((c) => c.id === selected.id);
    setPicked(worst[(i + by + worst.length) % worst.length]!.id);
  };
  useKeys({ n: () => nameIt(nextToName), ArrowRight: () => step(1), ArrowLeft: () => step(-1) });

  const counts = controls.reduce<Record<string, number>>(
    (n, c) => ({ ...n, [gradeOf(c.id)]: (n[gradeOf(c.id)] ?? 0) + 1 }),
    {},
  );
  const heading = () => {
    if (recording.purpose === "quick") {
      if (recording.grade === "fail") return say("faultsSeen");
      return say("noFaultSeen");
    }
    return capital(GRADE_WORDS[recording.grade]);
  };
  const whatItProves = () => {
    if (recording.purpose === "quick")
      return say("aQuickLookNeverProofIt", {
        share: Math.round(triageConfidence(controls, recording.quick ?? []).share * 100),
      });
    if (recording.purpose === "spot")
      return say("aSpotTestNeverProofSpot", {
        spot:
          recording.spot && recording.spot.force !== "normal"
            ? say("pressedForce", { force: recording.spot.force })
            : "",
      });
    return Object.entries(counts)
      .sort(([a], [b]) => RANK[a as Grade] - RANK[b as Grade])
      .map(([g, n]) => `${n} ${GRADE_WORDS[g as Grade]}`)
      .join(", ");
  };
  const evidence =
    result && measured
      ? evidenceOf({
          id: selected.id,
          result,
          plots: recording.plots,
          limits: rules.limitsFor(selected.id),
          healthy,
        })
      : null;
  return (
    <Station
      plan={
        <>
          <PlanFrame>
            <PlanView
              profile={profile}
              revision={revision}
              states={states}
              selected={selected.id}
              onPick={setPicked}
            />
          </PlanFrame>
          <Box
            sx={{
              mt: 1,
              display: "flex",
              flexWrap: "wrap",
              columnGap: 2,
              rowGap: 0.4,
              fontSize: SIZE.small,
              color: "text.secondary",
            }}
          >
            {(["A", "B", "C", "fail", "untested"] as const).map((s) => (
              <Row key={s} gap={0.5} oneLine at="center">
                <StateMark state={s} /> {STATE_WORDS[s]}
              </Row>
            ))}
          </Box>
          {props.aside}
        </>
      }
    >
      {props.head}
      <Row gap={2} at="baseline">
        <Typography
          component="h2"
          sx={{
            fontSize: SIZE.big,
            fontWeight: 800,
            lineHeight: 1.1,
            color: stateColour(stateOfGrade(recording.grade)),
          }}
        >
          {heading()}
        </Typography>
        <Typography color="text.secondary">{whatItProves()}</Typography>
      </Row>

      <Row role="listbox" aria-label={say("controlsThatNeedALookWorst")} gap={0.5} around={1}>
        {worst
          .filter((c) => c.id === selected.id || !isGood(states[c.id]!))
          .map((c) => (
            <Box
              key={c.id}
              component="button"
              role="option"
              aria-selected={c.id === selected.id}
              onClick={() => setPicked(c.id)}
              sx={{
                display: "flex",
                alignItems: "center",
                gap: 0.6,
                border: 1,
                borderColor: c.id === selected.id ? "primary.main" : "divider",
                borderWidth: c.id === selected.id ? 2 : 1,
                borderRadius: 1,
                bgcolor: "background.paper",
                color: "text.primary",
                font: "inherit",
                fontSize: SIZE.small,
                px: 0.9,
                minHeight: 34,
                cursor: "pointer",
              }}
            >
              <StateMark state={states[c.id]!} size={16} />
              {placeName(c)}
            </Box>
          ))}
      </Row>

      <Box
        component="section"
        aria-label={placeName(selected)}
        sx={{ bgcolor: "background.paper", border: 1, borderColor: "divider", borderRadius: 1, p: 1.5 }}
      >
        <Box
          sx={{
            display: "grid",
            gap: 2,
            alignItems: "start",
            gridTemplateColumns: {
              xs: "minmax(0,1fr)",
              lg: evidence ? "minmax(0,290px) minmax(0,1fr)" : "minmax(0,1fr)",
            },
          }}
        >
          {evidence && (
            <figure style={{ margin: 0 }}>
              {evidence}
              {(healthy ?? result?.kind === "stick") && (
                <Text component="figcaption" size="small" color="text.secondary">
                  {healthy ? say("inGreyHealthy", { tag: healthy.tag }) : say("inGreyNone")}
                </Text>
              )}
            </figure>
          )}
          <Box sx={{ minWidth: 0 }}>
            <Row gap={1} after={1.5} oneLine at="center">
              <StateMark state={states[selected.id]!} size={22} />
              <Text component="h3" size="title" strong>
                {capital(placeName(selected))}
              </Text>
              <Typography sx={{ fontWeight: 700, color: stateColour(states[selected.id]!) }}>
                {GRADE_WORDS[gradeOf(selected.id)]}
              </Typography>
              {measured && (
                <Link href={`/units/${props.tag}/case?of=${encodeURIComponent(selected.id)}`}>
                  {say("itsFacts")}
                </Link>
              )}
            </Row>
            {failing.length > 0 && measured && (
              <Box sx={{ mb: 2, display: "grid", gap: 0.7 }}>
                {failing.map((r) => (
                  <Row key={r.measure} gap={1.5} at="center">
                    <StateMark state={stateOfGrade(r.grade)} size={16} />
                    <span>{reasonText(r)}</span>
                    {isNamed(selected.id, r.measure) ? (
                      <Typography color="text.secondary">
                        {isSaving(selected.id, r.measure) ? say("savingAsAFault") : say("namedAsAFault")}
                      </Typography>
                    ) : (
                      canName && (
                        <Button
                          size="small"
                          variant={r === nextToName ? "contained" : "outlined"}
                          onClick={() => nameIt(r)}
                          sx={{ minHeight: 34 }}
                        >
                          {say("nameAsFault")}{" "}
                          {r === nextToName && (
                            <Box component="span" sx={{ ml: 1, opacity: 0.8 }}>
                              n
                            </Box>
                          )}
                        </Button>
                      )
                    )}
                  </Row>
                ))}
              </Box>
            )}
            {measured && result && <NotCarried result={result} />}
            <Refusals refusals={addFault.refusals} />
            {recording.purpose === "quick" && (
              <QuickFindings seen={recording.quick?.find((q) => q.id === selected.id)} />
            )}
            {measured && result && <Figures result={result} limits={rules.limitsFor(selected.id)} />}
            {measured && !result && <Typography>{say("notTestedTheRecordingHasNo")}</Typography>}
            {result?.kind === "trigger" && measured && (
              <OtherSide id={selected.id} own={result} analysis={recording.analysis} />
            )}
          </Box>
        </Box>
        {result && measured && (
          <ControlPlots
            id={selected.id}
            result={result}
            plots={recording.plots}
            limits={rules.limitsFor(selected.id)}
            healthy={healthy}
          />
        )}
        {measured && props.sheet && (
          <BesideReferences sheet={props.sheet.of} shop={props.sheet.shop} id={selected.id} />
        )}
        {props.spotBase && <SpotLinks base={props.spotBase} id={selected.id} kind={selected.kind} />}
      </Box>
      <Text variant="body2" color="text.secondary" before={1}>
        <Kbd>←</Kbd> <Kbd>→</Kbd>{" "}
        {say("otherControlsToLocaleString", {
          samples: count(recording.analysis.sampling.samples),
          durationMs: figure(recording.analysis.sampling.durationMs / 1000),
          medianIntervalMs: figure(recording.analysis.sampling.medianIntervalMs, 1),
          p99IntervalMs: figure(recording.analysis.sampling.p99IntervalMs, 1),
        })}
      </Text>
      {props.foot}
    </Station>
  );
}

const capital = (s: string) => s.charAt(0).toUpperCase() + s.slice(1);

/** What the recording could not carry, and what to do about it. */
function NotCarried({ result }: { result: ControlResult }) {
  const open = result.reasons.filter((r) => r.grade === "untested");
  if (open.length === 0) return null;
  return (
    <Box sx={{ mb: 2, display: "grid", gap: 0.7 }}>
      {worstFirst(open).map((r) => (
        <Row key={r.measure} gap={1.5} oneLine at="center">
          <StateMark state="untested" size={16} />
          <span>{reasonText(r)}</span>
        </Row>
      ))}
    </Box>
  );
}

function QuickFindings({ seen }: { seen: QuickControl | undefined }) {
  if (!seen) return <Typography>{say("notLookedAt")}</Typography>;
  if (seen.faults.length)
    return (
      <Text size="lead" strong>
        {seen.faults.map(quickFaultText).join("; ")}
      </Text>
    );
  return (
    <Typography>{seen.seen >= 1 ? say("itMovedAndNothingStoodOut") : say("itWasNotMovedAllThe")}</Typography>
  );
}

function Figures({ result, limits }: { result: ControlResult; limits: Limits }) {
  const figures = figuresOf(result, limits);
  return (
    <Box sx={{ display: "grid", gridTemplateColumns: "repeat(auto-fill, minmax(165px, 1fr))", gap: 2 }}>
      {figures.map((f) => (
        <BigFigure
          key={f.measure}
          value={
            <Box component="span" sx={{ fontSize: f.value.length > 9 ? SIZE.title : undefined }}>
              {f.value}
            </Box>
          }
          colour={f.grade === "A" || f.grade === "B" ? undefined : stateColour(stateOfGrade(f.grade))}
          label={
            <>
              <StateMark state={stateOfGrade(f.grade)} size={16} />
              {measureName(f.measure)}
            </>
          }
          detail={[
            f.grade === "B" || f.grade === "C"
              ? say("gradeAIsLimit", { grade: GRADE_WORDS[f.grade], limit: f.limit })
              : f.limit,
            f.seen,
          ]
            .filter(Boolean)
            .join("; ")}
        />
      ))}
    </Box>
  );
}

/** Left and right against each other: a pair that differs is felt, even when each keeps its limits. */
function OtherSide({ id, own, analysis }: { id: string; own: TriggerResult; analysis: Analysis }) {
  const twinId = id.endsWith(".left") ? id.replace(/left$/, "right") : id.replace(/right$/, "left");
  const twin = analysis.controls[twinId];
  if (twinId === id || twin?.kind !== "trigger") return null;
  const differ = (a: number | null, b: number | null) =>
    a === null || b === null
      ? say("notTested")
      : say("differByAbsPoints", { abs: figure(Math.abs(a - b) * 100, 1) });
  return (
    <Text before={1.5}>
      {say("againstThePlaceNameFullPull", {
        placeName: placeName({ id: twinId }),
        fullPull: differ(own.fullPull, twin.fullPull),
        restValue: differ(own.restValue, twin.restValue),
        largestStep: differ(own.largestStep, twin.largestStep),
      })}
    </Text>
  );
}

/** The same figures of known-good units, each difference against the spread that they show. */
function BesideReferences({ sheet, id, shop }: { sheet: ReferenceSheet; id: string; shop: Shop }) {
  const rows = (sheet.controls[id] ?? []).filter((c) => c.references > 0 && c.difference !== null);
  if (rows.length === 0) return null;
  return (
    <Block component="section" aria-label={say("besideTheReferenceUnits")} before={2}>
      <Typography component="h4" variant="h3">
        {say("besideUnits", {
          units:
            sheet.units.length === 1
              ? say("theReferenceUnit")
              : say("unitsReferenceUnits", { units: sheet.units.length }),
        })}
      </Typography>
      <Typography variant="body2" color="text.secondary">
        {sheet.units
          .map((u) => say("tagOfAtTester", { tag: u.tag, at: day(u.at, shop), tester: u.tester }))
          .join("; ")}
      </Typography>
      <Box sx={{ display: "grid", gridTemplateColumns: "auto auto auto 1fr", columnGap: 2 }}>
        {rows.map((c) => [
          <span key={`${c.name}-name`}>{measureName(c.name)}</span>,
          <b key={`${c.name}-value`}>{percent(c.reference!)}</b>,
          <span key={`${c.name}-difference`}>
            {say("differenceDifference2Points", {
              difference: c.difference! >= 0 ? "+" : "−",
              difference2: figure(Math.abs(c.difference!) * 100, 1),
            })}
          </span>,
          <Box key={`${c.name}-spread`} component="span" sx={{ fontWeight: c.outside ? 700 : 400 }}>
            {spreadWords(c)}
          </Box>,
        ])}
      </Box>
    </Block>
  );
}

/** A second look at one control: alone, and for a button with another force, which tells dirt from wear. */
function SpotLinks({ base, id, kind }: { base: string; id: string; kind: string }) {
  const address = (force: string) =>
    `${base}/run?kind=spot&controls=${encodeURIComponent(id)}&force=${force}`;
  return (
    <Row gap={1} before={2} at="center">
      <span>{say("lookAgainAtThisOne")}</span>
      <Button component={Link} href={address("normal")} size="small" variant="outlined">
        {kind === "button" ? say("middleAndRim") : say("measureItAlone")}
      </Button>
      {kind === "button" && (
        <>
          <Button component={Link} href={address("light")} size="small" variant="outlined">
            {say("lightPresses")}
          </Button>
          <Button component={Link} href={address("hard")} size="small" variant="outlined">
            {say("hardPresses")}
          </Button>
        </>
      )}
    </Row>
  );
}

function ControlPlots({
  id,
  result,
  plots,
  limits,
  healthy,
}: {
  id: string;
  result: ControlResult;
  plots: Plots;
  limits: Limits;
  healthy: Healthy;
}) {
  if (result.kind === "stick") {
    const { calibration } = result;
    const other = viewOf(result) === "middle" ? "travel" : "middle";
    return (
      <>
        <Box sx={{ display: "grid", gridTemplateColumns: { xs: "1fr", lg: "1.6fr 1fr" }, gap: 2, mt: 2 }}>
          {result.profile && <Charts.Edge profile={result.profile} limits={limits.stick} />}
          {evidenceOf({ id, result, plots, limits, healthy, view: other })}
        </Box>
        {calibration && (
          <Text variant="body2" color="text.secondary" before={1}>
            {say("aCalibrationWouldLeaveRestOffset", {
              restOffset: figure(calibration.after.restOffset * 100, 1),
            })}
            {calibration.after.reachMin !== null &&
              say("shortestReachReachMin", { reachMin: figure(calibration.after.reachMin * 100, 1) })}
            {calibration.after.circularityError !== null &&
              say("edgeErrorCircularityError", {
                circularityError: figure(calibration.after.circularityError * 100, 1),
              })}
            {say("whatRemainsIsWear")} <b>{calibrationText(calibrationOutlook(result, limits.stick))}</b>
          </Text>
        )}
      </>
    );
  }
  return null;
}
