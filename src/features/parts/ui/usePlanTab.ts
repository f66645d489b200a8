"use client";

import { useRouter } from "next/navigation";
import { useEffect, useRef, useState } from "react";

import { planner, proxy } from "@/browser/plan";
import type { PlanWhy } from "@/core/allocate/explain";
import type { Progress } from "@/core/allocate/model";
import type { Chosen, Lock, Plan, PlanProblem } from "@/core/allocate/problem";
import type { PlanSubject, PlanView } from "@/features/parts/plan";
import { CHOICE_WORDS } from "@/features/parts/words/text";
import { say } from "@/features/parts/words/words";
import { money } from "@/text/format";
import { allOf, inTurn } from "@/text/lists";
import { useDeed } from "@/ui/deed/useDeed";
import type { PartsProps } from "./props";

export const LEFT_WORDS: Record<PlanView["left"][number]["why"], string> = {
  "not-tested": say("notTestedYet"),
  "no-fault": say("nothingOpen"),
  "answer-awaited": say("waitsForItsOwnersAnswer"),
  quarantine: say("inQuarantine"),
  wet: say("notDryYet"),
};

type Result = { plan: Plan; why: PlanWhy[]; problem: PlanProblem; locks: Lock[] };

/** What happens at it: state, deeds and keys of PlanTab. */
export function usePlanTab({ view, shop, canWork, hours }: Omit<PartsProps, "view"> & { view: PlanView }) {
  const router = useRouter();
  const apply = useDeed("plan.apply");
  const [locks, setLocks] = useState<Lock[]>([]);
  const [progress, setProgress] = useState<Progress | null>(null);
  const [result, setResult] = useState<Result | null>(null);
  const [stopped, setStopped] = useState(false);
  const [next, setNext] = useState<{ part: string; adds: number }[] | null>(null);
  const [pieces, setPieces] = useState<{ done: number; of: number } | null>(null);
  const [asked, setAsked] = useState(String(hours));
  const [applied, setApplied] = useState<number | null>(null);
  const [failed, setFailed] = useState(false);
  const running = useRef<ReturnType<typeof planner> | null>(null);
  useEffect(() => () => running.current?.end(), []);
  const end = () => {
    running.current?.end();
    running.current = null;
  };
  const start = async (withLocks: Lock[]) => {
    end();
    const mine = planner();
    running.current = mine;
    setLocks(withLocks);
    setStopped(false);
    setFailed(false);
    setApplied(null);
    setNext(null);
    setPieces(null);
    setProgress({ seconds: 0, best: null, bound: null, gap: null });
    const problem = { ...view.problem, locks: withLocks };
    try {
      const { plan, why } = await mine.api.plan(
        problem,
        proxy((p: Progress) => setProgress(p)),
      );
      if (running.current !== mine) return;
      setProgress(null);
      setResult({ plan, why, problem, locks: withLocks });
      if (plan.status === "impossible") return;
      const parts = [
        ...new Set(problem.units.flatMap((u) => u.options.flatMap((o) => o.needs.flatMap((n) => n.from)))),
      ];
      setPieces({ done: 0, of: parts.length });
      const worth = await mine.api.nextPiece(
        problem,
        plan,
        parts,
        proxy((done: number) => setPieces({ done, of: parts.length })),
      );
      if (running.current !== mine) return;
      setPieces(null);
      setNext(worth.filter((w) => w.adds > 0).sort((a, b) => b.adds - a.adds));
    } catch {
      if (running.current === mine) {
        setProgress(null);
        setFailed(true);
      }
    }
  };
  const cancel = () => {
    end();
    setProgress(null);
    setPieces(null);
    setStopped(true);
  };
  const subject = (id: string) => view.subjects.find((s) => s.id === id)!;
  const tagOf = (id: string) =>
    view.subjects.find((s) => s.id === id)?.tag ?? view.donors.find((d) => d.id === id)?.tag ?? "";
  const set = (lock: Lock) =>
    start([...locks.filter((l) => l.unit !== lock.unit || l.option !== lock.option), lock]);
  const send = async () => {
    if (!result) return;
    const { plan, why } = result;
    const lines = plan.chosen.flatMap((c) =>
      c.flows.flatMap((f) =>
        f.source.kind === "bought" || f.source.kind === "ordered"
          ? []
          : [
              {
                unitId: c.unit,
                slot: f.slot,
                part: f.part,
                count: f.count,
                source:
                  f.source.kind === "stock"
                    ? ({ kind: "stock" } as const)
                    : ({ kind: "donor", donorUnitId: f.source.donor, donorSlot: f.source.slot } as const),
              },
            ],
      ),
    );
    const choices = plan.chosen.map((c) => ({
      unitId: c.unit,
      choice: CHOICE_WORDS[c.option.choice],
      why: words(
        c,
        why.find((w) => w.unit === c.unit)!,
      ).slice(0, 300),
    }));
    // a unit that is to be stripped is still whole: its parts are put aside once it is a donor
    const standing = new Set(view.donors.map((d) => d.id));
    const now = lines.filter((l) => l.source.kind === "stock" || standing.has(l.source.donorUnitId));
    const done = await apply.run({ lines: now, choices, valueMinor: Math.round(plan.value) });
    if (done?.ok) setApplied(done.value.reserved);
  };
  const wayName = (s: PlanSubject, routes: readonly string[]) => inTurn(routes.map((id) => s.ways[id] ?? id));
  const words = (c: Chosen, w: PlanWhy): string => {
    const takes = w.takes.map((t) => {
      const fromWords = () => {
        if (t.from === "stock") return say("fromTheShelf");
        if (t.from === "ordered") return say("thatIsOnItsWay");
        if (tagOf(t.from)) return say("outOfFrom", { from: tagOf(t.from) });
        return say("toBeBought");
      };
      return `${t.count > 1 ? `${t.count} ` : ""}${view.parts[t.part] ?? t.part} ${fromWords()}`;
    });
    const frees = w.frees.map((f) =>
      say("itsPartFreesTo", { part: view.parts[f.part] ?? f.part, to: allOf(f.to.map(tagOf)) }),
    );
    const alone =
      w.alone && w.alone.option !== c.option.id
        ? say("aloneItWouldBringAloneChoice", {
            alone: money(Math.round(w.alone.value), shop),
            choice:
              CHOICE_WORDS[
                view.problem.units
                  .find((u) => u.id === c.unit)!
                  .options.find((o) => o.id === w.alone!.option)!.choice
              ],
          })
        : "";
    return [...takes, ...frees].join("; ") + alone;
  };
  const order: Record<Chosen["option"]["choice"], number> = {
    mend: 0,
    strip: 1,
    sell: 2,
    keep: 3,
    "hand-back": 4,
    scrap: 5,
  };
  const plan = result?.plan;
  const changed = result && JSON.stringify(result.locks) !== JSON.stringify(locks);
  return {
    view,
    shop,
    canWork,
    hours,
    router,
    apply,
    locks,
    progress,
    result,
    stopped,
    next,
    pieces,
    asked,
    setAsked,
    applied,
    failed,
    start,
    cancel,
    subject,
    set,
    send,
    wayName,
    words,
    order,
    plan,
    changed,
  };
}

export type PlanTabState = ReturnType<typeof usePlanTab>;
