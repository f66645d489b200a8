import { fireEvent, render, screen } from "@testing-library/react";
import userEvent from "@testing-library/user-event";

import { controlsOf, placeName } from "@/core/profile/profile";
import { modelOf } from "../../../test/ui/models";
import { PlanView } from "./PlanView";

/** The drawing of a unit: what can be picked, what its states say, and where a hand's mark lands. */

const dunlin = modelOf("dunlin");
const controls = controlsOf(dunlin, null);
const shown = (more: Partial<Parameters<typeof PlanView>[0]> = {}) =>
  render(<PlanView profile={dunlin} revision={null} {...more} />);

test("every control can be picked by hand and by key, and each once", async () => {
  const onPick = jest.fn();
  shown({ onPick });
  const buttons = screen.getAllByRole("button");
  expect(buttons.map((b) => b.getAttribute("aria-label")).sort()).toEqual(controls.map(placeName).sort());
  await userEvent.click(screen.getByRole("button", { name: "left stick" }));
  screen.getByRole("button", { name: "right stick" }).focus();
  await userEvent.keyboard("{Enter}");
  await userEvent.keyboard(" ");
  await userEvent.keyboard("x");
  expect(onPick.mock.calls).toEqual([["stick.left"], ["stick.right"], ["stick.right"]]);
});

test("without a way to pick, nothing pretends to be a button", () => {
  shown({ plain: true });
  expect(screen.queryAllByRole("button")).toEqual([]);
  expect(screen.getByRole("img", { name: /Dunlin/ })).toBeTruthy();
});

test("a control that was not tested has no mark of a pass, and its name says so", () => {
  shown({ onPick: () => {}, states: { "stick.left": "untested", "stick.right": "pass" } });
  expect(screen.getByRole("button", { name: "left stick: not tested" })).toBeTruthy();
  expect(screen.getByRole("button", { name: "right stick: pass" })).toBeTruthy();
  const shape = (name: string) => screen.getByRole("button", { name }).querySelectorAll("*");
  expect(shape("left stick: not tested").length).not.toBe(0);
  expect(screen.getByRole("button", { name: "left stick: not tested" }).innerHTML).not.toContain("pass");
});

test("what is picked is told, and only that", () => {
  shown({ onPick: () => {}, selected: "stick.left" });
  const pressed = screen.getAllByRole("button", { pressed: true });
  expect(pressed.map((b) => b.getAttribute("aria-label"))).toEqual(["left stick"]);
});

test("a mark lands where the pointer is, in tenths of a millimetre; before the layout is there it lands nowhere", () => {
  const onPlace = jest.fn();
  shown({ onPlace });
  const drawing = screen.getByRole("group");
  Object.assign(drawing, { getScreenCTM: () => null });
  fireEvent.pointerDown(drawing, { clientX: 50, clientY: 20 });
  expect(onPlace).not.toHaveBeenCalled();
  // the page's own map: two pixels a millimetre, from 10, 4
  class Point {
    constructor(
      readonly x: number,
      readonly y: number,
    ) {}
    matrixTransform = () => new Point((this.x - 10) / 2, (this.y - 4) / 2);
  }
  Object.assign(globalThis, { DOMPoint: Point });
  Object.assign(drawing, { getScreenCTM: () => ({ inverse: () => null }) });
  const down = new MouseEvent("pointerdown", { bubbles: true, clientX: 50.33, clientY: 20 });
  fireEvent(drawing, down);
  expect(onPlace.mock.calls).toEqual([[20.2, 8]]);
});

test("the back is turned over: its own marks mirrored, no controls, and a tap lands by the place behind the front", () => {
  const onPlace = jest.fn();
  const marks = [
    { kind: "crack" as const, x: 20, y: 10, face: "front" as const, words: "", gone: null },
    { kind: "scuff" as const, x: 30, y: 10, face: "back" as const, words: "", gone: null },
    { kind: "stain" as const, x: 0, y: 0, face: "cord" as const, words: "", gone: null },
  ];
  const { container } = shown({ side: "back", marks, onPlace, onPick: () => {} });
  expect(screen.queryAllByRole("button")).toEqual([]);
  expect([...container.querySelectorAll("text")].map((t) => t.textContent)).toEqual(["2"]); // numbered as in the list
  expect(Number(container.querySelector("text")!.getAttribute("x"))).toBe(dunlin.plan.width - 30);
  const drawing = screen.getByRole("group", { name: /^Back of the/ });
  class Same {
    constructor(
      readonly x: number,
      readonly y: number,
    ) {}
    matrixTransform = () => this;
  }
  Object.assign(globalThis, { DOMPoint: Same });
  Object.assign(drawing, { getScreenCTM: () => ({ inverse: () => null }) });
  fireEvent(drawing, new MouseEvent("pointerdown", { bubbles: true, clientX: 12, clientY: 5 }));
  expect(onPlace.mock.calls).toEqual([[dunlin.plan.width - 12, 5]]);
});

test("marks are numbered in their order, with their words", () => {
  const mark = (x: number, words: string) => ({
    kind: "crack" as const,
    x,
    y: 10,
    face: "front" as const,
    words,
    gone: null,
  });
  const { container } = shown({ marks: [mark(10, "by the lip"), mark(30, "")] });
  const numbers = [...container.querySelectorAll("text")].map((t) => t.textContent);
  expect(numbers).toEqual(["1", "2"]);
  expect(container.innerHTML).toContain("by the lip");
});
