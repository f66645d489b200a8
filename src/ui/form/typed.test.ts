import { readdirSync, readFileSync } from "node:fs";
import { join } from "node:path";

import fc from "fast-check";

import { DEEDS, type DeedName } from "@/contract/deeds";
import { fieldRule, fieldWrong, numberIn, readTyped } from "./typed";

const unitId = "0b6f0f0e-6a55-4a3e-9a7c-0d3c1f1f2a11";

describe("what is typed into a deed's form", () => {
  test("amounts, whole numbers and figures are read as a hand writes them, with a point or a comma", () => {
    const { input, wrong } = readTyped(
      "lot.add",
      { code: "L-9", seller: "Quay Lots", priceMinor: "120,5", carriageMinor: "8.90", unitsPromised: "12" },
      {},
    );
    expect(wrong).toEqual({});
    expect(input).toEqual({
      code: "L-9",
      seller: "Quay Lots",
      priceMinor: 12050,
      carriageMinor: 890,
      unitsPromised: 12,
    });
  });

  test("an empty field that may be empty is none; one that may not is told, and so is what cannot be read", () => {
    const { input, wrong } = readTyped(
      "lot.add",
      { code: " ", seller: "", priceMinor: "", carriageMinor: "4o", unitsPromised: "" },
      {},
    );
    expect(input.unitsPromised).toBeNull();
    expect(wrong).toEqual({
      code: "write something here",
      seller: "write something here",
      priceMinor: "missing",
      carriageMinor: "an amount such as 12.50",
    });
  });

  test("a field with a value of its own in the schema is left out when it is empty", () => {
    const { input, wrong } = readTyped(
      "mend.add",
      { what: "Cleaned it", part: "", minutes: "12", remark: "", partMinor: "" },
      { unitId, faultId: null, opened: false, settlesFault: false },
    );
    expect(wrong).toEqual({});
    expect("partMinor" in input).toBe(false);
    expect(DEEDS["mend.add"].input.parse(input).partMinor).toBe(0);
  });

  test("a field left empty is what its form says that it means", () => {
    const typed = { code: "L-9", seller: "Quay Lots", priceMinor: "120", carriageMinor: " " };
    expect(readTyped("lot.add", typed, {}, { carriageMinor: 0 })).toMatchObject({
      input: { carriageMinor: 0 },
      wrong: {},
    });
    expect(readTyped("lot.add", typed, {}).wrong).toEqual({ carriageMinor: "missing" });
  });

  test.each([
    ["mend.add", "minutes", "ten", "a whole number"],
    ["mend.add", "minutes", "2.5", "a whole number"],
    ["mend.add", "minutes", "2001", "too large: at most 2000"],
    ["mend.add", "minutes", "2000", null],
    ["stock.receive", "bin", "A3?!", "letters and digits, 20 at most, such as A3"],
    ["stock.receive", "bin", "A3", null],
    ["person.add", "password", "short", "too short: at least 12 characters"],
    ["wait.start", "minutes", "0,5", null],
    ["wait.start", "minutes", "0.01", "too small: at least 0.05"],
    ["unit.hand-over", "handedOn", "1999-12-31", "in the years 2000 to 2100"],
    ["settings.save", "settings.shopName", "", "write something here"],
    ["settings.save", "settings.idleHours", "400", "too large: at most 336"],
  ] as const)("%s, %s: %s is told as %s", (deed, name, text, said) => {
    expect(fieldWrong(deed, name, text)).toBe(said);
  });

  test("a number is the same where it is shown, allowed and sent, however it is written", () => {
    expect(["12", " 12 ", "12,0", "12.0"].map((t) => numberIn("stock.take", "count", t))).toEqual([
      12, 12, 12, 12,
    ]);
    expect(["", "0", "1,5", "-1", "x", "100001"].map((t) => numberIn("stock.take", "count", t))).toEqual(
      Array(6).fill(null),
    );
    expect(numberIn("lot.add", "priceMinor", "0,05")).toBe(5);
  });

  test("a field shows how it is typed: how long, with which keys, whether it may stay empty", () => {
    expect(fieldRule("lot.add", "code")).toEqual({ kind: "text", maxLength: 20, empty: false });
    expect(fieldRule("customer.add", "contact")).toEqual({ kind: "text", maxLength: 200, empty: true });
    expect(fieldRule("lot.add", "priceMinor")).toMatchObject({ kind: "amount", empty: false });
    expect(fieldRule("lot.add", "unitsPromised")).toMatchObject({ kind: "whole", empty: true });
    expect(fieldRule("wait.start", "minutes")).toMatchObject({ kind: "figure" });
    expect(fieldRule("mend.add", "provisional.fallback")).toMatchObject({ kind: "text", maxLength: 120 });
    expect(() => fieldRule("lot.add", "colour")).toThrow("lot.add has no field colour");
  });

  test("any amount written with either mark is those cents, and one cent too many is told", () => {
    fc.assert(
      fc.property(fc.integer({ min: 0, max: 100_000_000 }), fc.constantFrom(".", ","), (cents, mark) => {
        const digits = String(cents).padStart(3, "0");
        const { input } = readTyped(
          "lot.add",
          { priceMinor: `${digits.slice(0, -2)}${mark}${digits.slice(-2)}` },
          {},
        );
        expect(input.priceMinor).toBe(cents);
      }),
    );
    expect(fieldWrong("lot.add", "priceMinor", "1000000.01")).toBe("at most 1000000.00");
  });

  test("a text is told as too long from one letter beyond what its field lets be typed", () => {
    const fields: [DeedName, string][] = [
      ["lot.add", "code"],
      ["mend.add", "remark"],
      ["fault.settle", "why"],
      ["unit.end", "known"],
      ["tip.add", "words"],
    ];
    for (const [deed, name] of fields) {
      const { maxLength } = fieldRule(deed, name);
      expect(fieldWrong(deed, name, "x".repeat(maxLength!))).toBeNull();
      expect(fieldWrong(deed, name, "x".repeat(maxLength! + 1))).toBe(
        `too long: at most ${maxLength} characters`,
      );
    }
  });
});

