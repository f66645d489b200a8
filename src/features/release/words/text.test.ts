import type { Disclosure } from "@/contract/certificate";
import { CONDITIONS } from "@/core/grade/condition";
import { CARES } from "@/core/prove/care";
import { TRIGGERS } from "@/core/prove/proof";
import {
  CARE_WORDS,
  CONDITION_WORDS,
  conditionRule,
  curveNote,
  curveText,
  disclosureText,
  fittedText,
  listingText,
  partCoverText,
  proofWhyText,
  proofWords,
} from "./text";

/** What a buyer reads: facts in sentences, and nothing that is not on the certificate. */

const DISCLOSURES: { [C in Disclosure["code"]]: [Extract<Disclosure, { code: C }>, string] } = {
  part: [
    { code: "part", name: "left stick module", make: "cheap-copy" },
    "Non-original part: left stick module, cheap copy",
  ],
  "typed-part": [
    { code: "typed-part", name: "magnetic upgrade", what: "Fitted other sticks" },
    "Part fitted, as it was written down: magnetic upgrade (Fitted other sticks)",
  ],
  "donor-part": [{ code: "donor-part", name: "dome sheet" }, "Used part from a donor: dome sheet"],
  route: [{ code: "route", words: "the spring is stiffer" }, "The spring is stiffer"],
  glue: [{ code: "glue", words: "trim glued" }, "Glue was used: trim glued"],
  shim: [{ code: "shim", words: "pad under the dome" }, "A shim or pad is inside: pad under the dome"],
  upgrade: [
    { code: "upgrade", words: "contact-free sensors" },
    "Changed from how it was made: contact-free sensors",
  ],
  marks: [{ code: "marks", kinds: ["scratch", "scuff"] }, "Marks outside: scratch, scuff"],
  lost: [{ code: "lost", names: ["clip 2"] }, "Lost or broken inside and left out: clip 2"],
  damage: [{ code: "damage", place: "seam", what: "dent" }, "Damage done in the workshop: seam, dent"],
  missing: [{ code: "missing", names: ["cord"] }, "Does not come with: cord"],
  "function-lost": [
    { code: "function-lost", names: ["heavy motor"] },
    "Does not work or is not fitted: heavy motor",
  ],
  reading: [
    { code: "reading", reading: "charge-log", subject: "main", verdict: "fail" },
    "Failed when measured: charge log",
  ],
  broken: [{ code: "broken", name: "left flex", finding: "torn" }, "Seen inside and left: left flex, torn"],
  "accepted-fault": [
    { code: "accepted-fault", words: "home is stiff" },
    "Known and left as it is: home is stiff",
  ],
  provisional: [{ code: "provisional", words: "cleaned only" }, "Mended for now, not for good: cleaned only"],
};
test.each(Object.values(DISCLOSURES))("$code is disclosed in words", (d, words) =>
  expect(disclosureText(d)).toBe(words),
);

const SOLD: Parameters<typeof listingText>[0] = {
  model: "Dunlin",
  revision: "later board",
  grade: "B",
  condition: { grade: "light", reasons: [] },
  controls: [
    { id: "stick.left", name: "left stick", grade: "B", figures: [], curve: null },
    { id: "pad", name: "pad", grade: "untested", figures: [], curve: null },
  ],
  functions: [
    { id: "radio", name: "radio", result: "pass", measured: "", with: "", by: "", at: null },
    { id: "motor", name: "heavy motor", result: "not-tested", measured: "", with: "", by: "", at: null },
    { id: "lamp", name: "lamp", result: "fail", measured: "", with: "", by: "", at: null },
  ],
  limit: "by cable only",
  disclosures: [DISCLOSURES.shim[0]],
  warrantyDays: 90,
  known: "The cord is new.",
};

test("a listing says what was measured, what was not, and what a buyer must know", () =>
  expect(listingText(SOLD).split("\n")).toEqual([
    "Dunlin, later board: function grade B, outside light use.",
    "1 of 2 controls measured one by one after the last work on it.",
    "Checked and working: radio.",
    "Not tested: heavy motor.",
    "Limit: by cable only.",
    "A shim or pad is inside: pad under the dome.",
    "The cord is new.",
    "90 days of warranty from the day of handing over.",
    "A signed certificate with every measured figure comes with it.",
  ]));

