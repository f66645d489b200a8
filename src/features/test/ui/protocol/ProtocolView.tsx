"use client";

import Alert from "@mui/material/Alert";
import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Typography from "@mui/material/Typography";
import dynamic from "next/dynamic";
import Link from "next/link";
import { type MouseEvent, useEffect, useRef, useState } from "react";
import { BondFirst, callsRadioDead } from "@/features/test/ui/bond/BondFirst";

import { supplySuspect } from "@/core/bench/cells";
import type { Reading } from "@/core/bench/readings";
import { functionsOf, type ModelProfile } from "@/core/profile/profile";
import {
  FOUR_LINKS,
  functionsOfLink,
  GROUPS,
  type Minutes,
  type ProtocolStep,
  type Purpose,
  PURPOSES,
} from "@/core/protocol/protocol";
import { nextStep, type ProtocolFacts, stateOfStep } from "@/core/protocol/progress";
import type { CheckResult } from "@/core/bench/result";
import { BENCH_PRESETS } from "@/core/simulate/instruments";
import { codeWords } from "@/words/codes";
import type { ReadingView, ReferenceSheet } from "@/features/test/readings";
import type { UnitView } from "@/features/units/view";
import {
  findingText,
  GROUP_NAMES,
  LINK_NAMES,
  METHOD_WORDS,
  protocolStepName,
  PURPOSE_NAMES,
} from "@/features/test/words/text";
import { dayAndTime, figure } from "@/text/format";
import { CHECK_NAMES } from "@/features/case/words/text";
import { Refusals } from "@/ui/deed/Refusals";
import { useDeed, useQuiet } from "@/ui/deed/useDeed";
import { NativeSelect } from "@/ui/fields/NativeSelect";
import { Kbd } from "@/ui/kit/Kbd";
import { useKeys } from "@/ui/kit/keys";
import { StateMark, stateOfCheck } from "@/ui/state/StateMark";
import { Station } from "@/features/units/ui/unit/Station";
import { LinkPanel, MicrophonePanel, MotorPanel, TonePanel } from "./live-panels";
import {
  ContactSensorPanel,
  DragPanel,
  FeelPanel,
  LatchPanel,
  LogPanel,
  type PanelProps,
  SupplyPanel,
} from "./panels";
import { NameReading } from "./NameReading";
import { ReadingResult } from "./ReadingResult";
import { type BenchTools, useBenchTools, useStopwatch } from "./useBenchTools";
import { say } from "@/features/test/words/words";
import { SIZE } from "@/ui/tokens";
import { Block, Notice, Row, Text, Words } from "@/ui/kit/layout";

const LogPlot = dynamic(() => import("@/ui/charts/charts").then((m) => m.LogPlot), { ssr: false });

export type StepMinutes = Record<string, Minutes>;
type Props = {
  view: UnitView;
  purpose: Purpose;
  steps: ProtocolStep[];
  minutes: StepMinutes;
  readings: ReadingView[];
  sheet: ReferenceSheet | null;
  stepId: string | null;
  canWork: boolean;
};

