import type { Highs } from "highs";

import { packPrice } from "../parts/catalogue";
import { type Solved, solveModel, type SolveOptions } from "./model";
import type { Chosen, Flow, Order, Plan, PlanProblem } from "./problem";
import { buildModel, type Built } from "./programme";

/** Solves the allocation plan and reads the solution back. */

const whole = (x: number) => Math.round(x);

/** Reads a solution back as choices, orders and where each piece comes from. */
function read(p: PlanProblem, b: Built, s: Solved): Plan {
  const at = (column: number) => s.columns[column] ?? 0;
  const chosen: Chosen[] = p.units.map((u, i) => ({
    unit: u.id,
    option:
      u.options[
        Math.max(
          0,
          b.choice[i]!.findIndex((c) => at(c) > 0.5),
        )
      ]!,
    flows: [],
  }));
  const orders: Order[] = b.packs.flatMap(({ offer, steps }) => {
    const packs = whole(steps.reduce((sum, x) => sum + at(x.column), 0));
    return packs > 0
      ? [
          {
            offer: offer.id,
            packs,
            costMinor: packs * packPrice({ ...offer, leadDays: 0, breaks: [...offer.breaks] }, packs),
          },
        ]
      : [];
  });
  // pieces of a part are alike: hand them out shelf first, then donors, then what is bought
  const left = new Map<string, { source: Flow["source"]; count: number }[]>();
  const put = (part: string, source: Flow["source"], count: number) => {
    if (count > 0) left.set(part, [...(left.get(part) ?? []), { source, count }]);
  };
  for (const x of b.shelf) put(x.part, { kind: x.kind }, whole(at(x.column)));
  for (const f of b.freed) put(f.part, { kind: "donor", donor: f.holder, slot: f.slot }, whole(at(f.column)));
  for (const x of b.packs) put(x.offer.part, { kind: "bought", offer: x.offer.id }, whole(at(x.bought)));
  for (const f of b.flow) {
    const c = chosen[f.unit]!;
    let count = whole(at(f.column));
    if (count <= 0 || c.option !== p.units[f.unit]!.options[f.option]) continue;
    for (const from of left.get(f.part) ?? []) {
      const n = Math.min(from.count, count);
      if (n <= 0) continue;
      from.count -= n;
      count -= n;
      c.flows.push({
        unit: c.unit,
        slot: c.option.needs[f.need]!.slot,
        part: f.part,
        count: n,
        source: from.source,
      });
      if (count === 0) break;
    }
  }
  return {
    status: s.status,
    value: s.value,
    bound: s.bound,
    gap: s.gap,
    seconds: s.seconds,
    chosen,
    orders,
    carriageMinor: b.carriage.reduce((sum, x) => sum + whole(at(x.column)) * x.minor, 0),
    minutes: chosen.reduce((sum, c) => sum + c.option.minutes, 0),
  };
}

export function solvePlan(highs: Highs, p: PlanProblem, options: SolveOptions): Plan {
  const built = buildModel(p);
  return read(p, built, solveModel(highs, built.model.data(highs), options));
}

/**
 * What one more piece of a part on the shelf would add to the plan, for each part asked; exact, by solving
 * again.
 */
export function nextPiece(
  highs: Highs,
  p: PlanProblem,
  plan: Plan,
  parts: readonly string[],
  options: SolveOptions & { each?: (done: number) => void },
): { part: string; adds: number }[] {
  return parts.map((part, i) => {
    const line = p.stock.find((s) => s.part === part);
    const stock = line
      ? p.stock.map((s) => (s === line ? { ...s, count: s.count + 1 } : s))
      : [...p.stock, { part, count: 1, worth: p.keeps[part] ?? 0 }];
    const more = solvePlan(highs, { ...p, stock }, { seconds: options.seconds });
    options.each?.(i + 1);
    return { part, adds: Math.max(0, Math.round(more.value - plan.value)) };
  });
}
