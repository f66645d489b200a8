import type { FitWhy } from "@/core/parts/fit";
import type { PieceFinding } from "@/core/parts/inspection";
import type { BatchVerdict } from "@/core/parts/sampling";
import { findingText, fitWhyText, readingText, STATE_WORDS, traitText, verdictText } from "./parts";

describe("what a part is like", () => {
  test("traits with their measure, and no side where any will do", () => {
    expect(traitText({ side: "either", heightMm: 4.3, connector: "four-leg" })).toBe("height 4.3 mm, connector four leg");
    expect(traitText({ side: "left" })).toBe("side left");
    expect(traitText({})).toBe("");
  });
});

describe("why a part fits or does not", () => {
  test.each<[FitWhy, string]>([
    [{ code: "kind", wanted: "stick-module", has: "dome-sheet" }, "the slot takes a stick module, this is a dome sheet"],
    [{ code: "no-fit-data" }, "the model says nothing about fit here"],
    [{ code: "rule", words: "the second board has another socket" } as FitWhy, "the second board has another socket"],
    [{ code: "trait", trait: "base", wanted: "high-ring", has: null } as FitWhy, "its base is not known, high ring is asked"],
    [{ code: "length", trait: "heightMm", wanted: [17, 17.8], has: 16.9 } as FitWhy, "height 16.9 mm, asked is 17 to 17.8 mm"],
    [{ code: "trait", trait: "clip", wanted: "two-hooks", has: "one-hook" } as FitWhy, "clip one hook, asked is two hooks"],
  ])("%j", (why, words) => expect(fitWhyText(why)).toBe(words));
});

describe("what was found at a piece", () => {
  test.each<[PieceFinding, string]>([
    [{ code: "imbalance", value: 0.061, limit: 0.04 }, "imbalance 6.1 %, at most 4.0 %"],
    [{ code: "leg-open" } as PieceFinding, "a leg is open"],
    [{ code: "thickness", value: 1.9, low: 1.5, high: 1.7 }, "1.9 mm thick, 1.5 to 1.7 is asked"],
    [{ code: "feel", value: 2, limit: 3 }, "feel 2 of 5, at least 3"],
    [{ code: "tell", kind: "moulded-code" } as PieceFinding, "moulded code like a copy's"],
    [{ code: "missing", what: "thickness" } as PieceFinding, "thickness not measured"],
  ])("%j", (finding, words) => expect(findingText(finding)).toBe(words));
});

test("a batch is accepted, rejected, or wants more pieces measured", () => {
  const said = (v: object) => verdictText(v as BatchVerdict);
  expect(said({ verdict: "accept" })).toBe("Good enough: accept it");
  expect(said({ verdict: "reject" })).toBe("Too many bad ones: reject it");
  expect(said({ verdict: "more", measure: 4 })).toBe("4 more to measure");
});

test("a part of a donor that nobody tested is not called good", () => {
  expect(STATE_WORDS.unknown).toBe("not tested");
  expect(readingText({ why: [{ place: "stick.left", found: "not-tested" }, { place: "face.south", found: "C" }] } as never)).toBe(
    "left stick not tested, face south grade C",
  ); // prettier-ignore
});
