import { readFileSync } from "node:fs";

import { READING_SCHEMAS, type ReadingKind } from "../bench/readings";
import { type BenchResult, most, plain, within } from "../bench/result";
import { profileSchema } from "../profile/profile";
import { learn, startBelief } from "./belief";
import { evidenceFrom } from "./evidence";
import { graphOf } from "./graph";
import {
  latestTelling,
  partsOfReading,
  placeOfReading,
  READINGS_BEAR,
  readingEvidence,
  readVerdict,
  type ReadVerdict,
  takenAt,
} from "./readings";

/** Each reading moves the parts that it is about, and in the right direction. */

const profile = profileSchema.parse(JSON.parse(readFileSync("profiles/turnstone.json", "utf8")));
const graph = graphOf(profile.wiring!, null);
const stick = profile.controls.find((c) => c.kind === "stick")!.id;
const subjectOf = (kind: ReadingKind): string => {
  if (kind === "trigger-drag") return "triggers";
  if (kind === "contact-sensor") return `${stick}.x`;
  return kind === "feel" ? stick : "main";
};
const taken = (kind: ReadingKind, subject = subjectOf(kind)) => takenAt({ kind, subject }, profile.controls);
/** How likely some part of those that it is about is at fault, after it. */
function after(kind: ReadingKind, verdict: ReadVerdict | null): number {
  const parts = partsOfReading(graph, taken(kind));
  const b = startBelief(graph);
  const e = verdict && readingEvidence(graph, { ...taken(kind), verdict });
  if (e) learn(b, [e]);
  let any = 0;
  for (let h = 0; h < b.posterior.length; h++)
    if (parts.includes(b.first[h]!) || parts.includes(b.second[h]!)) any += b.posterior[h]!;
  return any;
}

test.each(Object.keys(READINGS_BEAR) as ReadingKind[])(
  "a %s that fails raises its parts, a doubtful one less, a pass lowers them",
  (kind) => {
    expect(partsOfReading(graph, taken(kind))).not.toEqual([]);
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
    ...taken(kind),
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
  const parts = partsOfReading(graph, taken("feel", stick));
  const other = profile.controls.filter((c) => c.kind === "stick").at(-1)!.id;
  expect(other).not.toBe(stick);
  const own = partsOfReading(graph, taken("feel", other));
  expect(parts.some((p) => own.includes(p))).toBe(false);
});

test("what bears on nothing here is no evidence; what is told stands with its basis", () => {
  expect(readingEvidence(graph, { ...taken("tone"), verdict: "fail" })).toBeNull();
  const none = { seen: [], observations: [], tries: [], loose: [], searches: [] };
  const failed = { ...taken("charge-log"), verdict: "fail" as const };
  expect(evidenceFrom(graph, [], { ...none, readings: [failed] }).map((p) => p.basis)).toEqual([
    { code: "bench", reading: "charge-log", places: [], verdict: "fail" },
  ]);
});

const result = (verdict: BenchResult["verdict"], change: Partial<BenchResult> = {}): BenchResult => ({
  v: 1,
  verdict,
  figures: [],
  findings: [],
  ...change,
});

test("too close to a limit, or unclear, is doubtful; what was not brought to its end tells nothing", () => {
  const close = within(most("internalResistance", 0.98, "ohm", 1), 0.93, 1.03);
  const told = (r: BenchResult) => readVerdict(r);
  expect(told(result("fail"))).toBe("fail");
  expect(told(result("not-tested", { figures: [close] }))).toBe("doubtful");
  expect(told(result("not-tested", { findings: [{ code: "leg-open-once" }] }))).toBe("doubtful");
  const halfway = { figures: [plain("taken", 120, "mAh")], findings: [{ code: "charge-not-finished" }] };
  expect(told(result("not-tested", halfway))).toBeNull();
});

test("a reading that was broken off washes no failure away; one that passes does", () => {
  const log = (r: BenchResult) => ({ kind: "charge-log" as const, subject: "main", result: r });
  const told = (...newestFirst: BenchResult[]) => latestTelling(newestFirst.map(log)).map((r) => r.told);
  expect(told(result("not-tested"), result("fail"))).toEqual(["fail"]);
  expect(told(result("pass"), result("not-tested"), result("fail"))).toEqual(["pass"]);
  expect(told(result("not-tested"))).toEqual([]);
});

test("a sensor's reading speaks of its own axis, a half's supply of its own cell, a cord's of what it feeds", () => {
  const ids = (model: string, kind: ReadingKind, subject: string) => {
    const p = profileSchema.parse(JSON.parse(readFileSync(`profiles/${model}.json`, "utf8")));
    const g = graphOf(p.wiring!, null);
    return partsOfReading(g, takenAt({ kind, subject }, p.controls)).map((i) => g.nodes[i]!.id);
  };
  expect(ids("turnstone", "contact-sensor", "stick.left.y").sort()).toEqual([
    "joint.left.y",
    "sensor.left.y",
  ]);
  expect(ids("avocet", "supply", "right").sort()).toEqual(["cell.right", "plug.right"]);
  expect(ids("curlew", "supply", "main")).toEqual(expect.arrayContaining(["cord", "rail"]));
  for (const model of ["avocet", "curlew", "dunlin", "knot", "sanderling", "turnstone", "whimbrel"])
    expect([model, ids(model, "supply", "main").length > 0]).toEqual([model, true]);
});

test("a fault found by a reading is named at its control, or at the function that needs it", () => {
  const at = (kind: ReadingKind) => placeOfReading({ kind, subject: subjectOf(kind) }, profile);
  expect(at("contact-sensor")).toBe(stick);
  expect(at("trigger-drag")).toMatch(/^trigger/);
  expect(profile.functions.find((f) => f.id === at("charge-log"))?.kind).toMatch(/charging|power-on|port/);
  expect(placeOfReading({ kind: "supply", subject: "main" }, { controls: [], functions: [] })).toBeNull();
});
