"use client";

import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Typography from "@mui/material/Typography";
import Link from "next/link";
import { useEffect, useRef, useState } from "react";
import { useRouter } from "next/navigation";

import { takePicture } from "@/browser/camera";
import { canSpeak, hush, speak } from "@/browser/speech";
import type { UnitParts } from "@/features/parts/needs";
import type { TipView } from "@/features/mend/tips";
import type { OrderView } from "@/features/mend/view";
import { CAUTIONS, CHECK_WORDS, stepDoes, stepTitle, toolName } from "@/features/mend/words/text";
import { parseAmount } from "@/core/money/money";
import { Problem } from "@/ui/deed/Problem";
import { Refusals } from "@/ui/deed/Refusals";
import { useDeed } from "@/ui/deed/useDeed";
import { NativeSelect } from "@/ui/fields/NativeSelect";
import { FIGURES } from "@/ui/figures";
import { type Act, ACT_WORDS, ACTS, keyName, useActs } from "./bindings";
import { CleanDetail } from "./CleanDetail";
import { ItemList } from "./ItemList";
import { ProblemDialog } from "./ProblemDialog";
import { shownOrder } from "./shown-order";
import { Kbd } from "@/ui/kit/Kbd";
import { useStopwatch } from "@/features/test/ui/protocol/useBenchTools";
import { say } from "@/features/mend/words/words";
import { BoundField } from "@/ui/form/BoundField";
import { isRefTo, refTo } from "@/core/mend/ref";

type Props = {
  unit: { id: string; tag: string; model: string; modelKey: string };
  order: OrderView;
  tips: TipView[];
  shelf: UnitParts["shelf"];
  currency: string;
  canWork: boolean;
};
type Step = OrderView["line"][number];

const GAP = { gap: 0.8 };
const PHASES: Record<Step["phase"], string> = {
  apart: say("takeApart"),
  work: say("mendAndClean"),
  gate: say("test"),
  back: say("putBack"),
};

