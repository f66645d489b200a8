import { render } from "@testing-library/react";

import { StateMark, stateOfCheck, stateOfGrade, STATE_WORDS } from "./StateMark";

/** The marks of state: told apart by shape alone, and nothing untested looks like a pass. */

const STATES = Object.keys(STATE_WORDS) as (keyof typeof STATE_WORDS)[];
/** What is drawn, with every colour and every word taken away. */
const shapeOf = (state: (typeof STATES)[number], size?: number) => {
  const { container } = render(<StateMark state={state} {...(size ? { size } : {})} />);
  return [...container.querySelectorAll("path")].map((p) => p.getAttribute("d")).join(" ");
};
const sideOf = (size: number) =>
  Number(
    render(<StateMark state="A" size={size} />)
      .container.querySelector("svg")!
      .getAttribute("width"),
  );

test("each state has a shape of its own, whatever its colour, and a word of its own", () => {
  const shapes = STATES.map((s) => shapeOf(s));
  expect(new Set(shapes).size).toBe(STATES.length);
  expect(new Set(Object.values(STATE_WORDS)).size).toBe(STATES.length);
});

test("it is never smaller than can be told, and a grade has its letter as soon as that can be read", () => {
  expect([sideOf(8), sideOf(12), sideOf(20)]).toEqual([12, 12, 20]);
  // without its letter an A is the full disc of whatever passes
  expect(shapeOf("A", 15)).toBe(shapeOf("pass", 15));
  expect(shapeOf("A", 16)).not.toBe(shapeOf("pass", 16));
  expect(shapeOf("C", 16)).not.toBe(shapeOf("caution", 16));
});

test("what was not tested, or not looked at, is never a pass", () => {
  expect(stateOfGrade("untested")).toBe("untested");
  expect(stateOfCheck("not-tested")).toBe("untested");
  expect([stateOfGrade("A"), stateOfGrade("B"), stateOfGrade("C"), stateOfGrade("fail")]).toEqual([
    "A",
    "B",
    "C",
    "fail",
  ]);
});
