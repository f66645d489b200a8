"use client";

import Button from "@mui/material/Button";
import Checkbox from "@mui/material/Checkbox";
import Dialog from "@mui/material/Dialog";
import DialogActions from "@mui/material/DialogActions";
import DialogContent from "@mui/material/DialogContent";
import DialogTitle from "@mui/material/DialogTitle";
import FormControlLabel from "@mui/material/FormControlLabel";
import { useState } from "react";

import { FATES, type Fate, type Item } from "@/core/mend/work";
import type { OrderView } from "@/features/mend/view";
import { FATE_WORDS, stepTitle } from "@/features/mend/words/text";
import { Problem } from "@/ui/deed/Problem";
import { useDeed } from "@/ui/deed/useDeed";
import { Form } from "@/ui/fields/Form";
import { NativeSelect } from "@/ui/fields/NativeSelect";
import { say } from "@/features/mend/words/words";
import { BoundField } from "@/ui/form/BoundField";

const KINDS = {
  damage: say("somethingBrokeOnTheWay"),
  "fell-out": say("aPieceFellOutThatThe"),
  fragment: say("aLooseBitThatFitsNothing"),
  "put-in": say("iPutSomethingInForA"),
  item: say("aPieceOfThisStepIs"),
  away: say("aPieceGoesOffToBe"),
  surprise: say("aSurpriseForNextTime"),
  "better-idea": say("aBetterIdeaForNextTime"),
  missed: say("whatThePictureFailedToShow"),
  step: say("aStepIsMissingInThe"),
  again: say("aTaskMustBeDoneAgain"),
} as const;
type Kind = keyof typeof KINDS;
const TIP = { deed: "tip.add", name: "words" } as const;
const EXTRA = { deed: "work.do", name: "event.name" } as const;
/** The field that each kind's words go into. */
const GOES_TO = {
  damage: { deed: "damage.add", name: "what" },
  "fell-out": EXTRA,
  fragment: { deed: "fragment.add", name: "what" },
  "put-in": EXTRA,
  item: { deed: "work.do", name: "event.why" },
  away: { deed: "work.do", name: "event.where" },
  surprise: TIP,
  "better-idea": TIP,
  missed: TIP,
  step: TIP,
  again: { deed: "work.do", name: "event.why" },
} as const satisfies Record<Kind, { deed: string; name: string }>;

type ProblemDialogProps = {
  open: boolean;
  onClose: () => void;
  unit: { id: string; tag: string; modelKey: string };
  order: OrderView;
  step: OrderView["line"][number];
  item: Item | null;
};

type Told = { kind: Kind; words: string; clip: boolean; itemId: string; fate: Fate; task: string };

/** What was said goes where the next one looks for it: the order's events, the damage, or the model's tips. */
function useTelling({ unit, order, step }: ProblemDialogProps) {
  const work = useDeed("work.do");
  const damage = useDeed("damage.add");
  const fragment = useDeed("fragment.add");
  const tip = useDeed("tip.add");
  const note = (kind: "surprise" | "better-idea" | "missed" | "step", words: string) =>
    tip.run({
      model: unit.modelKey,
      step: step.step?.id ?? null,
      kind,
      words,
      source: "",
      unitId: unit.id,
      ...(kind === "step" ? { after: step.step?.id ?? null, minutes: 2 } : {}),
    });
  const event = (e: Parameters<typeof work.run>[0]["event"]) =>
    work.run({ orderId: order.id, event: e, tookMs: null });
  const tell = ({ kind, words, clip, itemId, fate, task }: Told): Promise<{ ok: boolean } | null> => {
    const place = stepTitle(step);
    switch (kind) {
      case "damage":
        return damage.run({
          unitId: unit.id,
          place: place.slice(0, 60),
          what: words,
          clipLost: clip,
          stillFirm: null,
        });
      case "fragment":
        return fragment.run({ unitId: unit.id, foundAt: place, what: words });
      case "fell-out":
      case "put-in":
        return event({ kind: "extra", name: words, what: kind });
      case "item":
        return event({ kind: "explained", item: itemId, fate, why: words });
      case "away":
        return event({ kind: "away", item: itemId, where: words || say("washing") });
      case "again":
        return event({ kind: "again", task, why: words });
      default:
        return note(kind, words);
    }
  };
  return { work, damage, fragment, tip, tell };
}

