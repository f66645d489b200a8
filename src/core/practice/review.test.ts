import { readFileSync } from "node:fs";

import { readCaseFile } from "../casefile/read";
import type { CaseFact } from "../casefile/format";
import { adviseOnCase } from "../casefile/advice";
import type { CaseWhole } from "../casefile/known";
import { profileSchema } from "../profile/profile";
import { heldOf, reviewCase } from "./review";

/** A case looked at again: what each act lost, by what was known before it. */

const AVOCET = profileSchema.parse(JSON.parse(readFileSync("profiles/avocet.json", "utf8")));
const AT = (minute: number) => new Date(Date.UTC(2026, 10, 2, 9, minute)).toISOString();
const DRIFTS: CaseFact[] = [
  ...AVOCET.controls.flatMap((c): CaseFact[] =>
    c.id === "stick.left" ? [] : [{ kind: "works", place: c.id, at: AT(0) }],
  ),
  ...AVOCET.functions.map((f): CaseFact => ({ kind: "function", place: f.id, outcome: "pass", at: AT(0) })),
  {
    kind: "measure",
    place: "stick.left",
    measure: "restOffset",
    value: 0.21,
    grade: "fail",
    axis: "x",
    direction: "right",
    test: "first",
    at: AT(1),
  },
];
function caseOf(...more: CaseFact[]): CaseWhole {
  const facts = [...DRIFTS, ...more];
  const read = readCaseFile(
    JSON.stringify({ format: "birdcage-case", version: 1, profile: AVOCET, facts }),
    null,
  );
  if (!read.ok) throw new Error(read.problem.message);
  return read.value;
}
const tried = (act: string, minute: number): CaseFact => ({
  kind: "tried",
  act,
  places: ["stick.left"],
  retest: "fail",
  at: AT(minute),
});
const advice = adviseOnCase(caseOf());

test("the best act loses nothing, and what the command prints for it is what the review says", () => {
  const best = advice.acts.find((a) => a.act === "attempt")!;
  const [step] = reviewCase(caseOf(tried(best.route!, 10)));
  expect(step).toMatchObject({
    act: "attempt",
    id: best.route,
    place: "stick.left",
    valueMinor: Math.round(best.valueMinor),
    bestMinor: Math.round(advice.next!.valueMinor),
  });
  expect(step!.lostMinor).toBe(
    Math.round(advice.next!.valueMinor - best.valueMinor) < 50
      ? 0
      : Math.round(advice.next!.valueMinor - best.valueMinor),
  );
});

test("giving up what pays loses all that it would have brought; a worse route loses the difference", () => {
  const scrap: CaseFact = { kind: "decided", act: "scrap", why: "", at: AT(10) };
  const [end] = reviewCase(caseOf(scrap));
  expect(end!.act).toBe("end");
  expect(end!.lostMinor).toBeGreaterThanOrEqual(Math.round(advice.next!.valueMinor));
  const routes = advice.acts.filter((a) => a.act === "attempt" && a.place === "stick.left");
  const worst = routes.at(-1)!;
  const [step] = reviewCase(caseOf(tried(worst.route!, 10)));
  expect(step!.lostMinor).toBeCloseTo(advice.next!.valueMinor - worst.valueMinor, -1);
});

test("each act is judged by what was known before it: the same second act may be worse after a failed first", () => {
  const routes = advice.acts.filter((a) => a.act === "attempt" && a.place === "stick.left");
  const [first, second] = routes;
  const steps = reviewCase(caseOf(tried(first!.route!, 10), tried(second!.route!, 20)));
  expect(steps.map((s) => s.id)).toEqual([first!.route, second!.route]);
  expect(steps[1]!.bestMinor).toBeLessThanOrEqual(steps[0]!.bestMinor);
});

test("going on is no act of its own, and before anything failed there is nothing to lose", () => {
  expect(reviewCase(caseOf({ kind: "decided", act: "mend", why: "", at: AT(10) }))).toEqual([]);
  const early: CaseFact = { kind: "decided", act: "scrap", why: "", at: new Date(0).toISOString() };
  expect(reviewCase(caseOf(early))).toEqual([]);
});

test("what the case held of the broken part in the end is its share of the belief", () => {
  const [held] = heldOf(caseOf(), ["sensor.left.x"]);
  expect(held!.share).toBeGreaterThan(0.3);
  expect(held!.name.length).toBeGreaterThan(3);
  expect(heldOf(caseOf(), ["no-such-part"])).toEqual([]);
});
