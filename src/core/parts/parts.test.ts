import { readdirSync, readFileSync } from "node:fs";
import { join } from "node:path";

import fc from "fast-check";

import { seeded } from "../math/random";
import { spread } from "../money/spread";
import { profileSchema } from "../profile/profile";
import {
  type Catalogue,
  EMPTY_CATALOGUE,
  type Part,
  partSchema,
  readCatalogue,
  writeCatalogue,
} from "./catalogue";
import { kitAgainstPieces, splitCost, takeCost } from "./cost";
import { offersCsv, partsCsv, readOffersCsv, readPartsCsv, readStockCsv, stockCsv } from "./csv";
import { donorShares, partCondition, partsInSlot } from "./donor";
import { allowedFor, fitOf, type FitPlace, partsThatFit } from "./fit";
import { judgePiece, usablePrice } from "./inspection";
import { poissonQuantile, reorder } from "./reorder";
import {
  acceptChance,
  badShare,
  batchVerdict,
  binomialAtMost,
  HOUSE_RISK,
  hypergeometricAtMost,
  operatingCurve,
  samplingPlan,
} from "./sampling";

const ROOT = process.cwd();
const house = (() => {
  const read = readCatalogue(readFileSync(join(ROOT, "catalogue/house.json"), "utf8"));
  if (!read.ok) throw new Error(read.problem.message);
  return read.value;
})();
const model = (id: string) =>
  profileSchema.parse(JSON.parse(readFileSync(join(ROOT, `profiles/${id}.json`), "utf8")));
const place = (id: string, slot: string, revision: string | null): FitPlace => ({
  model: id,
  revision,
  slot: model(id).slots!.find((s) => s.id === slot)!,
});
const part = (code: string): Part => house.parts.find((p) => p.code === code)!;
const codes = (p: FitPlace, c: Catalogue = house) => partsThatFit(c, p).map((f) => f.part);

describe("fit", () => {
  test("every slot of the seven models says what sits there, and every part offered for it fits", () => {
    const models = readdirSync(join(ROOT, "profiles")).map((f) => model(f.replace(".json", "")));
    expect(models).toHaveLength(7);
    for (const m of models)
      for (const slot of m.slots!) {
        expect(slot.fit?.sits).toBeTruthy();
        const makes = new Set(
          m.revisions.flatMap((r) => codes({ model: m.id, revision: r.id, slot })).map((c) => part(c).make),
        );
        for (const o of slot.offers) expect([slot.id, makes.has(o.make)]).toEqual([slot.id, true]);
      }
  });

  test("one way: a Whimbrel module goes into a Dunlin, a Dunlin's is too low for a Whimbrel, and the refusal says why", () => {
    expect(codes(place("dunlin", "module.left", "r1"))).toContain("SM-WHI-D");
    const back = fitOf(house, place("whimbrel", "module.left", "r2"), part("SM-DUN-D"));
    expect(back.verdict).toBe("no");
    expect(back.mechanical.why).toEqual([
      { code: "length", trait: "heightMm", wanted: [17, 17.8], has: 16.9 },
    ]);
    expect(back.electrical.verdict).toBe("fits");
  });

  test("mirrored parts: left is not right", () => {
    const fit = fitOf(house, place("avocet", "module.left", "r1"), part("SM-AVO-R-O"));
    expect(fit.mechanical.why).toEqual([{ code: "trait", trait: "side", wanted: "left", has: "right" }]);
  });

  test("the same shell, another mount: what is not known of the revision is not said to fit", () => {
    const at = (revision: string | null) =>
      fitOf(house, place("curlew", "module.left", revision), part("SM-CUR-O")).verdict;
    expect([at("wide"), at("narrow"), at(null)]).toEqual(["fits", "no", "not-known"]);
    expect(fitOf(house, place("turnstone", "board.main", "b"), part("BO-TUR-O")).electrical.verdict).toBe(
      "no",
    );
  });

  test("a trait that nobody wrote down is not a fit", () => {
    const bare = { ...part("SM-DUN-O"), traits: { ...part("SM-DUN-O").traits, heightMm: undefined } };
    const fit = fitOf(house, place("dunlin", "module.left", "r1"), bare);
    expect([fit.verdict, fit.mechanical.verdict, fit.electrical.verdict]).toEqual([
      "not-known",
      "not-known",
      "fits",
    ]);
  });

  test("what was found out goes before traits, for its revision only", () => {
    const wide = fitOf(house, place("curlew", "module.left", "wide"), part("SM-CUR-C"));
    expect([wide.mechanical.verdict, wide.electrical.verdict]).toEqual(["fits", "no"]);
    expect(fitOf(house, place("dunlin", "module.left", "r1"), part("SM-WHI-O")).deviation).toBe(
      "cap stands 0.2 mm higher",
    );
  });

  test("a chain of substitutes is followed only over links that allow it", () => {
    const port = place("dunlin", "port.port.charge", "r1");
    expect(partsThatFit(house, port).find((f) => f.part === "PO-TUR-D")?.instead).toEqual([
      { of: "PO-DUN-D", why: "same legs; bend the anchors by 0.3 mm" },
    ]);
    const third = { ...part("PO-TUR-D"), code: "PO-X" };
    const chain = (onward: boolean): Catalogue => ({
      ...house,
      parts: [...house.parts, third],
      substitutes: [
        { ...house.substitutes[0]!, onward },
        { part: "PO-TUR-D", instead: "PO-X", onward: false, why: "alike", deviation: "" },
      ],
    });
    // PO-X has the Turnstone's base, so only the chain can bring it here
    expect(codes(port, chain(true))).toContain("PO-X");
    expect(codes(port, chain(false))).not.toContain("PO-X");
    // and never the other way round
    expect(codes(place("turnstone", "port.port", "a"))).not.toContain("PO-DUN-D");
  });

  test("a part is used up to what it is good for", () => {
    expect([
      allowedFor({ use: "precise" }, "sale"),
      allowedFor({ use: "casual" }, "sale"),
      allowedFor({ use: "never" }, "own"),
    ]).toEqual([true, false, false]);
  });
});

