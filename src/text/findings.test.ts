import fc from "fast-check";

import { findingIn, type Findings, found } from "@/core/base/finding";
import { z } from "@/core/base/schema";
import { findingWords, foundWords } from "./findings";

const words = (schema: z.ZodType, value: unknown): string[] => {
  const read = schema.safeParse(value);
  return read.success ? [] : read.error.issues.map((i) => findingWords(i.message));
};

test.each<[string, z.ZodType, unknown, string]>([
  ["what is left out", z.strictObject({ a: z.string() }), {}, "missing"],
  ["another kind", z.number(), "7", "should be a number"],
  ["half a piece", z.int(), 1.5, "should be a whole number"],
  ["a number beyond its limit", z.number().max(2000), 2001, "too large: at most 2000"],
  ["one that must stay below", z.number().lt(7), 7, "too large: less than 7"],
  ["one below its least", z.int().min(1), 0, "too small: at least 1"],
  ["a long text", z.string().max(3), "four", "too long: at most 3 characters"],
  ["an empty text", z.string().min(1), "", "write something here"],
  ["a short text", z.string().min(2), "a", "too short: at least 2 characters"],
  ["a long list", z.array(z.int()).max(1), [1, 2], "too long: at most 1 entry"],
  ["one of none", z.enum(["good", "bad"]), "fine", "should be one of: good, bad"],
  ["what is not known", z.strictObject({}), { colour: 1 }, "holds what is not known here: colour"],
  ["an id that is none", z.uuid(), "B-0113", "no id of Birdcage"],
  ["a day that is none", z.iso.date(), "2026-02-30", "no day, such as 2026-11-03"],
  ["a form that it has not", z.union([z.int(), z.boolean()]), "x", "fits none of the forms that it may have"],
])("%s", (_name, schema, value, said) => expect(words(schema, value)).toEqual([said]));

test("a schema's own words go before ours", () =>
  expect(words(z.string().min(12, "use at least 12 characters"), "short")).toEqual([
    "use at least 12 characters",
  ]));

test("a long list of choices is cut, with a sign that it was", () => {
  const [said] = words(z.enum(Array.from({ length: 40 }, (_, i) => `c${i}`)), "x");
  expect(said).toMatch(/c11, \.\.\.$/);
});

test("whatever comes, a person reads words and never the validator's own", () => {
  const schema = z.strictObject({
    id: z.uuid(),
    n: z.int().min(1).max(9),
    kind: z.enum(["a", "b"]),
    when: z.iso.date().nullable(),
    list: z.array(z.strictObject({ x: z.number().min(-1).max(1) })).max(3),
    one: z.discriminatedUnion("k", [
      z.strictObject({ k: z.literal("p") }),
      z.strictObject({ k: z.literal("q"), v: z.string() }),
    ]),
  });
  fc.assert(
    fc.property(
      fc.anything(),
      fc.dictionary(fc.constantFrom("id", "n", "kind", "when", "list", "one", "other"), fc.anything()),
      (a, b) => {
        for (const said of [...words(schema, a), ...words(schema, b)])
          // a name that the sender chose is repeated to them, whatever it is
          expect(said.replace(/^holds what is not known here: .*$/s, "holds what is not known here")).toMatch(
            /^(missing|too|write|no|should|holds|fits|has|does)( |$)(?!.*(invalid|expected|received|<=|>=))/s,
          );
      },
    ),
  );
});

test("a schema's own finding goes through as it is, and a sentence too", () => {
  const schema = z.string().regex(/^x$/, found({ rule: "letters", of: "bin" }));
  expect(words(schema, "y")).toEqual(["letters and digits, 20 at most, such as A3"]);
  expect(findingWords("This day has not come yet.")).toBe("This day has not come yet.");
});

test("what was cut short on its way, or a rule of a later version, is words still", () => {
  const whole = found({ rule: "not-listed", by: "a", what: "slot", name: "b".repeat(40) });
  for (let length = 0; length < whole.length; length++)
    expect(findingWords(whole.slice(0, length))).not.toMatch(/^[{"]./);
  expect(findingWords('{"rule":"of-tomorrow"}')).toBe("does not fit");
  expect(findingIn('{"rule":')).toBeNull();
});

test.each<[keyof Findings, Parameters<typeof found>[0], RegExp]>([
  [
    "not-listed",
    { rule: "not-listed", by: "stick-l", what: "revision", name: "r9" },
    /stick-l names the revision "r9", which is not listed/,
  ],
  ["own-id", { rule: "own-id", of: "slot" }, /^slot: each needs an id of its own$/],
  [
    "freed-twice",
    { rule: "freed-twice", id: "f1", first: "open", second: "lift" },
    /f1 is freed by open and again by lift/,
  ],
  ["never-freed", { rule: "never-freed", id: "f1", what: "fastener" }, /no step frees f1 \(fastener\)/],
  ["breaks-rise", { rule: "breaks-rise", part: "SOLDER", supplier: "s" }, /SOLDER by s must rise/],
])("%s names what it is about", (_rule, finding, said) => expect(findingWords(found(finding))).toMatch(said));

test("a place is told before it, and the whole file by its name", () => {
  expect(
    foundWords({ path: "routes.2.breaks", message: found({ rule: "too-large", most: 1, below: false }) }),
  ).toBe("routes.2.breaks: too large: at most 1");
  expect(foundWords({ path: "", message: found({ rule: "no-json" }) })).toMatch(/^the file: this is no JSON/);
});
