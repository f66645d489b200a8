import { readFileSync } from "node:fs";

import { type ModelProfile, profileSchema } from "../profile/profile";
import { adviseOnCase } from "./advice";
import { adviceFileSchema, adviceJsonSchema, type CaseFact, type CaseFileIn, caseJsonSchema } from "./format";
import { readCaseFile } from "./read";
import { knownOfCase, type CaseWhole } from "./known";

/** Cases as somebody writes them by hand: brief, in words of the format alone. */

const profileOf = (name: string): ModelProfile =>
  profileSchema.parse(JSON.parse(readFileSync(`profiles/${name}.json`, "utf8")));
const AVOCET = profileOf("avocet");
const TURNSTONE = profileOf("turnstone");

const AT = (minute: number) => new Date(Date.UTC(2026, 10, 2, 9, minute)).toISOString();

/** Everything of a model was tested and is good, but for some places. */
const allGood = (profile: ModelProfile, but: readonly string[] = [], minute = 0): CaseFact[] => [
  ...profile.controls.flatMap((c): CaseFact[] =>
    but.includes(c.id) ? [] : [{ kind: "works", place: c.id, at: AT(minute) }],
  ),
  ...profile.functions.flatMap((f): CaseFact[] =>
    but.includes(f.id) ? [] : [{ kind: "function", place: f.id, outcome: "pass", at: AT(minute) }],
  ),
];
const drift = (minute = 0): CaseFact => ({
  kind: "measure",
  place: "stick.left",
  measure: "restOffset",
  value: 0.21,
  grade: "fail",
  axis: "x",
  direction: "right",
  test: "first",
  at: AT(minute),
});

function caseOf(profile: ModelProfile, facts: CaseFact[], more: Partial<CaseFileIn> = {}): CaseWhole {
  const text = JSON.stringify({ format: "birdcage-case", version: 1, profile, facts, ...more });
  const read = readCaseFile(text, null);
  if (!read.ok) throw new Error(`${read.problem.path}: ${read.problem.message}`);
  return read.value;
}
const advised = (...of: Parameters<typeof caseOf>) => adviseOnCase(caseOf(...of));
const DRIFTS = [...allGood(AVOCET, ["stick.left"]), drift()];

test("what is printed keeps to the published form, and its causes add up to 1", () => {
  const out = advised(AVOCET, DRIFTS);
  expect(adviceFileSchema.parse(out)).toEqual(out);
  expect(out.causes.reduce((s, c) => s + c.probability, 0)).toBeCloseTo(1, 9);
  expect(out.causes[0]!.parts).toEqual(["sensor.left.x"]);
  expect(out.untested).toEqual([]);
  expect(out.grade).toEqual({ function: "fail", outside: "fine" });
  expect(out.blocks.map((b) => [b.code, b.place])).toEqual([
    ["control", "stick.left"],
    ["open-fault", "stick.left"],
  ]);
});

test("every act stands on one list, the best first: checks, attempts and endings, each with its gain over stopping", () => {
  const { acts, next } = advised(AVOCET, DRIFTS);
  expect(new Set(acts.map((a) => a.act))).toEqual(new Set(["check", "attempt", "end"]));
  expect(acts.map((a) => a.valueMinor)).toEqual(acts.map((a) => a.valueMinor).sort((a, b) => b - a));
  expect(next).toEqual(acts[0]);
  // stopping now by the best ending gains nothing over stopping now
  expect(Math.max(...acts.filter((a) => a.act === "end").map((a) => a.valueMinor))).toBeCloseTo(0, 6);
  const attempt = acts.find((a) => a.act === "attempt")!;
  expect(attempt.works).toBeGreaterThan(0);
  expect(attempt.why.length).toBeGreaterThan(0);
});

test("the schemas in docs/ are those of the code (npm run schema writes them)", () => {
  const published = (name: string) => JSON.parse(readFileSync(`docs/${name}.schema.json`, "utf8")) as object;
  expect(published("case")).toEqual(JSON.parse(JSON.stringify(caseJsonSchema())));
  expect(published("advice")).toEqual(JSON.parse(JSON.stringify(adviceJsonSchema())));
});