describe("money", () => {
  test("pieces of a pack cost what the pack cost, to the cent, in any order of taking", () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 0, max: 99_999 }),
        fc.integer({ min: 1, max: 60 }),
        fc.integer(),
        (total, pieces, seed) => {
          const chance = seeded(seed);
          let value = total;
          let left = pieces;
          let sum = 0;
          while (left > 0) {
            const n = 1 + Math.floor(chance.next() * left);
            const cost = takeCost(value, left, n);
            value -= cost;
            left -= n;
            sum += cost;
            expect(cost).toBeGreaterThanOrEqual(0);
          }
          expect([sum, value]).toEqual([total, 0]);
        },
      ),
    );
  });

  test("a spread adds up and keeps the weights", () => {
    expect(spread(100, [1, 1, 1])).toEqual([34, 33, 33]);
    expect(spread(690, [400, 180, 60, 20])).toEqual([418, 188, 63, 21]);
    expect(spread(5, [0, 0])).toEqual([3, 2]);
  });

  test("a kit with tools that one has is dearer than it looks", () => {
    const line = { weight: 1, worth: 200, tool: false, owned: false, count: 2, part: "M" };
    const tool = { weight: 1, worth: 150, tool: true, owned: true, count: 1, part: "T" };
    expect(kitAgainstPieces(500, [line, tool])).toEqual({ parts: 333, each: 400, saves: -100 });
    expect(kitAgainstPieces(500, [line, { ...tool, owned: false }])).toMatchObject({ each: 550, saves: 50 });
    expect(kitAgainstPieces(500, [{ ...line, worth: null }])).toMatchObject({ each: null, saves: null });
  });

  test("what is taken apart: the good pieces carry the whole cost", () => {
    expect(splitCost(700, [{ part: "S", good: 14, bad: 6, weight: 55 }])).toEqual({
      cost: [700],
      yield: 0.7,
    });
    expect(splitCost(700, [{ part: "S", good: 0, bad: 6, weight: 55 }])).toEqual({ cost: [0], yield: 0 });
  });

  test("a donor's cost is spread over what can be had; what was taken keeps its share", () => {
    const parts = [
      { slot: "a", worth: 400, state: "good" as const, takenAt: null },
      { slot: "b", worth: 400, state: "unknown" as const, takenAt: null },
      { slot: "c", worth: 900, state: "bad" as const, takenAt: null },
    ];
    expect([...donorShares(600, parts)]).toEqual([
      ["a", 400],
      ["b", 200],
      ["c", 0],
    ]);
    expect(
      donorShares(600, [{ ...parts[0]!, state: "gone" as never, takenAt: 400 }, ...parts.slice(1)]).get("b"),
    ).toBe(200);
  });
});

