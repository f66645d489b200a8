import { render, screen } from "@testing-library/react";
import userEvent from "@testing-library/user-event";

import { LookStep } from "./LookStep";

/** A check inside a work order is done by its answer, and by nothing else. */

const sent = jest.fn((_input: unknown) => Promise.resolve({ ok: true }));
jest.mock("@/ui/deed/useDeed", () => ({
  useDeed: () => ({ run: (input: unknown) => sent(input), running: false, refusals: [] }),
}));
beforeEach(() => sent.mockClear());

const look = {
  id: "look.left.joint",
  name: "Look at the left joint, magnified",
  opens: true,
  minutes: 1,
  answered: false,
  kind: "check" as const,
  target: "look.left.joint",
  about: "left.joint",
  unit: null,
  outcomes: ["damaged", "sound"],
};
const point = {
  ...look,
  id: "measure.tp1",
  kind: "point" as const,
  target: "tp1",
  about: "tp1",
  unit: "V" as const,
};
const shown = (over: object = {}, { key = "look:look.left.joint", canWork = true } = {}) =>
  render(
    <LookStep
      unit={{ id: "u1" }}
      order={{ looks: [{ ...look, ...over }, point] }}
      step={{ key }}
      canWork={canWork}
    />,
  );

test("each outcome is one press, written down as Find takes it", async () => {
  shown();
  await userEvent.click(screen.getByRole("button", { name: "damaged" }));
  expect(sent.mock.calls[0]![0]).toEqual({
    unitId: "u1",
    kind: "check",
    target: "look.left.joint",
    outcome: "damaged",
    value: null,
    note: "",
  });
});

test("a point wants its figure, and nothing is kept of what is none", async () => {
  shown({}, { key: "look:measure.tp1" });
  const keep = screen.getByRole("button", { name: "Keep the reading" });
  expect(keep.hasAttribute("disabled")).toBe(true);
  await userEvent.type(screen.getByRole("textbox"), "about");
  expect(keep.hasAttribute("disabled")).toBe(true);
  await userEvent.clear(screen.getByRole("textbox"));
  await userEvent.type(screen.getByRole("textbox"), "1.82{Enter}");
  expect(sent.mock.calls[0]![0]).toMatchObject({ kind: "point", target: "tp1", value: 1.82 });
});

test("an answered one says so; who only looks cannot answer; another step shows nothing of it", () => {
  shown({ answered: true }, { canWork: false });
  expect(screen.getByText(/^This is answered/)).toBeTruthy();
  expect(screen.queryByRole("button")).toBeNull();
  expect(shown({}, { key: "mend:1" }).container.textContent).toBe("");
});
