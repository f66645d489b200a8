import { type Agreement, billOf } from "./bill";

const agreed = (over: Partial<Agreement>): Agreement => ({
  number: 1,
  found: "left stick: drifts",
  words: "New sensors",
  priceMinor: 3200,
  fault: "mended",
  ...over,
});

test("what was agreed and cured is owed, and what did not help costs nothing", () => {
  const bill = billOf([agreed({}), agreed({ number: 2, priceMinor: 1500, fault: "open" })], 9900);
  expect(bill.sumMinor).toBe(3200);
  expect(bill.ceilingMinor).toBe(3200);
  expect(bill.lines.map((l) => l.billed)).toEqual([true, false]);
});

test("what was said at the door is the ceiling only until something was agreed", () => {
  expect(billOf([], 2500)).toEqual({ lines: [], sumMinor: 0, ceilingMinor: 2500 });
  expect(billOf([], null).ceilingMinor).toBeNull();
  expect(billOf([agreed({ fault: "open" })], 2500).ceilingMinor).toBe(0);
});

test("the sum is that of the lines whatever their order, and in whole minor units", () => {
  const many = [1, 2, 3, 4, 5].map((n) => agreed({ number: n, priceMinor: n * 111 }));
  expect(billOf(many, null).sumMinor).toBe(billOf([...many].reverse(), null).sumMinor);
  expect(billOf(many, null).sumMinor).toBe(15 * 111);
});

test("a like part is owed once it is in, whether or not what it came with was cured", () => {
  const like = (fitted: boolean) => ({ words: "and the right stick", priceMinor: 1800, fitted });
  expect(billOf([agreed({ extras: [like(false)] })], null)).toMatchObject({
    sumMinor: 3200,
    ceilingMinor: 3200,
  });
  expect(billOf([agreed({ extras: [like(true)] })], null).sumMinor).toBe(5000);
  expect(billOf([agreed({ fault: "open", extras: [like(true)] })], null).lines.map((l) => l.billed)).toEqual([
    false,
    true,
  ]);
});
