"use client";

import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Typography from "@mui/material/Typography";
import Link from "next/link";
import { useEffect, useState } from "react";

import { canSpeak } from "@/browser/speech";
import type { OrderView } from "@/features/mend/view";
import { CAUTIONS, stepTitle, toolName } from "@/features/mend/words/text";
import { say } from "@/features/mend/words/words";
import { Problem } from "@/ui/deed/Problem";
import { useDeed } from "@/ui/deed/useDeed";
import { NativeSelect } from "@/ui/fields/NativeSelect";
import { FIGURES } from "@/ui/figures";
import { BoundField } from "@/ui/form/BoundField";
import { Kbd } from "@/ui/kit/Kbd";
import { ACTS, ACT_WORDS, keyName } from "./bindings";
import { GAP, PHASES, type StepState } from "./useStep";
import { SIZE } from "@/ui/tokens";

export function StepHead({ unit, at, line, step, order, setKeysOpen, heading, keysOpen }: StepState) {
  return (
    <Box sx={{ display: "flex", gap: 2, alignItems: "baseline", flexWrap: "wrap" }}>
      <Typography component="div" sx={{ fontWeight: 800, fontSize: SIZE.title }}>
        <Link href={`/units/${unit.tag}/mend`}>{unit.tag}</Link> {unit.model}
      </Typography>
      <Box component="div" sx={{ m: 0, fontFamily: FIGURES, fontWeight: 700, fontSize: SIZE.title }}>
        {at + 1}/{line.length}
      </Box>
      <Typography color="text.secondary">
        {say("phaseAboutMinutesMin", { phase: PHASES[step.phase], minutes: step.minutes })}
        {step.learned.cases > 0 && say("learnedFromCases", { cases: step.learned.cases })}
        {say("minutesLeftMinLeftInAll", { minutesLeft: Math.round(order.minutesLeft) })}
      </Typography>
      <Box sx={{ flex: 1 }} />
      <Button size="small" component={Link} href={`/units/${unit.tag}/mend/map`}>
        {say("fastenerMap")}
      </Button>
      <Button
        size="small"
        onClick={() => {
          setKeysOpen((o) => !o);
          heading.current?.focus({ preventScroll: true }); // the next Enter is about the step
        }}
        aria-expanded={keysOpen}
      >
        {say("keysPedalButtons")}
      </Button>
    </Box>
  );
}

export function StepLine({ line, at }: StepState) {
  return (
    <Box
      component="ol"
      aria-label={say("stepsOfThisWorkOrder")}
      sx={{ display: "flex", gap: "3px", listStyle: "none", p: 0, m: 0 }}
    >
      {line.map((s, i) => {
        const bgcolorOf = () => {
          if (s.done) return "pass.main";
          if (i === at) return "primary.main";
          return "divider";
        };
        return (
          <Box
            component="li"
            key={s.key}
            title={stepTitle(s)}
            aria-current={i === at ? "step" : undefined}
            sx={{
              flex: 1,
              position: "relative",
              height: i === at ? 12 : 8,
              alignSelf: "center",
              borderRadius: 0.5,
              bgcolor: bgcolorOf(),
            }}
          >
            <Box
              component="span"
              sx={{
                position: "absolute",
                width: "1px",
                height: "1px",
                overflow: "hidden",
                clipPath: "inset(50%)",
              }}
            >
              {stepTitle(s)}
              {s.done && say("done")}
            </Box>
          </Box>
        );
      })}
    </Box>
  );
}

export function KeyBindings({ keysOpen, binding, bind, bound, reset }: StepState) {
  return (
    keysOpen && (
      <Box
        sx={{
          display: "flex",
          gap: 1,
          flexWrap: "wrap",
          alignItems: "center",
          p: 1.5,
          border: 1,
          borderColor: "divider",
          borderRadius: 1,
          bgcolor: "background.paper",
        }}
      >
        {ACTS.map((a) => (
          <Button
            key={a}
            size="small"
            variant={binding === a ? "contained" : "outlined"}
            onClick={() => bind(a)}
          >
            {binding === a
              ? say("pressAKeyPedalOrButton")
              : `${ACT_WORDS[a]}: ${keyName(bound.keys[a])}${bound.pad[a] === undefined ? "" : say("buttonA", { a: bound.pad[a]! + 1 })}`}
          </Button>
        ))}
        <Button size="small" onClick={reset}>
          {say("asTheyWere")}
        </Button>
        <span>{say("theScannerTakesTheCodesOn")}</span>
      </Box>
    )
  );
}

