import { render } from "@testing-library/react";

import { StateMark, stateOfCheck, stateOfGrade, STATE_WORDS } from "./StateMark";

/** The marks of state: told apart by shape alone, and nothing untested looks like a pass. */

const STATES = Object.keys(STATE_WORDS) as (keyof typeof STATE_WORDS)[];
/** What is drawn, with every colour taken away. */
const shapeOf = (state: (typeof STATES)[number]) => {
  const { container } = render(<StateMark state={state} />);
  return container.innerHTML.replace(/var\([^)]*\)|#[0-9a-f]+|css-\w+|fill="none"/g, "");
};

test("each state has a shape of its own, whatever its colour, and a word of its own", () => {
  const shapes = STATES.map(shapeOf);
  expect(new Set(shapes).size).toBe(STATES.length);
  expect(new Set(Object.values(STATE_WORDS)).size).toBe(STATES.length);
});

test("what was not tested, or not looked at, is never a pass", () => {
  expect(stateOfGrade("untested")).toBe("untested");
  expect(stateOfCheck("not-tested")).toBe("untested");
  expect([stateOfGrade("A"), stateOfGrade("B"), stateOfGrade("C"), stateOfGrade("fail")]).toEqual([
    "pass",
    "pass",
    "caution",
    "fail",
  ]);
});
