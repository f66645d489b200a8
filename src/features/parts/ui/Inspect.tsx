"use client";

import Alert from "@mui/material/Alert";
import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Checkbox from "@mui/material/Checkbox";
import FormControlLabel from "@mui/material/FormControlLabel";
import MenuItem from "@mui/material/MenuItem";
import TextField from "@mui/material/TextField";
import Typography from "@mui/material/Typography";
import { useEffect, useRef, useState } from "react";

import type { Part } from "@/core/parts/catalogue";
import type { Instrument, Quantity } from "@/core/instrument/instrument";
import { SimulatedPiece } from "@/core/simulate/pieces";
import type { BatchView } from "@/features/stock/batch-view";
import { instrumentProblemText } from "@/features/test/words/text";
import { findingText, TELL_WORDS } from "@/features/parts/words/text";
import { Refusals } from "@/ui/deed/Refusals";
import { useDeed } from "@/ui/deed/useDeed";
import { Form } from "@/ui/fields/Form";
import { NumberField, readFigure } from "@/ui/fields/NumberField";
import { useBenchTools, useStopwatch } from "@/features/test/ui/protocol/useBenchTools";
import { TellDrawing } from "./TellDrawing";
import { codeWords } from "@/words/codes";
import { say } from "@/features/parts/words/words";
import { SIZE } from "@/ui/tokens";
import { Row, Text } from "@/ui/kit/layout";

const PEDAL = "birdcage-pedal";
const keyName = (key: string) => (key === " " ? say("space") : key.toLowerCase());

/** The key or pedal that takes a reading: any key can be bound, and the choice stays with this machine. */
function usePedal(act: () => void) {
  const [key, setKey] = useState(" ");
  const [binding, setBinding] = useState(false);
  const latest = useRef(act);
  useEffect(() => {
    latest.current = act;
  });
  useEffect(() => {
    const kept = localStorage.getItem(PEDAL);
    // eslint-disable-next-line react-hooks/set-state-in-effect -- this machine's own store is there only after hydration
    if (kept) setKey(kept);
  }, []);
  useEffect(() => {
    const onKey = (e: KeyboardEvent) => {
      if (binding) {
        if (["Tab", "Escape", "Shift", "Control", "Alt"].includes(e.key)) return setBinding(false);
        e.preventDefault();
        localStorage.setItem(PEDAL, e.key);
        setKey(e.key);
        return setBinding(false);
      }
      const inField =
        e.target instanceof HTMLElement &&
        e.target.matches("input, textarea, select, button, a, [role=combobox]");
      if (inField || e.key !== key || e.repeat) return;
      e.preventDefault();
      latest.current();
    };
    window.addEventListener("keydown", onKey);
    return () => window.removeEventListener("keydown", onKey);
  }, [binding, key]);
  return { key, binding, bind: () => setBinding(true) };
}

type Fields = { a: string; b: string; thickness: string; feel: string; tells: string[]; looked: boolean };
const EMPTY: Fields = { a: "", b: "", thickness: "", feel: "", tells: [], looked: false };

type InspectProps = { view: BatchView; part: Part };

type Check = NonNullable<Part["check"]>;

/** What is still to be measured of a piece, or to be looked at; null when it is whole. */
function lacking(check: Check, f: Fields): Quantity | "eyes" | null {
  if (check.imbalanceMax !== undefined && (!f.a || !f.b)) return "ohms";
  if (check.thicknessMm && !f.thickness) return "millimetres";
  if ((check.feelMin && !f.feel) || (check.tells && !f.looked)) return "eyes";
  return null;
}

type Ohms = number | null;
const ohmsOf = (typed: string): Ohms => (typed === "open" ? null : readFigure(typed));
const bothOhms = (f: Fields): [Ohms, Ohms] | null => (f.a && f.b ? [ohmsOf(f.a), ohmsOf(f.b)] : null);
const tellsOf = (check: Check, f: Fields) =>
  check.tells && (f.looked || f.tells.length > 0) ? f.tells : null;

/** A piece's fields as what the deed takes. */
const readingOf = (check: Check, f: Fields) => ({
  ohms: check.imbalanceMax !== undefined ? bothOhms(f) : null,
  thicknessMm: f.thickness ? readFigure(f.thickness) : null,
  feel: f.feel ? Number(f.feel) : null,
  tells: tellsOf(check, f),
});

/** The fields with one figure more, in the place that is next. */
function withFigure(f: Fields, quantity: Quantity, figure: string): Fields {
  if (quantity !== "ohms") return { ...f, thickness: figure };
  return f.a ? { ...f, b: figure } : { ...f, a: figure };
}