export function DelicateNow({ order, step, isCurrent }: StepState) {
  return (
    order.pause === step.key &&
    isCurrent && (
      <Box
        role="note"
        sx={{
          fontSize: SIZE.lead,
          fontWeight: 600,
          borderLeft: 5,
          borderColor: "primary.main",
          pl: 1.2,
        }}
      >
        {say("theMostDelicateStepOfThis")}
      </Box>
    )
  );
}

export function Hazards({ step }: StepState) {
  return step.hazards.map((h) => (
    <Box
      key={h}
      role="note"
      sx={{
        display: "flex",
        gap: 1.2,
        alignItems: "center",
        fontSize: SIZE.lead,
        fontWeight: 600,
        color: "caution.main",
        borderLeft: 5,
        borderColor: "caution.main",
        pl: 1.2,
      }}
    >
      {CAUTIONS[h]}
    </Box>
  ));
}

export function ToolsOfStep({ step }: StepState) {
  return (
    <Typography color="text.secondary" sx={{ fontSize: SIZE.body }}>
      {[
        step.tools.length > 0 && say("toolsTools", { tools: step.tools.map(toolName).join(", ") }),
        step.phase === "apart" && step.step?.hands === 2 && say("aSecondPairOfHandsHelps"),
        step.step?.light && say("lightAndMagnifier"),
        step.step?.noises,
        step.difficulty >= 4 && say("hard2"),
        step.fragility >= 4 && say("fragile2"),
      ]
        .filter(Boolean)
        .join(" ")}
    </Typography>
  );
}

export function TipsOfStep({ mine }: StepState) {
  return (
    mine.length > 0 && (
      <Box
        sx={{ borderLeft: 4, borderColor: "primary.main", pl: 1.5 }}
        role="note"
        aria-label={say("fromEarlierJobs")}
      >
        {mine.map((t) => (
          <div key={t.id}>
            {t.words}{" "}
            <Box component="span" sx={{ color: "text.secondary" }}>
              ({t.state === "confirmed" ? say("confirmedHere") : say("notConfirmed")}
              {t.source && say("fromSource", { source: t.source })}, {t.by})
            </Box>
          </div>
        ))}
      </Box>
    )
  );
}

export function PieceFromShelf({ target, shelf, piece, setPiece }: StepState) {
  return (
    target &&
    shelf.some((s) => s.slot === target.slot) && (
      <NativeSelect
        label={say("pieceFromTheShelf")}
        value={piece}
        onChange={(e) => setPiece(e.target.value)}
        sx={{ maxWidth: 520 }}
      >
        <option value="">{say("none")}</option>
        {shelf
          .filter((s) => s.slot === target.slot)
          .map((s) => (
            <option key={s.batchId} value={s.batchId}>
              {s.batch}, {s.name}
            </option>
          ))}
      </NativeSelect>
    )
  );
}

export function PartByHand({
  target,
  step,
  piece,
  canWork,
  part,
  setPart,
  currency,
  cost,
  setCost,
}: StepState) {
  return (
    target &&
    !step.done &&
    piece === "" &&
    canWork && (
      <Box sx={{ display: "flex", gap: 1, maxWidth: 520 }}>
        <BoundField
          deed="work.do"
          name="part"
          label={say("partUsedNotFromTheShelf")}
          value={part}
          onChange={setPart}
        />
        <BoundField
          deed="work.do"
          name="partMinor"
          label={say("itsCostCurrency", { currency })}
          value={cost}
          onChange={setCost}
          sx={{ width: 160 }}
        />
      </Box>
    )
  );
}

export function GateTests({ step, unit, why, setWhy }: StepState) {
  return (
    step.phase === "gate" && (
      <Box sx={{ display: "flex", gap: 1, flexWrap: "wrap", alignItems: "center" }}>
        <Button
          component={Link}
          href={`/units/${unit.tag}/test/run?kind=${step.key === "gate:open" ? "quick" : "full"}&for=work`}
          variant="outlined"
          size="large"
        >
          {step.key === "gate:open" ? say("quickLookNow") : say("runTheFullTest")}
        </Button>
        {step.key === "gate:open" && (
          <BoundField
            deed="work.do"
            name="event.why"
            label={say("orWhyItIsNotTested")}
            value={why}
            onChange={setWhy}
            sx={{ width: 320 }}
          />
        )}
      </Box>
    )
  );
}

