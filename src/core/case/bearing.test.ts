import { readdirSync, readFileSync } from "node:fs";

import fc from "fast-check";

import { HOUSE_LEXICON } from "../claim/lexicon";
import { checkLibrary } from "../diagnosis/checks";
import { graphOf } from "../diagnosis/graph";
import { READINGS_BEAR } from "../diagnosis/readings";
import { type ModelProfile, profileSchema, thingsOf } from "../profile/profile";
import type { INTAKE_LEANS } from "./bearing";
import { BEARS, type Row } from "./bearing";
import { beliefOf, evidenceOfCase, movedBy, seenInCase } from "./evidence";
import { type Fact, FACT_KINDS, factSchema, FOUND_AT, type FoundAt, type Read, READ_AS } from "./facts";
import { type CaseOf, standingOf } from "./standing-facts";

/** Every kind of fact bears on something and in the right direction; what is over counts for nothing. */

const profileOf = (name: string): ModelProfile =>
  profileSchema.parse(JSON.parse(readFileSync(`profiles/${name}`, "utf8")));
const caseFor = (profile: ModelProfile): CaseOf => {
  const graph = graphOf(profile.wiring!, null);
  return {
    graph,
    library: checkLibrary(graph, profile.wiring!),
    things: thingsOf(profile, null),
    model: profile.id,
    power: profile.functions.filter((f) => f.kind === "power-on" || f.kind === "charging").map((f) => f.id),
    lexicon: HOUSE_LEXICON,
  };
};
const profile = profileOf("turnstone.json");
const of = caseFor(profile);
const stick = profile.controls.find((c) => c.kind === "stick")!.id;
const button = profile.controls.find((c) => c.kind === "button")!.id;
const partOf = (kind: string) => of.graph.nodes.find((n) => n.kind === kind)!.id;
const joint = of.graph.restsOn
  .get(stick)!
  .map((i) => of.graph.nodes[i]!)
  .find((n) => n.kind === "joint")!.id;

/** A contact that can be seen from outside. */
const outer = of.graph.nodes.find((n) => n.kind === "cell-contact")!.id;

let count = 0;
const day = (n: number) => new Date(Date.UTC(2026, 9, 1 + n, 9)).toISOString();
const common = (at = 1) => ({ id: `f${++count}`, at: day(at), who: "ida" });
const told = (words: string, at = 0): Fact => ({ ...common(at), kind: "told", by: "seller", words });
const measure = (place: string, name: string, pattern: string, at = 1): Fact =>
  factSchema.parse({
    ...common(at),
    kind: "measure",
    place,
    measure: name,
    value: 0.2,
    grade: "fail",
    test: "first",
    recording: `r${at}`,
    pattern,
    force: "normal",
  });
const works = (place: string, at = 1): Fact => ({
  ...common(at),
  kind: "works",
  place,
  recording: `r${at}`,
  force: "normal",
});
const answer = (place: string, outcome: "pass" | "fail" | "intermittent", at = 1): Fact => ({
  ...common(at),
  kind: "function",
  place,
  outcome,
  pattern: null,
  hand: null,
  words: "",
});
const seen = (place: string, finding: FoundAt, at = 2): Fact => ({
  ...common(at),
  kind: "observed",
  place,
  finding,
  severity: 3,
  magnified: true,
  code: "",
});
const read = (reading: Read, place: string, verdict: "pass" | "fail" | "doubtful", at = 1): Fact => ({
  ...common(at),
  kind: "reading",
  reading,
  place,
  side: null,
  verdict,
  values: {},
});
const tried = (act: string, place: string, outcome: string | null, at = 3): Fact => ({
  ...common(at),
  kind: "tried",
  act,
  places: [place],
  retest: "none",
  number: act === "search" || act.includes(".") ? null : count,
  outcome,
  undone: null,
  share: null,
});
const mended = (places: string[], at = 4, place: string | null = null): Fact => ({
  ...common(at),
  kind: "mended",
  route: null,
  places,
  fitted: null,
  place,
  how: "replaced",
  number: null,
  words: "new part",
});
const door = (change: Partial<Extract<Fact, { kind: "intake" }>>): Fact => ({
  ...common(0),
  kind: "intake",
  rattle: "none",
  smell: 0,
  grime: 0,
  missing: [],
  marks: [],
  ...change,
});