describe("incoming inspection", () => {
  // P(X <= c) by its definition, with numbers small enough to count
  const choose = (n: number, k: number): number => {
    if (k < 0 || k > n) return 0;
    if (k === 0) return 1;
    return (choose(n - 1, k - 1) * n) / k;
  };
  test("the hypergeometric and binomial sums are the formulas'", () => {
    for (const [c, n, bad, pieces] of [
      [0, 5, 3, 20],
      [1, 8, 5, 50],
      [2, 13, 10, 60],
    ] as const) {
      let sum = 0;
      for (let k = 0; k <= c; k++) sum += (choose(bad, k) * choose(pieces - bad, n - k)) / choose(pieces, n);
      expect(hypergeometricAtMost(c, n, bad, pieces)).toBeCloseTo(sum, 12);
    }
    for (const [c, n, p] of [
      [0, 10, 0.1],
      [2, 20, 0.15],
    ] as const) {
      let sum = 0;
      for (let k = 0; k <= c; k++) sum += choose(n, k) * p ** k * (1 - p) ** (n - k);
      expect(binomialAtMost(c, n, p)).toBeCloseTo(sum, 12);
    }
  });

  test("the plan keeps both risks, and no smaller sample does", () => {
    for (const pieces of [null, 30, 50, 100, 400]) {
      const plan = samplingPlan(pieces, HOUSE_RISK);
      expect(plan.refusesGood).toBeLessThanOrEqual(HOUSE_RISK.refuseGood);
      expect(plan.takesBad).toBeLessThanOrEqual(HOUSE_RISK.takeBad);
      for (let n = 1; n < plan.sample; n++)
        for (let c = 0; c < n; c++) {
          const good = pieces === null ? 0 : Math.floor(HOUSE_RISK.goodShare * pieces);
          const bad = pieces === null ? 0 : Math.ceil(HOUSE_RISK.badShare * pieces);
          const at = (isGood: boolean) =>
            pieces === null
              ? binomialAtMost(c, n, isGood ? HOUSE_RISK.goodShare : HOUSE_RISK.badShare)
              : hypergeometricAtMost(c, n, isGood ? good : bad, pieces);
          expect(1 - at(true) <= HOUSE_RISK.refuseGood && at(false) <= HOUSE_RISK.takeBad).toBe(false);
        }
    }
    // the textbook pair for 5 % against 25 % at 10 % each: 20 pieces, 2 of them bad at most
    expect(samplingPlan(null, HOUSE_RISK)).toMatchObject({ sample: 20, accept: 2 });
  });

  test("a risk that is kept exactly is kept: no piece more is measured for a rounding", () => {
    const whole = (n: number, k: number): bigint =>
      k === 0 ? 1n : (whole(n - 1, k - 1) * BigInt(n)) / BigInt(k);
    /** exact: at most `c` bad of `n` out of `pieces` with `bad`, in ten thousand parts rounded up */
    const atMost = (c: number, n: number, bad: number, pieces: number): [bigint, bigint] => {
      let ways = 0n;
      for (let k = 0; k <= c; k++)
        ways += whole(bad, k) * (n - k > pieces - bad ? 0n : whole(pieces - bad, n - k));
      return [ways, whole(pieces, n)];
    };
    for (let pieces = 2; pieces <= 120; pieces++) {
      const good = Math.floor(pieces / 20);
      const bad = Math.max(1, Math.ceil(pieces / 4));
      const keeps = (n: number, c: number) => {
        const [taken, all] = atMost(c, n, bad, pieces);
        const [goodTaken] = atMost(c, n, good, pieces);
        return taken * 10n <= all && (all - goodTaken) * 10n <= all;
      };
      const plan = samplingPlan(pieces, HOUSE_RISK);
      const best = Array.from({ length: pieces }, (_, i) => i + 1)
        .flatMap((n) => Array.from({ length: n }, (_, c) => [n, c] as const))
        .find(([n, c]) => keeps(n, c));
      if (best) expect([pieces, plan.sample, plan.accept]).toEqual([pieces, ...best]);
    }
    expect(samplingPlan(40, HOUSE_RISK)).toMatchObject({ sample: 13, accept: 1 });
    expect(samplingPlan(5, HOUSE_RISK)).toMatchObject({ sample: 3, accept: 0 });
  });

  test("where no sample is sharp enough the risk of taking bad pieces is kept, and nothing is called whole", () => {
    for (const pieces of [10_000, null]) {
      const plan = samplingPlan(pieces, { goodShare: 0.05, refuseGood: 0.1, badShare: 0.06, takeBad: 0.1 });
      expect(plan.all).toBe(false);
      expect(plan.accept).toBeLessThan(30); // 250 of 500 once, which took anything
      expect(plan.takesBad).toBeLessThanOrEqual(0.1);
      expect(acceptChance(plan, 0.06)).toBeLessThanOrEqual(0.1);
      expect(plan.refusesGood).toBeGreaterThan(0.1); // and it says so
    }
  });

  test("too few pieces to tell are all measured", () => {
    expect(samplingPlan(3, HOUSE_RISK)).toMatchObject({ sample: 3, all: true });
    expect(samplingPlan(1, HOUSE_RISK)).toMatchObject({ sample: 1, accept: 0 });
  });

  test("the operating curve is what a simulation gives", () => {
    const plan = samplingPlan(50, HOUSE_RISK);
    const chance = seeded(7);
    for (const bad of [2, 6, 10, 15]) {
      let taken = 0;
      const runs = 20_000;
      for (let i = 0; i < runs; i++) {
        let left = bad;
        let found = 0;
        for (let k = 0; k < plan.sample; k++)
          if (chance.next() < left / (50 - k)) {
            left--;
            found++;
          }
        if (found <= plan.accept) taken++;
      }
      expect(acceptChance(plan, bad / 50)).toBeCloseTo(taken / runs, 1.7);
    }
    const curve = operatingCurve(plan);
    expect([curve[0]!.taken, curve.at(-1)!.taken]).toEqual([1, 0]);
    for (let i = 1; i < curve.length; i++)
      expect(curve[i]!.taken).toBeLessThanOrEqual(curve[i - 1]!.taken + 1e-12);
  });

  test("it says accept, reject or how many more, as soon as nothing can change it", () => {
    const plan = { sample: 20, accept: 2 };
    expect(batchVerdict(plan, 19, 0)).toEqual({ verdict: "more", measure: 1, bearable: 2 });
    expect(batchVerdict(plan, 20, 2)).toEqual({ verdict: "accept" });
    expect(batchVerdict(plan, 5, 3)).toEqual({ verdict: "reject" });
  });

  test("the batch's share lies in its interval as often as it says", () => {
    const chance = seeded(11);
    let held = 0;
    const runs = 1500;
    for (let i = 0; i < runs; i++) {
      const pieces = 40;
      const bad = Math.floor(chance.next() * 20);
      let left = bad;
      let found = 0;
      for (let k = 0; k < 15; k++)
        if (chance.next() < left / (pieces - k)) {
          left--;
          found++;
        }
      const share = badShare(pieces, 15, found);
      if (share.low <= bad / pieces && bad / pieces <= share.high) held++;
    }
    expect(held / runs).toBeGreaterThanOrEqual(0.9);
    expect(badShare(40, 40, 4)).toEqual({ seen: 0.1, low: 0.1, high: 0.1 });
    expect(badShare(40, 0, 0)).toEqual({ seen: null, low: 0, high: 1 });
  });

  test("a piece is good only when all that is asked was measured", () => {
    const check = {
      imbalanceMax: 0.03,
      thicknessMm: [2, 2.2] as [number, number],
      tells: false,
      minutes: 0.6,
    };
    const none = { ohms: null, thicknessMm: null, feel: null, tells: null };
    expect(judgePiece(check, { ...none, ohms: [5000, 5100], thicknessMm: 2.1 })).toMatchObject({
      verdict: "good",
    });
    expect(judgePiece(check, { ...none, ohms: [5000, 5100] }).verdict).toBe("not-tested");
    const off = judgePiece(check, { ...none, ohms: [5500, 4500] });
    expect(off.imbalance).toBeCloseTo(0.1, 12);
    expect(off.verdict).toBe("bad");
    expect(judgePiece(check, { ...none, ohms: [5000, null] }).findings[0]).toEqual({ code: "leg-open" });
    expect(
      judgePiece({ feelMin: 3, tells: true, minutes: 1 }, { ...none, feel: 4, tells: ["moulded-code"] })
        .verdict,
    ).toBe("bad");
  });

  test("the price of a usable piece: all measured, some measured, none measured", () => {
    const rates = { labourPerHour: 1500 };
    const all = usablePrice(
      { pieces: 10, costMinor: 1000, measured: 10, bad: 2, minutes: 8, slipMinor: 700 },
      rates,
    );
    expect([all.each, all.low, all.high]).toEqual([150, 150, 150]); // (1000 + 200) / 8
    const half = usablePrice(
      { pieces: 10, costMinor: 1000, measured: 5, bad: 1, minutes: 4, slipMinor: 700 },
      rates,
    );
    expect(half.each).toBeCloseTo((1000 + 100 + 700) / 8, 9); // one more is expected to slip through
    expect(half.low!).toBeLessThan(half.each!);
    expect(half.high!).toBeGreaterThan(half.each!);
    expect(
      usablePrice({ pieces: 10, costMinor: 1000, measured: 0, bad: 0, minutes: 0, slipMinor: 700 }, rates)
        .each,
    ).toBeNull();
  });
});

