import { readFileSync } from "node:fs";

import { HOUSE_LEXICON } from "../claim/lexicon";
import { advise, USUAL_ADVICE } from "../diagnosis/advise";
import { checkLibrary } from "../diagnosis/checks";
import { graphOf } from "../diagnosis/graph";
import { profileSchema, thingsOf } from "../profile/profile";
import { beliefOf, evidenceOfCase } from "./evidence";
import { type Fact, factSchema } from "./facts";
import { type CaseOf, standingOf } from "./standing-facts";

/** What facts say once they have an axis, a verdict and parts with names: cases as they come to the bench. */

function caseFor(model: string): CaseOf {
  const profile = profileSchema.parse(JSON.parse(readFileSync(`profiles/${model}.json`, "utf8")));
  const graph = graphOf(profile.wiring!, null);
  return {
    model,
    graph,
    library: checkLibrary(graph, profile.wiring!),
    things: thingsOf(profile, null),
    power: profile.functions.filter((f) => f.kind === "power-on" || f.kind === "charging").map((f) => f.id),
    lexicon: HOUSE_LEXICON,
  };
}

let n = 0;
const fact = (f: object): Fact =>
  factSchema.parse({
    id: `f${++n}`,
    at: new Date(Date.UTC(2026, 9, 1, 9, n)).toISOString(),
    who: "ida",
    ...f,
  });
const test_ = { test: "first", recording: "r1", force: "normal" };
const fails = (place: string, measure: string, pattern: string, more: object = {}) =>
  fact({ kind: "measure", place, measure, value: 0.42, grade: "fail", pattern, ...test_, ...more });
const works = (place: string) => fact({ kind: "works", place, recording: "r1", force: "normal" });
const answered = (place: string, outcome: string) =>
  fact({ kind: "function", place, outcome, pattern: null, hand: null });
const read = (reading: string, place: string, verdict: string) =>
  fact({ kind: "reading", reading, place, side: null, verdict, values: {} });
const fell = () => fact({ kind: "history", what: "fall", doubt: 0 });

/** Everything else of the model works. */
const restWorks = (of: CaseOf, but: readonly string[]): Fact[] =>
  of.things
    .filter((t) => !but.includes(t.id))
    .map((t) => (t.kind === "function" ? answered(t.id, "pass") : works(t.id)));

function sharesOf(of: CaseOf, facts: readonly Fact[]) {
  const b = beliefOf(evidenceOfCase(standingOf(facts, of), of), of, {});
  const share = (id: string) => b.marginal[of.graph.index.get(id)!]!;
  const kinds = (...all: string[]) =>
    of.graph.nodes.reduce((s, node) => s + (all.includes(node.kind) ? share(node.id) : 0), 0);
  const first = [...of.graph.nodes].sort((x, y) => share(y.id) - share(x.id))[0]!;
  return { b, share, kinds, first };
}

test("ten slips of ten tugs accuse the latch, in every model that has one", () => {
  for (const [model, place] of [
    ["avocet", "latch"],
    ["sanderling", "rail"],
  ] as const) {
    const of = caseFor(model);
    const { first, b } = sharesOf(of, [
      ...restWorks(of, [place]),
      answered(place, "fail"),
      read("tugs", place, "fail"),
    ]);
    expect([model, first.kind]).toEqual([model, "latch"]);
    expect(b.marginal[of.graph.index.get(first.id)!]!).toBeGreaterThan(0.85);
  }
});

test("a supply that passed under load clears the cells of a dead pad, and one that failed accuses them", () => {
  const of = caseFor("turnstone");
  // whether the contacts are clean nobody looked
  const dead = of.things
    .filter((t) => t.id !== "contacts")
    .map((t) => (t.kind === "function" ? answered(t.id, "fail") : fails(t.id, "noAnswer", "dead")));
  const before = sharesOf(of, dead);
  const passed = sharesOf(of, [...dead, read("supply", "main", "pass")]);
  const failed = sharesOf(of, [...dead, read("supply", "main", "fail")]);
  expect(["cell", "cell-contact"]).toContain(before.first.kind);
  expect(["cell", "cell-contact"]).not.toContain(passed.first.kind);
  expect(passed.share("cells")).toBeLessThan(before.share("cells") / 3);
  expect(failed.kinds("cell", "cell-contact")).toBeGreaterThan(0.9);
});

