import { analyse, type ButtonResult } from "../analyse/analyse";
import { STANDARD_MAP } from "../input/input";
import type { Step } from "../recording/recording";
import { clopperPearsonUpper } from "../math/binomial";
import { sprt } from "./sprt";
import { Synthetic } from "./synthetic";

const EVERY = 700;
const of = (s: Synthetic, id = "face.south") =>
  analyse(s.done(), STANDARD_MAP).analysis.controls[id] as ButtonResult;
const rest = (s: Synthetic, v = 0) => s.add("rest", "", 2500, () => ({ buttons: { 0: v } }));
const span = (t: number, from: number, ms = 90) => t >= from && t < from + ms;

type Behaviour = (t: number, i: number) => Record<number, number>;
const clean: Behaviour = (t) => ({ 0: span(t, 160) ? 1 : 0 });

/** `n` cues 0.7 s apart; `press(t, i)` gives the buttons t ms after cue i. */
function presses(s: Synthetic, n: number, press: Behaviour = clean, step: Step = "press"): Synthetic {
  const cues = Array.from({ length: n }, (_, i) => i * EVERY);
  return s.add(
    step,
    "face.south",
    n * EVERY,
    (t) => ({ buttons: press(t % EVERY, Math.floor(t / EVERY)) }),
    cues,
  );
}
const tested = (n: number, press?: Behaviour) => of(presses(rest(new Synthetic()), n, press));

test("the sequential test: 15 clean presses decide, 27 with one miss", () => {
  expect([sprt(14, 0), sprt(15, 0), sprt(26, 1), sprt(27, 1), sprt(2, 2)]).toEqual([
    "continue",
    "good",
    "continue",
    "good",
    "bad",
  ]);
});

test("the bound is Clopper and Pearson's", () => {
  expect(clopperPearsonUpper(0, 15, 0.95)).toBeCloseTo(1 - 0.05 ** (1 / 15), 9);
  expect(clopperPearsonUpper(1, 10, 0.95)).toBeCloseTo(0.394163, 5);
  expect(clopperPearsonUpper(5, 5, 0.95)).toBe(1);
});

test("15 clean presses are good, 14 are untested", () => {
  expect(tested(15)).toMatchObject({
    cues: 15,
    registered: 15,
    missed: 0,
    extra: 0,
    chatter: 0,
    firesWith: [],
    grade: "A",
    rim: null,
  });
  expect(tested(14)).toMatchObject({ decision: "continue", grade: "untested" });
});

test("misses are counted and judged", () => {
  const r = tested(20, (t, i) => (i % 4 === 0 ? {} : clean(t, i)));
  expect(r).toMatchObject({ cues: 20, registered: 15, missed: 5, decision: "bad", grade: "fail" });
});

test("a press counts from 150 ms before to 450 ms after its cue", () => {
  expect(tested(15, (t) => ({ 0: span(t, 440) ? 1 : 0 })).missed).toBe(0);
  const late = tested(15, (t) => ({ 0: span(t, 470, 60) ? 1 : 0 }));
  expect(late).toMatchObject({ missed: 15, extra: 15 });
  const early = tested(15, (t) => ({ 0: span(t, EVERY - 140, 100) ? 1 : 0 }));
  expect(early.registered).toBe(14);
});

test("a second press on one cue is extra; one under 40 ms after letting go is chatter and not extra", () => {
  expect(tested(15, (t, i) => ({ 0: span(t, 160) || (i === 3 && span(t, 350)) ? 1 : 0 }))).toMatchObject({
    extra: 1,
    chatter: 0,
    grade: "fail",
  });
  expect(tested(15, (t, i) => ({ 0: span(t, 160) || (i === 3 && span(t, 272, 40)) ? 1 : 0 }))).toMatchObject({
    extra: 0,
    chatter: 1,
    grade: "fail",
  });
});

test("firing with another needs two cued presses", () => {
  const along =
    (n: number): Behaviour =>
    (t, i) => ({ 0: span(t, 160) ? 1 : 0, 12: i < n && span(t, 164, 60) ? 1 : 0 });
  expect(tested(15, along(2)).firesWith).toEqual(["pad.up"]);
  const once = tested(15, along(1));
  expect([once.firesWith, once.grade]).toEqual([[], "untested"]); // the thumb's, or the pad's
  expect(once.reasons).toContainEqual(expect.objectContaining({ measure: "firesWith", note: "fired-once" }));
});

test("a cue with under 450 ms of recording left is dropped", () => {
  const s = rest(new Synthetic());
  s.add(
    "press",
    "face.south",
    16 * EVERY - 300,
    (t) => ({ buttons: clean(t % EVERY, 0) }),
    Array.from({ length: 16 }, (_, i) => i * EVERY),
  );
  expect(of(s)).toMatchObject({ cues: 15, missed: 0, extra: 0 });
});

test("stuck at rest fails, whatever else is missing", () => {
  expect(of(rest(new Synthetic(), 1))).toMatchObject({ stuckAtRest: true, decision: null, grade: "fail" });
});

test("good in the middle and bad on the rim is a fault of its own", () => {
  const s = presses(
    presses(rest(new Synthetic()), 15),
    12,
    (t, i) => (i % 2 ? clean(t, i) : {}),
    "press-edge",
  );
  const r = of(s);
  expect(r.decision).toBe("good");
  expect(r.rim).toMatchObject({ cues: 12, missed: 6, decision: "bad" });
  expect(r.reasons).toEqual([
    { measure: "rim.decision", value: "bad", limit: "good", grade: "fail", note: "" },
  ]);
});