describe("donors", () => {
  const slot = { serves: ["stick.left", "stick.left.click"] };
  test("the unit's own tests say what a part is like, and silence says nothing", () => {
    const e = (controls: object, faulty: string[] = []) => ({
      controls: controls as never,
      checks: {},
      faulty,
    });
    expect(partCondition(slot, e({ "stick.left": "A", "stick.left.click": "B" })).state).toBe("good");
    expect(partCondition(slot, e({ "stick.left": "C", "stick.left.click": "A" })).state).toBe("worn");
    expect(partCondition(slot, e({ "stick.left": "A" })).state).toBe("unknown");
    expect(partCondition(slot, e({ "stick.left": "A", "stick.left.click": "A" }, ["stick.left"])).state).toBe(
      "bad",
    );
    expect(
      partCondition({ serves: ["light"] }, { controls: {}, checks: { light: "not-tested" }, faulty: [] })
        .state,
    ).toBe("unknown");
  });
  test("what sits in a slot: what was fitted here, else an original that fits as it is, else the donor's own", () => {
    const at = (name: string, id: string, revision: string, fitted: string | null = null) => {
      const own = model(name);
      return partsInSlot(
        house,
        own.id,
        revision,
        own.slots!.find((s) => s.id === id)!,
        fitted,
      );
    };
    expect(at("dunlin", "module.left", "r1", "SM-DUN-C")).toEqual(["SM-DUN-C"]);
    const came = at("dunlin", "module.left", "r1");
    expect(came).toContain("SM-DUN-O");
    expect(came.every((code) => part(code).make === "original")).toBe(true);
    const own = model("dunlin");
    const unsold = { ...house, parts: house.parts.filter((p) => p.make !== "original") };
    const slot = own.slots!.find((s) => s.id === "module.left")!;
    expect(partsInSlot(unsold, own.id, "r1", slot, null)).toEqual(["OWN-DUNLIN-MODULE-LEFT"]);
  });
});

