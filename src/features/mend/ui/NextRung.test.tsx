import { render, screen } from "@testing-library/react";
import userEvent from "@testing-library/user-event";

import type { NextRungs, Proposed } from "@/features/mend/proposal";
import type { OrderView } from "@/features/mend/view";
import { NextRung } from "./NextRung";

/** After a retest that failed: what is offered, to whom, and when nothing is. */

const sent = jest.fn((_input: unknown) => Promise.resolve({ ok: true }));
jest.mock("@/ui/deed/useDeed", () => ({
  useDeed: () => ({ run: (input: unknown) => sent(input), running: false, problem: null }),
}));
beforeEach(() => sent.mockClear());

const held = { key: 1, faultId: "f1", what: "Clean", slot: null, route: "clean-contacts" };
const order = (more: object[] = [], done = true) =>
  ({
    id: "o1",
    version: 4,
    body: { targets: [held, ...more], cleaningLevel: 2, calibrate: ["stick.left"] },
    line: [
      { key: "mend:1", done: true },
      { key: "mend:2", done },
    ],
  }) as unknown as OrderView;
const rung = (change: Partial<Proposed> = {}): Proposed => ({
  faultId: "f1" as never,
  number: 1,
  place: "stick.left",
  what: "Whole module, dear copy",
  slot: "module.left",
  route: "module-dear",
  then: ["module-original"],
  works: 0.62,
  ...change,
});
const shown = (next: Proposed[], { canWork = true, of = order(), more = {} as Partial<NextRungs> } = {}) => {
  const names = { "module-original": "Whole module, original" };
  const rungs: NextRungs = { next, instead: [], looks: [], names, ...more };
  render(<NextRung tag="B-0001" order={of} rungs={rungs} canWork={canWork} />);
};

test("no retest failed: nothing is said", () => {
  shown([]);
  expect(screen.queryByRole("note")).toBeNull();
});

test("the next rung says how likely it is by now and what follows it, and one press puts it after what is held", async () => {
  shown([rung()]);
  const note = screen.getByRole("note").textContent!;
  expect(note).toContain("stick");
  expect(note).toContain("Whole module, dear copy");
  expect(note).toContain("62 of 100");
  expect(note).toContain("If the retest fails: Whole module, original");
  await userEvent.click(screen.getByRole("button", { name: "Put it into the order" }));
  expect(sent).toHaveBeenCalledTimes(1);
  const input = sent.mock.calls[0]![0] as { version: number; targets: { route: string; then: string[] }[] };
  expect(input.version).toBe(4);
  expect(input.targets.map((t) => t.route)).toEqual(["clean-contacts", "module-dear"]);
  expect(input.targets[1]!.then).toEqual(["module-original"]);
});

test("where nothing further pays it says so, leads to deciding anew, and offers nothing to press", () => {
  shown([rung({ route: null, works: null, then: [] })]);
  expect(screen.getByRole("link", { name: "Decide anew" }).getAttribute("href")).toBe("/units/B-0001/decide");
  expect(screen.queryByRole("button")).toBeNull();
});

test("what was put in and waits to be done is not offered twice; who only looks cannot press", () => {
  shown([rung()], { of: order([{ ...held, key: 2, route: "module-dear" }], false) });
  expect(screen.queryByRole("note")).toBeNull();
  shown([rung()], { canWork: false });
  expect(screen.getByRole("note").textContent).toContain("Whole module, dear copy");
  expect(screen.queryByRole("button")).toBeNull();
});

test("what is looked at before the next rung goes into the order with it", async () => {
  shown([rung()], { more: { looks: [{ id: "look.left.joint", name: "Look at the left joint" }] } });
  expect(screen.getByRole("note").textContent).toContain("Before it: Look at the left joint.");
  await userEvent.click(screen.getByRole("button", { name: "Put it into the order" }));
  expect(sent.mock.calls[0]![0]).toMatchObject({ checks: ["look.left.joint"] });
});

test("a check that speaks for another route offers it in place of the one that is held", async () => {
  const of = order([{ ...held, key: 2, faultId: "f2", route: "dome-dear" }], false);
  shown([], { of, more: { instead: [{ key: 2, rung: rung({ faultId: "f2" as never }) }] } });
  expect(screen.getByRole("note").textContent).toContain("speaks for another route");
  await userEvent.click(screen.getByRole("button", { name: "Take it instead" }));
  const input = sent.mock.calls[0]![0] as { targets: { route: string }[] };
  expect(input.targets.map((t) => t.route)).toEqual(["clean-contacts", "module-dear"]);
});
