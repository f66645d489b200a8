"use client";

import Alert from "@mui/material/Alert";
import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Checkbox from "@mui/material/Checkbox";
import FormControlLabel from "@mui/material/FormControlLabel";
import TextField from "@mui/material/TextField";
import Typography from "@mui/material/Typography";
import { type ReactNode, useRef, useState } from "react";

import type { Supply } from "@/core/bench/cells";
import { readLog } from "@/core/bench/log-csv";
import { FREE_PLAY, type Reading, type ReadingOf, RETURNS, FEELS, STRENGTHS } from "@/core/bench/readings";
import type { Instrument, Quantity } from "@/core/instrument/instrument";
import { simulatedChargeLog, simulatedDischargeLog } from "@/core/simulate/instruments";
import { instrumentProblemText } from "@/features/test/words/text";
import { logProblemText } from "@/text/problems";
import { Choice } from "@/ui/fields/Choice";
import { Form } from "@/ui/fields/Form";
import { NumberField, readFigure } from "@/ui/fields/NumberField";
import { FIGURES } from "@/ui/figures";
import type { BenchTools } from "./useBenchTools";
import { say } from "@/features/test/words/words";
import { codeWords } from "@/words/codes";
import { figure, typedFigure } from "@/text/format";
import { SIZE } from "@/ui/tokens";
import { Row, Words } from "@/ui/kit/layout";

/**
 * One panel per way of measuring by figures: each gathers a reading and hands it over; the server judges it.
 */

export type PanelProps = {
  subject: string;
  supply: Supply | null;
  tools: BenchTools;
  onReading: (r: Reading) => void;
};

/** A form that hands over a reading when it is complete, or says what is missing. */
export function PanelForm({
  make,
  onReading,
  children,
  action = say("keepThisReading"),
}: {
  /** the reading, or what is still missing in words */
  make: () => Reading | string;
  onReading: (r: Reading) => void;
  children: ReactNode;
  action?: string;
}) {
  const [missing, setMissing] = useState<string | null>(null);
  return (
    <Form
      noValidate
      onSend={() => {
        const made = make();
        if (typeof made === "string") setMissing(made);
        else {
          setMissing(null);
          onReading(made);
        }
      }}
      sx={{ display: "grid", gap: 2, justifyItems: "start" }}
    >
      {children}
      {missing && (
        <Alert severity="error" role="alert">
          {missing}
        </Alert>
      )}
      <Button type="submit" variant="contained" size="large">
        {action}
      </Button>
    </Form>
  );
}

/** Reads one figure from the instrument into a field, or tells what went wrong. */
function useMeter({ tools, supply, subject }: PanelProps) {
  const [problem, setProblem] = useState<string | null>(null);
  const held = useRef<{ of: string; meter: Instrument | null } | null>(null);
  const read = async (quantity: Quantity): Promise<number | "overload" | null> => {
    if (held.current?.of !== tools.label)
      held.current = { of: tools.label, meter: tools.meterFor(supply, subject) };
    const { meter } = held.current;
    if (!meter) return null;
    const got = await meter.read(quantity);
    if (got.ok) {
      setProblem(null);
      return got.value;
    }
    if (got.problem.code === "overload" && quantity === "ohms") return "overload";
    setProblem(instrumentProblemText(got.problem));
    return null;
  };
  return { read, problem, there: tools.kind !== "typed" };
}

const MeterProblem = ({ text }: { text: string | null }) =>
  text ? (
    <Alert severity="warning" role="alert">
      {text}
    </Alert>
  ) : null;

