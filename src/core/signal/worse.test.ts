import { analyse, type ControlResult } from "../analyse/analyse";
import { GRADES } from "../grade/grade";
import { STANDARD_MAP } from "../input/input";
import { seeded } from "../math/random";
import { onCircle, Synthetic } from "./synthetic";

/**
 * Properties: a defect made worse never gets a better grade, and what was seen of an event stays seen however
 * much that is clean comes after it.
 */

const rank = (r: ControlResult) => GRADES.indexOf(r.grade);
const control = (s: Synthetic, id: string) => analyse(s.done(), STANDARD_MAP).analysis.controls[id]!;
const axes = (x: number, y: number) => ({ axes: [x, y, 0, 0] });

type Stick = { offset?: number; noise?: number; settle?: number; reach?: number; leap?: number };
function stick({ offset = 0, noise = 0, settle = 0, reach = 1, leap = 0 }: Stick): ControlResult {
  const c = seeded(5);
  const read = (x: number, y: number) => {
    const short = x > 0 ? x * reach : x;
    const skipped = leap > 0 && short > 0.3 ? Math.min(1, short + leap * (1 - short)) : short;
    return axes(
      skipped + offset * (1 - Math.min(1, Math.hypot(x, y))) + noise * c.normal(),
      y + noise * c.normal(),
    );
  };
  const s = new Synthetic(5).add("rest", "", 2600, () => read(0, 0));
  for (const way of [1, -1])
    s.add("circle", "stick.left", 3000, (t) => read(...onCircle(t, () => 1, 1000, way)));
  for (let i = 0; i < 16; i++)
    s.add("flick", "stick.left", 900, (t) => {
      const a = (Math.PI / 4) * i;
      const r = t < 250 ? 1 : settle;
      return read(r * Math.cos(a), r * Math.sin(a));
    });
  return control(
    s.add("rest", "", 2600, () => read(0, 0)),
    "stick.left",
  );
}

describe.each([
  ["offset", [0, 0.04, 0.07, 0.1, 0.13, 0.3]],
  ["noise", [0, 0.004, 0.008, 0.013, 0.02, 0.05]],
  ["settle", [0, 0.05, 0.1, 0.14, 0.2, 0.4]],
  ["leap", [0, 0.05, 0.12, 0.2, 0.35, 0.6]],
] as const)("a stick's %s made worse", (kind, sizes) => {
  test("never gets a better grade, and fails in the end", () => {
    const ranks = sizes.map((size) => rank(stick({ [kind]: size })));
    expect([...ranks].sort((a, b) => a - b)).toEqual(ranks);
    expect([ranks[0], ranks.at(-1)]).toEqual([GRADES.indexOf("A"), GRADES.indexOf("fail")]);
  });
});

test("a stick's reach made shorter never gets a better grade", () => {
  const ranks = [1, 0.98, 0.955, 0.92, 0.88, 0.6].map((reach) => rank(stick({ reach })));
  expect([...ranks].sort((a, b) => a - b)).toEqual(ranks);
});

describe("events that were seen", () => {
  type Event = (press: number, t: number) => Record<number, number>;
  const span = (t: number, from: number, ms = 80) => t >= from && t < from + ms;
  const PRESS_MS = 700;
  /** Presses of face.south, of which the first five are as `event` makes them, and hands off before and after. */
  const pressed = (n: number, event: Event, atRest: (t: number) => boolean = () => false) => {
    const s = new Synthetic(5).add("rest", "", 2600, (t) => ({ buttons: { 0: atRest(t) ? 1 : 0 } }));
    for (let i = 0; i < n; i++)
      s.add(
        "press",
        "face.south",
        PRESS_MS,
        (t) => ({ buttons: i < 5 ? event(i, t) : { 0: span(t, 160) ? 1 : 0 } }),
        [0],
      );
    return control(
      s.add("rest", "", 2600, () => ({})),
      "face.south",
    );
  };
  test.each<[string, Event]>([
    ["chatter", (_, t) => ({ 0: span(t, 160) || span(t, 260, 30) ? 1 : 0 })],
    ["extra presses", (_, t) => ({ 0: span(t, 160) || span(t, 420) ? 1 : 0 })],
    ["another that fires too", (_, t) => ({ 0: span(t, 160) ? 1 : 0, 12: span(t, 165, 60) ? 1 : 0 })],
  ])("%s: a fail stays a fail in every longer recording", (_, event) => {
    for (const n of [6, 15, 22, 40, 80]) expect([n, pressed(n, event).grade]).toEqual([n, "fail"]);
  });

  test("a press with hands off: a fail, however many clean presses follow", () => {
    const clean: Event = (_, t) => ({ 0: span(t, 160) ? 1 : 0 });
    for (const n of [0, 15, 40])
      expect([n, pressed(n, clean, (t) => span(t, 1500, 60)).grade]).toEqual([n, "fail"]);
  });
});

test("a dead half says so, and nothing of leaps where the stick never goes", () => {
  const s = new Synthetic(5).add("rest", "", 2600, () => axes(0, 0));
  for (const way of [1, -1])
    s.add("circle", "stick.left", 4000, (t) => {
      const [x, y] = onCircle(t, () => 1, 1000, way);
      return axes(x, Math.max(0, y)); // y is down: up is dead
    });
  const r = control(s, "stick.left");
  expect(r.reasons.find((x) => x.measure === "deadHalves")?.value).toEqual(["up"]);
  expect(r.reasons.some((x) => x.measure === "jumps")).toBe(false);
});
