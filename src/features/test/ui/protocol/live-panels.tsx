"use client";

import Alert from "@mui/material/Alert";
import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import LinearProgress from "@mui/material/LinearProgress";
import MenuItem from "@mui/material/MenuItem";
import TextField from "@mui/material/TextField";
import Typography from "@mui/material/Typography";
import { useEffect, useRef, useState } from "react";

import { connectedPads } from "@/browser/gamepad";
import { LinkWatch } from "@/browser/link-watch";
import { Microphone, type MicrophoneProblem, playTone, WINDOW_MS } from "@/browser/microphone";
import { runMotor } from "@/browser/rumble";
import { PUSH_PLACES, type ReadingOf } from "@/core/bench/readings";
import { dbfs } from "@/core/bench/sound";
import { placesOf, simulatedLinkWatch, simulatedSound } from "@/core/simulate/instruments";
import { placeWord } from "@/features/test/words/text";
import { Choice } from "@/ui/fields/Choice";
import { useKeys } from "@/ui/kit/keys";
import { MotorNotes, PanelForm, type PanelProps } from "./panels";
import { usePads } from "./useBenchTools";
import { codeWords } from "@/words/codes";
import { say } from "@/features/test/words/words";
import { count, figure } from "@/text/format";
import { Row, Text, Words } from "@/ui/kit/layout";

/** Panels that watch or drive something while it happens: the link, a motor, sound. */

const PHRASE = say("sevenHeronsStoodStillAlongThe");
const LISTEN_MS = 3000;
const TONE_HZ = 1000;

export function MotorPanel({ subject, tools, onReading, which }: PanelProps & { which: "heavy" | "light" }) {
  const pads = usePads();
  const [ran, setRan] = useState<"gamepad" | "simulated" | "host" | "cannot" | null>(null);
  const run = async () => {
    if (tools.kind === "simulated") return setRan("simulated");
    const pad = connectedPads()[0];
    setRan(pad && (await runMotor(pad, which)) ? "gamepad" : "cannot");
  };
  return (
    <Box sx={{ display: "grid", gap: 2, justifyItems: "start" }}>
      <Typography>
        {say("holdTheUnitAndRunThe", { which: codeWords(which) })}{" "}
        {pads.length > 1 && say("twoControllersArePluggedInThe")}
      </Typography>
      <Button variant="outlined" size="large" onClick={() => void run()}>
        {say("runTheWhichMotor", { which: codeWords(which) })}
      </Button>
      {ran === "cannot" && (
        <Alert severity="warning" role="alert">
          {say("thisBrowserCannotDriveTheMotors")}
        </Alert>
      )}
      {ran && ran !== "cannot" && (
        <Alert role="status" severity="info">
          {say("itRanRan", { ran: ran === "simulated" ? say("simulated") : say("throughTheBrowser") })}
        </Alert>
      )}
      <MotorNotes
        functionId={subject}
        drivenBy={ran === "gamepad" || ran === "simulated" ? ran : "host"}
        onReading={onReading}
      />
    </Box>
  );
}

type What = ReadingOf<"link-watch">["what"];
const LINK_WORDS: Record<What, string> = {
  radio: say("keepAStickCirclingAndWalk"),
  cord: say("keepAStickCirclingWhileYou"),
  port: say("keepAStickCirclingWhileYou2"),
};

