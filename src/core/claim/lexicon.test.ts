import fc from "fast-check";

import { OUTCOMES } from "../diagnosis/priors";
import { HOUSE_LEXICON, lexiconSchema, lexiconToText, readClaim, readLexicon } from "./lexicon";
import { namedControls } from "./claim";

const THINGS = [
  { id: "stick.left", kind: "stick", name: "left stick" },
  { id: "stick.right", kind: "stick", name: "right stick" },
  { id: "trigger.left", kind: "trigger", name: "left trigger" },
  { id: "trigger.right", kind: "trigger", name: "right trigger" },
  { id: "face.south", kind: "button", name: "face south" },
  { id: "face.east", kind: "button", name: "face east" },
  { id: "bumper.left", kind: "button", name: "left bumper" },
];
const read = (claim: string) => readClaim(claim, THINGS);

describe("controls by their names", () => {
  test("in any order of words, whatever the punctuation", () => {
    expect(namedControls("the SOUTH face-button", THINGS).map((t) => t.id)).toEqual(["face.south"]);
    expect(namedControls("stick, left", THINGS).map((t) => t.id)).toEqual(["stick.left"]);
  });
  test("half a name is none", () => expect(namedControls("the left one", THINGS)).toEqual([]));
  test("a word inside another is none", () => expect(namedControls("leftish sticky", THINGS)).toEqual([]));
});

describe("a complaint in free words", () => {
  test("part, side and direction as far as they are said", () => {
    expect(read("left stick pulls to the right")).toEqual([
      expect.objectContaining({ outcome: "offset", places: ["stick.left"], named: true, direction: "right" }),
    ]);
  });
  test("a direction is not the side of a part", () => {
    const [c] = read("the stick drifts left");
    expect(c).toMatchObject({ direction: "left", named: false, places: ["stick.left", "stick.right"] });
  });
  test("each sentence is a complaint of its own, in its order", () => {
    expect(
      read("Right stick jumps; left bumper dead, and face east sticks... no, stays in").map((c) => c.outcome),
    ).toEqual(["jumps", "dead", "stuck"]);
  });
  test("of many buttons none is guessed", () =>
    expect(read("a button has to be pressed hard")).toEqual([
      expect.objectContaining({ outcome: "misses", places: [], named: false }),
    ]));
  test("a side alone picks the one control of the kind on it", () =>
    expect(read("the right one does not reach its end")).toEqual([
      expect.objectContaining({ outcome: "short-reach", places: ["trigger.right"], named: true }),
    ]));
  test("along an axis", () =>
    expect(read("left stick dead only one way up and down")[0]).toMatchObject({ axis: "y" }));
  test("words that say nothing of the kind say nothing", () => {
    expect(read("bought it at a flea market, works fine")).toEqual([]);
    expect(read("")).toEqual([]);
  });
  test("no text makes it fail", () => {
    fc.assert(
      fc.property(fc.string({ maxLength: 200 }), (text) => {
        for (const c of read(text)) expect(OUTCOMES).toContain(c.outcome);
      }),
    );
  });
});

describe("the shop's own words", () => {
  test("the house's are valid, and come back from their text unchanged", () => {
    expect(lexiconSchema.safeParse(HOUSE_LEXICON).success).toBe(true);
    expect(readLexicon(lexiconToText(HOUSE_LEXICON))).toEqual({ ok: true, value: HOUSE_LEXICON });
  });
  test("empty lines are skipped, spaces do not matter", () => {
    expect(readLexicon("\n  rattles ,  clicks  =  noise stick \n\n")).toEqual({
      ok: true,
      value: [{ phrases: ["rattles", "clicks"], outcome: "noise", kind: "stick" }],
    });
    expect(readLexicon("")).toEqual({ ok: true, value: [] });
  });
  test.each([
    ["drift = offset stick\nno sign here", 2, "one ="],
    ["a = b = c", 1, "one ="],
    ["drift = sideways stick", 1, '"sideways" is no meaning'],
    ["drift = offset wheel", 1, "stick, trigger or button"],
    ["drift = offset stick twice", 1, "stick, trigger or button"],
    ["x = offset", 1, "2 to 40 letters"],
    [" = offset", 1, "2 to 40 letters"],
  ])("%j is refused with its line", (text, line, why) => {
    const r = readLexicon(text);
    expect(r.ok).toBe(false);
    if (!r.ok) expect(r.problem).toEqual({ line, why: expect.stringContaining(why) });
  });
  test("their words win over nothing: a new phrase is understood", () => {
    const own = readLexicon("rattles = noise stick");
    if (!own.ok) throw new Error("it reads");
    expect(readClaim("left stick rattles", THINGS, own.value)[0]).toMatchObject({
      outcome: "noise",
      places: ["stick.left"],
    });
    expect(readClaim("left stick drifts", THINGS, own.value)).toEqual([]);
  });
});
