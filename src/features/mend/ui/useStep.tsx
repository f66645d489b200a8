"use client";

import { useRouter } from "next/navigation";
import { useEffect, useRef, useState } from "react";

import { takePicture } from "@/browser/camera";
import { hush, speak } from "@/browser/speech";
import type { Item } from "@/core/mend/work";
import type { PlanOf } from "@/core/mend/picture";
import { refTo } from "@/core/mend/ref";
import { readAmount } from "@/text/format";
import type { TipView } from "@/features/mend/tips";
import type { NextRungs } from "@/features/mend/proposal";
import type { OrderView } from "@/features/mend/view";
import { CAUTIONS, stepDoes, stepTitle } from "@/features/mend/words/text";
import { say } from "@/features/mend/words/words";
import type { UnitParts } from "@/features/parts/needs";
import { useStopwatch } from "@/features/test/ui/protocol/useBenchTools";
import { useDeed } from "@/ui/deed/useDeed";
import { type Act, useActs } from "./bindings";
import { shownOrder } from "./shown-order";

export type Props = {
  unit: { id: string; tag: string; model: string; modelKey: string };
  order: OrderView;
  /** the drawing that the pictures of the steps are laid on */
  plan: PlanOf;
  /** what comes next where a mend of this order was in vain */
  rungs: NextRungs;
  tips: TipView[];
  shelf: UnitParts["shelf"];
  currency: string;
  canWork: boolean;
};

type Step = OrderView["line"][number];

export const GAP = { gap: 0.8 };

export const PHASES: Record<Step["phase"], string> = {
  apart: say("takeApart"),
  look: say("lookAndMeasure"),
  work: say("mendAndClean"),
  gate: say("test"),
  back: say("putBack"),
};

/** What StepView knows and does; the components below only show it. */
/** Where one is in the order: the step that is asked for, or the first that is open, or the last. */
function usePlace(order: Props["order"]) {
  const work = useDeed("work.do");
  const now = shownOrder(order, work.pending);
  const { line } = now;
  const current = line.findIndex((s) => !s.done);
  const [looking, setLooking] = useState<string | null>(null);
  const found = looking === null ? -1 : line.findIndex((s) => s.key === looking);
  const openOrLast = current >= 0 ? current : line.length - 1;
  const at = found >= 0 ? found : openOrLast;
  const step = line[at]!;
  const items = now.items.filter((i) => step.items.includes(i.id));
  return { work, line, at, step, items, isCurrent: at === current, setLooking };
}

const NOTHING_TYPED = { why: "", piece: "", part: "", cost: "" };
/** What is typed at a step; empty for the next one, and back again where the step was refused. */
function useTyped() {
  const [typed, setTyped] = useState(NOTHING_TYPED);
  const setter = (key: keyof typeof NOTHING_TYPED) => (value: string) =>
    setTyped((t) => ({ ...t, [key]: value }));
  return {
    typed,
    setTyped,
    setWhy: setter("why"),
    setPiece: setter("piece"),
    setPart: setter("part"),
    setCost: setter("cost"),
  };
}

/** A picture of a step: by the camera, or chosen where there is none. */
function usePicture(unitId: string, step: Step) {
  const router = useRouter();
  const [picture, setPicture] = useState<"none" | "taking" | "kept" | "no-camera">("none");
  const file = useRef<HTMLInputElement>(null);
  const keep = async (blob: Blob) => {
    const query = new URLSearchParams({
      unit: unitId,
      caption: stepTitle(step).slice(0, 120),
      step: step.key,
    });
    const sent = await fetch(`/api/photos?${query}`, { method: "POST", body: blob }).catch(() => null);
    setPicture(sent?.ok ? "kept" : "none");
    router.refresh();
  };
  const photograph = async () => {
    setPicture("taking");
    const blob = await takePicture().catch(() => null);
    if (blob) return keep(blob);
    setPicture("no-camera");
    file.current?.click();
  };
  const pictureWords = () => {
    if (picture === "kept") return say("thePictureIsKeptWithThis");
    if (picture === "no-camera") return say("noCameraHereChooseAPicture");
    return "";
  };
  return { picture, setPicture, file, keep, photograph, pictureWords };
}

/** What a step that is done sends. */
function eventOf(step: Step, why: string) {
  if (step.phase === "apart") return { kind: "apart", step: step.step!.id } as const;
  if (step.phase === "back") return { kind: "back", step: step.step!.id } as const;
  if (step.phase === "gate")
    return { kind: "gate", gate: step.key === "gate:open" ? "open" : "closed", why } as const;
  return { kind: "task", task: step.key } as const;
}

const aloud = (step: Step) =>
  speak(
    [stepTitle(step), ...step.hazards.map((h) => CAUTIONS[h]), step.step?.mind ?? "", stepDoes(step)].join(
      ". ",
    ),
  );

/** What the step is shown with, out of the order, the notes and the pictures. */
function besideStep(order: Props["order"], tips: Props["tips"], step: Step) {
  const own = step.step?.id ?? null;
  return {
    job: order.cleaning.find((j) => refTo("clean", j.surface) === step.key),
    mine: tips.filter(
      (t) => own !== null && t.step === own && t.state !== "refuted" && t.state !== "adopted",
    ),
    photos: order.photos.filter(
      (p) => p.step === step.key || (own !== null && p.step === refTo("apart", own)),
    ),
  };
}

/** The longest time for one step that is believed: four hours. */
const LONGEST_MS = 14_400_000;

