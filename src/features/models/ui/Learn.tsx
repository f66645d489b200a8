"use client";

import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Checkbox from "@mui/material/Checkbox";
import FormControlLabel from "@mui/material/FormControlLabel";
import LinearProgress from "@mui/material/LinearProgress";
import Typography from "@mui/material/Typography";
import { useRouter } from "next/navigation";
import { useEffect, useRef, useState } from "react";

import { connectedPads, type Pad } from "@/browser/gamepad";
import { type LearnAsk, type Learned, Learner, type Wish } from "@/core/controller/learn";
import { type ModelProfile, profileSchema } from "@/core/profile/profile";
import { placeWords } from "@/text/names";
import { Problem } from "@/ui/deed/Problem";
import { useDeed } from "@/ui/deed/useDeed";
import { Form } from "@/ui/fields/Form";
import { say } from "@/features/models/words/words";
import { BoundField } from "@/ui/form/BoundField";
import { SIZE } from "@/ui/tokens";
import { Row, Text } from "@/ui/kit/layout";

type Place = Wish & { x: number; y: number; size: number; standard: boolean };

const button = (id: string, x: number, y: number, size = 9, standard = true): Place => ({
  id,
  kind: "button",
  x,
  y,
  size,
  standard,
});
/** Where each control is drawn on a plan of our own; the person can correct it in the exported profile. */
const PLACES: Place[] = [
  { id: "stick.left", kind: "stick", x: 40, y: 42, size: 19, standard: true },
  { id: "stick.right", kind: "stick", x: 104, y: 72, size: 19, standard: true },
  { id: "trigger.left", kind: "trigger", x: 34, y: 3, size: 20, standard: true },
  { id: "trigger.right", kind: "trigger", x: 126, y: 3, size: 20, standard: true },
  button("face.south", 124, 56),
  button("face.east", 134, 46),
  button("face.west", 114, 46),
  button("face.north", 124, 36),
  button("bumper.left", 36, 15, 18),
  button("bumper.right", 124, 15, 18),
  button("menu.left", 70, 34, 6),
  button("menu.right", 90, 34, 6),
  button("home", 80, 50),
  button("stick.left.click", 40, 42, 26),
  button("stick.right.click", 104, 72, 26),
  button("pad.up", 58, 66),
  button("pad.right", 67, 75),
  button("pad.down", 58, 84),
  button("pad.left", 49, 75),
  button("paddle.left", 40, 92, 9, false),
  button("paddle.right", 120, 92, 9, false),
  button("touch.click", 80, 20, 14, false),
];
const OUTLINE: [number, number][] = [
  [20, 10],
  [80, 14],
  [140, 10],
  [156, 50],
  [150, 100],
  [128, 108],
  [80, 100],
  [32, 108],
  [10, 100],
  [4, 50],
];

const ASK: Record<LearnAsk["move"], (name: string) => string> = {
  press: (n) => say("pressN", { n }),
  pull: (n) => say("pullTheNAllTheWay", { n }),
  right: (n) => say("pushTheNToTheRight", { n }),
  down: (n) => say("pushTheNDownTowardYou", { n }),
};

function profileFrom(id: string, name: string, maker: string, learned: Learned[]): unknown {
  return {
    format: "birdcage-profile",
    version: 1,
    id,
    name,
    maker,
    summary: say("learntFromAControllerAtThe"),
    plan: { width: 160, height: 112, outlines: [{ points: OUTLINE }] },
    halves: [],
    revisions: [
      { id: "first", name: say("firstSeen"), outside: say("notDescribedYet"), inside: say("notOpenedYet") },
    ],
    controls: learned.map((l) => {
      const p = PLACES.find((x) => x.id === l.id)!;
      const sideOf = () => {
        if (p.x < 72) return "left";
        if (p.x > 92) return "right";
        return "centre";
      };
      const base = {
        id: l.id,
        side: sideOf(),
        at: { x: p.x, y: p.y },
        input: l.input,
      };
      if (l.kind === "stick") return { ...base, kind: "stick", sensor: "contact", diameter: p.size };
      if (l.kind === "trigger") return { ...base, kind: "trigger", motored: false, width: 20, height: 9 };
      const shapeOf = () => {
        if (l.id.endsWith(".click") && l.id.startsWith("stick")) return "ring";
        if (l.id.startsWith("pad.")) return "wedge";
        if (l.id.startsWith("bumper")) return "bar";
        return "round";
      };
      const shape = shapeOf();
      return {
        ...base,
        kind: "button",
        contact: "dome",
        shape,
        width: p.size,
        height: shape === "bar" ? 6 : p.size,
        rim: false,
      };
    }),
    functions: [],
    power: [{ kind: "cord", chemistry: "none", cells: 0, nominalVolts: 5, capacityMah: null }],
    accessories: [],
  };
}

type View = { ask: LearnAsk | null; rest: boolean; done: number; learned: Learned[] };
const viewOf = (l: Learner): View => ({
  ask: l.current,
  rest: l.waitsForRest,
  done: l.done,
  learned: l.result(),
});