/** A fact of a row, and the parts that it should move. */
function sampleOf(row: Row): { fact: Fact; parts: number[] } {
  const behind = (place: string) => [...(of.graph.restsOn.get(place) ?? [])];
  const kinds = (on: Row["on"]) =>
    of.graph.kinds.flatMap((k, i) => (Array.isArray(on) && on.includes(k) ? [i] : []));
  const [name = "", verdict = ""] = row.form.split(" ");
  const at = of.graph.index.get(joint)!;
  switch (row.kind) {
    case "told":
      // what the stick shares with what fails already shows there in another way
      return {
        fact: told("left stick drifts"),
        parts: behind(stick).filter((i) => !behind(button).includes(i)),
      };
    case "mate":
      return {
        fact: { ...common(0), kind: "mate", place: button, tag: "B-0007", words: "" },
        parts: behind(button).filter((i) => !behind(stick).includes(i)),
      };
    case "history":
      return {
        fact: { ...common(0), kind: "history", what: row.form as never, doubt: 0 },
        parts: kinds(row.on),
      };
    case "intake": {
      const facts: Record<keyof typeof INTAKE_LEANS | "smell" | "missing", Fact> = {
        "rattle-metal": door({ rattle: "metal" }),
        "rattle-plastic": door({ rattle: "plastic" }),
        "seen-metal": door({ rattle: "metal", seen: true }),
        "seen-plastic": door({ rattle: "plastic", seen: true }),
        "rough-hands": door({ hands: ["stripped-fastener"] }),
        glued: door({ hands: ["glued"] }),
        grime: door({ grime: 2 }),
        "broken-outside": door({ marks: [{ place: "shell", mark: "crack" }] }),
        sticky: door({ marks: [{ place: "shell", mark: "sticky" }] }),
        smell: door({ smell: 3 }),
        missing: door({ missing: ["cord"] }),
      };
      return { fact: facts[row.form as keyof typeof facts], parts: kinds(row.on) };
    }
    case "measure":
      return { fact: measure(stick, "restOffset", "offset"), parts: behind(stick) };
    case "works":
      return { fact: works(stick), parts: behind(stick) };
    case "function": {
      if (row.form === "named by hand")
        return {
          fact: { ...answer(stick, "fail"), hand: "named" } as Fact,
          parts: behind(stick),
        };
      return { fact: answer(button, row.form as never), parts: behind(button) };
    }
    case "reading": {
      if (name === "point") {
        const point = [...of.graph.showsAt.keys()].find((p) =>
          of.library.some((c) => c.target === p && (c.kind === "measure" || c.kind === "compare")),
        )!;
        return {
          fact: read("point", point, verdict as never),
          parts: [...of.graph.showsAt.get(point)!],
        };
      }
      const at = name === "feel" || name === "resistance" ? stick : "main";
      // of one that speaks through an answer by itself nothing moves
      const parts = row.on === null ? behind(stick) : kinds(row.on);
      return { fact: read(name as Read, at, (verdict || "fail") as never), parts };
    }
    case "observed":
      if (row.form === "corroded elsewhere")
        return {
          fact: seen(outer, "corroded"),
          parts: kinds(row.on).filter((i) => of.graph.nodes[i]!.id !== outer),
        };
      return { fact: seen(joint, row.form as FoundAt), parts: [at] };
    case "piece":
      return {
        fact: { ...common(2), kind: "piece", number: 1, material: "plastic", fits: joint },
        parts: [at],
      };
    case "tried":
      return {
        fact:
          row.form === "search"
            ? tried("search", joint, "found")
            : ({ ...tried("resolder", joint, row.form), number: 1 } as Fact),
        parts: [at],
      };
    case "mended":
      // the test that it still fails by came after it
      return { fact: row.form === "" ? mended([joint]) : mended([joint], 0), parts: [at] };
    case "answered":
      return {
        fact: { ...common(5), kind: "answered", place: stick, option: "mend", yes: true, priceMinor: 900 },
        parts: behind(stick),
      };
    case "decided":
      return { fact: { ...common(5), kind: "decided", act: "mend", why: "" }, parts: behind(stick) };
  }
}

const beliefIn = (facts: readonly Fact[], about = of) =>
  beliefOf(evidenceOfCase(standingOf(facts, about), about), about, {});
/** How likely some of these parts is at fault. */
function anyOf(facts: readonly Fact[], parts: readonly number[]): number {
  const b = beliefIn(facts);
  let sum = 0;
  for (let h = 0; h < b.posterior.length; h++)
    if (parts.includes(b.first[h]!) || parts.includes(b.second[h]!)) sum += b.posterior[h]!;
  return sum;
}