export function PicturesOfStep({ photos }: StepState) {
  return (
    photos.length > 0 && (
      <Box sx={{ display: "flex", gap: 1, flexWrap: "wrap" }} aria-label={say("picturesOfThisStep")}>
        {photos.map((p) => (
          // eslint-disable-next-line @next/next/no-img-element -- served by our own route, small already
          <img
            key={p.id}
            src={`/api/photos/${p.id}?small=1`}
            alt={p.caption}
            height={92}
            style={{ borderRadius: 6 }}
          />
        ))}
      </Box>
    )
  );
}

export function StepActions({
  canWork,
  step,
  finish,
  doneWords,
  bound,
  look,
  at,
  line,
  takeBack,
  order,
  work,
  setAsking,
  photograph,
  picture,
  file,
  keep,
  aloud,
  pictureWords,
}: StepState) {
  return (
    <Box
      sx={{
        display: "flex",
        gap: 1.5,
        flexWrap: "wrap",
        alignItems: "center",
        position: { md: "sticky" },
        bottom: "var(--bench-edge, 56px)",
        zIndex: 4,
        py: 1,
        bgcolor: "background.default",
      }}
    >
      <Button
        variant="contained"
        size="large"
        disabled={!canWork || step.done}
        onClick={() => void finish()}
        sx={{ fontSize: SIZE.title, minHeight: 64, px: 4 }}
      >
        {doneWords()}
        &nbsp;
        <Kbd>{keyName(bound.keys.done)}</Kbd>
      </Button>
      <Button size="large" sx={GAP} onClick={() => look(at - 1)} disabled={at === 0}>
        {say("back")} <Kbd>←</Kbd>
      </Button>
      <Button size="large" sx={GAP} onClick={() => look(at + 1)} disabled={at === line.length - 1}>
        {say("next")} <Kbd>→</Kbd>
      </Button>
      <MoreActions
        canWork={canWork}
        takeBack={takeBack}
        order={order}
        work={work}
        bound={bound}
        setAsking={setAsking}
        photograph={photograph}
        picture={picture}
        file={file}
        keep={keep}
      />
      <SpeakButton onSpeak={aloud} label={keyName(bound.keys.aloud)} />
      <span role="status">{pictureWords()}</span>
    </Box>
  );
}

function MoreActions({
  canWork,
  takeBack,
  order,
  work,
  bound,
  setAsking,
  photograph,
  picture,
  file,
  keep,
}: Pick<
  StepState,
  | "canWork"
  | "takeBack"
  | "order"
  | "work"
  | "bound"
  | "setAsking"
  | "photograph"
  | "picture"
  | "file"
  | "keep"
>) {
  return (
    canWork && (
      <>
        <Button
          size="large"
          sx={GAP}
          onClick={() => void takeBack()}
          disabled={order.begun === 0 && work.pending.length === 0}
        >
          {say("undo")} <Kbd>{keyName(bound.keys.undo)}</Kbd>
        </Button>
        <Button size="large" color="error" sx={GAP} onClick={() => setAsking(true)}>
          {say("problem")} <Kbd>{keyName(bound.keys.problem)}</Kbd>
        </Button>
        <Button size="large" sx={GAP} onClick={() => void photograph()} disabled={picture === "taking"}>
          {say("picture")} <Kbd>{keyName(bound.keys.picture)}</Kbd>
        </Button>
        <input
          ref={file}
          type="file"
          accept="image/*"
          capture="environment"
          hidden
          aria-label={say("aPictureOfThisStep")}
          onChange={(e) => e.target.files?.[0] && void keep(e.target.files[0])}
        />
      </>
    )
  );
}

/** The revision is often known only once the shell is open; the branch follows it. */
export function WhichInside({ order }: { order: OrderView }) {
  const set = useDeed("work.revision");
  return (
    <Box
      role="group"
      aria-label={say("whichRevisionIsItInside")}
      sx={{ display: "flex", gap: 1, flexWrap: "wrap", alignItems: "center" }}
    >
      <b>{say("whichIsItInside")}</b>
      {order.revisions.map((r) => (
        <Button
          key={r.id}
          variant="outlined"
          disabled={set.running}
          onClick={() => void set.run({ orderId: order.id, revision: r.id })}
        >
          {r.name}: {r.inside}
        </Button>
      ))}
      <Problem problem={set.problem} />
    </Box>
  );
}

function SpeakButton({ onSpeak, label }: { onSpeak: () => void; label: string }) {
  const [can, setCan] = useState(false);
  useEffect(() => {
    const timer = setTimeout(() => setCan(canSpeak()), 0);
    return () => clearTimeout(timer);
  }, []);
  if (!can) return null;
  return (
    <Button size="large" sx={GAP} onClick={onSpeak}>
      {say("readAloud2")} <Kbd>{label}</Kbd>
    </Button>
  );
}