/** The share of made-up pieces that are off, by what the bench is set to. */
const OFF_SHARE = { balanced: 0.06, unbalanced: 0.6 };

/** The meter for the piece that lies there: a real one, or a made-up one that stays with its piece. */
function useMeterFor(check: Check, batch: string, next: number) {
  const seed = [...batch].reduce((s, c) => s * 31 + c.charCodeAt(0), 7) % 100_000;
  const tools = useBenchTools(seed);
  const piece = useRef<{ number: number; meter: SimulatedPiece } | null>(null);
  const meterFor = (): Instrument | null => {
    if (tools.kind === "serial") return tools.meterFor(null, "piece");
    if (tools.kind !== "simulated") return null;
    if (piece.current?.number !== next)
      piece.current = {
        number: next,
        meter: new SimulatedPiece(
          seed + next * 977,
          tools.preset === "sensor off balance" ? OFF_SHARE.unbalanced : OFF_SHARE.balanced,
          check.thicknessMm ? (check.thicknessMm[0] + check.thicknessMm[1]) / 2 : 2,
        ),
      };
    return piece.current.meter;
  };
  return { tools, meterFor };
}

/** What Inspect knows and does; the components below only show it. */
function useInspect({ view, part }: InspectProps) {
  const deed = useDeed("batch.read");
  const check = part.check!;
  const saving = deed.pending.filter((p) => p.batchId === view.batch.id);
  const taken = new Set([...view.readings, ...saving].map((r) => r.number));
  let next = 1; // a piece that was refused is asked for again
  while (taken.has(next)) next++;
  const [v, setV] = useState<Fields>(EMPTY);
  const [trouble, setTrouble] = useState<string | null>(null);
  const { tools, meterFor } = useMeterFor(check, view.batch.code, next);
  const took = useStopwatch(`${view.batch.code} ${next}`);
  const lacks = (f: Fields) => lacking(check, f);
  const send = async (f: Fields) => {
    setV(EMPTY);
    await deed.run({
      batchId: view.batch.id,
      number: next,
      reading: readingOf(check, f),
      instrument: tools.label,
      tookMs: Math.min(3_600_000, took()),
    });
  };
  /** One press: the next figure; when nothing is left to measure, the piece is kept. */
  const press = async () => {
    const missing = lacks(v);
    if (missing === null) return void send(v);
    if (missing === "eyes") return setTrouble(say("markTheFeelAndThatThe"));
    const meter = meterFor();
    if (!meter) return setTrouble(say("typeTheFigureOrChooseA"));
    const got = await meter.read(missing);
    if (!got.ok && !(got.problem.code === "overload" && missing === "ohms"))
      return setTrouble(
        got.problem.code === "cannot" && missing === "millimetres"
          ? say("thisMeterHasNoGaugeType")
          : instrumentProblemText(got.problem),
      );
    setTrouble(null);
    const f = withFigure(v, missing, got.ok ? String(got.value) : say("open"));
    setV(f);
    if (lacks(f) === null) void send(f);
  };
  const reading = useRef(false);
  /** While the meter is being asked another press is the same one. */
  const once = async () => {
    if (reading.current) return;
    reading.current = true;
    await press().finally(() => (reading.current = false));
  };
  const pedal = usePedal(() => void once());
  const last = view.readings.at(-1);
  const asksOhms = check.imbalanceMax !== undefined;
  return {
    ...{ view, part, deed, check, saving, next, last },
    ...{ v, setV, trouble, setTrouble, tools, asksOhms, send, lacks, once, pedal },
  };
}
type InspectState = ReturnType<typeof useInspect>;

/**
 * Pieces one after another: the meter is asked by a key or pedal, what eyes and fingers find is marked, and
 * the next piece comes by itself.
 */
export function Inspect(props: InspectProps) {
  const s = useInspect(props);
  const { view, deed, next, v, trouble, setTrouble, tools, send, lacks } = s;

  if (next > view.batch.pieces)
    return <Typography color="text.secondary">{say("everyPieceWasMeasured")}</Typography>;
  return (
    <Form
      aria-label={say("measureAPiece")}
      onSend={() => {
        const missing = lacks(v);
        if (missing === null) void send(v);
        else
          setTrouble(missing === "eyes" ? say("markTheFeelAndThatThe") : say("measureOrTypeWhatIsMissing"));
      }}
      sx={{ display: "grid", gap: 1.2 }}
    >
      <PieceHead {...s} />
      <PieceFigures {...s} />
      <TellsOfPiece {...s} />
      <KeepPiece {...s} />
      {(trouble ?? tools.problem) && (
        <Alert severity="warning" role="alert">
          {trouble ?? tools.problem}
        </Alert>
      )}
      <Refusals refusals={deed.refusals} />
    </Form>
  );
}