test("a route that was tried and failed its retest is not offered again, and the odds of another fall", () => {
  const before = advised(AVOCET, DRIFTS);
  const after = advised(AVOCET, [
    ...DRIFTS,
    { kind: "tried", act: "sensors-dear", places: ["stick.left"], retest: "fail", at: AT(30) },
  ]);
  const works = (a: typeof before, route: string) =>
    a.acts.find((x) => x.route === route && x.place === "stick.left")?.works;
  expect(works(before, "sensors-dear")).toBeGreaterThan(0.4);
  expect(works(after, "sensors-dear")).toBeUndefined();
  // the stick still fails though its sensors are new: the sensors are hardly the cause any more
  const sensor = (a: typeof before) =>
    a.causes.filter((c) => c.parts.join() === "sensor.left.x").reduce((s, c) => s + c.probability, 0);
  expect(sensor(after)).toBeLessThan(sensor(before) / 2);
});

test("a route that passed its retest settles the fault: nothing is left to try, and the unit sells", () => {
  const cured = advised(AVOCET, [
    ...DRIFTS,
    { kind: "tried", act: "module-dear", places: ["stick.left"], retest: "pass", at: AT(30) },
  ]);
  // the new module has a click of its own, that nobody has pressed
  expect(cured.blocks).toEqual([{ code: "control", place: "stick.left.click", what: "untested" }]);
  const pressed = advised(AVOCET, [
    ...DRIFTS,
    { kind: "tried", act: "module-dear", places: ["stick.left"], retest: "pass", at: AT(30) },
    { kind: "works", place: "stick.left.click", at: AT(31) },
  ]);
  expect(pressed.blocks).toEqual([]);
  expect(pressed.grade.function).toBe("A");
  expect(cured.acts.every((a) => a.act === "end")).toBe(true);
  expect(cured.disclosures.some((d) => d.code === "part")).toBe(true);
});

test("what was mended and not tested since is not sound: it blocks, and keeps odds of being bad", () => {
  const mended = advised(AVOCET, [
    ...DRIFTS,
    { kind: "mended", route: "module-dear", places: ["stick.left"], fitted: null, at: AT(30) },
  ]);
  expect(mended.untested.map((u) => u.place)).toContain("stick.left");
  expect(mended.blocks.map((b) => b.code)).toContain("no-proof");
});

test("not tested is not sound: each place that nobody tested costs, and is told with its odds", () => {
  const whole = advised(AVOCET, DRIFTS);
  const less = advised(
    AVOCET,
    DRIFTS.filter((f) => !("place" in f) || f.place !== "charge.left"),
  );
  expect(less.untested.map((u) => u.place)).toEqual(["charge.left"]);
  expect(less.untested[0]!.probability).toBeGreaterThan(0);
  expect(less.expectedMinor).toBeLessThan(whole.expectedMinor);
  const none = advised(AVOCET, []);
  expect(none.disposition).toBe("test-first");
  expect(none.next).toBeNull();
});

test("a failed answer that tells of the history changes the next act: torn after a home repair", () => {
  const place = "trigger.right";
  const bad: CaseFact = { kind: "measure", place, measure: "noAnswer", grade: "fail", at: AT(0) };
  const facts: CaseFact[] = [
    ...allGood(TURNSTONE, [place, "bumper.right"]),
    bad,
    { kind: "measure", place: "bumper.right", measure: "noAnswer", grade: "fail", at: AT(0) },
    { kind: "history", what: "repaired", at: AT(0) },
  ];
  const before = advised(TURNSTONE, facts);
  const shared = (a: typeof before) =>
    a.causes.filter((c) => c.parts.includes("flex.right")).reduce((s, c) => s + c.probability, 0);
  const seen = advised(TURNSTONE, [
    ...facts,
    { kind: "observed", place: "flex.right", finding: "torn", severity: 3, at: AT(10) },
  ]);
  expect(shared(seen)).toBeGreaterThan(0.9);
  expect(shared(seen)).toBeGreaterThan(shared(before));
  // one cause behind both: the route reaches both places, and no switch is bought one by one
  const attempt = seen.acts.find((a) => a.act === "attempt")!;
  expect(attempt.id).toContain(place);
  expect(attempt.id).toContain("bumper.right");
  // what is torn is neither cleaned nor seated anew
  expect(before.acts.map((a) => a.route)).toContain("connector-reseat");
  expect(seen.acts.map((a) => a.route)).not.toContain("connector-reseat");
  expect(attempt.works).toBeGreaterThan(0.5);
});

