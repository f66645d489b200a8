import type { WaitView } from "@/features/waits/deeds";
import { clockText, isOver } from "./waits";

const wait = (endsAt: string): WaitView => ({
  id: "w",
  unitId: null,
  tag: null,
  tray: null,
  kind: "soak",
  what: "soak",
  startedAt: endsAt,
  endsAt,
});
const end = Date.UTC(2026, 10, 26, 12, 0, 0);
const w = wait(new Date(end).toISOString());

test.each([
  [3 * 3600_000 + 4 * 60_000 + 5000, "3:04:05"],
  [3600_000, "1:00:00"],
  [65_000, "1:05"],
  [900, "0:01"], // never says zero while it runs
  [0, "over:"],
  [-5000, "over:"],
])("%d ms before its end a wait shows %s", (left, shown) => expect(clockText(w, end - left)).toBe(shown));

test("a page that is not alive yet shows no time, and calls nothing over", () => {
  expect(clockText(w, null)).toBe("");
  expect(isOver(w, null)).toBe(false);
  expect(isOver(w, end)).toBe(true);
  expect(isOver(w, end - 1)).toBe(false);
});
