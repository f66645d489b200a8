import { readFileSync } from "node:fs";
import { join } from "node:path";

import { seeded } from "../math/random";
import { HOUSE_RATES, labourOf, type Rates, saleTerms, taxTerms, totalOf } from "../money/rates";
import { spread } from "../money/spread";
import { type ModelProfile, profileSchema } from "../profile/profile";
import { advise, worthOf } from "./advise";
import { flipsOf } from "./flips";
import { buildProblem, type DecideInput } from "./build";
import {
  bidCurve,
  faultSets,
  highestBid,
  lossAt,
  prospectOf,
  readListing,
  suspectedOf,
  worthOdds,
} from "./buying";
import type { NodeKind } from "../profile/wiring";
import type { PlaceCause } from "./causes";
import { chanceOf, pooledCases } from "../math/chances";
import { familyOf, worstOf } from "./families";
import { solveLadder } from "./ladder";
import { drawLot, shareLot } from "./lot";
import { findingIn } from "../base/finding";
import { HOUSE_ROUTES, readRoutes, writeRoutes } from "./routes";
import { survivalOf } from "./survival";
import { leavesOf, normalBelow, spreadOf } from "./walk";
import { randomUnit } from "../policy/random-unit";

const model = (name: string): ModelProfile =>
  profileSchema.parse(JSON.parse(readFileSync(join(process.cwd(), `profiles/${name}.json`), "utf8")));
const dunlin = model("dunlin");