export function SupplyPanel(props: PanelProps) {
  const { subject, supply, onReading } = props;
  const [open, setOpen] = useState("");
  const [loaded, setLoaded] = useState("");
  const [amps, setAmps] = useState("");
  const meter = useMeter(props);
  const fill = async (quantity: Quantity, set: (t: string) => void) => {
    const v = await meter.read(quantity);
    if (typeof v === "number") set(typedFigure(v, 3));
  };
  const cells = supply?.cells ?? 0;
  return (
    <PanelForm
      onReading={onReading}
      make={() => {
        const openVolts = readFigure(open);
        if (openVolts === null || openVolts < 0) return say("typeTheOpenVoltageInVolts");
        const loadedVolts = loaded.trim() === "" ? null : readFigure(loaded);
        const loadAmps = amps.trim() === "" ? null : readFigure(amps);
        if ((loadedVolts === null) !== (loadAmps === null)) return say("giveTheLoadedVoltageAndThe");
        if (loadAmps !== null && loadAmps <= 0) return say("theLoadsCurrentIsInAmperes");
        return { kind: "supply", supply: subject, openVolts, loadedVolts, loadAmps };
      }}
    >
      <Typography>
        {cells > 0
          ? say("cellsNominalIsNominalVoltsV", { cells, nominalVolts: figure(supply!.nominalVolts, 1) })
          : say("theCordShouldBringNominalVolts", { nominalVolts: figure(supply?.nominalVolts ?? 5, 1) })}
      </Typography>
      <MeterProblem text={meter.problem} />
      <Row gap={2}>
        <Field
          label={say("openVoltage2")}
          unit="V"
          value={open}
          set={setOpen}
          read={meter.there ? () => fill("volts", setOpen) : null}
        />
        {cells > 0 && (
          <>
            <Field
              label={say("voltageUnderLoad2")}
              unit="V"
              value={loaded}
              set={setLoaded}
              read={meter.there ? () => fill("loaded-volts", setLoaded) : null}
            />
            <Field
              label={say("loadCurrent")}
              unit="A"
              value={amps}
              set={setAmps}
              read={meter.there ? () => fill("amps", setAmps) : null}
            />
          </>
        )}
      </Row>
    </PanelForm>
  );
}

function Field({
  label,
  unit,
  value,
  set,
  read,
}: {
  label: string;
  unit: string;
  value: string;
  set: (t: string) => void;
  read: (() => void) | null;
}) {
  return (
    <Box sx={{ display: "grid", gap: 0.5 }}>
      <NumberField label={label} unit={unit} value={value} onChange={set} />
      {read && (
        <Button size="small" variant="outlined" onClick={read}>
          {say("readLabel", { label: label.toLowerCase() })}
        </Button>
      )}
    </Box>
  );
}

export function LogPanel({
  kind,
  subject,
  supply,
  tools,
  onReading,
}: PanelProps & { kind: "charge-log" | "discharge-log" }) {
  const charge = kind === "charge-log";
  const columns = charge ? (["minutes", "milliamps", "volts"] as const) : (["minutes", "volts"] as const);
  const [text, setText] = useState("");
  const [load, setLoad] = useState("");
  const [sign, setSign] = useState<"yes" | "no" | null>(null);
  const simulate = () => {
    const power = supply ?? { chemistry: "none" as const, cells: 0, nominalVolts: 5, capacityMah: null };
    if (charge) {
      const rows = simulatedChargeLog(tools.seed, power, tools.faults);
      setText(
        ["minutes,milliamps,volts", ...rows.map((r) => `${r.minutes},${r.milliamps},${r.volts}`)].join("\n"),
      );
      setSign("yes");
    } else {
      const drawn = readFigure(load) ?? 150;
      setLoad(String(drawn));
      const rows = simulatedDischargeLog(tools.seed, power, tools.faults, drawn);
      setText(["minutes,volts", ...rows.map((r) => `${r.minutes},${r.volts}`)].join("\n"));
    }
  };
  return (
    <PanelForm
      onReading={onReading}
      make={(): Reading | string => {
        const read = readLog(text, columns);
        if (!read.ok) return logProblemText(read.problem);
        const rows = read.value.slice(0, 5000);
        if (charge) {
          if (rows.length < 2) return say("aChargeLogNeedsAtLeast");
          return {
            kind: "charge-log",
            supply: subject,
            rows: rows.map((r) => ({ minutes: r.minutes, milliamps: r.milliamps ?? 0, volts: r.volts })),
            signShown: sign === null ? null : sign === "yes",
          };
        }
        if (rows.length < 4) return say("aRunDownLogNeedsAt");
        const drawn = load.trim() === "" ? null : readFigure(load);
        return {
          kind: "discharge-log",
          supply: subject,
          rows: rows.map((r) => ({ minutes: r.minutes, volts: r.volts ?? 0 })),
          loadMilliamps: drawn,
        };
      }}
    >
      <Typography>
        {charge ? say("minutesMilliamperesAndWhere") : say("minutesAndVoltsUnderASteady")}
      </Typography>
      <Row gap={1}>
        <Button component="label" variant="outlined">
          {say("loadAFile")}
          <input
            type="file"
            hidden
            accept=".csv,.txt,text/csv,text/plain"
            aria-label={say("loadALogFile")}
            onChange={(e) => {
              const file = e.target.files?.[0];
              if (file) void file.slice(0, 2_000_000).text().then(setText);
              e.target.value = "";
            }}
          />
        </Button>
        {tools.kind === "simulated" && (
          <Button variant="outlined" onClick={simulate}>
            {say("fetchFromTheSimulatedCharge")}
          </Button>
        )}
      </Row>
      <TextField
        label={say("logColumns", { columns: columns.join(", ") })}
        multiline
        minRows={4}
        maxRows={9}
        value={text}
        onChange={(e) => setText(e.target.value)}
        sx={{ maxWidth: 560, "& textarea": { fontFamily: FIGURES } }}
      />
      {charge ? (
        <Choice
          label={say("didTheChargingSignShow")}
          value={sign}
          onChange={setSign}
          options={[
            ["yes", say("yes")],
            ["no", say("no")],
          ]}
        />
      ) : (
        <NumberField label={say("load")} unit={say("mA")} value={load} onChange={setLoad} />
      )}
    </PanelForm>
  );
}