/** What ProblemDialog knows and does; the components below only show it. */
function useProblem(props: ProblemDialogProps) {
  const { open, onClose, order, step, item } = props;
  const { work, damage, fragment, tip, tell } = useTelling(props);
  const [kind, setKind] = useState<Kind>("damage");
  const [words, setWords] = useState("");
  const [clip, setClip] = useState(false);
  const [chosen, setChosen] = useState<string | null>(null);
  const [fate, setFate] = useState<Fate>("lost");
  const tasks = order.line.filter((s) => s.phase === "work" && s.done);
  const [task, setTask] = useState("");
  const itemId = chosen ?? item?.id ?? step.items[0] ?? "";
  const busy = work.running || damage.running || fragment.running || tip.running;
  const save = async () => {
    const done = await tell({ kind, words, clip, itemId, fate, task: task || (tasks[0]?.key ?? "") });
    if (!done?.ok) return;
    setWords("");
    onClose();
  };
  const needsItem = kind === "item" || kind === "away";
  return {
    open,
    onClose,
    order,
    step,
    work,
    damage,
    fragment,
    tip,
    kind,
    setKind,
    words,
    setWords,
    clip,
    setClip,
    setChosen,
    fate,
    setFate,
    tasks,
    task,
    setTask,
    itemId,
    busy,
    save,
    needsItem,
  };
}
type ProblemState = ReturnType<typeof useProblem>;

/** What goes wrong, or is worth knowing, at a step: each kind goes where it belongs. */
export function ProblemDialog(props: ProblemDialogProps) {
  const s = useProblem(props);
  const {
    open,
    onClose,
    step,
    work,
    damage,
    fragment,
    tip,
    kind,
    words,
    setWords,
    clip,
    setClip,
    tasks,
    task,
    setTask,
    busy,
    save,
  } = s;

  return (
    <Dialog open={open} onClose={onClose} fullWidth maxWidth="sm">
      <DialogTitle>{say("problemAtTitle", { title: stepTitle(step) })}</DialogTitle>
      <DialogContent>
        <Form id="step-problem" onSend={save} sx={{ display: "grid", gap: 2, pt: 1 }}>
          <ProblemKind {...s} />
          <ProblemItem {...s} />
          <ItemFate {...s} />
          {kind === "again" && (
            <NativeSelect label={say("whichTask")} value={task} onChange={(e) => setTask(e.target.value)}>
              {tasks.map((t) => (
                <option key={t.key} value={t.key}>
                  {stepTitle(t)}
                </option>
              ))}
            </NativeSelect>
          )}
          <BoundField
            {...GOES_TO[kind]}
            label={kind === "away" ? say("whereItIsMeanwhile") : say("inAFewWords")}
            value={words}
            onChange={setWords}
            multiline
            minRows={2}
          />
          {kind === "damage" && (
            <FormControlLabel
              control={<Checkbox checked={clip} onChange={(e) => setClip(e.target.checked)} />}
              label={say("aClipOrCatchWasLost")}
            />
          )}
          {kind === "damage" && <div>{say("keptApartFromWhatItCame")}</div>}
          <Problem problem={work.problem ?? damage.problem ?? fragment.problem ?? tip.problem} />
        </Form>
      </DialogContent>
      <DialogActions>
        <Button onClick={onClose}>{say("cancel")}</Button>
        <Button
          type="submit"
          form="step-problem"
          variant="contained"
          disabled={busy || (words.trim() === "" && kind !== "away")}
        >
          {say("writeItDown")}
        </Button>
      </DialogActions>
    </Dialog>
  );
}

function ProblemKind({ kind, setKind, step, tasks }: ProblemState) {
  return (
    <NativeSelect
      label={say("whatIsIt")}
      value={kind}
      onChange={(e) => setKind(e.target.value as Kind)}
      autoFocus
    >
      {(Object.keys(KINDS) as Kind[])
        .filter((k) => (k !== "item" && k !== "away") || step.items.length > 0)
        .filter((k) => k !== "again" || tasks.length > 0)
        .map((k) => (
          <option key={k} value={k}>
            {KINDS[k]}
          </option>
        ))}
    </NativeSelect>
  );
}

function ProblemItem({ needsItem, itemId, setChosen, step, order }: ProblemState) {
  return (
    needsItem && (
      <NativeSelect label={say("whichPiece")} value={itemId} onChange={(e) => setChosen(e.target.value)}>
        {step.items.map((i) => (
          <option key={i} value={i}>
            {order.names[i]}
          </option>
        ))}
      </NativeSelect>
    )
  );
}

function ItemFate({ kind, fate, setFate }: ProblemState) {
  return (
    kind === "item" && (
      <NativeSelect
        label={say("whatBecameOfIt")}
        value={fate}
        onChange={(e) => setFate(e.target.value as Fate)}
      >
        {FATES.map((f) => (
          <option key={f} value={f}>
            {FATE_WORDS[f]}
          </option>
        ))}
      </NativeSelect>
    )
  );
}
