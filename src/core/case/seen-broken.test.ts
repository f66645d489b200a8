import { readFileSync } from "node:fs";

import { HOUSE_LEXICON } from "../claim/lexicon";
import { checkLibrary } from "../diagnosis/checks";
import { graphOf } from "../diagnosis/graph";
import { profileSchema, thingsOf } from "../profile/profile";
import { beliefOf, evidenceOfCase } from "./evidence";
import { type Fact, factSchema } from "./facts";
import { seenBroken } from "./seen-broken";
import { type CaseOf, standingOf } from "./standing-facts";

/** What was seen broken stands until something done makes it good, or a later look finds it sound. */

const profile = profileSchema.parse(JSON.parse(readFileSync("profiles/dunlin.json", "utf8")));
const graph = graphOf(profile.wiring!, null);
const OF: CaseOf = {
  model: "dunlin",
  graph,
  library: checkLibrary(graph, profile.wiring!),
  things: thingsOf(profile, null),
  power: [],
  lexicon: HOUSE_LEXICON,
};
const joint = graph.nodes.find((n) => n.kind === "joint")!;
const flex = graph.nodes.find((n) => n.kind === "flex")!;

let n = 0;
const fact = (f: object): Fact =>
  factSchema.parse({
    id: `f${++n}`,
    at: new Date(Date.UTC(2026, 9, 1, 9, n)).toISOString(),
    who: "ida",
    ...f,
  });
const saw = (place: string, finding: string, severity = 3, code: string = finding) =>
  fact({ kind: "observed", place, finding, severity, magnified: false, code });
const looked = (place: string, outcome: string) =>
  fact({
    kind: "tried",
    act: `look.${place}`,
    places: [place],
    retest: "none",
    number: null,
    outcome,
    undone: null,
    share: null,
  });
const mended = (place: string, how: string) =>
  fact({
    kind: "mended",
    route: null,
    places: [place],
    fitted: null,
    place: null,
    how,
    words: "",
    number: 1,
  });
const now = (...facts: Fact[]) => seenBroken(standingOf(facts, OF), OF);

test("a torn flex stands by its name, whatever it was called when it was seen", () => {
  expect(now(saw(flex.id, "torn"))).toEqual([{ part: flex.id, name: flex.name, finding: "torn" }]);
  expect(now(looked(flex.id, "damaged"))).toEqual([{ part: flex.id, name: flex.name, finding: "damaged" }]);
});

test("what is slight, worn or dirty is no break", () => {
  expect(now(saw(joint.id, "corroded", 1), saw(flex.id, "worn", 2), saw(flex.id, "dirty", 1))).toEqual([]);
});

test("a later look that finds it sound takes it back, and one that finds it broken again brings it back", () => {
  const facts = [saw(joint.id, "cracked", 2, "cracked-joint"), looked(joint.id, "sound")];
  expect(now(...facts)).toEqual([]);
  expect(now(...facts, looked(joint.id, "damaged")).map((b) => b.finding)).toEqual(["cracked"]);
});

test("a new part ends it; cleaning does not mend what is torn", () => {
  const torn = saw(flex.id, "torn");
  expect(now(torn, mended(flex.id, "cleaned"))).toHaveLength(1);
  expect(now(torn, mended(flex.id, "replaced"))).toEqual([]);
  const cracked = saw(joint.id, "cracked", 2, "cracked-joint");
  expect(now(cracked, mended(joint.id, "resoldered"))).toEqual([]);
});

test("the same check answered again is one answer, the later one, and not twice as sure", () => {
  const share = (...facts: Fact[]) => {
    const b = beliefOf(evidenceOfCase(standingOf(facts, OF), OF), OF, {});
    return b.marginal[graph.index.get(flex.id)!]!;
  };
  const once = share(looked(flex.id, "damaged"));
  expect(
    share(looked(flex.id, "damaged"), looked(flex.id, "damaged"), looked(flex.id, "damaged")),
  ).toBeCloseTo(once, 12);
  expect(share(looked(flex.id, "sound"), looked(flex.id, "damaged"))).toBeCloseTo(once, 12);
  expect(share()).toBeLessThan(once);
});
