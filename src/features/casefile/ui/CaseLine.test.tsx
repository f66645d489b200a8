import { render, screen, within } from "@testing-library/react";

import type { CaseView, FactLine } from "@/features/casefile/view";
import { SHOP } from "../../../../test/ui/models";
import { CaseLine } from "./CaseLine";

/** The line of facts says where each was written down, what it moves, and what ended it. */

const line = (change: Partial<FactLine>): FactLine => ({
  id: "observation 1",
  at: "2026-11-02T10:00:00.000Z",
  who: "ida",
  kind: "observed",
  words: "Seen: y joint, cracked joint",
  station: "find",
  moved: null,
  ended: null,
  ends: 0,
  silent: null,
  weight: null,
  ...change,
});
const show = (change: Partial<CaseView>) =>
  render(
    <CaseLine
      view={{ wired: true, lines: [], standing: 0, ended: 0, about: null, ...change }}
      tag="B-0001"
      shop={SHOP}
    />,
  );
const textOf = (e: HTMLElement | undefined) => e!.textContent;
const facts = () => within(screen.getByRole("list", { name: "The case" })).queryAllByRole("listitem");

test("an empty case says what will come here by itself, and a model without wiring that nothing is weighed", () => {
  show({ wired: false });
  expect(screen.getByText(/Nothing is known of this unit yet/)).toBeTruthy();
  expect(screen.getByText(/no wiring/)).toBeTruthy();
  expect(facts()).toHaveLength(0);
});

test("a fact leads to its station and says in figures what it moves; small shares keep a decimal", () => {
  show({
    standing: 2,
    ended: 1,
    lines: [
      line({ moved: { part: "y joint", without: 0.021, with: 0.71 } }),
      line({ id: "x", kind: "decided", words: "Decided: mend", station: "decide", silent: "decided" }),
      line({ id: "y", words: "Seen: cap, worn" }),
    ],
  });
  expect(screen.getByText(/2 facts count; 1 is over/)).toBeTruthy();
  const [first, second, third] = facts();
  expect(textOf(first)).toContain("y joint: 2.1 % without it, 71 % with it");
  expect(within(first!).getByRole("link", { name: "Find" }).getAttribute("href")).toBe("/units/B-0001/find");
  expect(textOf(second)).toContain("a decision is taken from the facts");
  expect(textOf(third)).toContain("moves no part by a hundredth");
});

test("what is over says since when and by what, and claims to move nothing", () => {
  show({
    lines: [
      line({
        ended: { how: "resoldered", at: "2026-11-03T09:00:00.000Z" },
        moved: { part: "y joint", without: 0.1, with: 0.9 },
      }),
    ],
  });
  const [only] = facts();
  expect(textOf(only)).toMatch(/over since .*3.*: resoldered/);
  expect(textOf(only)).not.toContain("with it");
});

test("what was done says how many facts it ended, beside what it moves", () => {
  show({
    lines: [
      line({ id: "mend 1", kind: "mended", words: "Fresh solder", station: "mend", ends: 3 }),
      line({
        id: "mend 2",
        kind: "mended",
        words: "New cell",
        station: "mend",
        ends: 1,
        moved: { part: "cell", without: 0.4, with: 0.02 },
      }),
    ],
  });
  const [first, second] = facts();
  expect(textOf(first)).toMatch(/ended 3 earlier facts$/);
  expect(textOf(second)).toContain("cell: 40 % without it, 2.0 % with it; ended an earlier fact");
});

test("the figure of a part stands above what speaks for and against it", () => {
  show({
    about: { id: "y.joint", name: "y joint", probability: 0.834, odds: 0.012 },
    lines: [line({ weight: 12 }), line({ id: "z", words: "Good in one test: left stick", weight: 0.25 })],
  });
  expect(screen.getByRole("heading", { name: "What stands behind y joint" })).toBeTruthy();
  expect(screen.getByText("83 %")).toBeTruthy();
  expect(screen.getByText(/from starting odds of 1.2 %/)).toBeTruthy();
  const [up, down] = facts();
  expect(textOf(up)).toContain("for, 12.0 times");
  expect(textOf(down)).toContain("against, 4.0 times");
  expect(screen.getByRole("link", { name: "All facts" }).getAttribute("href")).toBe("/units/B-0001/case");
});

test("a part of which nothing speaks says so, and never shows a figure that is not there", () => {
  show({ about: { id: "cap", name: "cap", probability: 0.01, odds: 0.01 } });
  expect(screen.getByText(/No fact speaks of it/)).toBeTruthy();
});
