import type { RowEffect, RowSaid } from "@/core/parts/csv";
import type { FitWhy } from "@/core/parts/fit";
import type { PieceFinding } from "@/core/parts/inspection";
import type { BatchVerdict } from "@/core/parts/sampling";
import {
  rowAbout,
  rowWords,
  findingText,
  fitWhyText,
  readingText,
  STATE_WORDS,
  traitText,
  verdictText,
} from "./text";

describe("what a part is like", () => {
  test("traits with their measure, and no side where any will do", () => {
    expect(traitText({ side: "either", heightMm: 4.3, connector: "four-leg" })).toBe(
      "height 4.3 mm, connector four leg",
    );
    expect(traitText({ side: "left" })).toBe("side left");
    expect(traitText({})).toBe("");
  });
});

describe("why a part fits or does not", () => {
  test.each<[FitWhy, string]>([
    [
      { code: "kind", wanted: "stick-module", has: "dome-sheet" },
      "the slot takes a stick module, this is a dome sheet",
    ],
    [{ code: "no-fit-data" }, "the model says nothing about fit here"],
    [
      { code: "rule", words: "the second board has another socket" } as FitWhy,
      "the second board has another socket",
    ],
    [
      { code: "trait", trait: "base", wanted: "high-ring", has: null } as FitWhy,
      "its base is not known, high ring is asked",
    ],
    [
      { code: "length", trait: "heightMm", wanted: [17, 17.8], has: 16.9 } as FitWhy,
      "height 16.9 mm, asked is 17 to 17.8 mm",
    ],
    [
      { code: "trait", trait: "clip", wanted: "two-hooks", has: "one-hook" } as FitWhy,
      "clip one hook, asked is two hooks",
    ],
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

describe("a row of a file", () => {
  const row = (said: RowSaid, about: string[] = ["SOLDER"], n = 2): RowEffect => ({
    row: n,
    about,
    effect: "changes",
    said: [said],
  });
  test.each<[RowSaid, string]>([
    [
      { code: "header-lacks", lacks: "pack", needs: "supplier, part" },
      "the header lacks pack; it needs supplier, part",
    ],
    [
      { code: "unreadable", why: "TooFewFields" },
      "this row cannot be read: it has fewer cells than the header",
    ],
    [
      { code: "unreadable", why: "MissingQuotes" },
      "this row cannot be read: a quotation mark is not closed or stands inside a cell",
    ],
    [{ code: "twice", what: "batch" }, "this batch stands twice in the file"],
    [{ code: "no-part", name: "" }, "part (empty) is not in the catalogue"],
    [{ code: "becomes", field: "make", had: "", now: "copy" }, "make: nothing becomes copy"],
    [{ code: "price", hadMinor: null, priceMinor: 940 }, "no price becomes 9.40"],
    [{ code: "received", pieces: 100, bin: "C1", costMinor: 890 }, "100 received into C1 for 8.90"],
    [
      { code: "found", place: { path: "pack", message: '{"rule":"too-small","least":1,"above":false}' } },
      "pack: too small: at least 1",
    ],
  ])("%j", (said, words) => expect(rowWords(row(said))).toBe(words));

  test("several things of one row stand beside each other; a row is named by what it is of", () => {
    expect(
      rowWords({
        said: [
          { code: "counted", had: 10, now: 8 },
          { code: "moves", from: "A1", to: "B2" },
        ],
      }),
    ).toBe("counted 10 becomes 8; moves from A1 to B2");
    expect(rowAbout(row({ code: "no-batch" }, ["SOLDER", "harbour"]))).toBe("SOLDER by harbour");
    expect(rowAbout(row({ code: "no-batch" }, [], 0))).toBe("the whole");
  });
});