/** A cost as it was typed; null where it is no amount. */
const costOf = (typed: string): number | null => (typed === "" ? 0 : readAmount(typed));

/** What went in: a piece from the shelf, or a part and its cost by hand. */
function partOf(
  { piece, part, cost }: Pick<typeof NOTHING_TYPED, "piece" | "part" | "cost">,
  shelf: Props["shelf"],
  slot: string | null,
) {
  const taken = shelf.find((s) => s.batchId === piece && s.slot === slot);
  return {
    fromStock: taken ? { batchId: taken.batchId, slot: taken.slot } : null,
    part: piece ? "" : part,
    partMinor: piece ? 0 : (costOf(cost) ?? 0),
  };
}

/**
 * The marked piece, or the next one that is still out, and the one to mark after it; null once all are back,
 * so that one press too many takes nothing out again.
 */
function nextOut(
  items: readonly { id: string; state: string }[],
  marked: number,
): { id: string; after: number } | null {
  const still = items.flatMap((i, n) => (i.state === "out" ? [{ id: i.id, n }] : []));
  const next = still.find(({ n }) => n >= marked) ?? still[0];
  return next ? { id: next.id, after: still.find(({ n }) => n > next.n)?.n ?? next.n } : null;
}

function doneWords(step: Step, items: readonly Item[]): string {
  const left = items.filter((i) => i.state === "out").length;
  if (step.done) return say("doneAlready");
  if (step.phase === "look") return say("answerAbove");
  return step.phase === "back" && left > 0 ? say("doneLeftStillOut", { left }) : say("done2");
}

/** The pieces of a step: each goes out or back, one by one or by the key that takes the next. */
function usePieces(
  orderId: string,
  step: Step,
  items: readonly Item[],
  work: ReturnType<typeof usePlace>["work"],
  canWork: boolean,
) {
  const [marked, setMarked] = useState(0);
  const mark = (id: string, state: Item["state"]) =>
    void work.run({
      orderId,
      event: state === "out" ? { kind: "in", item: id } : { kind: "out", item: id },
      tookMs: null,
    });
  const tick = () => {
    const next = canWork && step.phase === "back" && !step.done ? nextOut(items, marked) : null;
    if (!next) return;
    mark(next.id, "out");
    setMarked(next.after);
  };
  return { marked, setMarked, mark, tick };
}

/**
 * What happens at a step: it is done, its pieces go out and back, it is taken back, read aloud, photographed.
 */
export function useStep({ unit, order, tips, shelf, currency, canWork }: Props) {
  const router = useRouter();
  const undo = useDeed("work.undo");
  const { work, line, at, step, items, isCurrent, setLooking } = usePlace(order);
  const { typed, setTyped, ...setters } = useTyped();
  const pictures = usePicture(unit.id, step);
  const pieces = usePieces(order.id, step, items, work, canWork);
  const [asking, setAsking] = useState(false);
  const [keysOpen, setKeysOpen] = useState(false);
  const heading = useRef<HTMLHeadingElement>(null);
  useEffect(() => hush, [step.key]);
  const took = useStopwatch(step.key);

  const goTo = (key: string | null) => {
    setLooking(key);
    pieces.setMarked(0);
    pictures.setPicture("none");
  };
  const look = (to: number) => {
    goTo(line[Math.min(line.length - 1, Math.max(0, to))]!.key);
    work.clear();
  };
  const target = order.body.targets.find((t) => refTo("mend", t.key) === step.key);
  const finish = async () => {
    // a check is done by its answer
    if (!canWork || step.done || step.phase === "look" || costOf(typed.cost) === null) return;
    const asked = work.run({
      orderId: order.id,
      event: eventOf(step, typed.why),
      tookMs: Math.min(LONGEST_MS, took()),
      ...partOf(typed, shelf, target?.slot ?? null),
    });
    // a button that was pressed by key lets go: the next Space or Enter is about the next step
    heading.current?.focus({ preventScroll: true });
    // the next step stands there at once; what is refused leads back to its step with what was typed
    goTo(null);
    setTyped(NOTHING_TYPED);
    const done = await asked;
    if (done === null) return;
    if (!done.ok) {
      setLooking(step.key);
      setTyped(typed);
    } else if (done.value.done) router.push(`/units/${unit.tag}`);
  };
  const photograph = async () => {
    if (canWork) await pictures.photograph();
  };
  const takeBack = async () => {
    if (!canWork || (order.begun === 0 && work.pending.length === 0)) return;
    work.clear();
    if ((await undo.run({ orderId: order.id }))?.ok) setLooking(null);
  };
  const loud = () => aloud(step);
  const acts: Record<Act, () => void> = {
    done: () => void finish(),
    next: () => look(at + 1),
    back: () => look(at - 1),
    problem: () => setAsking(canWork),
    tick: pieces.tick,
    undo: () => void takeBack(),
    picture: () => void photograph(),
    aloud: loud,
  };
  const keys = useActs((act) => {
    if (!asking) acts[act]();
  });
  const words = () => doneWords(step, items);
  return {
    ...{ unit, order, shelf, currency, canWork },
    ...{ work, undo, line, at, step, items, isCurrent, target },
    ...typed,
    ...setters,
    ...pictures,
    ...keys,
    ...besideStep(order, tips, step),
    ...pieces,
    ...{ asking, setAsking, keysOpen, setKeysOpen, heading },
    ...{ look, finish, photograph, takeBack, doneWords: words, aloud: loud },
  };
}

export type StepState = ReturnType<typeof useStep>;