/** A unit's protocol: every step in order with its state and minutes, and the step that is being done. */
export function ProtocolView({ view, purpose, steps, minutes, readings, sheet, stepId, canWork }: Props) {
  const { unit } = view;
  // the step is held here: the router follows the address late, and would lead quick hands back
  const [opened, setOpened] = useState(stepId);
  useEffect(() => {
    const back = () => setOpened(new URLSearchParams(window.location.search).get("step"));
    window.addEventListener("popstate", back);
    return () => window.removeEventListener("popstate", back);
  }, []);
  const base = `/units/${unit.tag}/test/bench?for=${purpose}`;
  const saving = useDeed("function.check").pending.filter((p) => p.unitId === unit.id);
  const facts: ProtocolFacts = {
    // what is on its way counts already, so that quick hands are led on
    checks: [
      ...view.checks.filter((c) => !saving.some((p) => p.functionId === c.functionId)),
      ...saving.map((p) => ({ functionId: p.functionId, result: p.result, at: new Date().toISOString() })),
    ],
    readings,
    recordings: view.recordings,
    since: purpose === "proof" ? (view.mends.at(-1)?.at ?? null) : null,
  };
  const upNext = nextStep(steps, facts);
  const active = steps.find((s) => s.id === opened) ?? upNext ?? steps[0]!;
  const tools = useBenchTools(seedOf(unit.tag + active.id));
  const wanted = steps.filter((s) => !s.optional);
  const left = wanted.filter((s) => stateOfStep(s, facts) === "not-tested");
  const minutesLeft = left.reduce((m, s) => m + minutes[s.id]!.expected, 0);
  /** The next step stands there before the next key comes: nothing of it has to be fetched. */
  const open = (step: ProtocolStep | null | undefined) => {
    if (!step) return;
    setOpened(step.id);
  };
  // the address follows once nothing is on its way: a push into a running refresh makes the router drop it,
  // or load the page anew
  const quiet = useQuiet();
  useEffect(() => {
    if (!quiet || opened === null || new URLSearchParams(window.location.search).get("step") === opened)
      return;
    window.history.pushState(null, "", `${base}&step=${encodeURIComponent(opened)}`);
  }, [quiet, opened, base]);
  const go = (by: number) => open(steps[(steps.indexOf(active) + by + steps.length) % steps.length]);
  useKeys({ ArrowDown: () => go(1), ArrowUp: () => go(-1), g: () => open(upNext) });
  return (
    <Station
      plan={
        <>
          <Row component="nav" aria-label={say("purpose")} gap={0.5} after={1} oneLine>
            {PURPOSES.map((p) => (
              <Button
                key={p}
                component={Link}
                href={`/units/${unit.tag}/test/bench?for=${p}`}
                size="small"
                variant={p === purpose ? "contained" : "outlined"}
                aria-current={p === purpose ? "page" : undefined}
              >
                {PURPOSE_NAMES[p]}
              </Button>
            ))}
          </Row>
          <Row gap={1} after={1} oneLine at="baseline">
            <Words size="figure" strong figures>
              {wanted.length - left.length} / {wanted.length}
            </Words>
            <span>{say("stepsDoneAboutMinutesLeftMin", { minutesLeft: Math.ceil(minutesLeft) })}</span>
          </Row>
          <FourResults view={view} facts={facts} />
          <StepList profile={view.profile} {...{ steps, active, facts, minutes, base }} onOpen={open} />
        </>
      }
    >
      <StepWork
        key={active.id}
        {...{ view, step: active, readings, sheet, canWork, purpose, tools }}
        minutes={minutes[active.id]!}
        state={stateOfStep(active, facts)}
        onNext={() =>
          open(
            nextStep(
              steps.filter((s) => s.id !== active.id),
              facts,
            ) ?? steps[steps.indexOf(active) + 1],
          )
        }
      />
    </Station>
  );
}

/** Power and links as four results, "not fitted" where the model has none. */
function FourResults({ view, facts }: { view: UnitView; facts: ProtocolFacts }) {
  const functions = functionsOf(view.profile, view.unit.revision);
  const results = FOUR_LINKS.map((link) => {
    const of = functionsOfLink(link, functions);
    const states = of.map((f) => facts.checks.find((c) => c.functionId === f.id)?.result ?? "not-tested");
    const stateOf = (): CheckResult => {
      if (of.length === 0) return "not-fitted";
      if (states.includes("fail")) return "fail";
      if (states.includes("not-tested")) return "not-tested";
      if (states.every((s) => s === "not-fitted")) return "not-fitted";
      return "pass";
    };
    const state = stateOf();
    return { link, state };
  });
  return (
    <Box
      component="section"
      aria-label={say("powerAndLinksFourResults")}
      sx={{ display: "grid", gridTemplateColumns: "1fr 1fr", gap: 0.5, mb: 1.5, fontSize: SIZE.small }}
    >
      {results.map(({ link, state }) => (
        <Row key={link} gap={0.5} oneLine at="center">
          <StateMark state={stateOfCheck(state)} size={16} />
          {LINK_NAMES[link]}: <b>{CHECK_NAMES[state]}</b>
        </Row>
      ))}
    </Box>
  );
}