/** What Learn knows and does; the components below only show it. */
function useLearn() {
  const router = useRouter();
  const add = useDeed("profile.import");
  const [name, setName] = useState("");
  const [maker, setMaker] = useState("");
  const [has, setHas] = useState(PLACES.filter((p) => p.standard).map((p) => p.id));
  const [pads, setPads] = useState<Pad[]>([]);
  const [view, setView] = useState<View | null>(null);
  const learner = useRef<Learner | null>(null);

  useEffect(() => {
    const timer = setInterval(
      () =>
        setPads((was) => (JSON.stringify(was) === JSON.stringify(connectedPads()) ? was : connectedPads())),
      400,
    );
    return () => clearInterval(timer);
  }, []);

  const show = () => {
    const l = learner.current!;
    setView(viewOf(l));
  };
  const running = view !== null && view.ask !== null;
  useEffect(() => {
    if (!running) return;
    const timer = setInterval(() => {
      const pad = [...navigator.getGamepads()].find((p) => p?.connected);
      const l = learner.current;
      if (!pad || !l) return;
      l.add({ t: performance.now(), axes: pad.axes, buttons: pad.buttons.map((b) => b.value) });
      setView((was) => (was && was.ask === l.current && was.rest === l.waitsForRest ? was : viewOf(l)));
    }, 10);
    return () => clearInterval(timer);
  }, [running]);

  const begin = () => {
    learner.current = new Learner(
      PLACES.filter((p) => has.includes(p.id)).map(({ id, kind }) => ({ id, kind })),
    );
    show();
  };
  const id = name
    .toLowerCase()
    .replace(/[^a-z0-9]+/g, "-")
    .replace(/^-|-$/g, "");
  const save = async () => {
    const profile = profileSchema.safeParse(profileFrom(id, name, maker, learner.current!.result()));
    if (!profile.success) return;
    const done = await add.run({ profile: profile.data as ModelProfile });
    if (done?.ok) router.push(`/models/${done.value.key}`);
  };
  return { add, name, setName, maker, setMaker, has, setHas, pads, view, learner, show, begin, id, save };
}
type LearnState = ReturnType<typeof useLearn>;

/** Makes a profile for a controller that the browser reports: press each control when asked. */
export function Learn() {
  const s = useLearn();
  const { name, maker, has, pads, view, learner, show, begin, id } = s;

  if (view?.ask)
    return (
      <Box sx={{ maxWidth: 760 }}>
        <Text color="text.secondary" strong>
          {name}
        </Text>
        <Typography
          component="h1"
          aria-live="polite"
          sx={{ fontSize: SIZE.big, fontWeight: 800, lineHeight: 1.15, my: 1 }}
        >
          {view.rest ? say("handsOff") : ASK[view.ask.move](placeWords(view.ask.wish.id))}
        </Typography>
        <LinearProgress
          variant="determinate"
          value={view.done * 100}
          aria-label={say("controlsLearnt")}
          sx={{ height: 12, borderRadius: 1, my: 2 }}
        />
        <Button
          variant="outlined"
          onClick={() => {
            learner.current!.skip();
            show();
          }}
        >
          {say("itHasNoWish", { wish: placeWords(view.ask.wish.id) })}
        </Button>
      </Box>
    );
  const learned = view?.learned ?? [];
  if (view) return <WhatWasLearned {...s} learned={learned} />;
  return (
    <Form onSend={begin} sx={{ maxWidth: 760, display: "grid", gap: 2 }}>
      <Typography component="h1" variant="h1">
        {say("learnAController")}
      </Typography>
      <Typography>{say("plugItInPressAnyButton")}</Typography>
      <ModelFields {...s} />
      <ItHas {...s} />
      <Row gap={2} oneLine at="center">
        <Button
          type="submit"
          variant="contained"
          size="large"
          disabled={pads.length === 0 || !id || !maker.trim() || has.length === 0}
        >
          {say("begin")}
        </Button>
        <Typography>{pads[0] ? pads[0].id : say("theBrowserSeesNoControllerYet")}</Typography>
      </Row>
    </Form>
  );
}

function WhatWasLearned({ save, add, name, begin, learned }: LearnState & { learned: Learned[] }) {
  return (
    <Box sx={{ maxWidth: 760 }}>
      <Typography component="h1" variant="h1">
        {say("learnedControlsLearnt", { learned: learned.length })}
      </Typography>
      <Text around={1}>
        {learned.map((l) => placeWords(l.id)).join(", ") || say("noneBeginAgainWithTheController")}
      </Text>
      <Row gap={1} oneLine>
        <Button
          variant="contained"
          size="large"
          onClick={() => void save()}
          disabled={learned.length === 0 || add.running}
        >
          {say("keepItAsName", { name })}
        </Button>
        <Button size="large" onClick={begin}>
          {say("again")}
        </Button>
      </Row>
      <Problem problem={add.problem} />
    </Box>
  );
}

function ModelFields({ name, setName, maker, setMaker }: LearnState) {
  return (
    <Box sx={{ display: "grid", gridTemplateColumns: "1fr 1fr", gap: 1.5 }}>
      <BoundField
        deed="profile.import"
        name="profile.name"
        label={say("modelName")}
        value={name}
        onChange={setName}
        required
        autoFocus
      />
      <BoundField
        deed="profile.import"
        name="profile.maker"
        label={say("maker")}
        value={maker}
        onChange={setMaker}
        required
      />
    </Box>
  );
}

function ItHas({ has, setHas }: LearnState) {
  return (
    <Box component="fieldset" sx={{ border: 0, p: 0, m: 0 }}>
      <Typography component="legend" variant="h2">
        {say("itHas")}
      </Typography>
      {PLACES.map((p) => (
        <FormControlLabel
          key={p.id}
          control={
            <Checkbox
              checked={has.includes(p.id)}
              onChange={(e) => setHas(e.target.checked ? [...has, p.id] : has.filter((h) => h !== p.id))}
            />
          }
          label={placeWords(p.id)}
        />
      ))}
    </Box>
  );
}