export function MotorNotes({
  functionId,
  drivenBy,
  onReading,
}: {
  functionId: string;
  drivenBy: ReadingOf<"motor">["drivenBy"];
  onReading: (r: Reading) => void;
}) {
  const [strength, setStrength] = useState<(typeof STRENGTHS)[number] | null>(null);
  const [rattle, setRattle] = useState(false);
  return (
    <PanelForm
      onReading={onReading}
      make={() =>
        strength ? { kind: "motor", functionId, drivenBy, strength, rattle } : say("sayHowStrongItRan")
      }
    >
      <Choice
        label={say("howStrong")}
        value={strength}
        onChange={setStrength}
        options={STRENGTHS.map((s) => [s, s] as const)}
      />
      <FormControlLabel
        control={<Checkbox checked={rattle} onChange={(e) => setRattle(e.target.checked)} />}
        label={say("itRattles")}
      />
    </PanelForm>
  );
}

export function LatchPanel({ subject, onReading }: PanelProps) {
  const [n, setN] = useState({ tugs: 0, held: 0, releases: 0, letGo: 0 });
  const add = (change: Partial<typeof n>) =>
    setN((was) => ({
      tugs: was.tugs + (change.tugs ?? 0),
      held: was.held + (change.held ?? 0),
      releases: was.releases + (change.releases ?? 0),
      letGo: was.letGo + (change.letGo ?? 0),
    }));
  return (
    <PanelForm
      onReading={onReading}
      make={() => (n.tugs ? { kind: "latch", functionId: subject, ...n } : say("tugAtLeastOnceWithoutThe"))}
    >
      <Typography>{say("tugWithoutTheReleaseItMust")}</Typography>
      <Row gap={1}>
        <Button variant="outlined" size="large" onClick={() => add({ tugs: 1, held: 1 })}>
          {say("tugHeld")}
        </Button>
        <Button variant="outlined" size="large" onClick={() => add({ tugs: 1 })}>
          {say("tugSlipped")}
        </Button>
        <Button variant="outlined" size="large" onClick={() => add({ releases: 1, letGo: 1 })}>
          {say("releaseLetGo")}
        </Button>
        <Button variant="outlined" size="large" onClick={() => add({ releases: 1 })}>
          {say("releaseStuck")}
        </Button>
        <Button onClick={() => setN({ tugs: 0, held: 0, releases: 0, letGo: 0 })}>{say("startOver")}</Button>
      </Row>
      <Words size="big" strong figures>
        {say("heldOfTugsHeldLetGoOf", { held: n.held, tugs: n.tugs, letGo: n.letGo, releases: n.releases })}
      </Words>
    </PanelForm>
  );
}

const words = <T extends string>(values: readonly T[]) => values.map((v) => [v, codeWords(v)] as const);

export function FeelPanel({ subject, onReading }: PanelProps) {
  const [freePlay, setFreePlay] = useState<(typeof FREE_PLAY)[number] | null>(null);
  const [returns, setReturns] = useState<(typeof RETURNS)[number] | null>(null);
  const [feel, setFeel] = useState<(typeof FEELS)[number] | null>(null);
  return (
    <PanelForm
      onReading={onReading}
      make={() =>
        freePlay && returns && feel
          ? { kind: "feel", controlId: subject, freePlay, returns, feel }
          : say("answerAllThreeFreePlayReturn")
      }
    >
      <Choice
        label={say("freePlayBeforeResistanceBegins")}
        value={freePlay}
        onChange={setFreePlay}
        options={words(FREE_PLAY)}
      />
      <Choice label={say("letGoIt")} value={returns} onChange={setReturns} options={words(RETURNS)} />
      <Choice label={say("feelOverTheTravel")} value={feel} onChange={setFeel} options={words(FEELS)} />
    </PanelForm>
  );
}