describe("ordering again", () => {
  test("the Poisson quantile is the table's", () => {
    expect([
      poissonQuantile(2, 0.9),
      poissonQuantile(2, 0.95),
      poissonQuantile(0, 0.9),
      poissonQuantile(10, 0.5),
    ]).toEqual([4, 5, 0, 10]);
  });

  test("at any mean, also where e to the minus mean is nothing for a computer", () => {
    for (const mean of [700, 746, 2000, 50_000]) {
      const median = poissonQuantile(mean, 0.5);
      // the median of a Poisson lies between mean - ln 2 and mean + 1/3
      expect(median).toBeGreaterThanOrEqual(Math.floor(mean - Math.LN2));
      expect(median).toBeLessThanOrEqual(Math.ceil(mean + 1 / 3));
      const high = poissonQuantile(mean, 0.975);
      expect(Math.abs((high - mean) / Math.sqrt(mean) - 1.96)).toBeLessThan(0.06);
    }
  });

  const asked = {
    demand: { perWeek: 2, weeks: 10 },
    leadDays: 14,
    free: 3,
    onOrder: 0,
    backlog: 0,
    pieceMinor: 300,
    orderMinor: 390,
    waitPerDay: 30,
  };
  test("below the point it orders, with what is on order counted", () => {
    const now = reorder(asked);
    expect(now.leadDemand).toBe(4);
    expect(now.point).toBeGreaterThan(4);
    expect(now.why).toBe("below-point");
    expect(now.quantity).toBeGreaterThan(0);
    expect(reorder({ ...asked, onOrder: 20 })).toMatchObject({ quantity: 0, why: "enough" });
  });
  test("what waits is bought even where nothing is used by habit; and nothing is bought for nobody", () => {
    const rare = { ...asked, demand: { perWeek: 0, weeks: 10 }, free: 0 };
    expect(reorder({ ...rare, backlog: 2 })).toMatchObject({ quantity: 2, why: "backlog" });
    expect(reorder(rare)).toMatchObject({ quantity: 0, why: "no-demand" });
  });
  test("a longer lead time or a dearer wait never lowers the point", () => {
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 40 }), fc.integer({ min: 1, max: 200 }), (lead, wait) => {
        const p = (l: number, w: number) => reorder({ ...asked, leadDays: l, waitPerDay: w }).point;
        expect(p(lead + 7, wait)).toBeGreaterThanOrEqual(p(lead, wait));
        expect(p(lead, wait + 50)).toBeGreaterThanOrEqual(p(lead, wait));
      }),
    );
  });
});

