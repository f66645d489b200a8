"use client";

import { useRouter } from "next/navigation";
import { useEffect, useRef, useState } from "react";

import { planner, proxy } from "@/browser/plan";
import type { PlanWhy } from "@/core/allocate/explain";
import type { Progress } from "@/core/allocate/model";
import type { Lock, Plan, PlanProblem } from "@/core/allocate/problem";
import type { PlanView } from "@/features/parts/plan";
import { say } from "@/features/parts/words/words";
import { useDeed } from "@/ui/deed/useDeed";
import { appliedOf } from "./plan-words";
import type { PartsProps } from "./props";

export const LEFT_WORDS: Record<PlanView["left"][number]["why"], string> = {
  "not-tested": say("notTestedYet"),
  "no-fault": say("nothingOpen"),
  "answer-awaited": say("waitsForItsOwnersAnswer"),
  quarantine: say("inQuarantine"),
  wet: say("notDryYet"),
};

type Result = { plan: Plan; why: PlanWhy[]; problem: PlanProblem; locks: Lock[] };

/** What PlanTab knows and does; the components below only show it. */
type Worth = { part: string; adds: number };

/** The search itself: in a worker, with how far it is, and what one more piece of each part would add. */
function useSearch(view: PlanView) {
  const [locks, setLocks] = useState<Lock[]>([]);
  const [progress, setProgress] = useState<Progress | null>(null);
  const [result, setResult] = useState<Result | null>(null);
  const [stopped, setStopped] = useState(false);
  const [failed, setFailed] = useState(false);
  const [next, setNext] = useState<Worth[] | null>(null);
  const [pieces, setPieces] = useState<{ done: number; of: number } | null>(null);
  const running = useRef<ReturnType<typeof planner> | null>(null);
  useEffect(() => () => running.current?.end(), []);
  const end = () => {
    running.current?.end();
    running.current = null;
  };
  const weigh = async (
    mine: ReturnType<typeof planner>,
    problem: Result["problem"],
    plan: Result["plan"],
  ) => {
    const needs = problem.units.flatMap((u) => u.options.flatMap((o) => o.needs.flatMap((n) => n.from)));
    const parts = [...new Set(needs)];
    const tell = (done: number) => setPieces({ done, of: parts.length });
    tell(0);
    const worth = await mine.api.nextPiece(problem, plan, parts, proxy(tell));
    if (running.current !== mine) return;
    setPieces(null);
    setNext(worth.filter((w) => w.adds > 0).sort((a, b) => b.adds - a.adds));
  };
  const start = async (withLocks: Lock[]) => {
    end();
    const mine = planner();
    running.current = mine;
    setLocks(withLocks);
    setStopped(false);
    setFailed(false);
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
      if (plan.status !== "impossible") await weigh(mine, problem, plan);
    } catch {
      if (running.current !== mine) return;
      setProgress(null);
      setFailed(true);
    }
  };
  const cancel = () => {
    end();
    setProgress(null);
    setPieces(null);
    setStopped(true);
  };
  return { locks, progress, result, stopped, failed, next, pieces, start, cancel };
}

/** The plan of this page: searched, changed by locks, and put aside. */
export function usePlanTab({ view, shop, canWork, hours }: Omit<PartsProps, "view"> & { view: PlanView }) {
  const router = useRouter();
  const apply = useDeed("plan.apply");
  const search = useSearch(view);
  const [asked, setAsked] = useState(String(hours));
  const [applied, setApplied] = useState<number | null>(null);
  const { locks, result } = search;
  const start = (withLocks: Lock[]) => {
    setApplied(null);
    return search.start(withLocks);
  };
  const set = (lock: Lock) =>
    start([...locks.filter((l) => l.unit !== lock.unit || l.option !== lock.option), lock]);
  const send = async () => {
    if (!result) return;
    const done = await apply.run(appliedOf(view, shop, result.plan, result.why));
    if (done?.ok) setApplied(done.value.reserved);
  };
  const changed = result && JSON.stringify(result.locks) !== JSON.stringify(locks);
  return {
    ...search,
    ...{ view, shop, canWork, hours, router, apply, asked, setAsked, applied },
    ...{ start, set, send, plan: result?.plan, changed },
  };
}

export type PlanTabState = ReturnType<typeof usePlanTab>;
