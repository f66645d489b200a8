import type { Refusal } from "@/contract/refusals";
import { FIRM_BLOCKS } from "@/core/record/standing";
import { refusalText } from "./refusals";

// these two word problems of their own, which features/mend/words/text.test.ts looks at
type Here = Exclude<Refusal["code"], "work" | "no-calibration">;
/** One example of every other refusal: the type makes this list whole. */
const EXAMPLES: { [C in Here]: Extract<Refusal, { code: C }> } = {
  "signed-out": { code: "signed-out" },
  "not-allowed": { code: "not-allowed", role: "viewer" },
  "other-origin": { code: "other-origin" },
  "other-person": { code: "other-person" },
  "other-bench": { code: "other-bench" },
  "bad-input": { code: "bad-input", issues: [{ path: "minutes", message: "a whole number." }] },
  "not-found": { code: "not-found", what: "batch" },
  "changed-meanwhile": { code: "changed-meanwhile", by: "oona", at: "2026-03-04T10:11:12Z" },
  "tray-taken": { code: "tray-taken", tray: 3, tag: "B-0104" },
  quarantined: { code: "quarantined" },
  wet: { code: "wet" },
  closed: { code: "closed" },
  blocked: { code: "blocked", count: 1 },
  "lead-only-limit": { code: "lead-only-limit" },
  "limit-needs-reason": { code: "limit-needs-reason" },
  "no-proof-to-release": { code: "no-proof-to-release" },
  "firm-block": { code: "firm-block", block: "recall" },
  "shop-unnamed": { code: "shop-unnamed" },
  "not-healthy": { code: "not-healthy", why: "its left stick fails" },
  "not-released": { code: "not-released" },
  "not-a-customers": { code: "not-a-customers" },
  "is-a-customers": { code: "is-a-customers" },
  "name-taken": { code: "name-taken", name: "bram" },
  "wrong-password": { code: "wrong-password" },
  "easy-password": { code: "easy-password" },
  "confirm-password": { code: "confirm-password" },
  "too-many-tries": { code: "too-many-tries" },
  "last-lead": { code: "last-lead" },
  already: { code: "already", what: "fault" },
  "too-large": { code: "too-large", limit: "32 MB" },
  "not-an-image": { code: "not-an-image" },
  recording: { code: "recording", message: "The file ends in the middle of a row." },
  "other-controller": { code: "other-controller", lacks: ["trigger.left"], strange: ["stick.right"] },
  "not-a-proof": { code: "not-a-proof", why: "repeated" },
  "model-fixed": { code: "model-fixed" },
  "route-unknown": { code: "route-unknown", route: "polish" },
  untested: { code: "untested", count: 3 },
  "needs-why": { code: "needs-why" },
  "needs-why-gone": { code: "needs-why-gone" },
  "needs-why-cured": { code: "needs-why-cured" },
  "lead-only-safe": { code: "lead-only-safe" },
  "yes-awaited": { code: "yes-awaited", number: 2 },
  "other-agreed": { code: "other-agreed", number: 2, agreed: "New sensors" },
  "over-agreed": { code: "over-agreed", agreedMinor: 4500, isAgreed: true },
  "no-was-said": { code: "no-was-said", number: 2 },
  "shares-do-not-add": { code: "shares-do-not-add", leftMinor: -999 },
  "stock-short": { code: "stock-short", wanted: 4, free: 1, reserved: 2 },
  "batch-touched": { code: "batch-touched", batch: "P-0021" },
  "batch-locked": { code: "batch-locked", batch: "P-0007", status: "rejected" },
  "does-not-fit": { code: "does-not-fit", part: "SM-1", why: [], known: true },
  "not-for-this-use": { code: "not-for-this-use", part: "SM-1", use: "sale" },
  "part-unknown": { code: "part-unknown", part: "SM-1" },
  "test-in-donor-first": { code: "test-in-donor-first" },
  "part-gone": { code: "part-gone", state: "gone" },
  "needs-measuring": { code: "needs-measuring", left: 1 },
  csv: { code: "csv", problems: [{ row: 3, message: "no such part" }] },
  "question-over": { code: "question-over", why: "expired" },
  "clear-the-bond": { code: "clear-the-bond", steps: "Hold home for six seconds." },
  "half-follows-pair": { code: "half-follows-pair", pair: "avocet" },
  "not-its-mate": { code: "not-its-mate", tag: "B-0007", why: "same-half" },
  "not-without-mate": { code: "not-without-mate", mate: "B-0007", stands: "first-test" },
  "read-the-seal": { code: "read-the-seal" },
  "paper-written": { code: "paper-written", kind: "bill", number: 4 },
  "nothing-to-bill": { code: "nothing-to-bill", why: "not-closed" },
  "cover-runs": { code: "cover-runs", until: "2027-03-01" },
  "no-guide": { code: "no-guide" },
  "loose-fragments": { code: "loose-fragments", numbers: [1, 2] },
  "test-first": { code: "test-first", which: "closed" },
  "look-first": { code: "look-first", check: "Look at the left flex, magnified" },
  "rung-untested": { code: "rung-untested", place: "stick.left" },
  "still-waiting": {
    code: "still-waiting",
    waits: [
      { what: "glue", minutes: 12 },
      { what: "soak", minutes: 3 },
    ],
  },
  "too-hot": { code: "too-hot", why: "the pad lifts above 350 °C" },
  "holes-first": { code: "holes-first", holes: [{ hole: 2, why: "solder-in-it" }] },
  "centre-first": { code: "centre-first" },
  "calibrate-first": { code: "calibrate-first", stick: "stick.left" },
  "logged-mend": { code: "logged-mend" },
  "read-back-differs": { code: "read-back-differs" },
  archive: { code: "archive", why: "a file is missing" },
  "not-empty": { code: "not-empty" },
  busy: { code: "busy" },
  away: { code: "away" },
  unexpected: { code: "unexpected", number: "0a1b2c3d" },
};

