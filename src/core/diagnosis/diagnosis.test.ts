import { readdirSync, readFileSync } from "node:fs";
import { join } from "node:path";

import fc from "fast-check";

import { profileSchema } from "../profile/profile";
import type { NodeKind, Wiring } from "../profile/wiring";
import { wiringSchema } from "../profile/wiring";
import { advise, certainty, rankChecks, USUAL_ADVICE } from "./advise";
import {
  bestExplanation,
  type Evidence,
  learn,
  outcomeChance,
  rankCauses,
  startBelief,
  weightOfEvidence,
} from "./belief";
import { checkLibrary, evidenceOf, prospect } from "./checks";
import { graphOf } from "./graph";
import { halvingNext, type HalvingStep } from "./halving";
import { pointIsOff } from "./places";
import { KIND_ODDS, OUTCOMES, oddsOf, showsAs } from "./priors";
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
  test("it equals a posterior worked out the long way, over every single fault and pair", () => {
    const evidence = saw({ bumper: "dead", light: "dead", touch: "works", stick: "works" });
    const b = after(evidence);
    const weights = new Map<string, number>();
    for (let i = 0; i < graph.nodes.length; i++)
      for (let j = i; j < graph.nodes.length; j++) {
        const faulty = i === j ? [i] : [i, j];
        let w = faulty.reduce(
          (p, k) => p * (KIND_ODDS[graph.kinds[k]!] / (1 - KIND_ODDS[graph.kinds[k]!])),
          1,
        );
        for (const e of evidence) {
          if (e.kind !== "function") continue;
          const rests = graph.restsOn.get(e.id)!;
          w *= outcomeChance(
            graph,
            e.outcome,
            faulty.filter((k) => rests.includes(k)),
          );
        }
        weights.set(`${i},${j}`, w);
      }
    const all = [...weights.values()].reduce((s, w) => s + w, 0);
    for (let h = 0; h < b.posterior.length; h++)
      expect(b.posterior[h]).toBeCloseTo(weights.get(`${b.first[h]},${b.second[h]}`)! / all, 10);
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
    expect(oddsOf("flex", {})).toBe(KIND_ODDS.flex);
    expect(oddsOf("flex", { flex: { faults: 1, cases: 2 } })).toBeLessThan(0.05);
    expect(oddsOf("flex", { flex: { faults: 200, cases: 1000 } })).toBeCloseTo(0.193, 2);
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
