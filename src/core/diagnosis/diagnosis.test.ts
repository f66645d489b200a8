import { readdirSync, readFileSync } from "node:fs";
import { join } from "node:path";

import fc from "fast-check";

import { profileSchema } from "../profile/profile";
import type { NodeKind, Wiring } from "../profile/wiring";
import { wiringSchema } from "../profile/wiring";
import { advise, certainty, rankChecks, USUAL_ADVICE } from "./advise";
import { type Belief, type Evidence, learn, outcomeChance, startBelief, suspectsOf } from "./belief";
import { bestExplanation, explanations, rankCauses, somethingElse, weightOfEvidence } from "./explain";
import { checkLibrary, evidenceOf, prospect } from "./checks";
import { graphOf } from "./graph";
import { halvingNext, type HalvingStep } from "./halving";
import { pointIsOff } from "./places";
import {
  COVERAGE,
  coverageOf,
  EDGE_MISSING,
  KIND_ODDS,
  LEAK,
  LEAK_SHOWS,
  MORE_FAULTS,
  OUTCOMES,
  type Outcome,
  OUTSIDE_COVERAGE,
  OUTSIDE_SHARE,
  oddsOf,
  showsAs,
} from "./priors";
import { similarCases } from "./similar";
import { cureOf, secondTestDue, spentTreatments, type Try, untestedChanges } from "./tries";
import { classesOf } from "./twins";

const node = (id: string, kind: NodeKind, ...needs: string[]) => ({ id, kind, name: id, needs });
/** A bumper, a light and a touch surface on one flex; a stick of its own on the same chip. */
const SHARED: Wiring = wiringSchema.parse({
  boards: [{ id: "main", name: "main board", width: 60, height: 40 }],
  nodes: [
    node("chip", "chip"),
    node("socket", "connector", "chip"),
    node("flex", "flex", "socket"),
    node("switch.bumper", "switch", "flex"),
    node("lamp", "light", "flex"),
    node("touch", "transducer", "flex"),
    node("sensor", "sensor", "chip"),
  ],
  serves: { bumper: ["switch.bumper"], light: ["lamp"], touch: ["touch"], stick: ["sensor"] },
  points: [
    {
      id: "tp.flex",
      name: "flex end",
      board: "main",
      face: "top",
      at: { x: 1, y: 1 },
      node: "flex",
      quantity: "continuity",
      expects: 0,
    },
  ],
});
const graph = graphOf(SHARED, null);
const saw = (seen: Record<string, (typeof OUTCOMES)[number]>): Evidence[] =>
  Object.entries(seen).map(([id, outcome]) => ({ kind: "function", id, outcome }));
const after = (...evidence: Evidence[][]) => {
  const b = startBelief(graph);
  evidence.forEach((e) => learn(b, e));
  return b;
};

