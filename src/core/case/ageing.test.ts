import { readdirSync, readFileSync } from "node:fs";

import fc from "fast-check";

import { HOUSE_ROUTES } from "../decide/routes";
import { graphOf } from "../diagnosis/graph";
import { profileSchema } from "../profile/profile";
import { type Act, actOfMend, actOfSpare, actOfTry, endedBy, MEASURED, renewedBy } from "./ageing";
import { TREATMENTS } from "./treatments";

/** Facts end when the part that they are about was changed, and for no other reason. */

const dunlin = profileSchema.parse(JSON.parse(readFileSync("profiles/dunlin.json", "utf8")));
const graph = graphOf(dunlin.wiring!, null);
const part = (kind: string) => graph.kinds.findIndex((k) => k === kind);
const day = (n: number) => new Date(Date.UTC(2026, 10, n));
const route = (id: string) => HOUSE_ROUTES.find((r) => r.id === id)!;
const seen = (at: number, finding: string, ...parts: number[]) => ({ at: day(at), parts, finding });
const act = (at: number, how: Act["how"], ...parts: number[]): Act => ({
  at: day(at),
  parts: new Set(parts),
  how,
});

test("a reflowed joint is no longer a cracked one, but still a dirty one", () => {
  const joint = part("joint");
  const reflowed = actOfTry(graph, { at: day(3), suspect: graph.nodes[joint]!.id, action: "resolder" })!;
  expect(endedBy(seen(2, "cracked-joint", joint), [reflowed])).toBe(reflowed);
  expect(endedBy(seen(2, "corrosion-strong", joint), [reflowed])).toBeNull();
  expect(endedBy(seen(4, "cracked-joint", joint), [reflowed])).toBeNull(); // seen after it: it did not take
  expect(endedBy(seen(2, MEASURED, joint), [reflowed])).toBe(reflowed);
});

test("cleaning takes dirt away, and no tear; a new part takes all away", () => {
  const contact = part("contact");
  const cleaned = act(3, "cleaned", contact);
  expect(endedBy(seen(1, "residue", contact), [cleaned])).toBe(cleaned);
  expect(endedBy(seen(1, "torn", contact), [cleaned])).toBeNull();
  const renewed = act(5, "replaced", contact);
  expect(endedBy(seen(1, "torn", contact), [renewed, cleaned])).toBe(renewed);
});

test("a reading of several parts ends only when every one of them was replaced", () => {
  const [a, b] = [part("sensor"), part("joint")];
  expect(endedBy(seen(1, MEASURED, a, b), [act(2, "replaced", a)])).toBeNull();
  expect(endedBy(seen(1, MEASURED, a, b), [act(2, "replaced", a, b)])).not.toBeNull();
  expect(endedBy(seen(1, MEASURED), [act(2, "replaced", a)])).toBeNull(); // about nothing known
});

test("what a mend changes is read from its route: a module its sensors and mechanism, a calibration nothing", () => {
  const place = dunlin.controls.find((c) => c.kind === "stick")!.id;
  const kinds = (id: string) => {
    const a = actOfMend(graph, { at: day(2), place, route: route(id) });
    return a && [a.how, [...new Set([...a.parts].map((i) => graph.kinds[i]))].sort()];
  };
  expect(kinds("module-original")).toEqual(["replaced", ["frame", "mechanism", "post", "spring", "track"]]);
  expect(kinds("sensors-dear")).toEqual(["replaced", ["track"]]);
  expect(kinds("rework-joints")![0]).toBe("resoldered");
  expect(kinds("calibrate")).toBeNull();
  expect(actOfMend(graph, { at: day(2), place, route: null })).toBeNull();
  expect(actOfTry(graph, { at: day(2), suspect: "nothing-such", action: "replace" })).toBeNull();
});

test("every slot of every shipped model with a part in the wiring ages that part", () => {
  const silent: string[] = [];
  for (const file of readdirSync("profiles")) {
    const profile = profileSchema.parse(JSON.parse(readFileSync(`profiles/${file}`, "utf8")));
    const g = graphOf(profile.wiring!, null);
    for (const s of profile.slots ?? []) {
      const spare = actOfSpare(g, { at: day(1), kind: s.kind, serves: s.serves });
      if (spare.parts.size === 0) silent.push(`${profile.id} ${s.id}`);
    }
  }
  // a cord that is its host's, and an antenna that is a trace of the board
  expect(silent).toEqual(["dunlin cord.link.cable", "knot antenna.radio"]);
});

test("work at another part, or before, ends nothing; the order in which it is told does not matter", () => {
  const dates = fc.integer({ min: 1, max: 20 });
  const acts = fc.array(fc.tuple(dates, fc.constantFrom(...TREATMENTS), fc.integer({ min: 0, max: 9 })), {
    maxLength: 8,
  });
  fc.assert(
    fc.property(
      dates,
      fc.constantFrom("cracked-joint", "residue", "torn", MEASURED),
      acts,
      (at, finding, list) => {
        const all = list.map(([when, how, at2]) => act(when, how, at2));
        const ended = endedBy(seen(at, finding, 3), all);
        const other = all.filter((a) => !a.parts.has(3) || a.at <= day(at));
        expect(endedBy(seen(at, finding, 3), other)).toBeNull();
        expect(endedBy(seen(at, finding, 3), [...all].reverse())?.at).toEqual(ended?.at);
        if (ended) expect(ended.at > day(at) && ended.parts.has(3)).toBe(true);
      },
    ),
    { seed: 18 },
  );
});

test("a wire across a torn flex makes it good; an iron at the joints beside it does not", () => {
  const flex = part("flex");
  const place = [...graph.restsOn].find(([, parts]) => parts.includes(flex))![0];
  const torn = seen(2, "torn", flex);
  const bridged = actOfMend(graph, { at: day(3), place, route: route("wire-bridge") })!;
  expect(bridged.parts.has(flex)).toBe(true);
  expect(endedBy(torn, [bridged])).toBe(bridged);
  const joints = actOfMend(graph, { at: day(3), place, route: route("rework-joints") })!;
  expect(endedBy(torn, [joints])).toBeNull();
});

test("a new part changes all that its slot serves; without a spare nothing is renewed", () => {
  const at = (id: string, place: string) =>
    [...renewedBy({ place, route: route(id), slots: dunlin.slots })].sort();
  expect(at("module-dear", "stick.left")).toEqual(["stick.left", "stick.left.click"]);
  expect(at("dome-dear", "face.south")).toEqual(expect.arrayContaining(["face.east", "pad.up", "home"]));
  expect(at("clean-pads", "face.south")).toEqual([]);
  expect(at("wire-bridge", "face.south")).toEqual([]);
});

test("what is done at one place is not done to what everything needs, unless it has nothing else", () => {
  const touched = (id: string, place: string) =>
    [...actOfMend(graph, { at: day(1), place, route: route(id), slots: dunlin.slots })!.parts].map(
      (i) => graph.nodes[i]!.id,
    );
  const cleaned = touched("clean-contacts", "stick.left");
  expect(cleaned).toContain("sensor.left.x");
  for (const common of ["main.chip", "cell", "link.socket"]) expect(cleaned).not.toContain(common);
  expect(touched("clean-power", "power-on")).toContain("main.chip");
});