test("the customer's no is kept: work that was refused is not offered", () => {
  const customer = { limitMinor: 5000, precise: false };
  const asked = (yes: boolean) =>
    advised(
      AVOCET,
      [
        ...DRIFTS,
        { kind: "answered", place: "stick.left", option: yes ? "module-dear" : "no", yes, at: AT(20) },
      ],
      { customer },
    );
  expect(asked(true).acts.some((a) => a.act === "attempt")).toBe(true);
  expect(asked(false).acts.some((a) => a.act === "attempt")).toBe(false);
  expect(asked(true).bidAtMostMinor).toBe(0);
});

test("what the shop can do and has bounds what is offered: skill, tools, a part on the shelf", () => {
  const routes = (more: Partial<CaseFileIn>) =>
    advised(AVOCET, DRIFTS, more).acts.flatMap((a) => a.route ?? []);
  expect(routes({})).toContain("module-dear");
  expect(routes({ skill: 1 })).not.toContain("module-dear");
  expect(routes({ tools: ["swabs", "contact cleaner"] })).toEqual([
    "calibrate",
    "clean-contacts",
    "spring-set",
  ]);
  const shelf = advised(AVOCET, DRIFTS, {
    stock: [{ slot: "module.left", make: "original", priceMinor: 0 }],
  });
  const gain = (a: typeof shelf) => a.acts.find((x) => x.id === "module-original stick.left")!.valueMinor;
  expect(gain(shelf)).toBeGreaterThan(gain(advised(AVOCET, DRIFTS)));
});

test("facts may come in any order: their times order them", () => {
  const facts: CaseFact[] = [
    ...DRIFTS,
    { kind: "tried", act: "clean-contacts", places: ["stick.left"], retest: "fail", at: AT(30) },
  ];
  expect(advised(AVOCET, [...facts].reverse())).toEqual(advised(AVOCET, facts));
});

test("what a file says itself is kept: facts as the application writes them pass through unchanged", () => {
  const { facts } = knownOfCase(caseOf(AVOCET, DRIFTS));
  const again = knownOfCase(caseOf(AVOCET, facts as CaseFact[])).facts;
  expect(again).toEqual(facts);
});

test("bad files are refused with their place: no JSON, another format, an unknown control, a path from a page", () => {
  const refusal = (text: string) => {
    const read = readCaseFile(text, null);
    return read.ok ? null : [read.problem.path, read.problem.message];
  };
  const written = (more: object) =>
    JSON.stringify({ format: "birdcage-case", version: 1, profile: AVOCET, facts: [], ...more });
  expect(refusal("{")).toEqual(["", '{"rule":"no-json"}']);
  expect(refusal(written({ format: "other" }))![0]).toBe("format");
  expect(refusal(written({ facts: [{ kind: "works", place: "stick.middle", at: AT(0) }] }))).toEqual([
    "facts.0.place",
    '{"rule":"not-listed","by":"avocet","what":"control","name":"stick.middle"}',
  ]);
  expect(refusal(written({ profile: "avocet.json" }))![0]).toBe("profile");
  expect(refusal(written({ facts: [{ kind: "works", place: "stick.left", at: "yesterday" }] }))![0]).toBe(
    "facts.0.at",
  );
});

test("a profile may lie beside the case, and what is wrong in it is told by its own place", () => {
  const text = JSON.stringify({ format: "birdcage-case", version: 1, profile: "own.json", facts: [] });
  const good = readCaseFile(text, () => JSON.stringify(AVOCET));
  expect(good.ok && good.value.profile.id).toBe("avocet");
  const bad = readCaseFile(text, () => JSON.stringify({ ...AVOCET, controls: [] }));
  expect(bad.ok ? "" : bad.problem.path).toBe("profile.controls");
});