const NONE = { yes: 0, no: 0 };
const input = (
  faults: [place: string, measure: string | null][],
  change: Partial<DecideInput> = {},
): DecideInput => ({
  profile: dunlin,
  revision: null,
  market: dunlin.market!,
  rates: HOUSE_RATES,
  routes: HOUSE_ROUTES,
  record: [],
  rules: [],
  faults: faults.map(([place, measure], i) => ({ id: String(i), number: i + 1, place, measure })),
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
const DRIFT: [string, string][] = [["stick.left", "restOffset"]];

describe("chances", () => {
  test("a stated guess, own cases in full, other models as at most eight", () => {
    expect(chanceOf({ mean: 0.6, cases: 5 }, { yes: 4, no: 1 }, NONE).mean).toBeCloseTo(0.7, 9);
    expect(chanceOf({ mean: 0.5, cases: 4 }, NONE, { yes: 3, no: 1 }).mean).toBeCloseTo((2 + 3) / 8, 9);
    // forty cases elsewhere count as eight
    expect(chanceOf({ mean: 0.5, cases: 4 }, NONE, { yes: 40, no: 0 }).mean).toBeCloseTo((2 + 8) / 12, 9);
  });
  test("what other models are worth follows from how much the models differ", () => {
    const model = (yes: number, no: number) => ({ yes, no });
    expect(pooledCases([])).toBe(8);
    expect(pooledCases([model(9, 1), model(1, 9)])).toBe(8); // two models tell nothing of their spread
    expect(pooledCases([model(9, 0), model(4, 0), model(7, 0)])).toBe(8);
    expect(pooledCases([model(1, 0), model(0, 1), model(1, 0)])).toBe(8); // one case each
    // far apart: hardly worth anything; alike to a hair: worth more than the guess
    const apart = Array.from({ length: 8 }, (_, i) => (i % 2 ? model(19, 1) : model(1, 19)));
    expect(pooledCases(apart)).toBeLessThan(1.5);
    const alike = Array.from({ length: 8 }, () => model(12, 8));
    expect(pooledCases(alike)).toBeGreaterThan(30);
    const seen = chanceOf({ mean: 0.5, cases: 4 }, NONE, { yes: 60, no: 40 }, pooledCases(alike));
    expect(seen.othersAs).toBeCloseTo(pooledCases(alike), 9);
    expect(seen.mean).toBeGreaterThan(chanceOf({ mean: 0.5, cases: 4 }, NONE, { yes: 60, no: 40 }).mean);
  });
  test.each([
    [2, "differ"],
    [60, "agree"],
  ])("models that %s: what is pooled so foretells a new model no worse than a fixed eight", (strength) => {
    // each model's own chance drawn about 0.6, as if by so many cases; truth known to the generator alone
    let state = 7 + strength;
    const draw = () => ((state = (state * 1103515245 + 12345) % 2147483648) + 0.5) / 2147483648;
    const normal = () => Math.sqrt(-2 * Math.log(draw())) * Math.cos(2 * Math.PI * draw());
    const spread = Math.sqrt((0.6 * 0.4) / (strength + 1));
    const model = () => Math.min(0.98, Math.max(0.02, 0.6 + spread * normal()));
    let fixed = 0;
    let pooled = 0;
    for (let n = 0; n < 400; n++) {
      const tallies = Array.from({ length: 7 }, () => {
        const p = model();
        let yes = 0;
        for (let i = 0; i < 12; i++) if (draw() < p) yes++;
        return { yes, no: 12 - yes };
      });
      const truth = model();
      const own = { yes: 0, no: 0 };
      for (let i = 0; i < 6; i++) own[draw() < truth ? "yes" : "no"]++;
      const others = { yes: 0, no: 0 };
      for (const t of tallies) {
        others.yes += t.yes;
        others.no += t.no;
      }
      const stated = { mean: 0.5, cases: 2 };
      fixed += (chanceOf(stated, own, others).mean - truth) ** 2;
      pooled += (chanceOf(stated, own, others, pooledCases([...tallies, own])).mean - truth) ** 2;
    }
    expect(pooled).toBeLessThan(fixed);
  });
  test("the interval of an even Beta(1, 1) leaves out a twentieth at each side, and narrows with cases", () => {
    // stated as never or always: still open, and moved by what is seen
    const never = chanceOf({ mean: 0, cases: 9 }, NONE, NONE);
    expect(never.mean).toBeCloseTo(0.005, 9);
    expect(never.high).toBeGreaterThan(0);
    expect(chanceOf({ mean: 0, cases: 9 }, { yes: 6, no: 0 }, NONE).mean).toBeGreaterThan(0.4);
    const always = chanceOf({ mean: 1, cases: 9 }, NONE, NONE);
    expect([always.mean, always.low < 1]).toEqual([expect.closeTo(0.995, 9), true]);
    // a small chance that is stated stays as it is stated, however few cases it counts as
    expect(chanceOf({ mean: 0.02, cases: 3 }, NONE, NONE).mean).toBeCloseTo(0.02, 9);
    expect(chanceOf({ mean: 1, cases: 9 }, { yes: 0, no: 9 }, NONE).high).toBeLessThan(0.7);
    const flat = chanceOf({ mean: 0.5, cases: 2 }, NONE, NONE);
    expect(flat.low).toBeCloseTo(0.05, 6);
    expect(flat.high).toBeCloseTo(0.95, 6);
    const much = chanceOf({ mean: 0.5, cases: 2 }, { yes: 50, no: 50 }, NONE);
    expect(much.high - much.low).toBeLessThan(0.18);
  });
});

describe("money", () => {
  test("a sale, term by term, adds up to what it leaves", () => {
    const terms = saleTerms(4000, 1000, 0.2, HOUSE_RATES);
    // 440 fee, 35 fixed, 490 carriage, 0.2 of a return of 980 and 25 minutes at 15.00 an hour (625)
    expect(Object.fromEntries(terms.map((t) => [t.code, t.minor]))).toEqual({
      price: 4000,
      "fee-share": -440,
      "fee-fixed": -35,
      "carriage-out": -490,
      returns: -321,
    });
    expect(totalOf(terms)).toBe(4000 - 440 - 35 - 490 - 321);
  });
  test("tax can be none, on the price, or on what it is above the purchase", () => {
    const of = (tax: Rates["tax"]) => {
      const terms = saleTerms(12300, 2460, 0, { ...HOUSE_RATES, tax, taxRate: 0.23 });
      return terms.find((t) => t.code === "tax")?.minor ?? 0;
    };
    expect([of("none"), of("full"), of("margin")]).toEqual([0, -2300, -1840]);
    expect(taxTerms({ ...HOUSE_RATES, tax: "margin" }, 500).above).toBe(500);
  });
  test("labour is by the minute, to the cent", () => expect(labourOf(10, HOUSE_RATES)).toBe(250));
});

describe("families", () => {
  test("place and measure say which routes can treat it", () => {
    expect(familyOf(dunlin, "stick.left", "restOffset")).toBe("stick-drift");
    expect(familyOf(dunlin, "stick.left", "jumps")).toBe("stick-worn");
    expect(familyOf(dunlin, "stick.left", "reachMin")).toBe("stick-range");
    expect(familyOf(dunlin, "face.south", "decision")).toBe("button-dome");
    expect(familyOf(dunlin, "bumper.left", null)).toBe("button-switch");
    expect(familyOf(dunlin, "radio", null)).toBe("radio");
    expect(familyOf(dunlin, "board", null)).toBeNull();
    expect(worstOf(["stick-range", "stick-worn", "stick-drift"])).toBe("stick-worn");
  });
});

describe("from a unit to a problem", () => {
  test("symptoms of one place are one fault, and the like stick is offered while it is open", () => {
    const built = buildProblem(
      input([
        ["stick.left", "restOffset"],
        ["stick.left", "safeDeadZone"],
      ]),
    );
    expect(built.places.map((p) => [p.place, p.numbers, p.twin])).toEqual([
      ["stick.left", [1, 2], false],
      ["stick.right", [], true],
    ]);
    const clean = built.options.find((o) => o.route.id === "clean-contacts")!;
    expect(totalOf(clean.terms)).toBe(-labourOf(20, HOUSE_RATES)); // 16 minutes and a retest of 4
  });

  test("one module cures stick and click together; the click alone does not call for sensors", () => {
    const built = buildProblem(
      input([
        ["stick.left", "jumps"],
        ["stick.left.click", "decision"],
      ]),
    );
    const whole = built.options.filter((o) => o.route.id === "module-dear" && !o.twin);
    expect(whole.map((o) => o.places)).toEqual([["stick.left", "stick.left.click"]]);
    expect(built.options.find((o) => o.route.id === "sensors-dear")!.places).toEqual(["stick.left"]);
  });

  test("what was tried is not offered again, and what is beyond the shop's skill or not to be had says so", () => {
    const built = buildProblem(
      input(DRIFT, {
        tried: [{ place: "stick.left", route: "clean-contacts" }],
        rates: { ...HOUSE_RATES, skill: 2 },
      }),
    );
    expect(built.skipped).toContainEqual({ route: "clean-contacts", place: "stick.left", why: "tried" });
    expect(built.skipped).toContainEqual({ route: "module-dear", place: "stick.left", why: "skill" });
    expect(buildProblem(input([["bumper.left", null]])).options.map((o) => o.route.id)).toContain(
      "switch-new",
    );
  });

  test("an open unit pays only the rest of the strip-down", () => {
    const closed = buildProblem(input(DRIFT)).problem;
    const open = buildProblem(input(DRIFT, { openMinutes: 14 })).problem;
    const deepest = open.depths.at(-1)!;
    expect(closed.openedTo).toBe(0);
    expect(open.depths[open.openedTo]).toEqual(deepest);
    expect(advise(input(DRIFT, { openMinutes: 14 })).value).toBeGreaterThan(advise(input(DRIFT)).value);
  });
});

describe("advice", () => {
  test("the ladder is at least as good as every school alone, and says what each disagreement costs", () => {
    const a = advise(input(DRIFT));
    expect(a.schools.map((s) => s.school).sort()).toEqual([
      "calibrate",
      "clean",
      "replace",
      "sensor",
      "upgrade",
    ]);
    for (const s of a.schools) expect(s.less).toBeGreaterThanOrEqual(-1e-6);
    expect(a.best).toBe("mend");
  });

  test("what was spent is left out of the choice and counted in the margin", () => {
    const cheap = advise(input(DRIFT));
    const dear = advise(input(DRIFT, { spent: { purchase: 4000, parts: 300, minutes: 40 } }));
    expect(dear.value).toBeCloseTo(cheap.value, 6);
    expect(dear.sunk).toBe(4000 + 300 + labourOf(40, HOUSE_RATES));
    expect(dear.spread.mean).toBeCloseTo(dear.value - dear.sunk, 3);
    expect(dear.spread.loss).toBeGreaterThan(cheap.spread.loss);
  });

  test("own failures move the ladder from cleaning to sensors", () => {
    const first = (worked: number, failed: number) => {
      const tree = advise(
        input(DRIFT, {
          rates: { ...HOUSE_RATES, skill: 3 },
          routes: HOUSE_ROUTES.filter((r) => ["clean-contacts", "sensors-dear"].includes(r.id)),
          record: [{ route: "clean-contacts", model: "dunlin", worked, failed, cameBack: 0, stayed: worked }],
        }),
      );
      return tree.tree.do === "try" ? tree.options[tree.tree.attempt]!.route.id : null;
    };
    expect(first(20, 0)).toBe("clean-contacts");
    expect(first(0, 20)).toBe("sensors-dear");
  });

  test("a shop's rule is worked out beside the ladder and never beats it; a rule that needs another fault waits for it", () => {
    const rules = [{ family: "stick-drift" as const, also: null, route: "module-dear" }];
    const a = advise(input(DRIFT, { rules }));
    expect(a.policy?.rules).toBe(1);
    expect(a.policy!.value).toBeLessThanOrEqual(a.value + 1e-6);
    const also = [{ family: "stick-drift" as const, also: "button-switch" as const, route: "module-dear" }];
    expect(advise(input(DRIFT, { rules: also })).policy).toBeNull();
    expect(advise(input([...DRIFT, ["stick.left.click", "decision"]], { rules: also })).policy?.rules).toBe(
      1,
    );
  });

  test("a radio that cannot be had: sold with a stated limit; a drifting stick cannot be sold so", () => {
    const radio = advise(input([["radio", null]], { routes: [] }));
    expect(radio.best).toBe("sell-limited");
    const end = radio.ends.find((e) => e.disposition === "sell-limited")!;
    expect(totalOf(end.terms)).toBe(Math.round(end.value!));
    expect(advise(input(DRIFT)).ends.find((e) => e.disposition === "sell-limited")!.why).toEqual({
      code: "no-limit",
      places: ["left stick"],
    });
  });

  test("a part that has to come first: hold, against what can be done today", () => {
    const a = advise(input(DRIFT, { routes: HOUSE_ROUTES.filter((r) => r.id === "module-original") }));
    expect(a.best).toBe("hold");
    expect(a.ends.find((e) => e.disposition === "hold")!.why).toMatchObject({ code: "waits", days: 8 });
    expect(a.ends.find((e) => e.disposition === "mend")!.value).toBeNull();
  });

  test("the stop-loss trips when going on brings less than stopping", () => {
    const poor = { ...HOUSE_RATES, labourPerHour: 6000 };
    expect(advise(input(DRIFT)).room).toBeGreaterThan(0);
    expect(
      advise(input(DRIFT, { rates: poor, tried: [{ place: "stick.left", route: "calibrate" }] })).room,
    ).toBeLessThanOrEqual(0);
  });

  test("what would change it does change it, and just before it does not", () => {
    const asked = input(DRIFT);
    const price = flipsOf(asked, advise(asked)).find((f) => f.kind === "price")!;
    expect(price.at).not.toBeNull();
    const at = (p: number) => {
      const share = p / asked.market.aMinor;
      const m = asked.market;
      const scaled = {
        ...m,
        aMinor: Math.round(m.aMinor * share),
        bMinor: Math.round(m.bMinor * share),
        cMinor: Math.round(m.cMinor * share),
      };
      const a = advise({ ...asked, market: scaled });
      return `${a.best} ${a.tree.do === "try" ? a.options[a.tree.attempt]!.route.id : ""}`;
    };
    expect(at(price.at! * (price.at! < price.now ? 0.985 : 1.015))).not.toBe(at(price.now));
    expect(at(price.at! * (price.at! < price.now ? 1.015 : 0.985))).toBe(at(price.now));
  });

  test("a customer's unit: no market, their limit is the price, and what they turned down is left alone", () => {
    const a = advise(input(DRIFT, { customer: { limit: 5000, precise: false } }));
    expect(a.ends.map((e) => e.disposition)).toEqual(["mend", "hold", "hand-back"]);
    expect(a.places.every((p) => !p.twin)).toBe(true);
    expect(advise(input(DRIFT, { customer: { limit: 100, precise: false } })).best).toBe("hand-back");
    const aims = advise(input(DRIFT, { customer: { limit: 5000, precise: true } }));
    expect(aims.options.every((o) => o.route.grade === "A")).toBe(true);
    expect(aims.skipped).toContainEqual({ route: "clean-contacts", place: "stick.left", why: "grade" });
    expect(
      advise(input(DRIFT, { customer: { limit: 5000, precise: false }, withheld: ["0"] })).places,
    ).toEqual([]);
  });

  test("many faults: the weakest routes are set aside, and it says how many", () => {
    const many = advise(
      input([
        ...DRIFT,
        ["stick.right", "jumps"],
        ["face.south", "decision"],
        ["trigger.left", "fullPull"],
        ["trigger.right", "fullPull"],
      ]),
    );
    expect(many.setAside).toBeGreaterThan(0);
    expect(many.ends.length).toBeGreaterThan(0);
  });
});

describe("spread", () => {
  test("the leaves' chances add up to one and their mean is the ladder's value", () => {
    for (let seed = 1; seed <= 30; seed++) {
      const p = randomUnit(seeded(seed), 1 + (seed % 3), 3, seed % 2);
      const solved = solveLadder(p);
      if (!solved.ok) throw new Error("too large");
      const leaves = leavesOf(p, solved.value.root);
      expect(leaves.reduce((s, l) => s + l.chance, 0)).toBeCloseTo(1, 5);
      expect(leaves.reduce((s, l) => s + l.chance * l.money, 0)).toBeCloseTo(solved.value.value, 0);
    }
  });
  test("two sure ends by hand", () => {
    const s = spreadOf(
      [
        { chance: 0.3, money: -500, minutes: 10, price: 0, end: "given-up" },
        { chance: 0.7, money: 1000, minutes: 20, price: 0, end: "given-up" },
      ],
      1,
      0.1,
      100,
    );
    expect(s.mean).toBeCloseTo(450, 6);
    expect(s.loss).toBeCloseTo(0.3, 9);
    expect(s.minutes).toBeCloseTo(17, 9);
    expect([s.low, s.high].map(Math.round)).toEqual([-600, 900]);
  });
  test("the normal distribution at its known points", () => {
    expect(normalBelow(0)).toBeCloseTo(0.5, 6);
    expect(normalBelow(1.6449)).toBeCloseTo(0.95, 4);
    expect(normalBelow(-1)).toBeCloseTo(0.158655, 5);
  });
});

describe("lots", () => {
  test("cents go to the largest remainders and always add up", () => {
    expect(spread(1000, [1, 1, 1])).toEqual([334, 333, 333]);
    expect(spread(100, [0, 0])).toEqual([50, 50]);
    expect(spread(7, [3, 2, 2])).toEqual([3, 2, 2]);
    const c = seeded(3);
    for (let i = 0; i < 400; i++) {
      const weights = Array.from({ length: 1 + Math.floor(c.next() * 40) }, () =>
        c.happens(0.2) ? 0 : c.between(0, 5000),
      );
      const total = Math.floor(c.between(0, 200_000));
      const shares = spread(total, weights);
      expect(shares.reduce((a, b) => a + b, 0)).toBe(total);
      expect(Math.min(...shares)).toBeGreaterThanOrEqual(0);
    }
  });
  test("what is sold keeps its share; a donor's lighter weight moves the rest; by hand the rest is even", () => {
    const units = [
      { id: "a", value: 1000, fixed: null, byHand: null },
      { id: "b", value: 1000, fixed: null, byHand: null },
      { id: "c", value: 500, fixed: 400, byHand: 50 },
    ];
    expect([...shareLot(1400, units, "value").values()].sort((x, y) => x - y)).toEqual([400, 500, 500]);
    const donor = units.map((u) => (u.id === "b" ? { ...u, value: 250 } : u));
    expect(shareLot(1400, donor, "value").get("b")).toBe(200);
    const hand = shareLot(1400, [{ ...units[0]!, byHand: 100 }, units[1]!, units[2]!], "hand");
    expect([hand.get("a"), hand.get("b"), hand.get("c")]).toEqual([100, 900, 400]);
  });
  test("draws of a lot: the mean of its units, the same for the same seed", () => {
    const coin = [
      { value: 0, chance: 0.5 },
      { value: 1000, chance: 0.5 },
    ];
    const totals = drawLot(
      Array.from({ length: 40 }, () => coin),
      10_000,
      seeded(1),
    );
    expect(totals.reduce((a, b) => a + b, 0) / 10_000 / 1000).toBeCloseTo(20, 0);
    expect(totals[1000]! / 1000).toBeCloseTo(16, 0); // 20 - 1.28 standard deviations of sqrt(10)
    expect(drawLot([coin], 5, seeded(1))).toEqual(drawLot([coin], 5, seeded(1)));
  });
});

describe("time to relapse", () => {
  test("by hand, with units that still hold today", () => {
    // 6 at risk, one relapse at day 6; 3 at risk at day 10, one relapse
    const held = [
      { days: 6, relapsed: true },
      { days: 6, relapsed: false },
      { days: 7, relapsed: false },
      { days: 10, relapsed: true },
      { days: 15, relapsed: false },
      { days: 16, relapsed: false },
    ];
    const steps = survivalOf(held);
    expect(steps.map((s) => [s.days, s.atRisk])).toEqual([
      [6, 6],
      [10, 3],
    ]);
    expect(steps[0]!.holding).toBeCloseTo(5 / 6, 9);
    expect(steps[1]!.holding).toBeCloseTo((5 / 6) * (2 / 3), 9);
    for (const s of steps) {
      expect(s.low).toBeLessThan(s.holding);
      expect(s.high).toBeGreaterThan(s.holding);
    }
    expect(survivalOf([{ days: 3, relapsed: false }])).toEqual([]);
    expect(survivalOf([{ days: 3, relapsed: true }])[0]).toMatchObject({ holding: 0, low: 0, high: 0.95 });
  });
});

describe("buying", () => {
  test("a listing is read for its symptoms and for how far its words can be leaned on", () => {
    expect(readListing("left stick drifts, rest tested", dunlin)).toMatchObject({ risk: "named" });
    expect(readListing("untested, from a clearance", dunlin).risk).toBe("untested");
    expect(readListing("", dunlin).risk).toBe("untested");
    expect(readListing("faulty, sometimes acts up", dunlin).risk).toBe("vague");
    const odd = readListing("works fine, left stick drifts", dunlin);
    expect([odd.risk, odd.contradicts]).toEqual(["vague", true]);
  });

  const base = {
    profile: dunlin,
    revision: null,
    market: dunlin.market!,
    rates: HOUSE_RATES,
    routes: HOUSE_ROUTES,
    record: [],
    rules: [],
  };

  test("sets of faults are disjoint: their chances never add up to more than one", () => {
    const sets = faultSets(suspectedOf(dunlin, readListing("left stick drifts", dunlin), {}));
    const sum = sets.reduce((s, x) => s + x.chance, 0);
    expect(sum).toBeLessThanOrEqual(1 + 1e-9);
    expect(sum).toBeGreaterThan(0.85);
    expect(sets[0]!.faults.map((f) => f.place)).toEqual(["stick.left"]);
  });

  test("the margin falls cent by cent with the bid, the chance of loss rises, and the highest bid keeps both wishes", () => {
    const p = prospectOf(base, suspectedOf(dunlin, readListing("left stick drifts", dunlin), {}));
    const curve = bidCurve(p, 400, 2000);
    for (let i = 1; i < curve.length; i++) {
      expect(curve[i - 1]!.margin - curve[i]!.margin).toBeCloseTo(curve[i]!.bid - curve[i - 1]!.bid, 6);
      expect(curve[i]!.loss).toBeGreaterThanOrEqual(curve[i - 1]!.loss - 1e-9);
    }
    const by = highestBid(p, 400, 200, 1);
    expect(by).toEqual({ bid: Math.floor(p.worth - 600), binds: "margin" });
    const careful = highestBid(p, 0, 0, 0.3);
    expect(careful.binds).toBe("loss");
    expect(lossAt(p, careful.bid!)).toBeLessThanOrEqual(0.3);
    expect(lossAt(p, careful.bid! + 2)).toBeGreaterThan(0.3 - 0.01);
    // a drifting stick is cleaned first; a worn one needs its sensors at once
    const worn = prospectOf(base, suspectedOf(dunlin, readListing("left stick jumps", dunlin), {}));
    expect(worn.parts[0]!.name).toBe("left stick sensors, a pair");
    expect(p.parts.every((x, i) => i === 0 || x.chance <= p.parts[i - 1]!.chance)).toBe(true);
    const odds = worthOdds(p);
    expect(odds.reduce((s, o) => s + o.chance, 0)).toBeCloseTo(1, 6);
    expect(odds.reduce((s, o) => s + o.chance * o.value, 0)).toBeCloseTo(p.worth, 3);
  });

  test("the shop's own tests move what is feared: many worn triggers make an untested unit worth less", () => {
    const worth = (triggers: number) =>
      prospectOf(
        base,
        suspectedOf(dunlin, readListing("untested", dunlin), {
          trigger: { yes: triggers, no: 20 - triggers },
        }),
      ).worth;
    expect(worth(18)).toBeLessThan(worth(0));
  });

  test("a whole unit is worth its sale", () => {
    const whole = worthOf(input([]));
    expect(whole.value).toBeGreaterThan(dunlin.market!.aMinor * 0.7);
  });
});

describe("a route by what it cures", () => {
  const cause = (kind: NodeKind, probability: number, elsewhere = false) => ({
    parts: [{ node: `some ${kind}`, kind, name: `a ${kind}` }],
    elsewhere,
    probability,
  });
  const at = (causes: PlaceCause[], place = "stick.left") => ({
    ...input([[place, "jumps"]]),
    causes: { [place]: causes },
  });
  const chances = (asked: DecideInput) =>
    new Map(buildProblem(asked).options.flatMap((o) => (o.twin ? [] : [[o.route.id, o.chance] as const])));
  const stated = (route: string, family: string) =>
    HOUSE_ROUTES.find((r) => r.id === route)!.treats.find((t) => t.family === family)!.success.mean;

  test("works as often as it reaches what is wrong and is done well there, summed over all that may be wrong", () => {
    const got = chances(at([cause("track", 0.6), cause("joint", 0.3), cause("chip", 0.1)]));
    expect(got.get("sensors-dear")!.mean).toBeCloseTo(
      0.6 * stated("sensors-dear", "stick-worn") + 0.3 * stated("sensors-dear", "joint"),
      10,
    );
    expect(got.get("sensors-dear")!.reach).toBeCloseTo(0.9, 10);
    expect(got.get("rework-joints")!.mean).toBeCloseTo(0.3 * stated("rework-joints", "joint"), 10);
    // two parts at once need both to be treated
    const both = chances(
      at([
        {
          parts: [cause("track", 1).parts[0]!, cause("joint", 1).parts[0]!],
          elsewhere: false,
          probability: 1,
        },
      ]),
    );
    expect(both.get("sensors-dear")!.mean).toBeCloseTo(
      stated("sensors-dear", "stick-worn") * stated("sensors-dear", "joint"),
      10,
    );
    expect(both.has("rework-joints")).toBe(false);
  });

  test("a sound sensor and a cracked joint: the joint is reworked, and no sensor is sold for it", () => {
    const input = at([cause("joint", 0.97), cause("track", 0.03)]);
    const { options, problem } = buildProblem(input);
    const first = solveLadder(problem);
    const root = first.ok ? first.value.root : null;
    expect(root?.do === "try" && options[root.attempt]!.route.id).toBe("rework-joints");
    expect(chances(input).get("sensors-dear")!.mean).toBeLessThan(0.5);
  });

  test("only what can act is offered: a cap for a cap, gears where there are gears, nothing for what is elsewhere but what replaces much", () => {
    expect([...chances(at([cause("cap", 1)])).keys()].sort()).toEqual(["cap-copy", "cap-new"]);
    // no gears are sold for this model: they can only be set
    expect([...chances(at([cause("gear", 1)], "trigger.left")).keys()].sort()).toEqual([
      "spring-set",
      "trigger-reseat",
    ]);
    const unknown = chances(at([{ parts: [], elsewhere: true, probability: 1 }]));
    expect(unknown.get("module-dear")!.mean).toBeGreaterThan(unknown.get("sensors-dear")!.mean);
    expect(unknown.has("calibrate")).toBe(false);
  });

  test("four that hang on one connector are one option; four of their own are four", () => {
    const places = ["face.south", "face.east", "face.west", "face.north"];
    const asked = (of: (place: string) => PlaceCause[]): DecideInput => ({
      ...input(places.map((p) => [p, "noAnswer"])),
      causes: Object.fromEntries(places.map((p) => [p, of(p)])),
    });
    const shared = buildProblem(asked(() => [cause("socket", 0.9), cause("chip", 0.1)]));
    const reseat = shared.options.filter((o) => o.route.id === "connector-reseat");
    expect(reseat.map((o) => [...o.places].sort())).toEqual([[...places].sort()]);
    const apart = buildProblem(
      asked((p) => [
        { parts: [{ node: `socket.${p}`, kind: "socket", name: p }], elsewhere: false, probability: 1 },
      ]),
    );
    expect(apart.options.filter((o) => o.route.id === "connector-reseat")).toHaveLength(4);
  });

  test("a new cell is one act for everything that is dead for want of it, also where it serves nothing by name", () => {
    const dead = ["stick.left", "face.south", "charging", "power-on"];
    const built = buildProblem({
      ...input(dead.map((p) => [p, "noAnswer"])),
      causes: Object.fromEntries(dead.map((p) => [p, [cause("cell", 0.8), cause("chip", 0.2)]])),
    });
    const cells = built.options.filter((o) => o.route.id === "cell-new");
    expect(cells.map((o) => [...o.places].sort())).toEqual([[...dead].sort()]);
    expect(built.skipped.filter((x) => x.route === "cell-new")).toEqual([]);
    // where another part is behind the stick, a cell does not come to it
    const apart = buildProblem({
      ...input(dead.map((p) => [p, "noAnswer"])),
      causes: Object.fromEntries(
        dead.map((p) => [
          p,
          p === "stick.left" ? [cause("track", 1)] : [cause("cell", 0.8), cause("chip", 0.2)],
        ]),
      ),
    });
    expect(apart.options.find((o) => o.route.id === "cell-new")!.places).not.toContain("stick.left");
  });

  test("what nobody tested keeps its odds: it takes from what a mended unit brings", () => {
    const sound = buildProblem(input([["stick.left", "jumps"]]));
    const unknown = buildProblem({ ...input([["stick.left", "jumps"]]), hiddenBad: 0.2 });
    expect(unknown.problem.comeback).toBeCloseTo(1 - (1 - sound.problem.comeback) * (1 - 0.2 * 0.2), 12);
    const valueOf = (p: typeof sound.problem) => {
      const solved = solveLadder(p);
      return solved.ok ? solved.value.value : NaN;
    };
    expect(valueOf(unknown.problem)).toBeLessThan(valueOf(sound.problem));
  });
});

describe("the catalogue", () => {
  test("goes out and comes in as it is", () => {
    const read = readRoutes(writeRoutes(HOUSE_ROUTES));
    expect(read.ok && read.value).toEqual(HOUSE_ROUTES);
  });
  test("a bad one says where", () => {
    expect(readRoutes("no")).toMatchObject({ ok: false });
    const file = JSON.parse(writeRoutes(HOUSE_ROUTES)) as { routes: Record<string, unknown>[] };
    file.routes[2]!.breaks = 2;
    const read = readRoutes(JSON.stringify(file));
    expect(!read.ok && read.problem.path).toBe("routes.2.breaks");
    const unknown = JSON.parse(writeRoutes(HOUSE_ROUTES)) as { routes: Record<string, unknown>[] };
    unknown.routes[0]!.uses = ["nowhere"];
    const second = readRoutes(JSON.stringify(unknown));
    expect(!second.ok && findingIn(second.problem.message)).toMatchObject({
      rule: "not-listed",
      name: "nowhere",
    });
  });
  test("every model has a route for every family that it can have, and its parts are offered", () => {
    for (const name of ["dunlin", "turnstone", "whimbrel", "avocet", "knot", "curlew", "sanderling"]) {
      const profile = model(name);
      for (const c of [...profile.controls, ...profile.functions]) {
        const built = buildProblem(input([[c.id, null]], { profile, market: profile.market! }));
        expect([name, c.id, built.options.length > 0]).toEqual([name, c.id, true]);
      }
    }
  });
});
