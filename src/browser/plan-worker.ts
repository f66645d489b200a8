import { expose } from "comlink";
import loadHighs from "highs";

import { type Basket, cheapestBasket, type Wanted } from "@/core/allocate/basket";
import { explainPlan, type PlanWhy } from "@/core/allocate/explain";
import type { Progress } from "@/core/allocate/model";
import type { Plan, PlanOffer, PlanProblem } from "@/core/allocate/problem";
import { nextPiece, solvePlan } from "@/core/allocate/solve";

/**
 * Plans and baskets off the page's main thread; leaving the page or cancelling ends the worker and with it
 * the search.
 */

const solver = loadHighs({ locateFile: () => new URL("highs/runtime", import.meta.url).href });
const SECONDS = 30;

const api = {
  async plan(problem: PlanProblem, progress: (p: Progress) => void): Promise<{ plan: Plan; why: PlanWhy[] }> {
    const plan = solvePlan(await solver, problem, { seconds: SECONDS, progress });
    return { plan, why: plan.status === "impossible" ? [] : explainPlan(problem, plan) };
  },
  async nextPiece(problem: PlanProblem, plan: Plan, parts: string[], each: (done: number) => void) {
    return nextPiece(await solver, problem, plan, parts, { seconds: 5, each });
  },
  async basket(wanted: Wanted[], offers: PlanOffer[], suppliers: PlanProblem["suppliers"]): Promise<Basket> {
    return cheapestBasket(await solver, wanted, offers, suppliers);
  },
};
export type PlanWorkerApi = typeof api;

expose(api);