export function DragPanel(props: PanelProps) {
  const [left, setLeft] = useState<number[]>([]);
  const [right, setRight] = useState<number[]>([]);
  const [typed, setTyped] = useState("");
  const [noise, setNoise] = useState<"none" | "slight" | "grinding">("none");
  const meter = useMeter(props);
  const isLeft = left.length <= right.length;
  const take = async () => {
    const v = meter.there ? await meter.read("grams") : readFigure(typed);
    if (typeof v !== "number" || v < 0) return;
    if (isLeft) setLeft([...left, Math.round(v)]);
    else setRight([...right, Math.round(v)]);
    setTyped("");
  };
  return (
    <PanelForm
      onReading={props.onReading}
      make={() =>
        left.length && right.length
          ? { kind: "trigger-drag", left, right, noise }
          : say("weighEachTriggerAtLeastOnce")
      }
    >
      <Typography>{say("withTheMotorsDrivenPressEach")}</Typography>
      <MeterProblem text={meter.problem} />
      <Row gap={1.5} oneLine at="center">
        {!meter.there && (
          <NumberField
            label={isLeft ? say("left") : say("right")}
            unit="g"
            value={typed}
            onChange={setTyped}
          />
        )}
        <Button variant="outlined" onClick={() => void take()}>
          {say("thereTheIsLeft", {
            there: meter.there ? say("weigh") : say("take"),
            isLeft: isLeft ? say("left2") : say("right2"),
          })}
        </Button>
      </Row>
      <Words size="head" strong figures>
        {say("leftLeftGRightRightG", {
          left: left.join(", ") || say("none"),
          right: right.join(", ") || say("none"),
        })}
      </Words>
      <Choice
        label={say("noiseOfTheGears")}
        value={noise}
        onChange={setNoise}
        options={words(["none", "slight", "grinding"] as const)}
      />
    </PanelForm>
  );
}

export function ContactSensorPanel(props: PanelProps) {
  const { subject } = props;
  const axis = subject.endsWith(".x") ? ("x" as const) : ("y" as const);
  const [nominal, setNominal] = useState("10000");
  const [a, setA] = useState("");
  const [b, setB] = useState("");
  const [finger, setFinger] = useState(false);
  const [readings, setReadings] = useState<{ a: number | null; b: number | null; finger: boolean }[]>([]);
  const meter = useMeter(props);
  const figure = (t: string) => (t.trim().toLowerCase() === "open" ? ("open" as const) : readFigure(t));
  const take = async () => {
    const one = meter.there ? await meter.read("ohms") : figure(a);
    const two = meter.there ? await meter.read("ohms") : figure(b);
    const ohms = (v: typeof one | typeof two) => (v === "open" || v === "overload" ? null : v);
    if (one === null || two === null) return;
    setReadings([...readings, { a: ohms(one) as number | null, b: ohms(two) as number | null, finger }]);
    setA("");
    setB("");
    setFinger(false);
  };
  return (
    <PanelForm
      onReading={props.onReading}
      make={() => {
        const nominalOhms = readFigure(nominal);
        if (!nominalOhms || nominalOhms <= 0) return say("typeTheNominalResistanceOfThe");
        if (readings.length === 0) return say("takeAtLeastOnePairOf");
        return { kind: "contact-sensor", controlId: subject.slice(0, -2), axis, nominalOhms, readings };
      }}
    >
      <Typography>{say("withTheUnitOpenAndUnplugged")}</Typography>
      <MeterProblem text={meter.problem} />
      <Row gap={2} at="center">
        <NumberField label={say("nominal")} unit="Ω" value={nominal} onChange={setNominal} />
        {!meter.there && (
          <>
            <TextField
              label={say("wiperToFirstEnd")}
              value={a}
              onChange={(e) => setA(e.target.value)}
              sx={{ maxWidth: 240 }}
            />
            <TextField
              label={say("wiperToSecondEnd")}
              value={b}
              onChange={(e) => setB(e.target.value)}
              sx={{ maxWidth: 240 }}
            />
          </>
        )}
        <FormControlLabel
          control={<Checkbox checked={finger} onChange={(e) => setFinger(e.target.checked)} />}
          label={say("fingerOnThePart")}
        />
        <Button variant="outlined" onClick={() => void take()}>
          {meter.there ? say("readThePair") : say("takeThePair")}
        </Button>
      </Row>
      <Box component="ol" sx={{ m: 0, pl: 3, fontFamily: FIGURES, fontSize: SIZE.lead }}>
        {readings.map((r, i) => (
          <li key={i}>
            {r.a ?? say("open")} / {r.b ?? say("open")} Ω{r.finger ? say("fingerOnIt") : ""}
          </li>
        ))}
      </Box>
    </PanelForm>
  );
}