export function LinkPanel({ subject, tools, onReading, what }: PanelProps & { what: What }) {
  const pads = usePads();
  const places = placesOf(what);
  const watch = useRef<LinkWatch | null>(null);
  const [padIndex, setPadIndex] = useState(0);
  const [at, setAt] = useState(-1);
  const [seconds, setSeconds] = useState(0);
  const [marks, setMarks] = useState<ReadingOf<"link-watch">["marks"]>([]);
  const [times, setTimes] = useState<number[] | null>(null);
  const [charging, setCharging] = useState<Partial<Record<(typeof PUSH_PLACES)[number], boolean>>>({});
  const [plugHold, setPlugHold] = useState<"firm" | "loose" | "falls-out" | null>(null);
  const running = at >= 0 && times === null;

  useEffect(() => () => watch.current?.stop(), []);
  useEffect(() => {
    if (!running) return;
    const timer = setInterval(() => setSeconds((watch.current?.elapsed ?? 0) / 1000), 200);
    return () => clearInterval(timer);
  }, [running]);

  const mark = (i: number, t: number) => ({
    t,
    place: places[i]!,
    ...(what === "radio" ? { metres: Number(places[i]) } : {}),
  });
  const start = () => {
    if (tools.kind === "simulated") {
      const made = simulatedLinkWatch(tools.seed, what, places, tools.faults);
      setMarks(made.marks);
      setTimes(made.times);
      setAt(places.length - 1);
      if (what === "port") {
        setCharging(Object.fromEntries(PUSH_PLACES.map((p) => [p, true])));
        setPlugHold("firm");
      }
      return;
    }
    const pad = pads[padIndex] ?? pads[0];
    if (!pad) return;
    watch.current?.stop();
    watch.current = new LinkWatch(pad);
    setTimes(null);
    setMarks([mark(0, 0)]);
    setAt(0);
  };
  const next = () => {
    if (!running || !watch.current) return;
    if (at + 1 >= places.length) return stop();
    setMarks([...marks, mark(at + 1, watch.current.elapsed)]);
    setAt(at + 1);
  };
  const stop = () => {
    watch.current?.stop();
    setTimes(watch.current?.times ?? null);
  };
  useKeys(running ? { " ": next } : {});

  const canStart = tools.kind === "simulated" || pads.length > 0;
  const nextWords = () => {
    if (at + 1 < places.length) {
      if (what === "radio") return say("nowAtAtM", { at: String(places[at + 1]) });
      return say("goOnAt", { at: placeWord(places[at + 1]!) });
    }
    return say("done");
  };
  return (
    <PanelForm
      onReading={onReading}
      make={() => {
        if (times === null || times.length < 2) return say("watchTheLinkFirst");
        return {
          kind: "link-watch",
          what,
          functionId: subject,
          times,
          marks,
          chargingAt: what === "port" ? charging : {},
          plugHold: what === "port" ? plugHold : null,
        };
      }}
    >
      <Typography>{LINK_WORDS[what]}</Typography>
      {pads.length > 1 && tools.kind !== "simulated" && (
        <TextField
          select
          label={say("controller")}
          value={padIndex}
          onChange={(e) => setPadIndex(Number(e.target.value))}
          sx={{ minWidth: 280 }}
        >
          {pads.map((p, i) => (
            <MenuItem key={p.index} value={i}>
              {say("slotIndexId", { index: p.index + 1, id: p.id })}
            </MenuItem>
          ))}
        </TextField>
      )}
      <Row gap={1}>
        <Button
          variant={times ? "outlined" : "contained"}
          size="large"
          onClick={start}
          disabled={!canStart || running}
        >
          {times ? say("watchAgain") : say("watchTheLink")}
        </Button>
        {running && (
          <>
            <Button variant="contained" size="large" onClick={next}>
              {nextWords()}
            </Button>
            <Button size="large" variant="outlined" onClick={stop}>
              {say("stopHere")}
            </Button>
          </>
        )}
      </Row>
      {!canStart && (
        <Alert role="status" severity="info">
          {say("noControllerIsPluggedInPlug")}
        </Alert>
      )}
      {running && (
        <Words aria-live="polite" size="big" strong figures>
          {what === "radio" ? `${places[at]} m` : placeWord(places[at]!)}, {figure(seconds)} s
        </Words>
      )}
      {times && (
        <Text strong>
          {say("watchedForReadings", {
            at: figure((times.at(-1)! - times[0]!) / 1000),
            readings: count(times.length),
          })}
        </Text>
      )}
      {what === "port" && (
        <>
          <Row gap={2}>
            {PUSH_PLACES.map((p) => {
              const valueOf = () => {
                if (charging[p] === undefined) return null;
                if (charging[p]) return "on";
                return "off";
              };
              return (
                <Choice
                  key={p}
                  label={say("chargingPushedP", { p: codeWords(p) })}
                  value={valueOf()}
                  onChange={(v) => setCharging({ ...charging, [p]: v === "on" })}
                  options={[
                    ["on", say("staysOn")],
                    ["off", say("goesOff")],
                  ]}
                />
              );
            })}
          </Row>
          <Choice
            label={say("thePlugSits")}
            value={plugHold}
            onChange={setPlugHold}
            options={[
              ["firm", say("firm")],
              ["loose", say("loose")],
              ["falls-out", say("fallsOut")],
            ]}
          />
        </>
      )}
    </PanelForm>
  );
}

const MICROPHONE_TROUBLE: Record<MicrophoneProblem, string> = {
  insecure: say("aPlainAddressCannotUseA"),
  refused: say("theBrowserWasNotAllowedTo"),
  none: say("noMicrophoneIsTherePlugThe"),
};

