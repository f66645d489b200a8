import { type Leaving, returnChance } from "./return-chance";

const sound: Leaving = { base: 0.04, mends: [], risks: [null, null], unproven: 0, broken: 0 };

test("a sound unit comes back as often as any", () => expect(returnChance(sound)).toBeCloseTo(0.04, 12));

test("each reason raises it, and none makes it more than certain", () => {
  const more: Partial<Leaving>[] = [
    { mends: [0.1] },
    { risks: [0.005, null] },
    { unproven: 1 },
    { broken: 1 },
  ];
  for (const m of more) expect(returnChance({ ...sound, ...m })).toBeGreaterThan(0.04);
  const all = returnChance({ base: 0.5, mends: [0.9, 0.9], risks: [0.5, 0.5], unproven: 5, broken: 5 });
  expect(all).toBeLessThanOrEqual(1);
  expect(all).toBeGreaterThan(0.99);
});

test("two independent mends: out of a hundred, those that stay are multiplied", () =>
  expect(returnChance({ ...sound, base: 0, mends: [0.1, 0.2] })).toBeCloseTo(1 - 0.9 * 0.8, 12));