/** What happens at it: state, deeds and keys of StepView. */
function useStep({ unit, order, tips, shelf, currency, canWork }: Props) {
  const router = useRouter();
  const work = useDeed("work.do");
  const undo = useDeed("work.undo");
  const now = shownOrder(order, work.pending);
  const { line } = now;
  const current = line.findIndex((s) => !s.done);
  const [looking, setLooking] = useState<string | null>(null);
  const [marked, setMarked] = useState(0);
  const [asking, setAsking] = useState(false);
  const [keysOpen, setKeysOpen] = useState(false);
  const [why, setWhy] = useState("");
  const [piece, setPiece] = useState("");
  const [part, setPart] = useState("");
  const [cost, setCost] = useState("");
  const [picture, setPicture] = useState<"none" | "taking" | "kept" | "no-camera">("none");
  const file = useRef<HTMLInputElement>(null);
  const heading = useRef<HTMLHeadingElement>(null);
  const found = looking === null ? -1 : line.findIndex((s) => s.key === looking);
  const atOf = () => {
    if (found >= 0) return found;
    if (current >= 0) return current;
    return line.length - 1;
  };
  const at = atOf();
  const step = line[at]!;
  const isCurrent = at === current;
  useEffect(() => hush, [step.key]);
  const took = useStopwatch(step.key);

  const items = now.items.filter((i) => step.items.includes(i.id));
  const look = (to: number) => {
    setLooking(line[Math.min(line.length - 1, Math.max(0, to))]!.key);
    setMarked(0);
    setPicture("none");
    work.clear();
  };
  const target = order.body.targets.find((t) => refTo("mend", t.key) === step.key);
  const finish = async () => {
    if (!canWork || step.done || (cost !== "" && parseAmount(cost) === null)) return;
    const tookMs = Math.min(14_400_000, took());
    const eventOf = () => {
      if (step.phase === "apart") return { kind: "apart", step: step.step!.id } as const;
      if (step.phase === "back") return { kind: "back", step: step.step!.id } as const;
      if (step.phase === "gate")
        return { kind: "gate", gate: step.key === "gate:open" ? "open" : "closed", why } as const;
      return { kind: "task", task: step.key } as const;
    };
    const event = eventOf();
    const taken = shelf.find((s) => s.batchId === piece && s.slot === target?.slot);
    const typed = { why, piece, part, cost };
    const asked = work.run({
      orderId: order.id,
      event,
      tookMs,
      fromStock: taken ? { batchId: taken.batchId, slot: taken.slot } : null,
      part: piece ? "" : part,
      partMinor: piece ? 0 : (parseAmount(cost) ?? 0),
    });
    // a button that was pressed by key lets go: the next Space or Enter is about the next step
    heading.current?.focus({ preventScroll: true });
    // the next step stands there at once; what is refused leads back to its step with what was typed
    setLooking(null);
    setMarked(0);
    setWhy("");
    setPiece("");
    setPart("");
    setCost("");
    setPicture("none");
    const done = await asked;
    if (done === null) return;
    if (!done.ok) {
      setLooking(step.key);
      setWhy(typed.why);
      setPiece(typed.piece);
      setPart(typed.part);
      setCost(typed.cost);
    } else if (done.value.done) router.push(`/units/${unit.tag}`);
  };
  const mark = (id: string, state: "in" | "out" | "explained") =>
    void work.run({
      orderId: order.id,
      event: state === "out" ? { kind: "in", item: id } : { kind: "out", item: id },
      tookMs: null,
    });
  /** The marked piece goes back, or the next one that is still out; one press too many takes nothing out again. */
  const tick = () => {
    if (!canWork || step.phase !== "back" || step.done) return;
    const still = items.map((i, n) => ({ i, n })).filter(({ i }) => i.state === "out");
    const next = still.find(({ n }) => n >= marked) ?? still[0];
    if (!next) return;
    mark(next.i.id, "out");
    setMarked(still.find(({ n }) => n > next.n)?.n ?? next.n);
  };
  const keep = async (blob: Blob) => {
    const query = new URLSearchParams({
      unit: unit.id,
      caption: stepTitle(step).slice(0, 120),
      step: step.key,
    });
    const sent = await fetch(`/api/photos?${query}`, { method: "POST", body: blob }).catch(() => null);
    setPicture(sent?.ok ? "kept" : "none");
    router.refresh();
  };
  const photograph = async () => {
    if (!canWork) return;
    setPicture("taking");
    const blob = await takePicture().catch(() => null);
    if (blob) await keep(blob);
    else {
      setPicture("no-camera");
      file.current?.click();
    }
  };
  const takeBack = async () => {
    if (!canWork || (order.begun === 0 && work.pending.length === 0)) return;
    work.clear();
    if ((await undo.run({ orderId: order.id }))?.ok) setLooking(null);
  };
  const aloud = () =>
    speak(
      [stepTitle(step), ...step.hazards.map((h) => CAUTIONS[h]), step.step?.mind ?? "", stepDoes(step)].join(
        ". ",
      ),
    );
  const run = (act: Act) => {
    if (asking) return;
    if (act === "done") void finish();
    else if (act === "next") look(at + 1);
    else if (act === "back") look(at - 1);
    else if (act === "problem") setAsking(canWork);
    else if (act === "tick") tick();
    else if (act === "undo") void takeBack();
    else if (act === "picture") void photograph();
    else aloud();
  };
  const { bound, binding, bind, reset } = useActs(run);
  const job = order.cleaning.find((j) => refTo("clean", j.surface) === step.key);
  const mine = tips.filter(
    (t) =>
      t.step !== null &&
      step.step !== null &&
      t.step === step.step.id &&
      t.state !== "refuted" &&
      t.state !== "adopted",
  );
  const photos = order.photos.filter(
    (p) => p.step === step.key || (step.step !== null && p.step === refTo("apart", step.step.id)),
  );
  const left = items.filter((i) => i.state === "out").length;
  const doneWords = () => {
    if (step.done) return say("doneAlready");
    if (step.phase === "back" && left > 0) return say("doneLeftStillOut", { left });
    return say("done2");
  };
  const pictureWords = () => {
    if (picture === "kept") return say("thePictureIsKeptWithThis");
    if (picture === "no-camera") return say("noCameraHereChooseAPicture");
    return "";
  };
  return {
    unit,
    order,
    shelf,
    currency,
    canWork,
    work,
    undo,
    line,
    marked,
    setMarked,
    asking,
    setAsking,
    keysOpen,
    setKeysOpen,
    why,
    setWhy,
    piece,
    setPiece,
    part,
    setPart,
    cost,
    setCost,
    picture,
    file,
    heading,
    at,
    step,
    isCurrent,
    items,
    look,
    target,
    finish,
    mark,
    keep,
    photograph,
    takeBack,
    aloud,
    bound,
    binding,
    bind,
    reset,
    job,
    mine,
    photos,
    doneWords,
    pictureWords,
  };
}
type StepState = ReturnType<typeof useStep>;

