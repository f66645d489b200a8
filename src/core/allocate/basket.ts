import type { Highs } from "highs";

import type { Minor } from "../money/money";
import type { PlanOffer, PlanProblem } from "./problem";
import { solvePlan } from "./solve";

/**
 * The cheapest way to get some pieces of several parts over all suppliers: packs whole, breaks and carriage
 * counted.
 */

export type Wanted = { part: string; count: number };
export type Basket = {
  status: "proven" | "stopped" | "impossible";
  lines: { offer: string; supplier: string; part: string; packs: number; pieces: number; costMinor: Minor }[];
  carriageMinor: Minor;
  goodsMinor: Minor;
  /** parts that nobody offers */
  missing: string[];
  /** what the same would cost from the one supplier that has all of it, where there is one */
  oneSupplier: { supplier: string; minor: Minor } | null;
};

const WORTH_IT = 100_000_000; // so that what is wanted is bought

export function cheapestBasket(
  highs: Highs,
  wanted: readonly Wanted[],
  offers: readonly PlanOffer[],
  suppliers: PlanProblem["suppliers"],
): Basket {
  const sold = wanted.filter((w) => w.count > 0 && offers.some((o) => o.part === w.part));
  const missing = wanted
    .filter((w) => w.count > 0 && !offers.some((o) => o.part === w.part))
    .map((w) => w.part);
  const best = (some: readonly PlanOffer[]) =>
    solvePlan(
      highs,
      {
        // all of it is one need of one unit; not getting it is never chosen
        units: [
          {
            id: "basket",
            frees: [],
            options: [
              {
                id: "buy",
                choice: "mend",
                value: WORTH_IT,
                minutes: 0,
                needs: sold.map((w) => ({ slot: w.part, count: w.count, from: [w.part] })),
              },
            ],
          },
        ],
        donors: [],
        stock: [],
        ordered: [],
        offers: some,
        suppliers,
        keeps: {},
        minutes: 0,
        locks: [],
      },
      { seconds: 10 },
    );
  const plan = best(offers);
  const lines = plan.orders.map((o) => {
    const offer = offers.find((x) => x.id === o.offer)!;
    return {
      offer: o.offer,
      supplier: offer.supplier,
      part: offer.part,
      packs: o.packs,
      pieces: o.packs * offer.pack,
      costMinor: o.costMinor,
    };
  });
  let oneSupplier: Basket["oneSupplier"] = null;
  for (const s of suppliers) {
    const some = offers.filter((o) => o.supplier === s.id);
    if (sold.some((w) => !some.some((o) => o.part === w.part))) continue;
    const one = best(some);
    if (one.status === "impossible") continue;
    const minor = one.orders.reduce((a, o) => a + o.costMinor, 0) + one.carriageMinor;
    if (oneSupplier === null || minor < oneSupplier.minor) oneSupplier = { supplier: s.id, minor };
  }
  return {
    status: plan.status,
    lines,
    carriageMinor: plan.carriageMinor,
    goodsMinor: lines.reduce((s, l) => s + l.costMinor, 0),
    missing,
    oneSupplier: sold.length > 0 ? oneSupplier : null,
  };
}