function StepList({
  profile,
  steps,
  active,
  facts,
  minutes,
  base,
  onOpen,
}: {
  profile: ModelProfile;
  steps: ProtocolStep[];
  active: ProtocolStep;
  facts: ProtocolFacts;
  minutes: StepMinutes;
  base: string;
  onOpen: (step: ProtocolStep) => void;
}) {
  return (
    <Box
      component="nav"
      aria-label={say("steps")}
      sx={{ maxHeight: { md: "52vh" }, overflowY: "auto", pr: 0.5 }}
    >
      {GROUPS.filter((g) => steps.some((s) => s.group === g)).map((group) => (
        <Block key={group} after={1}>
          <Text component="h2" variant="h3" after={0.5}>
            {GROUP_NAMES[group]}
          </Text>
          {steps
            .filter((s) => s.group === group)
            .map((s) => {
              const state = stateOfStep(s, facts);
              return (
                <Box
                  key={s.id}
                  component={Link}
                  href={`${base}&step=${encodeURIComponent(s.id)}`}
                  onClick={(e: MouseEvent) => {
                    if (e.ctrlKey || e.metaKey || e.shiftKey) return; // a page of its own
                    e.preventDefault();
                    onOpen(s);
                  }}
                  aria-current={s.id === active.id ? "step" : undefined}
                  aria-label={`${protocolStepName(s, profile)}: ${CHECK_NAMES[state]}`}
                  sx={{
                    display: "grid",
                    gridTemplateColumns: "18px minmax(0,1fr) auto",
                    gap: 1,
                    alignItems: "center",
                    minHeight: 38,
                    px: 0.8,
                    textDecoration: "none",
                    color: "text.primary",
                    borderLeft: 4,
                    borderColor: s.id === active.id ? "primary.main" : "transparent",
                    bgcolor: s.id === active.id ? "background.paper" : undefined,
                    fontWeight: s.id === active.id ? 700 : 400,
                    lineHeight: 1.15,
                  }}
                >
                  <StateMark state={stateOfCheck(state)} size={16} />
                  <span>
                    {protocolStepName(s, profile)}
                    {s.optional && (
                      <Words component="span" size="fine" quiet>
                        {" "}
                        {say("ifCalledFor")}
                      </Words>
                    )}
                  </span>
                  <Words component="span" size="fine" quiet figures>
                    {say("expectedMin", { expected: figure(minutes[s.id]!.expected, 1) })}
                  </Words>
                </Box>
              );
            })}
        </Block>
      ))}
    </Box>
  );
}

const capital = (s: string) => s.charAt(0).toUpperCase() + s.slice(1);

