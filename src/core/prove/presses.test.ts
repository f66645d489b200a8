import { pooledPresses, pressAim, releaseRisk, doubtfulButtons } from "./presses";

const at = (minute: number) => new Date(Date.UTC(2026, 0, 1, 10, minute));
const of = (presses: number, missed = 0) => ({
  middle: { presses, missed },
  rim: { presses: 0, missed: 0 },
});
const test_ = (minute: number, presses: Record<string, ReturnType<typeof of>>) => ({
  at: at(minute),
  presses,
});

/** The posterior by summing over ten thousand miss rates: no beta function is in it. */
function chanceBySum(presses: number, missed: number): number {
  let bad = 0;
  const n = 10_000;
  for (let i = 0; i < n; i++) {
    const rate = 0.1 + (0.9 * (i + 0.5)) / n;
    bad += (rate ** missed * (1 - rate) ** (presses - missed)) / n;
  }
  const good = 0.01 ** missed * 0.99 ** (presses - missed);
  return (0.01 * bad) / (0.01 * bad + 0.99 * good);
}

test.each([
  [15, 0],
  [21, 0],
  [40, 1],
  [63, 2],
  [150, 3],
])("the chance of a bad button after %i presses with %i missed", (presses, missed) => {
  const { middle } = releaseRisk({ a: of(presses, missed) });
  expect(middle).toBeCloseTo(chanceBySum(presses, missed), 8);
});

test("presses of all tests are pooled, the missed ones of a repeated one too; work at a button forgets its own", () => {
  const tests = [test_(0, { a: of(15, 2), b: of(15) }), test_(20, { a: of(15), b: of(15) })];
  expect(pooledPresses(tests, [])).toMatchObject({ a: of(30, 2), b: of(30) });
  expect(pooledPresses(tests, [{ at: at(10), control: "a" }])).toMatchObject({ a: of(15), b: of(30) });
  expect(pooledPresses(tests, [{ at: at(10), control: null }])).toMatchObject({ a: of(15), b: of(15) });
});

test("the risk is summed, and what is left to press is named, the most doubtful first", () => {
  const pooled = { a: of(30), b: of(15), c: of(20) };
  const aim = pressAim(pooled, 0.001, 15);
  expect(doubtfulButtons(pooled, aim)).toEqual(["b", "c"]);
  const broken = { ...pooled, d: of(20, 10) };
  expect(doubtfulButtons(broken, aim)).toEqual(["b", "c"]); // more presses of a broken one tell nothing
  const one = releaseRisk({ b: of(15) }).middle!;
  expect(releaseRisk({ b: of(15), d: of(15) }).middle).toBeCloseTo(2 * one, 12);
  // a button that misses half is a fault of its own, no risk that it goes by unseen
  expect(releaseRisk({ e: of(20, 10), b: of(15) }).middle).toBeCloseTo(one, 12);
  expect(releaseRisk({}).middle).toBeNull();
});
