import { belongsTo, isNamedIn, isWorse, type OpenFault } from "./faults";

/** Several symptoms of one cause are one fault, and the worst measure speaks. */

const jumps: OpenFault = { id: "a", place: "stick.left", measure: "jumps", symptoms: [] };
const at = (place: string, measure: string | null) => ({ place, measure });

test("what is measured where a fault is open goes under it, and elsewhere it is a fault of its own", () => {
  expect(belongsTo(at("stick.left", "restOffset"), [jumps], undefined)).toBe(jumps);
  expect(belongsTo(at("stick.right", "restOffset"), [jumps], undefined)).toBeNull();
});

test("what a hand names is its own unless somebody says otherwise, and a measure may be as well", () => {
  expect(belongsTo(at("stick.left", null), [jumps], undefined)).toBeNull();
  expect(belongsTo(at("stick.left", null), [jumps], "a")).toBe(jumps);
  expect(belongsTo(at("stick.left", "restOffset"), [jumps], "own")).toBeNull();
  expect(belongsTo(at("shell", null), [jumps], "of another unit")).toBe("unknown");
});

test("the same measure is named once, also under another", () => {
  const both = { ...jumps, symptoms: [at("stick.left", "restOffset")] };
  expect(belongsTo(at("stick.left", "jumps"), [both], undefined)).toBe("named");
  expect(belongsTo(at("stick.left", "restOffset"), [both], "own")).toBe("named");
  expect(isNamedIn(both, at("stick.left", null))).toBe(false);
});

test("a symptom elsewhere draws what is measured there under the same cause", () => {
  const flex = { ...jumps, symptoms: [at("face.south", "decision")] };
  expect(belongsTo(at("face.south", "chatter"), [flex], undefined)).toBe(flex);
});

test("the worst measure speaks: no answer before jumps before a rest off centre before a reading", () => {
  expect(isWorse(at("x", "noAnswer"), at("x", "jumps"))).toBe(true);
  expect(isWorse(at("x", "restOffset"), at("x", "jumps"))).toBe(false);
  expect(isWorse(at("x", "restOffset"), at("x", "contact-sensor"))).toBe(true);
  // what a hand named is a cause, and no measure takes its place
  expect(isWorse(at("x", "noAnswer"), at("x", null))).toBe(false);
});