describe("every field on a page that names its deed", () => {
  const pages = readdirSync("src", { recursive: true, encoding: "utf8" }).filter((f) => f.endsWith(".tsx"));
  const named = pages.flatMap((file) =>
    [
      ...readFileSync(join("src", file), "utf8").matchAll(/<BoundField\s+deed="([^"]+)"\s+name="([^"]+)"/g),
    ].map(([, deed, name]) => [deed as DeedName, name!] as const),
  );
  test("there are some", () => expect(named.length).toBeGreaterThan(40));
  test.each(named)("%s has %s", (deed, name) =>
    expect(fieldRule(deed, name).kind).toMatch(/text|amount|whole|figure/),
  );
});

test.each<[DeedName, string, string, string | null]>([
  ["question.send", "body.faults.*.options.*.priceMinor", "12.345", "an amount such as 12.50"],
  ["question.send", "body.faults.*.options.*.days", "366", "too large: at most 365"],
  ["unit.take-in", "origin.priceMinor", "4.50", null],
  ["question.send", "body.faults.*.options.*.words", " ", "write something here"],
  ["work.do", "event.where", "x".repeat(500), "too long: at most 120 characters"],
])("a field within a list or one of several forms: %s %s %j", (deed, name, text, wrong) => {
  if (wrong?.startsWith("too long"))
    expect(fieldWrong(deed, name, text)).toMatch(/^too long: at most \d+ characters$/);
  else expect(fieldWrong(deed, name, text)).toBe(wrong);
});

test("a field that a deed does not have is an error at once", () =>
  expect(() => fieldRule("question.send", "body.faults.*.colour")).toThrow("no field"));