describe("belief", () => {
  // the long way: every set of suspects by itself, with the stated tables and nothing of the code that is tested
  const longWay = (
    evidence: readonly Evidence[],
    sets: readonly (readonly string[])[],
  ): Map<string, number> => {
    const places = [...graph.restsOn.keys()];
    const odds = (p: number) => p / (1 - p);
    const all = graph.kinds.reduce((s, k) => s + KIND_ODDS[k], 0);
    const outside = odds((OUTSIDE_SHARE * all) / places.length);
    const kindOf = (id: string) => graph.nodes.find((n) => n.id === id)?.kind;
    const behind = (id: string, place: string) =>
      `at ${place}` === id || graph.restsOn.get(place)!.includes(graph.index.get(id) ?? -1);
    const cover = (id: string) => (kindOf(id) ? COVERAGE[kindOf(id)!] : OUTSIDE_COVERAGE);
    const failsOf = evidence.flatMap((e) => (e.kind === "function" && e.outcome !== "works" ? [e.id] : []));
    const weights = new Map<string, number>();
    for (const set of sets) {
      let prior = set.reduce((p, id) => p * (kindOf(id) ? odds(KIND_ODDS[kindOf(id)!]) : outside), 1);
      if (set.length > 1) prior *= Math.exp(MORE_FAULTS[set.length - 2]!);
      let explained = 1;
      let leaks = 1;
      let byMissing = 1;
      const missed: string[] = [];
      // one fault shows mostly alike: the first of a pattern as its kind does, each further one so in three of four,
      // a second pattern in one of four; spread over all that it may have shown
      const shown = (id: string) =>
        evidence.flatMap((e) =>
          e.kind === "function" && e.outcome !== "works" && behind(id, e.id) ? [e.outcome] : [],
        );
      const share = (id: string, outcome: Outcome) => {
        const own = kindOf(id) ? showsAs(kindOf(id)!, outcome) : LEAK_SHOWS;
        const all = shown(id);
        if (!kindOf(id) || all.length < 2) return own;
        const like = all.filter((o) => o === outcome).length;
        const group = own * (0.75 + 0.25 * own) ** (like - 1);
        return group ** (1 / like) * 0.25 ** ((new Set(all).size - 1) / all.length);
      };
      const alone = (id: string, outcome: Outcome) => showsAs(kindOf(id)!, outcome);
      for (const e of evidence) {
        if (e.kind !== "function") continue;
        const mine = set.filter((id) => behind(id, e.id));
        const works = mine.reduce((p, id) => p * (1 - cover(id)), 1 - LEAK);
        const weight = mine.reduce((p, id) => p + cover(id), LEAK);
        const shows = mine.reduce((p, id) => p + cover(id) * share(id, e.outcome), LEAK * LEAK_SHOWS);
        const chance = e.outcome === "works" ? works : ((1 - works) * shows) / weight;
        if (mine.length > 0 || e.outcome === "works") explained *= chance;
        else {
          missed.push(e.id);
          leaks *= chance;
          byMissing *= Math.max(
            ...set.map((id) => {
              if (!kindOf(id)) return chance;
              const fails = 1 - (1 - LEAK) * (1 - cover(id));
              return (fails * (cover(id) * alone(id, e.outcome) + LEAK * LEAK_SHOWS)) / (cover(id) + LEAK);
            }),
          );
        }
      }
      // one connection may carry them all: one place's own, or that of a part on which nothing rests that works
      const hangs =
        missed.length === 1 ||
        graph.nodes.some(
          (n) =>
            missed.every((f) => behind(n.id, f)) &&
            evidence.every((e) => e.kind !== "function" || failsOf.includes(e.id) || !behind(n.id, e.id)),
        );
      const rest = missed.length === 0 ? 1 : leaks + (hangs ? EDGE_MISSING * byMissing : 0);
      weights.set([...set].sort().join(), prior * explained * rest);
    }
    return weights;
  };
  const setsUpTo = (most: number): string[][] => {
    const parts = graph.nodes.map((n) => n.id);
    const all = [...parts, ...[...graph.restsOn.keys()].map((p) => `at ${p}`)];
    const two = parts.flatMap((a, i) => all.slice(i + 1).map((b) => [a, b]));
    const three = parts.flatMap((a, i) =>
      all.slice(i + 1).flatMap((b, j) => all.slice(i + j + 2).map((c) => [a, b, c])),
    );
    return [...all.map((x) => [x]), ...two, ...(most > 2 ? three : [])];
  };
  const namesOf = (b: Belief, h: number) =>
    suspectsOf(b, h).map((i) => (i < b.parts ? graph.nodes[i]!.id : `at ${b.places[i - b.parts]!}`));

  test("it equals a posterior worked out the long way, over every single suspect and pair", () => {
    const evidence = saw({ bumper: "dead", light: "dead", touch: "works", stick: "works" });
    const b = after(evidence);
    const weights = longWay(evidence, setsUpTo(2));
    const all = [...weights.values()].reduce((s, w) => s + w, 0);
    expect(b.posterior.length).toBe(weights.size);
    for (let h = 0; h < b.posterior.length; h++)
      expect(b.posterior[h]).toBeCloseTo(weights.get(namesOf(b, h).sort().join())! / all, 10);
  });

  test("with three that fail it weighs every three of the likeliest as well, and still adds up to one", () => {
    const evidence = saw({ bumper: "misses", light: "dead", touch: "works", stick: "jumps" });
    const b = after(evidence);
    const known = [...b.posterior.keys()].map((h) => namesOf(b, h).sort());
    expect(known.some((set) => set.length === 3)).toBe(true);
    const weights = longWay(evidence, known);
    const all = [...weights.values()].reduce((s, w) => s + w, 0);
    known.forEach((set, h) => expect(b.posterior[h]).toBeCloseTo(weights.get(set.join())! / all, 10));
    expect(b.posterior.reduce((s, p) => s + p, 0)).toBeCloseTo(1, 12);
    // three parts of their own, each at its place, are the best whole explanation
    expect(bestExplanation(b).nodes.sort()).toEqual(["lamp", "sensor", "switch.bumper"]);
  });

  test("a fault may hide: looks at one part that find nothing clear it less and less", () => {
    const at = graph.index.get("switch.bumper")!;
    const dead = saw({ bumper: "dead", light: "works", touch: "works", stick: "works" });
    const look: Evidence = { kind: "check", about: [at], ifFaulty: 0.2, ifSound: 0.97 };
    const odds = [0, 1, 2, 3, 4].map((n) => {
      const p = after(dead, Array<Evidence>(n).fill(look)).marginal[at]!;
      return p / (1 - p);
    });
    const falls = odds.slice(1).map((o, i) => o / odds[i]!);
    // independent looks would each take the same share of the odds; what they share makes each tell less
    falls.slice(1).forEach((f, i) => expect(f).toBeGreaterThan(falls[i]!));
    expect(odds[4]!).toBeLessThan(odds[0]! / 5);
    // and the next look is expected to tell less of a part that hid from the last ones
    const check = checkLibrary(graph, SHARED).find((c) => c.id === "look.switch.bumper")!;
    const chanceOfBad = (n: number) => after(dead, Array<Evidence>(n).fill(look)).plain[at]!;
    expect(chanceOfBad(3)).toBeLessThan(chanceOfBad(0));
    expect(prospect(after(dead), check).bits).toBeGreaterThan(0);
  });

  test("whole explanations say each once, name what they leave unexplained, and add up to one", () => {
    const b = after(saw({ bumper: "dead", stick: "jumps", light: "works", touch: "works" }));
    const all = explanations(b, 10_000);
    expect(all.reduce((s, e) => s + e.probability, 0)).toBeCloseTo(1, 4);
    expect(new Set(all.map((e) => `${e.nodes.join()} ${e.elsewhere.join()}`)).size).toBe(all.length);
    const bumperAlone = all.find(
      (e) => e.nodes.join() === "switch.bumper" && e.elsewhere.join() === "stick",
    )!;
    expect(bumperAlone.probability).toBeGreaterThan(0);
    expect(all.some((e) => e.nodes.join() === "switch.bumper" && e.elsewhere.length === 0)).toBe(false);
    expect(somethingElse(b)).toBeCloseTo(
      all.filter((e) => e.elsewhere.length > 0).reduce((s, e) => s + e.probability, 0),
      12,
    );
  });

  test("what fails with no part to blame is something else, with its own share", () => {
    const bare = after(saw({ bumper: "works", light: "works", touch: "works", stick: "works" }));
    expect(somethingElse(bare)).toBeLessThan(0.3);
    const looked = ["switch.bumper", "flex", "socket", "chip"].map((id): Evidence => ({
      kind: "check",
      about: [graph.index.get(id)!],
      ifFaulty: 0.05,
      ifSound: 0.97,
    }));
    const dead = saw({ bumper: "dead", light: "works", touch: "works", stick: "works" });
    expect(somethingElse(after(dead, looked))).toBeGreaterThan(somethingElse(after(dead)) * 3);
  });

  test("chances of all outcomes add up to one, whatever is at fault", () => {
    for (const faulty of [[], [0], [2], [2, 3]])
      expect(OUTCOMES.reduce((s, o) => s + outcomeChance(graph, o, faulty), 0)).toBeCloseTo(1, 12);
    for (const kind of Object.keys(KIND_ODDS) as NodeKind[])
      expect(OUTCOMES.filter((o) => o !== "works").reduce((s, o) => s + showsAs(kind, o), 0)).toBeCloseTo(
        1,
        12,
      );
  });

  test("a dead bumper alone is its switch; with the light and the touch dead too it is what they share", () => {
    expect(
      rankCauses(after(saw({ bumper: "dead", light: "works", touch: "works", stick: "works" })))[0]!.node,
    ).toBe("switch.bumper");
    const shared = rankCauses(after(saw({ bumper: "dead", light: "dead", touch: "dead", stick: "works" })));
    expect(["flex", "socket"]).toContain(shared[0]!.node);
    expect(shared.findIndex((c) => c.node === "switch.bumper")).toBeGreaterThan(2);
  });

  test("a working control clears what it rests on", () => {
    const dead = saw({ bumper: "dead", light: "dead", touch: "dead" });
    const chip = (b: ReturnType<typeof after>) => rankCauses(b).find((c) => c.node === "chip")!.probability;
    expect(chip(after(dead, saw({ stick: "works" })))).toBeLessThan(chip(after(dead)) / 3);
  });

  test("what was not tested says nothing", () => {
    expect([...after(saw({ bumper: "dead" })).posterior]).toEqual([
      ...after(saw({ bumper: "dead" }), []).posterior,
    ]);
  });

  test("the pattern tells: jumps point to the sensor, misses to the switch", () => {
    const [jumps] = rankCauses(after(saw({ stick: "jumps" })));
    expect(jumps!.node).toBe("sensor");
  });

  test("evidence in any order gives the same belief; two faults are named as two", () => {
    const pieces = [...saw({ bumper: "dead", stick: "jumps", light: "works", touch: "works" })];
    fc.assert(
      fc.property(fc.shuffledSubarray(pieces, { minLength: pieces.length }), (order) => {
        const a = after(pieces);
        const b = after(...order.map((e) => [e]));
        a.posterior.forEach((p, h) => expect(b.posterior[h]).toBeCloseTo(p, 9));
      }),
      { numRuns: 20 },
    );
    expect(bestExplanation(after(pieces)).nodes.sort()).toEqual(["sensor", "switch.bumper"]);
  });

  test("each piece of evidence says for or against a part", () => {
    const evidence = saw({ bumper: "dead", light: "dead", stick: "works" });
    const b = after(evidence);
    const [flex, chip] = weightOfEvidence(b, evidence, [graph.index.get("flex")!, graph.index.get("chip")!]);
    const [bumper, light, stick] = flex!;
    expect(bumper).toBeGreaterThan(0);
    expect(light).toBeGreaterThan(0);
    expect(Math.abs(stick!)).toBeLessThan(bumper! / 2); // it only clears what else could be shared
    expect(chip![2]).toBeLessThan(-1);
  });

  test("the shop's own cases move the odds, and few of them move them little", () => {
    const own = (faults: number, parts: number) => ({ flex: { own: { faults, parts }, others: [] } });
    expect(oddsOf("flex", {})).toBe(KIND_ODDS.flex);
    expect(oddsOf("flex", own(1, 2))).toBeLessThan(0.05);
    expect(oddsOf("flex", own(200, 1000))).toBeCloseTo(0.193, 2);
  });

  test("other models move the odds as far as models agree, and what worked in spite of a fault moves its coverage", () => {
    const none = { faults: 0, parts: 0 };
    const others = (...all: [number, number][]) => ({
      flex: { own: none, others: all.map(([faults, parts]) => ({ faults, parts })) },
    });
    const alike = oddsOf("flex", others([20, 200], [20, 200], [20, 200], [20, 200]));
    const apart = oddsOf("flex", others([80, 200], [0, 200], [0, 200], [0, 200]));
    // the same share in all: four that agree are worth more of this model's own parts than four that do not
    expect(alike).toBeGreaterThan(apart);
    expect(apart).toBeGreaterThan(KIND_ODDS.flex);
    const shown = (yes: number, no: number) => ({
      flex: { own: none, others: [], showed: { own: { shown: yes, hidden: no }, others: [] } },
    });
    expect(coverageOf("flex", {})).toBe(COVERAGE.flex);
    expect(coverageOf("flex", shown(10, 30))).toBeLessThan(0.5);
    expect(startBelief(graph, shown(10, 30)).graph.covers[graph.index.get("flex")!]).toBeLessThan(0.5);
  });
});

