"use client";

import { useRouter } from "next/navigation";
import { useEffect, useRef, useState } from "react";

import { takePicture } from "@/browser/camera";
import { hush, speak } from "@/browser/speech";
import { refTo } from "@/core/mend/ref";
import { parseAmount } from "@/core/money/money";
import type { TipView } from "@/features/mend/tips";
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
  tips: TipView[];
  shelf: UnitParts["shelf"];
  currency: string;
  canWork: boolean;
};

type Step = OrderView["line"][number];

export const GAP = { gap: 0.8 };

export const PHASES: Record<Step["phase"], string> = {
  apart: say("takeApart"),
  work: say("mendAndClean"),
  gate: say("test"),
  back: say("putBack"),
};

/** What happens at it: state, deeds and keys of StepView. */
export function useStep({ unit, order, tips, shelf, currency, canWork }: Props) {
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

export type StepState = ReturnType<typeof useStep>;
