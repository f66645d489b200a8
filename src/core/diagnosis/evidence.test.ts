import type { Check } from "./checks";
import { checkLibrary } from "./checks";
import { evidenceFrom, type Observed, type SeenThing } from "./evidence";
import { graphOf } from "./graph";
import { type Wiring, wiringSchema } from "../profile/wiring";

const node = (id: string, kind: string, ...needs: string[]) => ({ id, kind, name: id, needs });
const WIRING: Wiring = wiringSchema.parse({
  boards: [{ id: "main", name: "main board", width: 60, height: 40 }],
  nodes: [
    node("chip", "chip"),
    node("flex", "flex", "chip"),
    node("switch", "switch", "flex"),
    node("lamp", "light", "flex"),
  ],
  serves: { bumper: ["switch"], light: ["lamp"] },
  points: [
    {
      id: "tp.flex",
      name: "end",
      board: "main",
      face: "top",
      at: { x: 1, y: 1 },
      node: "flex",
      quantity: "continuity",
      expects: 0,
    },
  ],
});
const graph = graphOf(WIRING, null);
const library: Check[] = checkLibrary(graph, WIRING);
const at = (id: string) => graph.index.get(id)!;

type From = Parameters<typeof evidenceFrom>[2];
const from = (change: Partial<From>) =>
  evidenceFrom(graph, library, { seen: [], observations: [], tries: [], loose: [], searches: [], ...change });
const seen = (...things: [string, SeenThing["outcome"]][]) =>
  from({ seen: things.map(([id, outcome]) => ({ id, outcome })) });
const observed = (kind: Observed["kind"], target: string, outcome: string) =>
  from({ observations: [{ kind, target, outcome }] });

test("what was seen of something that rests on no known part says nothing", () => {
  expect(seen(["microphone", "dead"])).toEqual([]);
  expect(seen(["bumper", "dead"]).map((p) => p.basis)).toEqual([
    { code: "seen", id: "bumper", outcome: "dead" },
  ]);
});

test("while something comes and goes, what works exempts the parts that both rest on, and speaks only weakly for them", () => {
  const [bumper, light, away] = seen(["bumper", "intermittent"], ["light", "works"]);
  expect(bumper!.evidence).not.toHaveProperty("exempt");
  const shared = ["chip", "flex"].map(at);
  expect(light!.evidence).toMatchObject({ exempt: expect.arrayContaining(shared) });
  expect(away!.basis).toEqual({ code: "stayed-away" });
  expect(away!.evidence).toMatchObject({ kind: "check", ifFaulty: 0.6, ifSound: 0.95 });
  expect([...(away!.evidence as { about: readonly number[] }).about].sort()).toEqual([...shared].sort());
  // without anything that works there is nothing to say
  expect(seen(["bumper", "intermittent"]).map((p) => p.basis.code)).toEqual(["seen"]);
});

test("a check, a place and a reading count where the model has them, and nothing is made of what it has not", () => {
  const look = library.find((c) => c.kind === "look")!;
  const [outcome] = look.outcomes;
  expect(observed("check", look.id, outcome!.code).map((p) => p.basis)).toEqual([
    { code: "check", check: "look", target: look.target, outcome: outcome!.code },
  ]);
  expect(observed("check", "look.nowhere", "sound")).toEqual([]);
  expect(observed("place", "flex", "torn")).toMatchObject([
    {
      basis: { code: "place", target: "flex" },
      evidence: { about: [at("flex")], ifFaulty: 0.4, ifSound: 0.003 },
    },
  ]);
  expect(observed("place", "flex", "sparkling")).toEqual([]);
  expect(observed("place", "nowhere", "torn")).toEqual([]);
  expect(observed("point", "tp.flex", "off").map((p) => p.basis)).toEqual([
    { code: "reading", point: "tp.flex", outcome: "off" },
  ]);
  expect(observed("point", "tp.flex", "not measured")).toEqual([]);
  expect(observed("function", "bumper", "dead")).toEqual([]); // it is among what was seen
});

test("a try counts once it has an outcome, and not when the fault stayed away after it was undone", () => {
  const tried = (outcome: "cured" | "same" | null, undone: "came-back" | "stayed-away" | null) =>
    from({ tries: [{ number: 2, suspect: "flex", outcome, undone }] }).length;
  expect([
    tried(null, null),
    tried("cured", null),
    tried("cured", "came-back"),
    tried("cured", "stayed-away"),
  ]).toEqual([0, 1, 1, 0]);
  expect(from({ tries: [{ number: 1, suspect: "nowhere", outcome: "cured", undone: null }] })).toEqual([]);
});

test("a loose piece counts once it is matched, and a search by halves once it has ended at a part", () => {
  expect(from({ loose: [{ number: 3, matchedTo: null }] })).toEqual([]);
  expect(from({ loose: [{ number: 3, matchedTo: "lamp" }] })).toMatchObject([
    { evidence: { about: [at("lamp")] } },
  ]);
  const items = [
    { id: "a", node: "flex" },
    { id: "b", node: "lamp" },
  ];
  expect(from({ searches: [{ items, steps: [] }] })).toEqual([]);
  const halved = (result: "works" | "fails") =>
    from({ searches: [{ items, steps: [{ switched: ["a"], result }] }] });
  expect(halved("fails")).toMatchObject([{ basis: { code: "halved" }, evidence: { about: [at("flex")] } }]);
  expect(halved("works")).toMatchObject([{ basis: { code: "halved" }, evidence: { about: [at("lamp")] } }]);
  const [a, b] = items;
  const crossed = [a!.id, b!.id].map((id) => ({ switched: [id], result: "works" as const }));
  expect(from({ searches: [{ items, steps: crossed }] })).toEqual([]); // the results contradict each other
});