describe("the next check", () => {
  const library = checkLibrary(graph, SHARED);
  const settings = { ...USUAL_ADVICE, isOpen: true, done: new Set<string>() };

  test("expected bits are never negative, and outcomes' chances add up to one", () => {
    const b = after(saw({ bumper: "dead", light: "dead" }));
    for (const check of library) {
      const p = prospect(b, check);
      expect(p.bits).toBeGreaterThanOrEqual(0);
      expect(p.outcomes.reduce((s, o) => s + o.chance, 0)).toBeCloseTo(1, 6);
    }
  });

  test("the expected belief after a check is the belief before it", () => {
    const evidence = saw({ bumper: "dead", light: "dead", touch: "dead" });
    const before = after(evidence);
    for (const check of library.filter((c) => c.kind !== "test")) {
      const mixed = new Float64Array(before.n);
      for (const o of prospect(before, check).outcomes) {
        const then = after(evidence, [evidenceOf(check, o.code)]);
        then.marginal.forEach((p, i) => (mixed[i]! += o.chance * p));
      }
      mixed.forEach((p, i) => expect(p).toBeCloseTo(before.marginal[i]!, 4));
    }
  });

  test("with three dead that share a flex it asks about the flex, not about the bumper", () => {
    const ranked = rankChecks(
      after(saw({ bumper: "dead", light: "dead", touch: "dead", stick: "works" })),
      library,
      settings,
    );
    expect(ranked[0]!.check.target).toMatch(/flex|socket/);
    expect(ranked.findIndex((p) => p.check.target === "switch.bumper")).toBeGreaterThan(3);
  });

  test("it stops when it is certain, when nothing is left, and when deciding pays more than knowing", () => {
    const sure = after(saw({ bumper: "dead", light: "works", touch: "works", stick: "works" }), [
      { kind: "check", about: [graph.index.get("switch.bumper")!], ifFaulty: 0.99, ifSound: 0.0005 },
    ]);
    expect(certainty(sure)).toBeGreaterThan(0.97);
    expect(advise(sure, library, settings).stop).toBe("certain");
    const open = after(saw({ bumper: "dead" }));
    expect(advise(open, library, { ...settings, done: new Set(library.map((c) => c.id)) }).stop).toBe(
      "nothing-left",
    );
    expect(
      advise(open, library, { ...settings, wrongMinutes: 0.001, openMinutes: 500, isOpen: false }).stop,
    ).toBe("deciding-pays-more");
    const going = advise(open, library, settings);
    expect(going.stop).toBeNull();
    expect(going.proposals[0]!.outcomes.every((o) => o.leads !== "" && o.probability > 0)).toBe(true);
  });

  test("cool and reversible comes before heat: the swap of a chip is never first", () => {
    const b = after(saw({ bumper: "dead", light: "dead", touch: "dead", stick: "dead" }));
    const ids = (done: string[]) =>
      rankChecks(b, library, { ...settings, done: new Set(done) }).map((p) => p.check.id);
    expect(ids([])).toContain("cool.chip");
    expect(ids([])).not.toContain("swap-donor.chip");
    expect(ids(["cool.chip"])).toContain("swap-donor.chip");
  });

  test("parts that nothing tells apart count as one", () => {
    const twins: Wiring = wiringSchema.parse({
      ...SHARED,
      nodes: [node("a", "board"), node("b", "board"), node("c", "switch", "a", "b")],
      serves: { bumper: ["c"] },
      points: [],
    });
    const g = graphOf(twins, null);
    const classes = classesOf(g, checkLibrary(g, twins));
    expect(classes[0]).toBe(classes[1]);
    expect(classes[2]).not.toBe(classes[0]);
  });
});

