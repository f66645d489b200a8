import type { Minor } from "../money/money";
import type { Chosen, Plan, PlanProblem } from "./problem";

/** Why a plan chose what it chose, from its own flows. */

export type PlanWhy = {
  unit: string;
  /** the best that the unit would bring with no part from anybody, and what it brings in the plan */
  alone: { option: string; value: Minor } | null;
  inPlan: Minor;
  /** which units its parts go to, and the parts */
  frees: { part: string; to: string[] }[];
  /** what its own parts come from */
  takes: { part: string; slot: string; count: number; from: string }[];
  /** another option that alone would bring more, given up for the whole */
  gives: Minor;
};

/** What a part costs a plan: its worth on the shelf or in the donor, or its share of the packs bought. */
function partCosts(p: PlanProblem, plan: Plan): (c: Chosen) => number {
  const perOffer = new Map<string, number>();
  for (const o of plan.orders) {
    const offer = p.offers.find((x) => x.id === o.offer)!;
    perOffer.set(o.offer, o.costMinor / (o.packs * offer.pack));
  }
  const holders = new Map([...p.units, ...p.donors].map((x) => [x.id, x]));
  return (c) =>
    c.flows.reduce((sum, f) => {
      const eachOf = () => {
        if (f.source.kind === "stock" || f.source.kind === "ordered")
          return p[f.source.kind].find((s) => s.part === f.part)?.worth ?? 0;
        if (f.source.kind === "bought") return perOffer.get(f.source.offer) ?? 0;
        return (
          holders
            .get(f.source.donor)
            ?.frees.find((x) => f.source.kind === "donor" && x.slot === f.source.slot && x.part === f.part)
            ?.worth ?? 0
        );
      };
      const each = eachOf();
      return sum + f.count * each;
    }, 0);
}

export function explainPlan(p: PlanProblem, plan: Plan): PlanWhy[] {
  const costs = partCosts(p, plan);
  const units = new Map(p.units.map((u) => [u.id, u]));
  return plan.chosen.map((c) => {
    const free = units.get(c.unit)!.options.filter((o) => o.needs.length === 0);
    const best = free.reduce<(typeof free)[number] | null>(
      (a, o) => (a === null || o.value > a.value ? o : a),
      null,
    );
    const inPlan = Math.round(c.option.value - costs(c));
    const to = new Map<string, Set<string>>();
    for (const other of plan.chosen)
      for (const f of other.flows)
        if (f.source.kind === "donor" && f.source.donor === c.unit)
          to.set(f.part, (to.get(f.part) ?? new Set()).add(other.unit));
    return {
      unit: c.unit,
      alone: best ? { option: best.id, value: best.value } : null,
      inPlan,
      frees: [...to].map(([part, set]) => ({ part, to: [...set] })),
      takes: c.flows.map((f) => {
        const fromOf = () => {
          if (f.source.kind === "stock" || f.source.kind === "ordered") return f.source.kind;
          if (f.source.kind === "donor") return f.source.donor;
          return f.source.offer;
        };
        return {
          part: f.part,
          slot: f.slot,
          count: f.count,
          from: fromOf(),
        };
      }),
      gives: Math.max(0, (best?.value ?? 0) - inPlan),
    };
  });
}

/** What a plan is worth, worked out again from what it says: the check that nothing was made up. */
export function worthOfPlan(p: PlanProblem, plan: Plan): number {
  const holders = new Map([...p.units, ...p.donors].map((x) => [x.id, x]));
  const usedBy = new Map<string, number>();
  let value = plan.chosen.reduce((s, c) => s + c.option.value, 0) - plan.carriageMinor;
  for (const c of plan.chosen)
    for (const f of c.flows) {
      if (f.source.kind === "stock" || f.source.kind === "ordered")
        value -= f.count * (p[f.source.kind].find((s) => s.part === f.part)?.worth ?? 0);
      else if (f.source.kind === "donor") {
        const { donor, slot } = f.source;
        value -=
          f.count * (holders.get(donor)?.frees.find((x) => x.slot === slot && x.part === f.part)?.worth ?? 0);
      } else usedBy.set(f.source.offer, (usedBy.get(f.source.offer) ?? 0) + f.count);
    }
  for (const o of plan.orders) {
    const offer = p.offers.find((x) => x.id === o.offer)!;
    const keep = Math.min(
      p.keeps[offer.part] ?? 0,
      Math.floor(Math.min(...offer.breaks.map((b) => b.priceMinor)) / offer.pack),
    );
    value -= o.costMinor - keep * (o.packs * offer.pack - (usedBy.get(o.offer) ?? 0));
  }
  return value;
}
