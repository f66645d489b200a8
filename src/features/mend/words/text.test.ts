import { BACK_CHECKS, HAZARDS } from "@/core/profile/guide";
import { FATES } from "@/core/mend/work";
import { calibrationText, CAUTIONS, CHECK_WORDS, FATE_WORDS, holeText, workText } from "./text";

test("every hazard, check and fate has words of its own", () => {
  for (const words of [
    HAZARDS.map((h) => CAUTIONS[h]),
    BACK_CHECKS.map((c) => CHECK_WORDS[c]),
    FATES.map((f) => FATE_WORDS[f]),
  ]) {
    expect(words.every((w) => w.length > 3)).toBe(true);
    expect(new Set(words).size).toBe(words.length);
  }
});

test("a refusal names what is meant and says what to do; a long list is cut", () => {
  const names = { "fastener:a": "fastener a, 6 mm" };
  expect(workText({ code: "left-out", items: ["fastener:a"] }, names)).toBe(
    "Not back yet: fastener a, 6 mm. Put it back, or say what became of it.",
  );
  expect(workText({ code: "left-out", items: ["a", "b", "c", "d", "e", "f"] }, {})).toBe(
    "Not back yet: a; b; c; d; and 2 more. Put each back, or say what became of it.",
  );
  expect(workText({ code: "blocked-by", steps: ["label"] }, { label: "Lift the label" })).toContain(
    "First: Lift the label",
  );
  expect(workText({ code: "tasks-open", tasks: ["mend:1"] }, {})).toContain(
    "1 task of the work order is not done",
  );
});

test("a hole says what is to be done, and a refused calibration which figure is over which limit", () => {
  expect(holeText({ hole: 3, why: "solder-in-it" })).toBe(
    "hole 3 still holds solder: fresh solder, then clear it",
  );
  expect(
    calibrationText("stick.left", { code: "worn", reasons: [], scatter: { value: 0.3, limit: 0.2 } }),
  ).toContain("scatter after release 30.0 % (limit 20.0 %)");
  expect(calibrationText("stick.left", { code: "not-measured" })).toContain(
    "left stick is not measured well enough",
  );
});
