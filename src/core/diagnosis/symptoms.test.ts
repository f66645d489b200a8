import { HOUSE_LEXICON, lexiconToText, readClaim, readLexicon } from "../claim/lexicon";
import { inputMap, type MappedControl } from "../input/input";
import { analyse } from "../analyse/analyse";
import type { ControllerFaults } from "../simulate/faults";
import { simulateFullTest } from "../simulate/run";
import { outcomeOf, outcomeOfCheck, together, yieldsToForce } from "./symptoms";

const CONTROLS: MappedControl[] = [
  { id: "stick.left", kind: "stick", input: { axes: [0, 1] } },
  { id: "trigger.left", kind: "trigger", input: { button: 6 } },
  { id: "face.south", kind: "button", input: { button: 0 } },
];
const measured = (faults: ControllerFaults) =>
  analyse(simulateFullTest(CONTROLS, { seed: 8, rateHz: 200, bits: 12, faults }), inputMap(CONTROLS)).analysis
    .controls;

test.each<[ControllerFaults, string, string]>([
  [{}, "stick.left", "works"],
  [{ sticks: { "stick.left": { offset: [0.15, 0] } } }, "stick.left", "offset"],
  [{ sticks: { "stick.left": { wornAt: 0.3 } } }, "stick.left", "jumps"],
  [{ sticks: { "stick.left": { dead: "up" } } }, "stick.left", "dead-half"],
  [{ sticks: { "stick.left": { noise: 0.05 } } }, "stick.left", "noise"],
  [{ sticks: { "stick.left": { scatter: 0.15 } } }, "stick.left", "scatter"],
  [{ sticks: { "stick.left": { noAnswer: true } } }, "stick.left", "dead"],
  [{ triggers: { "trigger.left": { full: 0.85 } } }, "trigger.left", "short-reach"],
  [{ buttons: { "face.south": { missRate: 0.5 } } }, "face.south", "misses"],
  [{ buttons: { "face.south": { missRate: 1 } } }, "face.south", "dead"],
  [{ buttons: { "face.south": { stuck: true } } }, "face.south", "stuck"],
])("%j shows on %s as %s", (faults, id, outcome) => expect(outcomeOf(measured(faults)[id]!)).toBe(outcome));

test("what was not tested is nothing, and what differs without a change comes and goes", () => {
  expect(outcomeOfCheck("not-tested")).toBeNull();
  expect(outcomeOfCheck("not-fitted")).toBeNull();
  expect(together([])).toBeNull();
  expect(together(["dead", "works"])).toBe("intermittent");
  expect(together(["works", "works"])).toBe("works");
  expect(yieldsToForce("misses", "works")).toBe(true);
  expect(yieldsToForce("misses", "misses")).toBe(false);
  expect(yieldsToForce(null, "works")).toBe(false);
});

const THINGS = [
  { id: "stick.left", kind: "stick", name: "left stick" },
  { id: "stick.right", kind: "stick", name: "right stick" },
  { id: "trigger.left", kind: "trigger", name: "left trigger" },
  { id: "bumper.left", kind: "button", name: "left bumper" },
  { id: "face.south", kind: "button", name: "face south" },
  { id: "radio", kind: "function", name: "radio link" },
];
test.each([
  ["left stick drifts to the right", "offset", ["stick.left"], "x", "right"],
  ["aim jumps when I push right", "jumps", ["stick.left", "stick.right"], null, "right"],
  ["the left bumper is dead", "dead", ["bumper.left"], null, null],
  ["face south needs two pushes", "misses", ["face.south"], null, null],
  ["it falls asleep after ten minutes", "intermittent", [], null, null],
])("%j is read as %s of %j", (claim, outcome, places, axis, direction) => {
  const [c] = readClaim(claim, THINGS);
  expect(c).toMatchObject({ outcome, direction });
  expect(c!.places).toEqual(expect.arrayContaining(places));
  if (axis) expect(c!.axis).toBe(axis);
});

test("two complaints in one sentence are two, and praise is none", () => {
  expect(readClaim("left stick drifts and left bumper dead", THINGS)).toHaveLength(2);
  expect(readClaim("works fine, selling because upgraded", THINGS)).toEqual([]);
});

test("the lexicon goes to text and back, and a bad line is told by its number", () => {
  expect(readLexicon(lexiconToText(HOUSE_LEXICON))).toEqual({ ok: true, value: HOUSE_LEXICON });
  expect(readLexicon("drift = offset stick\n\nfloats = upward")).toEqual({
    ok: false,
    problem: { line: 3, why: '"upward" is no meaning of the list' },
  });
  expect(readLexicon("drift offset").ok).toBe(false);
  expect(
    readClaim("the aim floats", THINGS, [{ phrases: ["floats"], outcome: "offset", kind: "stick" }])[0],
  ).toMatchObject({
    outcome: "offset",
    places: ["stick.left", "stick.right"],
    named: false,
  });
});