/** One step a screen, to be read at arm's length and done without touching the screen. */
export function StepView(props: Props) {
  const s = useStep(props);
  const {
    unit,
    order,
    canWork,
    work,
    undo,
    marked,
    setMarked,
    asking,
    setAsking,
    heading,
    step,
    items,
    target,
    mark,
    job,
  } = s;

  return (
    <Box sx={{ display: "grid", gap: 1.5, gridTemplateColumns: "minmax(0,1fr)" }}>
      <StepHead {...s} />
      <StepLine {...s} />
      <KeyBindings {...s} />
      <Box
        sx={{
          display: "grid",
          gap: 3,
          gridTemplateColumns: {
            xs: "minmax(0,1fr)",
            md: items.length ? "minmax(0,3fr) minmax(0,2fr)" : "minmax(0,1fr)",
          },
        }}
      >
        <Box sx={{ display: "grid", gap: 1.2, alignContent: "start" }}>
          <DelicateNow {...s} />
          <Hazards {...s} />
          <Typography
            component="h1"
            ref={heading}
            tabIndex={-1}
            sx={{ fontSize: { xs: "2rem", md: "3rem" }, fontWeight: 800, lineHeight: 1.08, outline: "none" }}
          >
            {stepTitle(step)}
          </Typography>
          {stepDoes(step) && (
            <Typography sx={{ fontSize: { xs: "1.2rem", md: "1.65rem" }, lineHeight: 1.35 }}>
              {stepDoes(step)}
            </Typography>
          )}
          {step.phase === "apart" && step.step?.mind && (
            <Typography sx={{ fontSize: { xs: "1.1rem", md: "1.4rem" }, fontWeight: 700 }}>
              {step.step.mind}
            </Typography>
          )}
          {job && <CleanDetail job={job} />}
          {step.phase === "back" && step.step!.back.checks.length > 0 && (
            <Box component="ul" sx={{ m: 0, pl: 3, fontSize: "1.2rem" }} aria-label={say("toCheck")}>
              {step.step!.back.checks.map((c) => (
                <li key={c}>{CHECK_WORDS[c]}</li>
              ))}
            </Box>
          )}
          <ToolsOfStep {...s} />
          {step.phase === "apart" && step.step!.otherWays.length > 0 && (
            <details>
              <summary>{say("otherWays")}</summary>
              {step.step!.otherWays.map((w) => (
                <div key={w.name}>
                  <b>{w.name}</b>: {w.why}
                </div>
              ))}
            </details>
          )}
          <TipsOfStep {...s} />
          <PieceFromShelf {...s} />
          <PartByHand {...s} />
          {target?.slot && (
            <Button component={Link} href={`/units/${unit.tag}/mend/solder`} sx={{ justifySelf: "start" }}>
              {say("solderSettingsAndLog")}
            </Button>
          )}
          {isRefTo("calibrate", step.key) && (
            <Button
              component={Link}
              href={`/units/${unit.tag}/mend/calibrate`}
              variant="outlined"
              sx={{ justifySelf: "start" }}
            >
              {say("calibrateIt")}
            </Button>
          )}
          <GateTests {...s} />
          <PicturesOfStep {...s} />
        </Box>
        {items.length > 0 && (
          <ItemList
            items={items}
            order={order}
            phase={step.phase}
            marked={marked}
            onMark={setMarked}
            onToggle={(i) => mark(i.id, i.state)}
            canWork={canWork && step.phase === "back" && !step.done}
          />
        )}
      </Box>
      {canWork && order.revision === null && order.revisions.length > 1 && <WhichInside order={order} />}
      <Refusals refusals={[...work.refusals, ...undo.refusals]} />
      <StepActions {...s} />
      <ProblemDialog
        open={asking}
        onClose={() => setAsking(false)}
        unit={unit}
        order={order}
        step={step}
        item={items[marked] ?? null}
      />
    </Box>
  );
}

function StepHead({ unit, at, line, step, order, setKeysOpen, heading, keysOpen }: StepState) {
  return (
    <Box sx={{ display: "flex", gap: 2, alignItems: "baseline", flexWrap: "wrap" }}>
      <Typography component="div" sx={{ fontWeight: 800, fontSize: "1.3rem" }}>
        <Link href={`/units/${unit.tag}/mend`}>{unit.tag}</Link> {unit.model}
      </Typography>
      <Box component="div" sx={{ m: 0, fontFamily: FIGURES, fontWeight: 700, fontSize: "1.3rem" }}>
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

function StepLine({ line, at }: StepState) {
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

function KeyBindings({ keysOpen, binding, bind, bound, reset }: StepState) {
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

function DelicateNow({ order, step, isCurrent }: StepState) {
  return (
    order.pause === step.key &&
    isCurrent && (
      <Box
        role="note"
        sx={{
          fontSize: "1.15rem",
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

function Hazards({ step }: StepState) {
  return step.hazards.map((h) => (
    <Box
      key={h}
      role="note"
      sx={{
        display: "flex",
        gap: 1.2,
        alignItems: "center",
        fontSize: "1.15rem",
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

function ToolsOfStep({ step }: StepState) {
  return (
    <Typography color="text.secondary" sx={{ fontSize: "1.05rem" }}>
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

function TipsOfStep({ mine }: StepState) {
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

function PieceFromShelf({ target, shelf, piece, setPiece }: StepState) {
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

function PartByHand({ target, step, piece, canWork, part, setPart, currency, cost, setCost }: StepState) {
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

function GateTests({ step, unit, why, setWhy }: StepState) {
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

function PicturesOfStep({ photos }: StepState) {
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

function StepActions({
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
        sx={{ fontSize: "1.4rem", minHeight: 64, px: 4 }}
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
      {canWork && (
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
      )}
      <SpeakButton onSpeak={aloud} label={keyName(bound.keys.aloud)} />
      <span role="status">{pictureWords()}</span>
    </Box>
  );
}

/** The revision is often known only once the shell is open; the branch follows it. */
function WhichInside({ order }: { order: OrderView }) {
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
