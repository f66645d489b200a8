import { readFileSync } from "node:fs";

import { READING_SCHEMAS, type ReadingKind } from "../bench/readings";
import { profileSchema } from "../profile/profile";
import { learn, startBelief } from "./belief";
import { evidenceFrom } from "./evidence";
import { graphOf } from "./graph";
import { partsOfReading, READINGS_BEAR, readingEvidence, readVerdict, type ReadVerdict } from "./readings";

/** Each reading moves the parts that it is about, and in the right direction. */

const profile = profileSchema.parse(JSON.parse(readFileSync("profiles/turnstone.json", "utf8")));
const graph = graphOf(profile.wiring!, null);
const stick = profile.controls.find((c) => c.kind === "stick")!.id;
const triggers = profile.controls.filter((c) => c.kind === "trigger").map((c) => c.id);
const placesOf = (kind: ReadingKind): string[] => {
  if (kind === "trigger-drag") return triggers;
  return kind === "contact-sensor" || kind === "feel" ? [stick] : [];
};
/** How likely some part of those that it is about is at fault, after it. */
function after(kind: ReadingKind, verdict: ReadVerdict | null): number {
  const parts = partsOfReading(graph, { kind, places: placesOf(kind) });
  const b = startBelief(graph);
  const e = verdict && readingEvidence(graph, { kind, places: placesOf(kind), verdict });
  if (e) learn(b, [e]);
  let any = 0;
  for (let h = 0; h < b.posterior.length; h++)
    if (parts.includes(b.first[h]!) || parts.includes(b.second[h]!)) any += b.posterior[h]!;
  return any;
}

test.each(Object.keys(READINGS_BEAR) as ReadingKind[])(
  "a %s that fails raises its parts, a doubtful one less, a pass lowers them",
  (kind) => {
    expect(partsOfReading(graph, { kind, places: placesOf(kind) })).not.toEqual([]);
    const [none, fail, doubt, pass] = [null, "fail", "doubtful", "pass"].map((v) =>
      after(kind, v as ReadVerdict),
    );
    expect(fail!).toBeGreaterThan(doubt!);
    expect(doubt!).toBeGreaterThan(none!);
    expect(pass!).toBeLessThan(none!);
  },
);

test("every kind of reading bears on parts or answers a function", () => {
  const silent = (Object.keys(READING_SCHEMAS) as ReadingKind[]).filter((kind) => !READINGS_BEAR[kind]);
  for (const kind of silent)
    expect([kind, "functionId" in READING_SCHEMAS[kind].shape]).toEqual([kind, true]);
});

test("a cell that fails its charge leads, also where every control and function works", () => {
  const b = startBelief(graph);
  const seen = [...graph.restsOn.keys()].map((id) => ({ id, outcome: "works" as const }));
  const none = { observations: [], tries: [], loose: [], searches: [] };
  const readings = (["charge-log", "supply"] as const).map((kind) => ({
    kind,
    places: [],
    verdict: "fail" as const,
  }));
  learn(
    b,
    evidenceFrom(graph, [], { ...none, seen, readings }).map((p) => p.evidence),
  );
  const cell = graph.kinds.indexOf("cell");
  expect(b.marginal[cell]!).toBeGreaterThan(0.8);
});

test("what is dead while other controls work is no fault of the cell; a unit that is dead all over may be", () => {
  const knot = profileSchema.parse(JSON.parse(readFileSync("profiles/knot.json", "utf8")));
  const g = graphOf(knot.wiring!, null);
  const chance = (outcome: (id: string) => "works" | "dead") => {
    const b = startBelief(g);
    const seen = knot.controls.map((c) => ({ id: c.id, outcome: outcome(c.id) }));
    const none = { observations: [], tries: [], loose: [], searches: [] };
    learn(
      b,
      evidenceFrom(g, [], { ...none, seen, power: ["power-on"] }).map((p) => p.evidence),
    );
    return b.marginal[g.index.get("cells")!]!;
  };
  const before = startBelief(g).marginal[g.index.get("cells")!]!;
  expect(chance((id) => (id.startsWith("face") ? "dead" : "works"))).toBeLessThan(before);
  expect(chance(() => "dead")).toBeGreaterThan(before);
});

test("a reading at one stick says nothing of the other", () => {
  const parts = partsOfReading(graph, { kind: "feel", places: [stick] });
  const other = profile.controls.filter((c) => c.kind === "stick").at(-1)!.id;
  expect(other).not.toBe(stick);
  const own = partsOfReading(graph, { kind: "feel", places: [other] });
  expect(parts.some((p) => own.includes(p))).toBe(false);
});

test("what bears on nothing here is no evidence; what is told stands with its basis", () => {
  expect(readingEvidence(graph, { kind: "tone", places: [], verdict: "fail" })).toBeNull();
  const none = { seen: [], observations: [], tries: [], loose: [], searches: [] };
  const failed = { kind: "charge-log" as const, places: [], verdict: "fail" as const };
  expect(evidenceFrom(graph, [], { ...none, readings: [failed] }).map((p) => p.basis)).toEqual([
    { code: "bench", reading: "charge-log", places: [], verdict: "fail" },
  ]);
});

test("not tested with figures lay too close to tell; without any it says nothing", () => {
  expect([
    readVerdict("fail", true),
    readVerdict("not-tested", true),
    readVerdict("not-tested", false),
  ]).toEqual(["fail", "doubtful", null]);
});