test("what there is nothing to say about is left out, and no warranty is said", () => {
  const text = listingText({
    ...SOLD,
    functions: [],
    limit: "",
    disclosures: [],
    known: "",
    warrantyDays: 0,
    condition: null,
  });
  expect(text).not.toMatch(/working|Not tested|Limit|shim|outside/);
  expect(text).toContain("Sold without a warranty.");
  expect(text).not.toContain("\n\n");
});

test("every line of the proof sheet has a name and says what to do and why", () => {
  for (const t of TRIGGERS)
    expect(proofWords(`trigger.${t}`)).toMatchObject({ name: expect.stringMatching(/^trigger: \w/) });
  for (const key of ["silence", "rattle", "last-look", "cleaned", "cells", "bond", "storage"])
    expect(proofWords(key).ask.length).toBeGreaterThan(15);
  expect(proofWhyText({ code: "claim", words: "only when tilted" })).toBe(
    "the complaint: “only when tilted”",
  );
  expect(proofWhyText({ code: "rattled", what: "metal" })).toBe("something rattled at the door: metal");
  expect(proofWhyText({ code: "cells-out", where: "lid 3" })).toBe("its cells lie at lid 3");
  expect(proofWhyText({ code: "cells-out", where: "" })).toBe("its cells were taken out");
  expect(proofWhyText({ code: "dirty", what: "grime" })).toContain("grime was noted at the door");
});

test("each condition and each advice of care has words of its own", () => {
  expect(new Set(CONDITIONS.map((c) => CONDITION_WORDS[c])).size).toBe(CONDITIONS.length);
  expect(new Set(CARES.map((c) => CARE_WORDS[c])).size).toBe(CARES.length);
  expect(conditionRule({ rule: "broken-outside", count: 1 })).toBe(
    "1 place is cracked, chewed or missing: worn",
  );
  expect(conditionRule({ rule: "broken-outside", count: 2 })).toBe(
    "2 places are cracked, chewed or missing: worn",
  );
  expect(conditionRule({ rule: "a rule of later years", count: 1 })).toBe("a rule of later years");
});

describe("a curve of the certificate in words", () => {
  const edge = { now: [[2.5, 0.981], [7.5, 1.012]], before: [[2.5, 0.4]], limit: 0.97 } as const; // prettier-ignore
  test("says where it reached, where it reached before, and what grade A asks", () => {
    expect(curveText("stick", edge)).toBe(
      "Edge over the angle: now up to 101.2 %, before up to 40.0 %; grade A reaches at least 97.0 %",
    );
    expect(curveNote("stick", edge)).toBe(
      "Reach over the angle, from right round to right; dashed as it came",
    );
  });
  test("does not tell of a before or a limit that is not there, and never takes nothing for a measure", () => {
    expect(curveText("trigger", { now: [], before: [], limit: null })).toBe(
      "Travel over time: now not measured",
    );
    expect(curveNote("trigger", { before: [] })).toBe("Travel of a slow pull");
  });
});

describe("how long fitted parts are covered", () => {
  const part = (warrantyDays: number | null) => ({
    place: "left stick",
    name: "module",
    make: null,
    used: false,
    warrantyDays,
  });
  const text = (longest: number, ...days: (number | null)[]) =>
    partCoverText({ parts: days.map(part), partWarrantyDays: longest });
  test("one figure where all are alike", () => expect(text(180, 180, 180)).toBe("180 days"));
  test("from the shortest to the longest where they are not", () =>
    expect(text(365, 90, 365)).toBe("90 to 365 days, by part"));
  test("an older certificate said one figure for all", () => expect(text(100, null, null)).toBe("100 days"));
});

describe("a fitted part", () => {
  const part = {
    place: "left stick",
    name: "stick module",
    make: "cheap-copy" as const,
    used: false,
    warrantyDays: 180,
  };
  test("where, what, of which make, new or used, and how long it is covered", () =>
    expect(fittedText(part)).toBe("left stick: stick module, cheap copy, new, warranty 180 days"));
  test("does not say the make twice where its name holds it", () =>
    expect(fittedText({ ...part, name: "stick module, cheap copy", used: true, warrantyDays: null })).toBe(
      "left stick: stick module, cheap copy, used",
    ));
});