describe("the table of kinds", () => {
  test("holds every kind and every form of the schema", () => {
    const kinds = new Set(BEARS.map((r) => r.kind));
    expect([...kinds].sort()).toEqual([...FACT_KINDS].sort());
    const forms = (kind: string) => BEARS.filter((r) => r.kind === kind).map((r) => r.form);
    for (const finding of FOUND_AT) expect(forms("observed")).toContain(finding);
    for (const kind of Object.keys(READINGS_BEAR) as (keyof typeof READINGS_BEAR)[])
      for (const v of ["pass", "fail", "doubtful"])
        expect(forms("reading")).toContain(`${READ_AS[kind]} ${v}`);
  });

  test("lets at most five bear on nothing, each with the reason", () => {
    const silent = BEARS.filter((r) => r.direction === "nothing");
    expect(silent.length).toBeLessThanOrEqual(5);
    for (const r of silent) expect([r.kind, r.because ?? ""]).not.toEqual([r.kind, ""]);
  });

  /** Something fails beforehand, so that odds can fall as well as rise: not where that would say the same. */
  const startFor = ({ kind, form }: Row): Fact[] => {
    if (kind === "mended") return [measure(stick, "jumps", "jumps", 1)];
    if (form === "named by hand" || kind === "works" || kind === "measure" || kind === "told")
      return [answer(button, "fail", 0)];
    return [measure(stick, "jumps", "jumps", 0)];
  };
  test.each(
    BEARS.filter((r) => r.direction !== "ends" && !r.form.startsWith("tugs")).map(
      (r) => [`${r.kind} ${r.form} ${r.direction}`, r] as const,
    ),
  )("%s", (_name, row) => {
    const { fact, parts } = sampleOf(row);
    expect(factSchema.parse(fact)).toEqual(fact);
    if (row.on !== null) expect(parts).not.toEqual([]);
    const start = startFor(row);
    const without = anyOf(start, parts);
    const withIt = anyOf([...start, fact], parts);
    if (row.direction === "raises") expect(withIt).toBeGreaterThan(without);
    if (row.direction === "lowers") expect(withIt).toBeLessThan(without);
    if (row.direction === "nothing" || row.direction === "answers") expect(withIt).toBeCloseTo(without, 12);
  });

  test("tugs speak of the latch, in a model that has one", () => {
    const own = caseFor(profileOf("avocet.json"));
    const latch = own.graph.nodes.findIndex((n) => n.kind === "latch");
    const start = [answer("latch", "fail", 0)];
    const pulled = (verdict: "pass" | "fail" | "doubtful") =>
      beliefIn([...start, read("tugs", "latch", verdict)], own).marginal[latch]!;
    const without = beliefIn(start, own).marginal[latch]!;
    expect(pulled("fail")).toBeGreaterThan(without);
    expect(pulled("doubtful")).toBeGreaterThan(without);
    expect(pulled("pass")).toBeLessThan(without);
  });

  test("what was done at a part ends what was seen of the old one", () => {
    const cracked = seen(joint, "cracked");
    const at = of.graph.index.get(joint)!;
    const high = beliefIn([cracked]).marginal[at]!;
    const standing = standingOf([cracked, mended([joint])], of);
    expect(standing.find((s) => s.fact.id === cracked.id)!.ended).toMatchObject({ how: "replaced" });
    expect(high).toBeGreaterThan(0.3);
    expect(beliefIn([cracked, mended([joint])]).marginal[at]!).toBeCloseTo(beliefIn([]).marginal[at]!, 12);
  });
});

/** Facts of many kinds, each at a day of its own, that do not end each other. */
const someFacts = (): Fact[] => [
  told("left stick drifts"),
  door({ rattle: "metal", grime: 2 }),
  measure(stick, "restOffset", "offset", 1),
  works(button, 1),
  read("supply", "main", "pass", 2),
  seen(joint, "cracked", 3),
  seen(partOf("socket"), "sound", 4),
  { ...common(5), kind: "piece", number: 2, material: "metal", fits: partOf("lead") },
];

test("the order in which independent facts came does not matter", () => {
  const facts = someFacts();
  const usual = beliefIn(facts).marginal;
  fc.assert(
    fc.property(fc.shuffledSubarray(facts, { minLength: facts.length }), (shuffled) => {
      const at = shuffled.map((f, i): Fact => ({ ...f, at: day(i) }));
      beliefIn(at).marginal.forEach((p, i) => expect(p).toBeCloseTo(usual[i]!, 10));
    }),
    { numRuns: 40 },
  );
});

