import { readFileSync } from "node:fs";

import { HOUSE_LEXICON } from "../claim/lexicon";
import { graphOf } from "../diagnosis/graph";
import { profileSchema, thingsOf } from "../profile/profile";
import { withCredit } from "./credit";
import type { Fact } from "./facts";
import type { CaseOf } from "./standing-facts";

/** A cure is earned: shared between two tests by the odds, and taken back by what contradicts it. */

const profile = profileSchema.parse(JSON.parse(readFileSync("profiles/turnstone.json", "utf8")));
const graph = graphOf(profile.wiring!, null);
const of: CaseOf = {
  model: profile.id,
  graph,
  library: [],
  things: thingsOf(profile, null),
  power: [],
  lexicon: HOUSE_LEXICON,
};
const stick = profile.controls.find((c) => c.kind === "stick")!.id;
const behind = graph.restsOn.get(stick)!.map((i) => graph.nodes[i]!);
const joint = behind.find((n) => n.kind === "joint")!.id;
const chip = behind.find((n) => n.kind === "chip")!.id;
const lead = graph.nodes.find((n) => n.kind === "lead")!.id;

const day = (n: number) => new Date(Date.UTC(2026, 9, 1 + n)).toISOString();
const failed = (at: number): Fact => ({
  id: `test ${at}`,
  at: day(at),
  who: null,
  kind: "measure",
  place: stick,
  measure: "jumps",
  value: 3,
  grade: "fail",
  test: "first",
  recording: `r${at}`,
  pattern: "jumps",
  force: "normal",
});
const good = (at: number): Fact => ({
  id: `good ${at}`,
  at: day(at),
  who: null,
  kind: "works",
  place: stick,
  recording: `r${at}`,
  force: "normal",
});
const RETEST: Record<string, "pass" | "none"> = { cured: "pass", none: "none" };
const tried = (
  number: number,
  at: number,
  suspect: string,
  outcome: string | null,
  undone: "came-back" | null = null,
): Fact => ({
  id: `try ${number}`,
  at: day(at),
  who: null,
  kind: "tried",
  act: "resolder",
  places: [suspect],
  retest: RETEST[outcome ?? "none"] ?? "fail",
  number,
  outcome,
  undone,
  share: null,
});
const search = (at: number, found: string): Fact => ({
  ...(tried(0, at, found, "found") as Extract<Fact, { kind: "tried" }>),
  id: `search ${at}`,
  act: "search",
  number: null,
});
const shares = (facts: readonly Fact[]): Record<string, number | null> =>
  Object.fromEntries(
    withCredit(facts, of, {}).flatMap((f) => (f.kind === "tried" && f.number ? [[f.id, f.share]] : [])),
  );

test("one act between two tests has earned the whole cure", () => {
  expect(shares([failed(0), tried(1, 1, joint, "cured"), good(2)])).toEqual({ "try 1": 1 });
});

test("two acts between two tests share it by their odds: jumps speak of the joint more than of the chip", () => {
  const s = shares([failed(0), tried(1, 1, joint, "cured"), tried(2, 1.5, chip, "cured"), good(2)]);
  expect(s["try 1"]! + s["try 2"]!).toBeCloseTo(1, 9);
  expect(s["try 1"]!).toBeGreaterThan(s["try 2"]! * 2);
});

test("a test between them, or a try that was seen not to help, gives the whole to the later one", () => {
  expect(
    shares([failed(0), tried(1, 1, chip, null), failed(2), tried(2, 3, joint, "cured"), good(4)]),
  ).toMatchObject({
    "try 2": 1,
  });
  expect(shares([failed(0), tried(1, 1, chip, "same"), tried(2, 3, joint, "cured"), good(4)])).toMatchObject({
    "try 2": 1,
  });
});

test("a test of something else between two acts parts nothing", () => {
  const place = [...graph.restsOn].find(([, parts]) => !parts.includes(graph.index.get(joint)!))![0];
  const elsewhere = { ...good(1.2), id: "elsewhere", place } as Fact;
  const s = shares([
    failed(0),
    tried(1, 1, joint, "cured"),
    elsewhere,
    tried(2, 1.5, chip, "cured"),
    good(2),
  ]);
  expect(s["try 1"]! + s["try 2"]!).toBeCloseTo(1, 9);
  expect(s["try 2"]!).toBeLessThan(0.5);
});

test("a mend that nobody tested by itself takes its share too", () => {
  const mend: Fact = {
    id: "mend 1",
    at: day(1.5),
    who: null,
    kind: "mended",
    route: "new-joint",
    places: [joint],
    fitted: null,
    place: stick,
    how: "resoldered",
    number: 1,
    words: "Resoldered",
  };
  expect(shares([failed(0), tried(1, 1, joint, "cured"), mend, good(2)])["try 1"]).toBeCloseTo(0.5, 9);
});

test("a search by halves that ends elsewhere, or the fault that comes again, takes the credit back", () => {
  const heat = tried(1, 1, chip, "cured");
  expect(shares([failed(0), heat, search(3, lead)])).toEqual({ "try 1": 0 });
  expect(shares([failed(0), heat, search(3, chip)])).toEqual({ "try 1": 1 });
  expect(shares([failed(0), heat, good(2), failed(4)])).toEqual({ "try 1": 0 });
});

test("what undoing it proved stands, and takes it from what was credited at another part before", () => {
  const s = shares([
    failed(0),
    tried(1, 1, chip, "cured"),
    failed(2),
    tried(2, 3, joint, "cured", "came-back"),
  ]);
  expect(s).toEqual({ "try 1": 0, "try 2": 1 });
});
