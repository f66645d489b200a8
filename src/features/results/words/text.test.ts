import type { Settings } from "@/contract/deeds";
import { REPORTS } from "@/contract/reports";
import { cellFigure, cellText, REPORT_WORDS } from "./text";

const shop = { currency: "EUR", locale: "en-IE" } as Settings;

test("each report asks one question", () => {
  const questions = REPORTS.map((id) => REPORT_WORDS[id].question);
  expect(new Set(questions).size).toBe(REPORTS.length);
  for (const q of questions) expect(q).toMatch(/^[A-Z][^?]+\?$/);
});

test.each([
  [12_345, "money", "€123.45", "123.45"],
  [-5, "money", "-€0.05", "-0.05"],
  [0.3333333, "share", "33 %", 0.3333],
  [4.26, "minutes", "4.3 min", 4.26],
  [42.6, "minutes", "43 min", 42.6],
  [3.2, "days", "3 days", 3.2],
  [7, "count", "7", 7],
] as const)("%d as %s reads %s, and %s in a file", (value, kind, text, figure) => {
  expect(cellText(value, kind, shop)).toBe(text);
  expect(cellFigure(value, kind)).toBe(figure);
});

test("what is not known is said as such and is empty in a file, never a nought", () => {
  expect(cellText(null, "money", shop)).toBe("none");
  expect(cellFigure(null, "money")).toBe("");
  expect(cellText("Dunlin", "text", shop)).toBe("Dunlin");
});