/** Listens part by part, with the level as the largest thing while it does. */
function useListening({ tools }: PanelProps) {
  const [device, setDevice] = useState("");
  const [devices, setDevices] = useState<{ id: string; label: string }[]>([]);
  const [level, setLevel] = useState<number | null>(null);
  const [problem, setProblem] = useState<string | null>(null);
  const [busy, setBusy] = useState(false);
  const held = useRef(false); // two presses within one drawing of the page are still two

  const hear = async (
    what: Parameters<typeof simulatedSound>[1],
    ms: number,
    hz: number | null,
  ): Promise<number[] | null> => {
    setProblem(null);
    if (tools.kind === "simulated") return simulatedSound(tools.seed, what, tools.faults);
    const microphone = await Microphone.open(device || null);
    if (typeof microphone === "string") {
      setProblem(MICROPHONE_TROUBLE[microphone]);
      return null;
    }
    const all = await navigator.mediaDevices.enumerateDevices();
    setDevices(all.filter((d) => d.kind === "audioinput").map((d) => ({ id: d.deviceId, label: d.label })));
    try {
      return await microphone.listen(ms, hz, setLevel);
    } finally {
      microphone.close();
      setLevel(null);
    }
  };

  /**
   * One listening at a time, from the press on: two at once would hear each other's part. Null: nothing was
   * heard.
   */
  const heard: typeof hear = async (...asked) => {
    if (held.current) return null;
    held.current = true;
    setBusy(true);
    try {
      return await hear(...asked);
    } finally {
      held.current = false;
      setBusy(false);
    }
  };
  const head = (
    <>
      {devices.length > 1 && tools.kind !== "simulated" && (
        <TextField
          select
          label={say("microphone")}
          value={device}
          onChange={(e) => setDevice(e.target.value)}
          sx={{ minWidth: 300 }}
        >
          <MenuItem value="">{say("theSystemS")}</MenuItem>
          {devices.map((d) => (
            <MenuItem key={d.id} value={d.id}>
              {d.label}
            </MenuItem>
          ))}
        </TextField>
      )}
      {problem && (
        <Alert severity="warning" role="alert">
          {problem}
        </Alert>
      )}
      {level !== null && (
        <Box sx={{ width: "100%", maxWidth: 520 }} role="status" aria-label={say("level")}>
          <Words size="big" strong figures>
            {say("levelDBFS", { level: figure(dbfs(level)) })}
          </Words>
          <LinearProgress
            variant="determinate"
            value={Math.max(0, Math.min(100, 100 + (dbfs(level) * 100) / 80))}
            aria-label={say("level")}
          />
        </Box>
      )}
    </>
  );
  return { heard, head, listening: busy };
}

const levelWords = (levels: number[] | null) =>
  levels
    ? say("levelsDBFS", {
        levels: figure(dbfs([...levels].sort((a, b) => a - b)[Math.floor(levels.length * 0.9)]!)),
      })
    : say("notHeardYet");

export function MicrophonePanel(props: PanelProps) {
  const sound = useListening(props);
  const [quiet, setQuiet] = useState<number[] | null>(null);
  const [phrase, setPhrase] = useState<number[] | null>(null);
  const [rub, setRub] = useState<number[] | null>(null);
  const part = (
    words: string,
    action: string,
    levels: number[] | null,
    what: "quiet" | "phrase" | "rub",
    set: (v: number[] | null) => void,
  ) => (
    <Box
      sx={{ display: "grid", gridTemplateColumns: { sm: "190px 130px 1fr" }, gap: 1.5, alignItems: "center" }}
    >
      <Button
        variant="outlined"
        disabled={sound.listening}
        onClick={() => void sound.heard(what, LISTEN_MS, null).then((v) => v && set(v))}
      >
        {action}
      </Button>
      <Words size="lead" strong figures>
        {levelWords(levels)}
      </Words>
      <span>{words}</span>
    </Box>
  );
  return (
    <PanelForm
      onReading={props.onReading}
      make={() =>
        quiet && phrase && rub
          ? { kind: "microphone", functionId: props.subject, windowMs: WINDOW_MS, quiet, phrase, rub }
          : say("listenToAllThreeSilenceThe")
      }
    >
      {sound.head}
      {part(say("nobodySpeaksFor3Seconds"), say("listenToSilence"), quiet, "quiet", setQuiet)}
      {part(
        say("from30CmAtTalkingLoudness", { pHRASE: PHRASE }),
        say("listenToThePhrase"),
        phrase,
        "phrase",
        setPhrase,
      )}
      {part(say("rubTheShellBesideThisMicrophone"), say("listenToTheRub"), rub, "rub", setRub)}
    </PanelForm>
  );
}

export function TonePanel(props: PanelProps) {
  const sound = useListening(props);
  const [heardBy, setHeardBy] = useState<"bench" | "own">("bench");
  const [silent, setSilent] = useState<number[] | null>(null);
  const [sounding, setSounding] = useState<number[] | null>(null);
  const listen = async () => {
    const before = await sound.heard("silent", 1500, TONE_HZ);
    if (!before) return;
    const stop = props.tools.kind === "simulated" ? null : playTone(TONE_HZ);
    const during = await sound.heard("sounding", 1500, TONE_HZ);
    stop?.();
    setSilent(before);
    setSounding(during);
  };
  return (
    <PanelForm
      onReading={props.onReading}
      make={() =>
        silent && sounding
          ? { kind: "tone", functionId: props.subject, hz: TONE_HZ, heardBy, silent, sounding }
          : say("playTheToneFirst")
      }
    >
      <Typography>{say("pickTheUnitAsTheSystem", { tONEHZ: TONE_HZ })}</Typography>
      <Choice
        label={say("heardBy")}
        value={heardBy}
        onChange={setHeardBy}
        options={[
          ["bench", say("theBenchSMicrophone")],
          ["own", say("theUnitSOwn")],
        ]}
      />
      {sound.head}
      <Button variant="outlined" size="large" disabled={sound.listening} onClick={() => void listen()}>
        {say("playTheToneAndListen")}
      </Button>
      <Words size="title" strong figures>
        {say("silenceSilentToneSounding", { silent: levelWords(silent), sounding: levelWords(sounding) })}
      </Words>
    </PanelForm>
  );
}
