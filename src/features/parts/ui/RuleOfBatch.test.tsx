import { render } from "@testing-library/react";

import { HOUSE_RISK, samplingPlan } from "@/core/parts/sampling";
import { RuleOfBatch } from "./BatchInspection";

/** What the page of a batch says of the rule it is taken by. */

const words = (pieces: number, risk = HOUSE_RISK) =>
  render(<RuleOfBatch view={{ plan: samplingPlan(pieces, risk), risk }} />).container.textContent!;

test("a rule that keeps both risks says how many and what is borne, and no more", () => {
  const told = words(40);
  expect(told).toContain("13");
  expect(told).not.toMatch(/No sample|too few/);
});

test("where no sample keeps both risks it says so, with the risk that is left, and what to change", () => {
  const risk = { goodShare: 0.05, refuseGood: 0.1, badShare: 0.06, takeBad: 0.1 };
  const told = words(10_000, risk);
  expect(told).toMatch(/No sample of up to 500 pieces keeps both risks/);
  const refused = /refused ([\d.]+) % of the time, not 10.0 %/.exec(told);
  expect(Number(refused![1])).toBeCloseTo(100 * samplingPlan(10_000, risk).refusesGood, 1);
  expect(told).toMatch(/Shop and limits/);
});

test("of too few to tell all are measured, and nothing is said of larger samples", () => {
  const told = words(3);
  expect(told).toMatch(/too few to tell/);
  expect(told).not.toMatch(/No sample/);
});
