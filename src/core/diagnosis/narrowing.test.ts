import fc from "fast-check";

import { wiringSchema } from "../profile/wiring";
import { learn, startBelief } from "./belief";
import { rankCauses } from "./explain";
import { checkLibrary } from "./checks";
import { graphOf } from "./graph";
import { differencesOf, halvingNext, type HalvingStep } from "./halving";
import {
  fragmentEvidence,
  PLACE_FINDINGS,
  type PlaceFinding,
  placeEvidence,
  pointIsOff,
  treatmentEvidence,
} from "./places";
import { bestClasses, classesOf } from "./twins";

/**
 * Halving between two states, parts that cannot be told apart, and what a look, a cure or a reading says of
 * one part.
 */

const WIRING = wiringSchema.parse({
  boards: [{ id: "main", name: "main board", width: 60, height: 40 }],
  nodes: [
    { id: "chip", kind: "chip", name: "main chip", needs: [] },
    { id: "radio", kind: "chip", name: "radio chip", needs: ["chip"] },
    { id: "antenna", kind: "antenna", name: "antenna", needs: ["radio"] },
    { id: "cell", kind: "cell", name: "cell", needs: [] },
    { id: "socket", kind: "connector", name: "socket", needs: ["chip"] },
    { id: "flex", kind: "flex", name: "flex", needs: ["socket"] },
    { id: "switch", kind: "switch", name: "bumper switch", needs: ["flex"] },
    { id: "sensor", kind: "sensor", name: "stick sensor", needs: ["chip"] },
  ],
  serves: { bumper: ["switch"], stick: ["sensor"], radio: ["antenna"] },
  points: [],
});
const graph = graphOf(WIRING, null);
const indexIn = (g: typeof graph, id: string) => g.nodes.findIndex((n) => n.id === id);
const part = (id: string) => indexIn(graph, id);
const chanceOf = (id: string, ...evidence: Parameters<typeof learn>[1][number][]) => {
  const b = startBelief(graph);
  learn(b, [{ kind: "function", id: "bumper", outcome: "dead" }, ...evidence]);
  return rankCauses(b).find((c) => c.node === id)?.probability ?? 0;
};

describe("what differs between two states", () => {
  const names = (
    pair: Parameters<typeof differencesOf>[1],
    relevant: string[] = [],
    touched: string[] = [],
  ) => differencesOf(WIRING, pair, new Set(relevant), touched).map((d) => d.what || d.id);

  test("open and closed: flexes, sockets, antennas, and always fasteners and shell", () => {
    expect(names("open-closed")).toEqual(["antenna", "socket", "flex", "fasteners", "shell-halves"]);
  });
  test("cable and radio: what only the radio uses, and the host", () => {
    expect(names("cable-radio")).toEqual(["radio chip", "antenna", "cell", "socket", "host-and-slot"]);
  });
  test("only what matters to the symptom, but first whatever was touched on the way", () => {
    expect(names("cold-warm", ["cell"], ["sensor"])).toEqual(["stick sensor", "cell", "warmth"]);
  });
  test("what was touched and differs anyway is named once", () => {
    expect(names("open-closed", ["flex"], ["flex"]).filter((n) => n === "flex")).toHaveLength(1);
  });
  test("a model whose wiring is not known still has what always differs", () => {
    expect(differencesOf(undefined, "cold-warm", new Set(), []).map((d) => d.node)).toEqual([null]);
  });
});

describe("halving", () => {
  test("finds the one cause of any list, in no more steps than the logarithm says", () => {
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 40 }), fc.nat(), (count, pick) => {
        const items = Array.from({ length: count }, (_, i) => `d${i}`);
        const cause = items[pick % count]!;
        const steps: HalvingStep[] = [];
        for (let next = halvingNext(items, steps); ; next = halvingNext(items, steps)) {
          if (next.state === "found")
            return next.item === cause && steps.length <= Math.ceil(Math.log2(count));
          if (next.state === "contradiction") return false;
          steps.push({ switched: next.switch, result: next.switch.includes(cause) ? "fails" : "works" });
        }
      }),
    );
  });
  test("the steps it foretells are never too few", () => {
    const next = halvingNext(["a", "b", "c", "d", "e"], []);
    expect(next).toMatchObject({ state: "ask", switch: ["a", "b", "c"], stepsLeft: 3 });
  });
  test("two answers that cannot both be true are told, not papered over", () => {
    const both: HalvingStep[] = [
      { switched: ["a"], result: "fails" },
      { switched: ["a"], result: "works" },
    ];
    expect(halvingNext(["a", "b"], both)).toEqual({ state: "contradiction" });
  });
});

