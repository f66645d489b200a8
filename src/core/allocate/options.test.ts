import { readFileSync } from "node:fs";
import { join } from "node:path";

import loadHighs, { type Highs } from "highs";

import { buildProblem, type DecideInput } from "../decide/build";
import { solveLadder } from "../decide/ladder";
import { HOUSE_ROUTES } from "../decide/routes";
import { seeded } from "../math/random";
import { HOUSE_RATES, labourOf } from "../money/rates";
import { profileSchema } from "../profile/profile";
import { cheapestBasket } from "./basket";
import { planOptions } from "./options";
import type { PlanOffer } from "./problem";

const dunlin = profileSchema.parse(
  JSON.parse(readFileSync(join(process.cwd(), "profiles/dunlin.json"), "utf8")),
);
const input = (places: string[], change: Partial<DecideInput> = {}): DecideInput => ({
  profile: dunlin,
  revision: null,
  market: dunlin.market!,
  rates: HOUSE_RATES,
  routes: HOUSE_ROUTES,
  record: [],
  rules: [],
  faults: places.map((place, i) => ({
    id: String(i),
    number: i + 1,
    place,
    measure: place.startsWith("stick") ? "restOffset" : null,
  })),
  tried: [],
  openMinutes: 0,
  spent: { purchase: 1200, parts: 0, minutes: 0 },
  customer: null,
  withheld: [],
  untested: [],
  hiddenBad: 0,
  caps: [],
  ...change,
});
const all = (slot: { id: string }, make: string) => [`${slot.id} ${make}`];
const frees = [{ slot: "module.right", part: "SM", count: 1, worth: 171 }];

describe("what can be done with a unit", () => {
  test("each way to mend is the ladder of its own route, without the price of its part", () => {
    const options = planOptions({ input: input(["stick.left"]), fitting: all, frees });
    const whole = options.find((o) => o.id === "module-dear")!;
    expect(whole.needs).toEqual([{ slot: "module.left", count: 1, from: ["module.left dear-copy"] }]);
    const built = buildProblem(input(["stick.left"]));
    const i = built.options.findIndex((o) => o.route.id === "module-dear" && !o.twin);
    const offer = dunlin
      .slots!.find((s) => s.id === "module.left")!
      .offers.find((o) => o.make === "dear-copy")!;
    const partAndShelf = offer.priceMinor + offer.leadDays * HOUSE_RATES.shelfPerDay;
    const attempt = { ...built.problem.attempts[i]!, spends: [] };
    const free = solveLadder({
      ...built.problem,
      attempts: [{ ...attempt, cost: attempt.cost - partAndShelf }],
    });
    expect(free.ok && whole.value).toBe(free.ok && Math.round(free.value.trying!));
    const clean = options.find((o) => o.id === "clean-contacts")!;
    expect(clean.needs).toEqual([]);
  });

  test("sensors are a pair; a part that nobody has makes no way", () => {
    const some = (slot: { id: string }, make: string) =>
      make === "dear-copy" && slot.id.startsWith("module") ? [] : all(slot, make);
    const options = planOptions({ input: input(["stick.left"]), fitting: some, frees });
    expect(options.some((o) => o.id === "module-dear")).toBe(false);
    expect(options.find((o) => o.id === "sensors-dear")!.needs[0]!.count).toBe(2);
  });

  test("several faults pair every place with a route, and ids are unique", () => {
    const options = planOptions({ input: input(["stick.left", "trigger.right"]), fitting: all, frees });
    const mends = options.filter((o) => o.choice === "mend");
    expect(mends.length).toBeGreaterThan(2);
    expect(mends.every((o) => o.id.split("+").length === 2)).toBe(true);
    expect(new Set(options.map((o) => o.id)).size).toBe(options.length);
  });

  test("ends: stripping brings its freed parts less the time, keeping costs a week; a customer's goes back", () => {
    const options = planOptions({ input: input(["stick.left"]), fitting: all, frees });
    const strip = options.find((o) => o.choice === "strip")!;
    expect(strip.value).toBe(171 - labourOf(strip.minutes, HOUSE_RATES));
    const sell = options.find((o) => o.choice === "sell")!;
    expect(options.find((o) => o.choice === "keep")!.value).toBe(
      Math.max(0, sell.value, strip.value) - 7 * HOUSE_RATES.shelfPerDay,
    );
    const theirs = planOptions({
      input: input(["stick.left"], { customer: { limit: 3000, precise: false } }),
      fitting: all,
      frees: [],
    });
    expect(theirs.some((o) => o.choice === "hand-back")).toBe(true);
    expect(theirs.some((o) => o.choice === "strip" || o.choice === "sell")).toBe(false);
  });
});

describe("the cheapest basket", () => {
  let highs: Highs;
  beforeAll(async () => {
    highs = await loadHighs();
  });
  const offer = (supplier: string, part: string, pack: number, priceMinor: number): PlanOffer => ({
    id: `${supplier} ${part} ${pack}`,
    supplier,
    part,
    pack,
    breaks: [{ packs: 1, priceMinor }],
    mostPacks: 6,
  });
  const suppliers = [
    { id: "a", carriageMinor: 400, freeFromMinor: 2000 },
    { id: "b", carriageMinor: 250, freeFromMinor: null },
  ];

  test("it is what trying every number of packs finds", () => {
    for (let seed = 1; seed <= 25; seed++) {
      const chance = seeded(seed);
      const price = () => Math.round(chance.between(100, 900));
      const offers = [
        offer("a", "x", 1, price()),
        offer("a", "y", 2, price()),
        offer("b", "x", 3, price()),
        offer("b", "y", 1, price()),
      ];
      const wanted = [
        { part: "x", count: 1 + Math.floor(chance.next() * 4) },
        { part: "y", count: 1 + Math.floor(chance.next() * 4) },
      ];
      let best = Infinity;
      for (let n = 0; n < 7 ** 4; n++) {
        const packs = offers.map((_, i) => Math.floor(n / 7 ** i) % 7);
        const got = (part: string) =>
          offers.reduce((s, o, i) => s + (o.part === part ? packs[i]! * o.pack : 0), 0);
        if (wanted.some((w) => got(w.part) < w.count)) continue;
        const cost = suppliers.reduce((sum, s) => {
          const goods = offers.reduce(
            (g, o, i) => g + (o.supplier === s.id ? packs[i]! * o.breaks[0]!.priceMinor : 0),
            0,
          );
          return (
            sum +
            goods +
            (goods > 0 && !(s.freeFromMinor !== null && goods >= s.freeFromMinor) ? s.carriageMinor : 0)
          );
        }, 0);
        best = Math.min(best, cost);
      }
      const basket = cheapestBasket(highs, wanted, offers, suppliers);
      expect([seed, basket.goodsMinor + basket.carriageMinor]).toEqual([seed, best]);
    }
  });

  test("what nobody offers is said, and the one supplier who has all of it stands beside", () => {
    const offers = [offer("a", "x", 1, 500), offer("b", "x", 1, 300), offer("b", "y", 1, 300)];
    const basket = cheapestBasket(
      highs,
      [
        { part: "x", count: 1 },
        { part: "y", count: 1 },
        { part: "z", count: 1 },
      ],
      offers,
      suppliers,
    );
    expect(basket.missing).toEqual(["z"]);
    expect(basket.oneSupplier).toEqual({ supplier: "b", minor: 850 });
    expect(basket.goodsMinor + basket.carriageMinor).toBe(850);
    expect(cheapestBasket(highs, [], offers, suppliers)).toMatchObject({ lines: [], oneSupplier: null });
  });
});