function StepWork({
  view,
  step,
  minutes,
  readings,
  sheet,
  canWork,
  state,
  purpose,
  tools,
  onNext,
}: {
  view: UnitView;
  step: ProtocolStep;
  minutes: Minutes;
  readings: ReadingView[];
  sheet: ReferenceSheet | null;
  canWork: boolean;
  state: CheckResult;
  purpose: Purpose;
  tools: BenchTools;
  onNext: () => void;
}) {
  const { unit, profile } = view;
  const take = useDeed("reading.take");
  const check = useDeed("function.check");
  const took = useStopwatch(step.id);
  const here = useRef(true);
  useEffect(() => {
    here.current = true;
    return () => void (here.current = false);
  }, []);
  const reading = readings.find((r) => r.kind === step.method && r.subject === step.subject);
  const supply = step.subject
    ? (profile.power.find((p) => (p.half ?? "main") === step.subject) ?? null)
    : null;
  const keep = async (made: Reading) => {
    const done = await take.run({
      unitId: unit.id,
      reading: made,
      instrument: tools.label,
      host: navigator.userAgent.slice(0, 300),
      tookMs: took(),
    });
    // whoever went on by hand meanwhile is not led elsewhere
    if (done?.ok && done.value.verdict === "pass" && here.current) onNext();
  };
  /** the step whose radio was said to fail while nobody cleared its bond yet */
  const [bond, setBond] = useState<string | null>(null);
  const answer = (result: CheckResult, bondCleared = false) => {
    if (!bondCleared && callsRadioDead(profile, step.functionId, result)) return setBond(step.id);
    setBond(null);
    void check.run({
      unitId: unit.id,
      functionId: step.functionId!,
      result,
      note: "",
      tookMs: took(),
      ...(bondCleared ? { bondCleared } : {}),
    });
    if (result !== "fail") onNext();
  };
  useKeys(
    step.functionId && canWork
      ? {
          y: () => answer("pass"),
          x: () => answer("fail"),
          "-": () => answer("not-fitted"),
          u: () => answer("not-tested"),
        }
      : {},
  );
  return (
    <Box component="section" aria-label={protocolStepName(step, profile)}>
      <Text color="text.secondary" strong>
        {say("groupMethodExpectedMinCases", {
          group: GROUP_NAMES[step.group],
          method: METHOD_WORDS[step.method],
          expected: figure(minutes.expected, 1),
          cases: minutes.cases ? say("houseGuessAndCasesOfThe", { cases: minutes.cases }) : say("houseGuess"),
        })}
      </Text>
      <Row gap={1} after={2} at="center">
        <StateMark state={stateOfCheck(state)} size={26} />
        <Typography
          component="h2"
          sx={{ fontSize: { xs: SIZE.head, md: SIZE.big }, fontWeight: 800, lineHeight: 1.15 }}
        >
          {capital(protocolStepName(step, profile))}
        </Typography>
        <Text strong>{CHECK_NAMES[state]}</Text>
        <Button onClick={onNext} variant="outlined" size="small" sx={{ ml: "auto" }}>
          {say("nextStep")}
        </Button>
      </Row>
      <Cautions step={step} />
      {bond === step.id && (
        <BondFirst profile={profile} onCleared={() => answer("fail", true)} onNotYet={() => setBond(null)} />
      )}
      {(step.method === "supply" || step.method.endsWith("-log")) && (
        <SupplyVerdict supply={step.subject} readings={readings} />
      )}
      {reading && canWork && (
        <NameReading view={view} reading={reading} foundWhen={purpose === "proof" ? "proof" : "test"} />
      )}
      {reading && (
        <ReadingResult
          result={reading.result}
          beside={sheet?.readings[`${reading.kind}.${reading.subject}`] ?? []}
          head={`${reading.by}, ${dayAndTime(reading.at, view.settings)}, ${reading.instrument}`}
        />
      )}
      {reading && "rows" in reading.reading && (
        <Block after={2}>
          <LogPlot rows={reading.reading.rows} />
        </Block>
      )}
      {step.method === "guided" || step.method === "quick" ? (
        <Box sx={{ display: "grid", gap: 1.5, justifyItems: "start" }}>
          {purpose === "triage" && <Typography>{say("triageShowsWhatStandsOutIt")}</Typography>}
          {canWork && (
            <Button
              component={Link}
              href={`/units/${unit.tag}/test/run?kind=${step.method === "guided" ? "full" : "quick"}&for=${purpose}`}
              variant="contained"
              size="large"
            >
              {step.method === "guided" ? say("measureEveryControl") : say("moveEverythingOnce2")}
            </Button>
          )}
        </Box>
      ) : (
        canWork && (
          <>
            {step.method !== "prompt" && <ToolBar tools={tools} />}
            <Block around={2}>
              <Panel
                step={step}
                profile={profile}
                props={{ subject: step.subject, supply, tools, onReading: (r) => void keep(r) }}
              />
            </Block>
          </>
        )
      )}
      <Refusals refusals={[...take.refusals, ...check.refusals]} />
      {step.functionId && canWork && (
        <Box sx={{ mt: 2, pt: 1.5, borderTop: 1, borderColor: "divider" }}>
          <Text color="text.secondary" after={1}>
            {step.method === "prompt" ? say("lookAndAnswer2") : say("whereItCannotBeMeasuredHere")}
          </Text>
          <Row gap={1}>
            {(
              [
                ["pass", "y"],
                ["fail", "x"],
                ["not-fitted", "-"],
                ["not-tested", "u"],
              ] as const
            ).map(([result, key]) => (
              <Button
                key={result}
                variant={step.method === "prompt" && result === "pass" ? "contained" : "outlined"}
                size="large"
                onClick={() => answer(result)}
                startIcon={<StateMark state={stateOfCheck(result)} size={16} />}
              >
                {capital(CHECK_NAMES[result])}
                <Box component="span" sx={{ ml: 1 }}>
                  <Kbd>{key}</Kbd>
                </Box>
              </Button>
            ))}
          </Row>
        </Box>
      )}
      <Text variant="body2" color="text.secondary" before={2}>
        <Kbd>↑</Kbd> <Kbd>↓</Kbd> {say("otherSteps")} <Kbd>g</Kbd> {say("theNextOneNotTested")}
      </Text>
    </Box>
  );
}

