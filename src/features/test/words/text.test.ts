import { readFileSync, readdirSync } from "node:fs";
import { join } from "node:path";

import { plain } from "@/core/bench/result";
import {
  benchResultText,
  FIGURE_NAMES,
  figureLimit,
  figureName,
  figureValue,
  findingText,
  inUnit,
} from "./text";

const folder = join(__dirname, "../../../core/bench");
const sources = readdirSync(folder).filter((f) => f.endsWith(".ts") && !f.endsWith(".test.ts"));
const code = sources.map((f) => readFileSync(join(folder, f), "utf8")).join("\n");

test("every finding that the bench can come to has words of its own", () => {
  const codes = [...code.matchAll(/code: (?:[^"\n{}]*\? )?"([a-z-]+)"(?: : "([a-z-]+)")?/g)]
    .flatMap((m) => [m[1]!, m[2] ?? ""])
    .filter(Boolean);
  const told = codes.filter((c) => !c.startsWith("log-") || c === "log-too-short");
  expect(told.length).toBeGreaterThan(25);
  for (const c of new Set(told))
    expect([
      c,
      findingText({ code: c, facts: { count: 2, tugs: 3, place: "shell", places: "up", metres: 3 } }) !== c,
    ]).toEqual([c, true]);
});

test("every figure has a name", () => {
  const names = [...code.matchAll(/(?:most|least|plain)\(\s*"(\w+)"/g)].map((m) => m[1]!);
  expect(names.length).toBeGreaterThan(20);
  for (const n of new Set(names)) expect([n, FIGURE_NAMES[n]]).toEqual([n, expect.any(String)]);
  expect(figureName("dropouts.shell")).toBe("dropouts, at the shell");
});

test("figures carry their unit, and none is a negative zero", () => {
  expect([
    inUnit(3.7, "V"),
    inUnit(0.18, "ohm"),
    inUnit(10_000, "ohm"),
    inUnit(-0.00001, "share"),
    inUnit(2.5, "m"),
  ]).toEqual(["3.70 V", "0.18 Ω", "10.00 kΩ", "0.0 %", "2.5 m"]);
  expect(figureValue(plain("openVolts", null, "V"))).toBe("not measured");
  expect(figureLimit(plain("openVolts", 3, "V"))).toBe("");
  expect(
    benchResultText({ v: 1, verdict: "pass", figures: [plain("openVolts", 3.9, "V")], findings: [] }),
  ).toBe("open voltage 3.90 V");
});