describe("parts that nothing tells apart", () => {
  test("count as one, so that a share of each is not mistaken for doubt", () => {
    const twins = wiringSchema.parse({
      boards: [{ id: "main", name: "main board", width: 60, height: 40 }],
      nodes: [
        { id: "chip", kind: "chip", name: "chip", needs: [] },
        { id: "joint1", kind: "joint", name: "joint 1", needs: ["chip"] },
        { id: "joint2", kind: "joint", name: "joint 2", needs: ["joint1"] },
        { id: "lamp", kind: "light", name: "lamp", needs: ["joint2"] },
      ],
      serves: { light: ["lamp"] },
      points: [],
    });
    const g = graphOf(twins, null);
    const classes = classesOf(g, []);
    expect(classes[indexIn(g, "joint1")]).toBe(classes[indexIn(g, "joint2")]);
    expect(classes[indexIn(g, "lamp")]).not.toBe(classes[indexIn(g, "joint1")]);
    const b = startBelief(g);
    learn(b, [{ kind: "function", id: "light", outcome: "intermittent" }]);
    const alone = Math.max(...rankCauses(b).filter((c) => c.node.startsWith("joint")).map((c) => c.probability)); // prettier-ignore
    const best = bestClasses(b, classes);
    expect(best.probability).toBeGreaterThan(alone);
    expect(best.probability).toBeLessThanOrEqual(1 + 1e-9);
    expect(best.classes.length).toBeLessThanOrEqual(2);
  });

  test("a check that reaches only one of them parts them", () => {
    const library = checkLibrary(graph, WIRING, {});
    const classes = classesOf(graph, library);
    expect(new Set(classes).size).toBeGreaterThan(4);
    for (const i of classes) expect(i).toBeLessThan(graph.nodes.length);
  });
});

describe("what one look, piece or cure says", () => {
  test.each(Object.keys(PLACE_FINDINGS) as PlaceFinding[])("%s speaks for the part, or against it, and never decides alone", (finding) => {
    const before = chanceOf("flex");
    const after = chanceOf("flex", placeEvidence(part("flex"), finding));
    const { ifFaulty, ifSound } = PLACE_FINDINGS[finding];
    if (ifFaulty > ifSound) expect(after).toBeGreaterThan(before);
    else if (ifFaulty < ifSound) expect(after).toBeLessThan(before);
    else expect(after).toBeCloseTo(before, 9);
    expect(after).toBeGreaterThan(0);
    expect(after).toBeLessThan(1);
  }); // prettier-ignore

  test("a loose piece speaks more for its part than wear does", () => {
    expect(chanceOf("switch", fragmentEvidence(part("switch")))).toBeGreaterThan(
      chanceOf("switch", placeEvidence(part("switch"), "worn")),
    );
  });

  test("a cure raises the part that was treated, no change lowers it, better lies between", () => {
    const [cured, better, same, worse] = (["cured", "better", "same", "worse"] as const).map((o) =>
      chanceOf("switch", treatmentEvidence(part("switch"), o)),
    );
    expect(cured!).toBeGreaterThan(better!);
    expect(better!).toBeGreaterThan(same!);
    expect(worse!).toBeCloseTo(same!, 9);
  });
});

describe("a reading at a test point", () => {
  test("without healthy units it is held against what is expected, a tenth either way", () => {
    expect(pointIsOff(3.5, 3.3, [])).toMatchObject({ off: false, middle: 3.3 });
    expect(pointIsOff(3.7, 3.3, [])).toMatchObject({ off: true });
  });
  test("without either it says nothing, and not that all is well", () => {
    expect(pointIsOff(3.3, null, [])).toEqual({ off: null, middle: null, allowed: null });
  });
  test("a wide spread of healthy units allows more, a single odd one does not move the middle", () => {
    const wide = pointIsOff(4.4, null, [3, 3.5, 4, 2.5, 3.3]);
    const tight = pointIsOff(4.4, null, [3.3, 3.3, 3.31, 3.29, 9]);
    expect(wide.off).toBe(false);
    expect(tight).toMatchObject({ off: true, middle: 3.3 });
  });
  test("at an expected nought two units are allowed", () => {
    expect(pointIsOff(1.5, 0, []).off).toBe(false);
    expect(pointIsOff(2.5, 0, []).off).toBe(true);
  });
});
