import { modelOf } from "../../../test/ui/models";
import { HOUSE_RATES } from "../money/rates";
import type { DecideInput } from "./asked";
import { buildProblem } from "./build";
import { breaksOnTheWay, unbuyable } from "./on-the-way";
import { HOUSE_ROUTES } from "./routes";

const slots = modelOf("avocet").slots!;
const without = (...ids: string[]) => slots.map((s) => (ids.includes(s.id) ? { ...s, offers: [] } : s));
const depth = 14;

test("where everything on the way can be bought again the odds are the route's own", () => {
  expect(unbuyable(slots, depth, ["stick.left"])).toEqual([]);
  expect(breaksOnTheWay(0.04, slots, depth, ["stick.left"])).toBe(0.04);
});

test("each fragile part that nobody sells makes it likelier to end the unit, up to twice", () => {
  const one = breaksOnTheWay(0.04, without("flex.touch.left"), depth, ["stick.left"]);
  const two = breaksOnTheWay(0.04, without("flex.touch.left", "flex.touch.right"), depth, ["stick.left"]);
  const all = breaksOnTheWay(0.04, without(...slots.map((s) => s.id)), depth, []);
  expect(one).toBeGreaterThan(0.04);
  expect(two).toBeGreaterThan(one);
  expect(all).toBeCloseTo(0.08, 10);
});

test("what lies deeper than the mend goes, and what it is at, is not on its way", () => {
  const scarce = without("flex.touch.left");
  const flex = scarce.find((s) => s.id === "flex.touch.left")!;
  expect(unbuyable(scarce, flex.stripMinutes - 1, [])).toEqual([]);
  expect(unbuyable(scarce, flex.stripMinutes, []).map((s) => s.id)).toEqual(["flex.touch.left"]);
  expect(unbuyable(scarce, depth, flex.serves)).toEqual([]);
});

test("a sturdy part that nobody sells changes nothing", () => {
  expect(breaksOnTheWay(0.04, without("board.main"), 60, [])).toBe(0.04);
});

test("the ladder of a mend bears it: the same unit is worth less where its flex cannot be had again", () => {
  const of = (slots: ReturnType<typeof without>): DecideInput => ({
    profile: { ...modelOf("avocet"), slots },
    revision: null,
    market: modelOf("avocet").market!,
    rates: HOUSE_RATES,
    routes: HOUSE_ROUTES,
    record: [],
    rules: [],
    faults: [{ id: "0", number: 1, place: "stick.left", measure: "restOffset" }],
    tried: [],
    openMinutes: 0,
    spent: { purchase: 1200, parts: 0, minutes: 0 },
    customer: null,
    withheld: [],
    untested: [],
    hiddenBad: 0,
    caps: [],
  });
  const breaks = (slots: ReturnType<typeof without>) =>
    buildProblem(of(slots)).problem.attempts.find((a) => a.id.startsWith("module-dear"))!.breaks;
  const scarce = without("flex.touch.left", "flex.touch.right");
  expect(breaks(scarce)).toBeGreaterThan(breaks([...slots]));
  const option = buildProblem(of(scarce)).options.find((o) => o.route.id === "module-dear")!;
  expect(option.unbuyable).toEqual([
    "touch flex of the left touch surface",
    "touch flex of the right touch surface",
  ]);
});