test.each(Object.values(EXAMPLES))("$code is told in a sentence", (p) => {
  const text = refusalText(p);
  expect(text).toMatch(/^["A-Z0-9].{12,}\.$|^minutes: a whole number\.$/s);
  expect(text).not.toMatch(/undefined|NaN|null|\[object/);
  if (p.code.includes("-")) expect(text).not.toContain(p.code); // a code is no word
});

test("each block that nobody can waive is told, with what to do about it", () => {
  const told = FIRM_BLOCKS.map((block) => refusalText({ code: "firm-block", block }));
  expect(new Set(told).size).toBe(FIRM_BLOCKS.length);
  for (const text of told) expect(text).toMatch(/cannot be waived|never by sale|Change that piece first/);
});

test("one is one, and more are more", () => {
  expect(refusalText({ code: "blocked", count: 1 })).toMatch(/^1 thing blocks/);
  expect(refusalText({ code: "blocked", count: 3 })).toMatch(/^3 things block /);
  expect(refusalText({ code: "needs-measuring", left: 1 })).toMatch(/^1 more piece needs/);
  expect(refusalText({ code: "needs-measuring", left: 5 })).toMatch(/^5 more pieces need /);
  expect(refusalText({ code: "loose-fragments", numbers: [4] })).toMatch(/^Loose piece 4 /);
  expect(refusalText({ code: "loose-fragments", numbers: [4, 6] })).toMatch(/^Loose pieces 4, 6 /);
  expect(refusalText({ code: "stock-short", wanted: 2, free: 1, reserved: 0 })).toBe(
    "2 wanted, 1 free. Take fewer, or from another batch.",
  );
});

test("amounts are told as money, not in the smallest coin", () =>
  expect(refusalText({ code: "shares-do-not-add", leftMinor: -999 })).toContain("by -9.99"));

test.each([
  ["waiting", /waits for its inspection/],
  ["open", /on the shelf already/],
  ["rejected", /is rejected: nothing is taken/],
  ["disposed", /is disposed: nothing is taken/],
])("a batch that is %s says so", (status, words) =>
  expect(refusalText({ code: "batch-locked", batch: "P-0007", status })).toMatch(words),
);