const seedOf = (text: string) => [...text].reduce((h, c) => (h * 31 + c.charCodeAt(0)) % 100_000, 7);

/** The usual caution, short and before the step. */
function Cautions({ step }: { step: ProtocolStep }) {
  const textOf = () => {
    if (step.method === "contact-sensor") return say("unplugTheCellByItsPlug");
    if (step.method === "supply" || step.method.endsWith("-log")) return say("aCellThatSwellsGetsHot");
    return null;
  };
  const text = textOf();
  return text ? (
    <Notice role="note" severity="warning" after={2}>
      {text}
    </Notice>
  ) : null;
}

/** Cell, charging circuit or contacts: what the readings of this supply point to together. */
function SupplyVerdict({ supply, readings }: { supply: string; readings: ReadingView[] }) {
  const own = readings.filter((r) => "supply" in r.reading && r.subject === supply).map((r) => r.result);
  if (own.length === 0) return null;
  const { suspect, because } = supplySuspect(own);
  const words = {
    cell: say("pointsToTheCell"),
    "charging-circuit": say("pointsToTheChargingCircuit"),
    contacts: say("pointsToTheContacts"),
    none: say("cellChargingAndContactsNothing"),
    undecided: say("cellChargingCircuitOrContacts"),
  }[suspect];
  const severityOf = () => {
    if (suspect === "none") return "success";
    if (suspect === "undecided") return "info";
    return "error";
  };
  return (
    <Notice role="status" severity={severityOf()} after={2}>
      <b>{words}.</b> {because.map((code) => findingText({ code })).join(" ")}
    </Notice>
  );
}

function ToolBar({ tools }: { tools: BenchTools }) {
  return (
    <Row gap={1} at="center">
      <Typography sx={{ fontWeight: 600 }}>{say("figuresComeFrom")}</Typography>
      {(
        [
          ["typed", say("theHand")],
          ["simulated", say("simulatedInstruments")],
          ["serial", tools.serialLabel ?? say("aMeterOnASerialLine")],
        ] as const
      ).map(([kind, words]) => (
        <Button
          key={kind}
          size="small"
          variant={tools.kind === kind ? "contained" : "outlined"}
          aria-pressed={tools.kind === kind}
          onClick={() => tools.pick(kind)}
        >
          {words}
        </Button>
      ))}
      {tools.kind === "simulated" && (
        <NativeSelect
          label={say("simulatedUnit")}
          value={tools.preset}
          onChange={(e) => tools.pickPreset(e.target.value)}
          sx={{ width: 230 }}
        >
          {Object.keys(BENCH_PRESETS).map((p) => (
            <option key={p} value={p}>
              {codeWords(p)}
            </option>
          ))}
        </NativeSelect>
      )}
      {tools.problem && (
        <Alert severity="warning" role="alert" sx={{ flexBasis: "100%" }}>
          {tools.problem}
        </Alert>
      )}
    </Row>
  );
}

function Panel({
  step,
  profile,
  props,
}: {
  step: ProtocolStep;
  profile: UnitView["profile"];
  props: PanelProps;
}) {
  const f = profile.functions.find((x) => x.id === step.functionId);
  const whatOf = () => {
    if (f?.kind === "radio") return "radio";
    if (f?.kind === "port") return "port";
    return "cord";
  };
  switch (step.method) {
    case "supply":
      return <SupplyPanel {...props} />;
    case "charge-log":
    case "discharge-log":
      return <LogPanel {...props} kind={step.method} />;
    case "link-watch":
      return <LinkPanel {...props} what={whatOf()} />;
    case "motor":
      return <MotorPanel {...props} which={/light|right/.test(step.subject) ? "light" : "heavy"} />;
    case "microphone":
      return <MicrophonePanel {...props} />;
    case "tone":
      return <TonePanel {...props} />;
    case "latch":
      return <LatchPanel {...props} />;
    case "feel":
      return <FeelPanel {...props} />;
    case "trigger-drag":
      return <DragPanel {...props} />;
    case "contact-sensor":
      return <ContactSensorPanel {...props} />;
    default:
      return null;
  }
}