function PieceHead({ next, saving, last }: InspectState) {
  return (
    <Row gap={2} at="baseline">
      <Text component="h3" size="title" strong>
        {say("pieceNext", { next })}
      </Text>
      {saving.length > 0 && (
        <span>
          {saving.length === 1
            ? say("pieceNumberSaving", { number: saving[0]!.number })
            : say("savingPiecesSaving", { saving: saving.length })}
        </span>
      )}
      {last && (
        <span role="status" aria-label={say("lastPiece")}>
          {say("pieceNumberVerdict", { number: last.number, verdict: codeWords(last.verdict) })}
          {last.findings.length > 0 && `: ${last.findings.map(findingText).join("; ")}`}
        </span>
      )}
    </Row>
  );
}

function PieceFigures({ tools, asksOhms, v, setV, check }: InspectState) {
  return (
    <Row gap={1} at="start">
      <TextField
        select
        label={say("figuresFrom")}
        value={tools.kind === "simulated" ? `simulated:${tools.preset}` : tools.kind}
        onChange={(e) => {
          const [kind, preset] = e.target.value.split(":");
          if (preset) tools.pickPreset(preset);
          tools.pick(kind as "typed" | "simulated" | "serial");
        }}
        sx={{ width: 230 }}
      >
        <MenuItem value="typed">{say("typedByHand")}</MenuItem>
        <MenuItem value="simulated:healthy">{say("simulatedMeterGoodPieces")}</MenuItem>
        <MenuItem value="simulated:sensor off balance">{say("simulatedMeterManyOffBalance")}</MenuItem>
        <MenuItem value="serial">{say("meterOnASerialLine")}</MenuItem>
      </TextField>
      {asksOhms && (
        <NumberField
          label={say("wiperToOneEnd")}
          unit="Ω"
          value={v.a === "open" ? "" : v.a}
          onChange={(a) => setV({ ...v, a })}
        />
      )}
      {asksOhms && (
        <NumberField
          label={say("toTheOther")}
          unit="Ω"
          value={v.b === "open" ? "" : v.b}
          onChange={(b) => setV({ ...v, b })}
        />
      )}
      {check.thicknessMm && (
        <NumberField
          label={say("thickness2")}
          unit={say("mm")}
          value={v.thickness}
          onChange={(thickness) => setV({ ...v, thickness })}
        />
      )}
      {check.feelMin !== undefined && (
        <TextField
          select
          label={say("feel2")}
          value={v.feel}
          onChange={(e) => setV({ ...v, feel: e.target.value })}
          sx={{ width: 190 }}
        >
          {["1, loose or stiff", "2", "3, usable", "4", "5, like the original"].map((t, i) => (
            <MenuItem key={t} value={String(i + 1)}>
              {t}
            </MenuItem>
          ))}
        </TextField>
      )}
    </Row>
  );
}

function TellsOfPiece({ check, part, v, setV }: InspectState) {
  return (
    check.tells &&
    part.tells.length > 0 && (
      <Row gap={2}>
        {part.tells.map((t) => (
          <Box key={t.kind} sx={{ width: 190, fontSize: SIZE.small }}>
            <TellDrawing kind={t.kind} />
            <div>
              <b>{TELL_WORDS[t.kind]}</b>
              {say("genuineGenuineACopyCopy", { genuine: t.genuine, copy: t.copy })}
            </div>
            <FormControlLabel
              control={
                <Checkbox
                  size="small"
                  checked={v.tells.includes(t.kind)}
                  onChange={(e) =>
                    setV({
                      ...v,
                      tells: e.target.checked ? [...v.tells, t.kind] : v.tells.filter((x) => x !== t.kind),
                    })
                  }
                />
              }
              label={say("notAsThePartShouldBe")}
            />
          </Box>
        ))}
        <FormControlLabel
          control={<Checkbox checked={v.looked} onChange={(e) => setV({ ...v, looked: e.target.checked })} />}
          label={say("lookedAt")}
        />
      </Row>
    )
  );
}

function KeepPiece({ tools, once, pedal }: InspectState) {
  return (
    <Row gap={1} at="center">
      {tools.kind !== "typed" && (
        <Button variant="contained" size="large" onClick={() => void once()}>
          {say("readKey", { key: keyName(pedal.key) })}
        </Button>
      )}
      <Button type="submit" variant={tools.kind === "typed" ? "contained" : "outlined"}>
        {say("keepThisPiece")}
      </Button>
      <Button size="small" onClick={pedal.bind}>
        {pedal.binding ? say("pressTheKeyOrPedal") : say("bindAnotherKeyOrPedal")}
      </Button>
    </Row>
  );
}
