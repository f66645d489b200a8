import { CHECK_KINDS } from "@/core/diagnosis/checks";
import { STATE_PAIRS } from "@/core/diagnosis/halving";
import { PLACE_FINDINGS, type PlaceFinding } from "@/core/diagnosis/places";
import { OUTCOMES } from "@/core/diagnosis/priors";
import { wiringSchema } from "@/core/profile/wiring";
import { checkWords, OUTCOME_WORDS, outcomeWords, PAIR_WORDS, PLACE_WORDS, stopWords } from "./text";

const WIRING = wiringSchema.parse({
  boards: [{ id: "main", name: "main board", width: 60, height: 40 }],
  nodes: [{ id: "flex", kind: "flex", name: "front flex", needs: [] }],
  serves: { bumper: ["flex"] },
  points: [
    {
      id: "tp1",
      name: "flex end",
      board: "main",
      face: "top",
      at: { x: 1, y: 1 },
      node: "flex",
      quantity: "ohms",
      expects: 0,
    },
  ],
});
const nameOf = (id: string) => (id === "bumper" ? "left bumper" : id);

describe("a check in words", () => {
  test.each(CHECK_KINDS)("%s begins with what to do and names what it is done to", (kind) => {
    const words = checkWords({ kind, target: "flex" }, WIRING, nameOf);
    expect(words).toMatch(/^[A-Z]/);
    expect(words).toContain("front flex");
    expect(words).not.toMatch(/[.!]$/);
  });
  test("a test point and a control have their own names", () => {
    expect(checkWords({ kind: "measure", target: "tp1" }, WIRING, nameOf)).toBe("Measure at flex end");
    expect(checkWords({ kind: "test", target: "bumper" }, WIRING, nameOf)).toBe("Test left bumper");
  });
});

describe("outcomes", () => {
  test("each has words of its own", () => {
    expect(new Set(OUTCOMES.map((o) => OUTCOME_WORDS[o])).size).toBe(OUTCOMES.length);
    for (const o of OUTCOMES) expect(outcomeWords(o)).toBe(OUTCOME_WORDS[o]);
  });
  test("one that has none is at least readable", () =>
    expect(outcomeWords("half-way-there")).toBe("half way there"));
  test("what was not compared is not said to be right", () =>
    expect(outcomeWords("noted")).toContain("nothing to compare"));
  test("every finding at a place and every pair of states has words", () => {
    for (const f of Object.keys(PLACE_FINDINGS) as PlaceFinding[]) expect(PLACE_WORDS[f]).toMatch(/^\w/);
    for (const p of STATE_PAIRS) expect(new Set(PAIR_WORDS[p]).size).toBe(2);
  });
});

describe("when no further check is advised", () => {
  const said = (stop: Parameters<typeof stopWords>[0]["stop"]) =>
    stopWords({ proposals: [], stop, wrongCost: 3.6 });
  test("it says why, and what a mistake would cost where that is the reason", () => {
    expect(said("certain")).toBe("Nothing is left to ask: decide on this.");
    expect(said("nothing-left")).toContain("No check is left");
    expect(said("deciding-pays-more")).toContain("about 4 min");
  });
});