describe("tries", () => {
  const at = (hours: number) => new Date(Date.UTC(2026, 0, 1) + hours * 3600_000);
  const one: Try = {
    number: 1,
    suspect: "flex",
    action: "reseat",
    at: at(0),
    outcome: "cured",
    undone: null,
  };

  test("a cure is unproven until undoing it brings the fault back, or it holds on repeats well apart", () => {
    expect(cureOf(one, [])).toBe("unproven");
    expect(cureOf({ ...one, undone: "came-back" }, [])).toBe("proven-by-undoing");
    expect(cureOf({ ...one, undone: "stayed-away" }, [])).toBe("unproven");
    expect(
      cureOf(one, [
        { at: at(1), works: true },
        { at: at(2), works: true },
      ]),
    ).toBe("unproven");
    expect(
      cureOf(one, [
        { at: at(1), works: true },
        { at: at(30), works: true },
      ]),
    ).toBe("proven-by-repeats");
    expect(
      cureOf(one, [
        { at: at(1), works: true },
        { at: at(30), works: false },
      ]),
    ).toBe("refuted");
    expect(cureOf({ ...one, outcome: "same" }, [])).toBe("none");
    expect(secondTestDue(one, [{ at: at(1), works: true }])).toEqual(at(13));
  });

  test("untested changes pile up; a failed treatment comes again only with new evidence", () => {
    expect(untestedChanges([one, { ...one, outcome: null }, { ...one, outcome: null }])).toHaveLength(2);
    const failed: Try = { ...one, outcome: "same" };
    expect(spentTreatments([failed], [])).toEqual([{ suspect: "flex", action: "reseat" }]);
    expect(spentTreatments([failed], [at(1)])).toEqual([]);
  });
});

