import { seeded } from "../math/random";
import type { Need, PlanOption, PlanProblem, PlanUnit } from "./problem";

/** Made-up backlogs of any size, the same for the same seed: for tests and benchmarks. */

export type RandomSize = { units: number; parts: number; donorShare: number };

type Chance = ReturnType<typeof seeded>;
/** What one piece of each part is worth, and the models that it fits. */
type Workshop = {
  size: RandomSize;
  worth: number[];
  models: { slots: { slot: string; part: number }[]; price: number }[];
};

const part = (i: number) => `P-${i}`;

function randomWorkshop(chance: Chance, size: RandomSize): Workshop {
  const worth = Array.from({ length: size.parts }, () => Math.round(chance.between(40, 900)));
  const models = Array.from({ length: Math.max(2, Math.round(size.parts / 6)) }, () => {
    const slots = Array.from({ length: 6 }, (_, k) => ({
      slot: `slot-${k}`,
      part: Math.floor(chance.next() * size.parts),
    }));
    return { slots, price: Math.round(chance.between(1400, 7000)) };
  });
  return { size, worth, models };
}

function randomUnit(chance: Chance, { size, worth, models }: Workshop, i: number, donor: boolean): PlanUnit {
  const model = chance.pick(models);
  const faulty = model.slots.filter(() => chance.happens(donor ? 0.6 : 0.22)).slice(0, 3);
  if (faulty.length === 0) faulty.push(model.slots[0]!);
  const frees = model.slots
    .filter((s) => !faulty.includes(s))
    .map((s) => ({ slot: s.slot, part: part(s.part), count: 1, worth: Math.round(worth[s.part]! * 0.35) }));
  const asFound = Math.round(model.price * chance.between(0.1, 0.25));
  const needs = (copies: boolean): Need[] =>
    faulty.map((s) => ({
      slot: s.slot,
      count: 1,
      from: copies ? [part(s.part), part((s.part + 1) % size.parts)] : [part(s.part)],
    }));
  const minutes = Math.round(20 + 14 * faulty.length + chance.between(0, 20));
  /** a mend that brings a share of the model's price, less what it costs beside its parts */
  const mend = (id: string, shares: [number, number], less: number, takes: number, parts: Need[]) => ({
    id,
    choice: "mend" as const,
    value: Math.round(model.price * chance.between(...shares)) - less,
    minutes: takes,
    needs: parts,
  });
  const stripped = Math.round(frees.reduce((s, f) => s + f.worth, 0)) - 400;
  const options: PlanOption[] = [
    { id: "sell", choice: "sell", value: asFound, minutes: 5, needs: [] },
    { id: "keep", choice: "keep", value: Math.round(asFound * 0.9), minutes: 0, needs: [] },
    { id: "strip", choice: "strip", value: stripped, minutes: 24, needs: [] },
    mend("mend", [0.55, 0.8], 300, minutes, needs(true)),
    mend("mend-a", [0.65, 0.85], 300, minutes + 8, needs(false)),
  ];
  if (chance.happens(0.3)) options.push(mend("clean", [0.25, 0.5], 0, minutes - 10, []));
  return { id: `U-${i}`, options, frees };
}

const randomStock = (chance: Chance, { size, worth }: Workshop): PlanProblem["stock"] =>
  worth.flatMap((w, i) =>
    chance.happens(0.6)
      ? [
          {
            part: part(i),
            count: Math.floor(chance.between(0, 1 + size.units / 30)),
            worth: Math.round(w * 0.8),
          },
        ]
      : [],
  );

const randomOffers = (chance: Chance, { size, worth }: Workshop): PlanProblem["offers"] =>
  worth.flatMap((w, i) => {
    if (!chance.happens(0.75)) return [];
    const pack = chance.pick([1, 1, 2, 5, 10]);
    const price = Math.round(w * pack * chance.between(0.8, 1.2));
    const breaks = [{ packs: 1, priceMinor: price }];
    if (chance.happens(0.3)) breaks.push({ packs: 5, priceMinor: Math.round(price * 0.85) });
    return [
      {
        id: `O-${i}`,
        supplier: `S-${i % 4}`,
        part: part(i),
        pack,
        breaks,
        mostPacks: Math.ceil(size.units / pack),
      },
    ];
  });

export function randomPlan(seed: number, size: RandomSize): PlanProblem {
  const chance = seeded(seed);
  const shop = randomWorkshop(chance, size);
  const donors = Math.round(size.units * size.donorShare);
  return {
    units: Array.from({ length: size.units }, (_, i) => randomUnit(chance, shop, i, i < donors)),
    donors: [],
    ordered: [],
    stock: randomStock(chance, shop),
    offers: randomOffers(chance, shop),
    suppliers: [0, 1, 2, 3].map((i) => ({
      id: `S-${i}`,
      carriageMinor: 250 + 100 * i,
      freeFromMinor: i === 1 ? 4000 : null,
    })),
    keeps: Object.fromEntries(shop.worth.map((w, i) => [part(i), Math.round(w * 0.4)])),
    minutes: size.units * 34,
    locks: [],
  };
}