test.each(readdirSync("profiles").filter((f) => f.endsWith(".json")))(
  "what was done elsewhere ends nothing, and what is over counts for nothing: %s",
  (name) => {
    const own = caseFor(profileOf(name));
    const nodes = own.graph.nodes;
    fc.assert(
      fc.property(
        fc.nat({ max: nodes.length - 1 }),
        fc.nat({ max: nodes.length - 1 }),
        fc.constantFrom(...FOUND_AT),
        (i, k, finding) => {
          const fact = seen(nodes[i]!.id, finding, 1);
          const done = mended([nodes[k]!.id], 2);
          const [standing] = standingOf([fact, done], own);
          expect(standing!.ended !== null).toBe(i === k);
          const belief = beliefIn([fact, done], own).marginal;
          const expected = beliefIn(i === k ? [] : [fact], own).marginal;
          belief.forEach((p, n) => expect(p).toBeCloseTo(expected[n]!, 10));
        },
      ),
      { numRuns: 30 },
    );
  },
);

test("a mend at the stick ends its tests and what was told of it, and those of nothing else", () => {
  const facts = [
    told("left stick drifts. face south is dead"),
    measure(stick, "jumps", "jumps", 1),
    works(button, 1),
    mended([], 2, stick),
  ];
  const standing = standingOf(facts, of);
  const ended = Object.fromEntries(standing.map((s) => [s.fact.kind, s.ended?.by ?? null]));
  expect(ended).toMatchObject({ measure: facts[3]!.id, works: null });
  expect(seenInCase(standing, of).map((s) => s.id)).toEqual([button]);
});

test("a new cell ends what tells of the power, and no stick's test", () => {
  const cell = of.graph.nodes.find((n) => n.kind === "cell")!.id;
  const facts = [measure(stick, "jumps", "jumps", 1), answer(of.power[0]!, "fail", 1), mended([cell], 2)];
  expect(standingOf(facts, of).map((s) => s.ended !== null)).toEqual([false, true, false]);
});

test("of the answers to one question the last counts, and works after a fault comes and goes", () => {
  const twice = [answer(button, "fail", 1), answer(button, "pass", 2)];
  expect(seenInCase(standingOf(twice, of), of)).toMatchObject([{ id: button, outcome: "works" }]);
  const both = [measure(stick, "jumps", "jumps", 1), works(stick, 2)];
  expect(seenInCase(standingOf(both, of), of)).toMatchObject([{ id: stick, outcome: "intermittent" }]);
});

test("what a hand named counts before any recording, and a recording speaks in its place", () => {
  const named = { ...answer(stick, "fail", 1), hand: "named", pattern: "jumps" } as Fact;
  expect(seenInCase(standingOf([named], of), of)).toMatchObject([
    { id: stick, outcome: "jumps", trust: 0.9 },
  ]);
  const measured = measure(stick, "restOffset", "offset", 2);
  expect(seenInCase(standingOf([named, measured], of), of)).toMatchObject([{ outcome: "offset" }]);
});

test("what was settled or made good stays in the list and counts for nothing", () => {
  const named = { ...answer(stick, "fail", 1), hand: "named", pattern: "jumps", settled: day(2) } as Fact;
  const [only] = standingOf([named], of);
  expect(only!.ended).toEqual({ by: named.id, how: "settled", at: day(2) });
  expect(seenInCase([only!], of)).toEqual([]);
});

test("what a hand named in other words accuses what the place rests on, and no cell", () => {
  const named = { ...answer(stick, "fail", 1), hand: "named", words: "feels odd" } as Fact;
  const cell = of.graph.kinds.indexOf("cell");
  const [before, after] = [beliefIn([]).marginal, beliefIn([named]).marginal];
  expect(seenInCase(standingOf([named], of), of)).toEqual([]);
  expect(after[of.graph.index.get(joint)!]!).toBeGreaterThan(before[of.graph.index.get(joint)!]! * 2);
  expect(after[cell]!).toBeLessThan(before[cell]!);
});

test("what a fact moves is found by leaving it out, and what is over moves nothing", () => {
  const cracked = seen(joint, "cracked", 2);
  const standing = standingOf([measure(stick, "jumps", "jumps", 1), cracked], of);
  const groups = standing.map((s) => ({ id: s.fact.id, facts: [s.fact.id] }));
  const moved = movedBy(standing, groups, of, {}).get(cracked.id)!;
  expect(moved.node).toBe(joint);
  expect(moved.with).toBeGreaterThan(moved.without);
  const over = standingOf([cracked, mended([joint], 3)], of);
  expect(movedBy(over, [{ id: cracked.id, facts: [cracked.id] }], of, {}).size).toBe(0);
});