test("a search by halves finds any item in about log2 steps, and tells a contradiction", () => {
  fc.assert(
    fc.property(fc.integer({ min: 1, max: 40 }), fc.nat(39), (n, pick) => {
      const items = Array.from({ length: n }, (_, i) => `i${i}`);
      const guilty = `i${pick % n}`;
      const steps: HalvingStep[] = [];
      for (let k = 0; k < 12; k++) {
        const now = halvingNext(items, steps);
        if (now.state === "found") {
          expect(now.item).toBe(guilty);
          expect(steps.length).toBeLessThanOrEqual(Math.ceil(Math.log2(n)));
          return;
        }
        if (now.state !== "ask") throw new Error(now.state);
        steps.push({ switched: now.switch, result: now.switch.includes(guilty) ? "fails" : "works" });
      }
      throw new Error("never found");
    }),
  );
  expect(halvingNext(["a"], [{ switched: ["a"], result: "works" }]).state).toBe("contradiction");
});

test("a reading is judged by healthy units where there are some, else by what is expected", () => {
  expect(pointIsOff(3.3, 3.3, []).off).toBe(false);
  expect(pointIsOff(2.8, 3.3, []).off).toBe(true);
  expect(pointIsOff(2.8, 3.3, [2.79, 2.8, 2.81]).off).toBe(false);
  expect(pointIsOff(1, null, []).off).toBeNull();
});