describe("files", () => {
  test("the catalogue comes out as it went in, as JSON and as CSV", () => {
    expect(readCatalogue(writeCatalogue(house))).toEqual({ ok: true, value: house });
    const parts = readPartsCsv(partsCsv(house), house);
    expect(parts.rows.filter((r) => r.effect !== "same")).toEqual([]);
    const offers = readOffersCsv(offersCsv(house), house);
    expect(offers.rows.filter((r) => r.effect !== "same")).toEqual([]);
    expect(offers.catalogue).toEqual(house);
  });

  test("a dry run tells new, changed and wrong rows, and nothing is taken while one is wrong", () => {
    const changed = offersCsv(house).replace(
      "harbour-originals,SM-DUN-O,1,1,9.00,8",
      "harbour-originals,SM-DUN-O,1,1,9.40,8",
    );
    expect(readOffersCsv(changed, house).rows.filter((r) => r.effect !== "same")).toMatchObject([
      {
        effect: "changes",
        about: ["SM-DUN-O", "harbour-originals"],
        said: [{ code: "price", hadMinor: 900, priceMinor: 940 }],
      },
    ]);
    const wrong = readOffersCsv(changed.replace("9.40", "nine"), house);
    expect(wrong.catalogue).toBeNull();
    expect(wrong.rows.find((r) => r.effect === "error")?.said).toEqual([
      { code: "no-amount", column: "price", text: "nine" },
    ]);
    expect(readOffersCsv("a,b\r\n1,2\r\n", house).rows[0]!.said).toMatchObject([{ code: "header-lacks" }]);
  });

  test("stock: receive, count, move; a batch never changes its part", () => {
    const now = [{ batch: "P-0001", part: "SW-4L-O", supplier: "s", bin: "A1", onHand: 10, valueMinor: 900 }];
    expect(readStockCsv(stockCsv(now), house, now).changes).toEqual([]);
    const text =
      "batch,part,supplier,bin,on_hand,cost\r\nP-0001,SW-4L-O,s,B2,8,\r\n,SOLDER,s,C1,100,8.90\r\n";
    expect(readStockCsv(text, house, now).changes).toEqual([
      { kind: "count", batch: "P-0001", counted: 8 },
      { kind: "move", batch: "P-0001", bin: "B2" },
      { kind: "receive", part: "SOLDER", supplier: "s", bin: "C1", pieces: 100, costMinor: 890 },
    ]);
    const other = readStockCsv(text.replace("P-0001,SW-4L-O", "P-0001,SOLDER"), house, now);
    expect(other.changes).toBeNull();
    expect(other.rows[0]!.said).toEqual([{ code: "holds", part: "SW-4L-O" }]);
  });

  test("a cell that a spreadsheet would run is made harmless, and read back as it was", () => {
    const sly = {
      ...house,
      parts: [...house.parts, partSchema.parse({ ...part("SOLDER"), code: "SLY", name: "=1+1" })],
    };
    expect(partsCsv(sly)).toContain("'=1+1");
    expect(readPartsCsv(partsCsv(sly), sly).rows.at(-1)).toMatchObject({ effect: "same" });
    expect(readPartsCsv(partsCsv(sly), EMPTY_CATALOGUE).rows.every((r) => r.effect === "new")).toBe(true);
  });
});