test("a centre far along x, standing still after a fall, is the mechanism before the x track, and never the y track", () => {
  const of = caseFor("dunlin");
  const at = (more: object) =>
    fails("stick.left", "restOffset", "offset", { axis: "x", direction: "right", ...more });
  const rest = restWorks(of, ["stick.left"]);
  const mechanism = ["post", "frame", "mechanism", "spring", "cap"];
  const still = sharesOf(of, [...rest, at({ steady: true }), fell()]);
  expect(still.kinds(...mechanism)).toBeGreaterThan(0.55);
  expect(still.share("sensor.left.x")).toBeGreaterThan(0.1);
  expect(still.share("sensor.left.y")).toBeLessThan(0.05); // as any part may be bad besides
  // without a fall, and with the centre wandering, it is the x track
  const wandering = sharesOf(of, [...rest, at({ steady: false })]);
  expect(wandering.first.id).toBe("sensor.left.x");
  expect(wandering.share("sensor.left.x")).toBeGreaterThan(0.5);
  expect(wandering.kinds(...mechanism)).toBeLessThan(still.kinds(...mechanism));
});

test("jumps along y accuse the y track and its joint, not x alike", () => {
  const of = caseFor("dunlin");
  const { first, share } = sharesOf(of, [
    ...restWorks(of, ["stick.left"]),
    fails("stick.left", "jumps", "jumps", { axis: "y" }),
  ]);
  expect(first.id).toBe("sensor.left.y");
  expect(share("sensor.left.y")).toBeGreaterThan(10 * share("sensor.left.x"));
  expect(share("joint.left.y")).toBeGreaterThan(10 * share("joint.left.x"));
});

test("a dead half up accuses the y side of the joint and the track", () => {
  const of = caseFor("dunlin");
  const { share } = sharesOf(of, [
    ...restWorks(of, ["stick.left"]),
    fails("stick.left", "deadHalves", "dead-half", { axis: "y", direction: "up" }),
  ]);
  expect(share("joint.left.y") + share("sensor.left.y")).toBeGreaterThan(0.85);
});

test("corrosion at an outer contact raises all contacts and joints", () => {
  const of = caseFor("turnstone");
  const facts = [...restWorks(of, ["stick.left"]), fails("stick.left", "jumps", "jumps", { axis: "y" })];
  const wet = fact({
    kind: "observed",
    place: "contact.plus",
    finding: "corroded",
    severity: 3,
    magnified: false,
    code: "corrosion-strong",
  });
  const [before, after] = [sharesOf(of, facts), sharesOf(of, [...facts, wet])];
  for (const id of [
    "contact.plus",
    "contact.minus",
    "joint.left.y",
    "joint.right.x",
    "mem.face.south",
    "sock.left",
  ])
    expect([id, after.share(id) > before.share(id)]).toEqual([id, true]);
});

test("a trigger that leaps and does not come through is its gears, which now have a name of their own", () => {
  const of = caseFor("turnstone");
  const { first, share } = sharesOf(of, [
    ...restWorks(of, ["trigger.left"]),
    fails("trigger.left", "fullPull", "short-reach"),
    fact({
      kind: "observed",
      place: "gear.left",
      finding: "missing-tooth",
      severity: 3,
      magnified: false,
      code: "missing-tooth",
    }),
  ]);
  expect(first.id).toBe("gear.left");
  expect(share("gear.left")).toBeGreaterThan(0.9);
  expect(share("spring.trigger.left")).toBeLessThan(0.1);
});

test("the next check is about what fails: no test of something else, and none that was just made", () => {
  for (const model of ["avocet", "curlew", "dunlin", "sanderling", "turnstone", "whimbrel"]) {
    const of = caseFor(model);
    const place = of.things.find((t) => t.kind === "stick")!;
    // some functions were not tested: they are no news for this
    const tested = of.things.filter((t) => t.kind !== "function").map((t) => t.id);
    const facts = [
      ...of.things.filter((t) => tested.includes(t.id) && t.id !== place.id).map((t) => works(t.id)),
      fails(place.id, "jumps", "jumps", { axis: "y" }),
    ];
    const { b } = sharesOf(of, facts);
    const { proposals } = advise(b, of.library, { ...USUAL_ADVICE, isOpen: false, done: new Set() });
    const behind = of.graph.restsOn.get(place.id)!;
    expect([model, proposals.length > 0]).toEqual([model, true]);
    expect([model, proposals[0]!.check.kind]).not.toEqual([model, "test"]);
    for (const p of proposals) {
      expect([model, p.check.id, p.check.about.some((i) => behind.includes(i))]).toEqual([
        model,
        p.check.id,
        true,
      ]);
      if (p.check.kind === "test") expect(tested).not.toContain(p.check.target);
    }
  }
});