test("similar cases: the same model counts whole, another half, and unlike ones are left out", () => {
  const cases = [
    { tag: "B-1", model: "dunlin", symptoms: ["stick.left:restOffset"], cured: "cleaned" },
    { tag: "B-2", model: "knot", symptoms: ["stick.right:restOffset"], cured: "replaced" },
    { tag: "B-3", model: "dunlin", symptoms: ["face.south:decision"], cured: "dome" },
  ];
  const found = similarCases(["stick.left:restOffset"], "dunlin", cases);
  expect(found.map((c) => [c.tag, c.likeness])).toEqual([
    ["B-1", 1],
    ["B-2", 0.5],
  ]);
});

describe("the wiring of the models", () => {
  const folder = join(__dirname, "../../../profiles");
  const profiles = readdirSync(folder).map((f) =>
    profileSchema.parse(JSON.parse(readFileSync(join(folder, f), "utf8"))),
  );

  test.each(profiles.map((p) => [p.name, p] as const))(
    "%s: every control and function rests on something, and parts lie on their boards",
    (_, p) => {
      const g = graphOf(p.wiring!, null);
      for (const thing of [...p.controls, ...p.functions])
        expect([thing.id, g.restsOn.get(thing.id)?.length]).toEqual([thing.id, expect.any(Number)]);
      for (const n of p.wiring!.nodes) {
        const board = p.wiring!.boards.find((b) => b.id === n.board);
        if (!n.at || !board) continue;
        expect(n.at.x).toBeLessThanOrEqual(board.width);
        expect(n.at.y).toBeLessThanOrEqual(board.height);
      }
    },
  );

  test("a circle, an unknown part and a stranger served are refused", () => {
    const bad = (change: object) => wiringSchema.safeParse({ ...SHARED, ...change }).success;
    expect(
      bad({ nodes: [node("a", "chip", "b"), node("b", "chip", "a")], serves: { bumper: ["a"] }, points: [] }),
    ).toBe(false);
    expect(bad({ serves: { bumper: ["nothing"] } })).toBe(false);
    expect(
      profileSchema.safeParse({
        ...profiles[0],
        wiring: { ...profiles[0]!.wiring, serves: { stranger: ["cell.left"] } },
      }).success,
    ).toBe(false);
  });
});
