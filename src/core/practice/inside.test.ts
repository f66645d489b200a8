import { readdirSync, readFileSync } from "node:fs";

import { HOUSE_ROUTES } from "../decide/routes";
import { checkLibrary } from "../diagnosis/checks";
import { graphOf } from "../diagnosis/graph";
import { seeded } from "../math/random";
import { profileSchema } from "../profile/profile";
import { hideFaults, LEVELS } from "./hidden";
import { checkShows, mendCures, partBehind } from "./inside";

/** The inside of a practice unit answers as a real one would: by what is broken, and sometimes wrongly. */

const MODELS = readdirSync("profiles").map((f) =>
  profileSchema.parse(JSON.parse(readFileSync(`profiles/${f}`, "utf8"))),
);
const DUNLIN = MODELS.find((m) => m.id === "dunlin")!;
const GRAPH = graphOf(DUNLIN.wiring!, null);
const LIBRARY = checkLibrary(GRAPH, DUNLIN.wiring!);
const route = (id: string) => HOUSE_ROUTES.find((r) => r.id === id)!;

test.each(MODELS.map((m) => [m.id, m] as const))(
  "%s: what is broken lies behind the control that fails, and behind no other",
  (_id, model) => {
    const graph = graphOf(model.wiring!, model.revisions[0]!.id);
    for (const level of LEVELS)
      for (const h of hideFaults(model, model.revisions[0]!.id, level, seeded(level))) {
        if (h.part === undefined) continue;
        const at = graph.index.get(h.part)!;
        const behind = [...graph.restsOn].filter(([, parts]) => parts.includes(at)).map(([id]) => id);
        expect(behind).toEqual([h.place]);
      }
  },
);

test("over many units the usual parts are broken more often than the rare ones", () => {
  const kinds = new Map<string, number>();
  const chance = seeded(3);
  for (let i = 0; i < 3000; i++) {
    const part = partBehind(
      GRAPH,
      { place: "stick.left", measure: "restOffset", kind: "stick" },
      chance.next(),
    );
    const kind = GRAPH.kinds[GRAPH.index.get(part!)!]!;
    kinds.set(kind, (kinds.get(kind) ?? 0) + 1);
  }
  const worn = (kinds.get("sensor") ?? 0) + (kinds.get("track") ?? 0);
  expect(worn).toBeGreaterThan(kinds.get("joint") ?? 0);
});

test("a look shows what is broken as often as such looks do, and what is sound is seldom called broken", () => {
  const look = LIBRARY.find((c) => c.kind === "look" && c.about.length === 1)!;
  const part = GRAPH.nodes[look.about[0]!]!.id;
  const [first] = look.outcomes;
  const share = (broken: string[]) => {
    const chance = seeded(9);
    let n = 0;
    for (let i = 0; i < 4000; i++) if (checkShows(look, GRAPH, broken, chance.next()) === first!.code) n++;
    return n / 4000;
  };
  expect(Math.abs(share([part]) - first!.ifFaulty)).toBeLessThan(0.03);
  expect(Math.abs(share([]) - first!.ifSound)).toBeLessThan(0.03);
});

test("a mend cures only where it was made, only what it acts on, and as often as it is said to", () => {
  const track = GRAPH.nodes.find(
    (n) =>
      (n.kind === "track" || n.kind === "sensor") &&
      GRAPH.restsOn.get("stick.left")!.includes(GRAPH.index.get(n.id)!),
  )!;
  const hidden = { place: "stick.left", measure: "restOffset", part: track.id };
  const cures = (id: string, place: string, draw: number) =>
    mendCures(DUNLIN, GRAPH, hidden, { route: route(id), place }, draw);
  expect(cures("module-dear", "stick.left", 0)).toBe(true);
  expect(cures("module-dear", "stick.left", 0.9999)).toBe(false);
  expect(cures("module-dear", "stick.right", 0)).toBe(false);
  const joint = GRAPH.nodes.find(
    (n) => n.kind === "joint" && GRAPH.restsOn.get("stick.left")!.includes(GRAPH.index.get(n.id)!),
  )!;
  const cracked = { ...hidden, part: joint.id };
  // centring by numbers does nothing for a cracked joint
  expect(mendCures(DUNLIN, GRAPH, cracked, { route: route("calibrate"), place: "stick.left" }, 0)).toBe(
    false,
  );
});
