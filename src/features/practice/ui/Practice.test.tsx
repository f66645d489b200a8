import { render, screen, within } from "@testing-library/react";
import userEvent from "@testing-library/user-event";

import type { ExerciseView } from "@/features/practice/deeds";
import { SHOP } from "../../../../test/ui/models";
import { LookInside } from "./LookInside";
import { Practice } from "./Practice";

/** An exercise looked at again: what was broken, and what each act lost; and the look that the hidden answers. */

jest.mock("@/features/casefile/ui/OpenCase", () => ({ OpenCase: () => null }));
const refresh = jest.fn();
jest.mock("next/navigation", () => ({ useRouter: () => ({ refresh }) }));

const exercise = (review: object): ExerciseView =>
  ({
    id: "e1",
    tag: "B-0301",
    model: "Knot",
    level: 1,
    fromTag: "",
    beganAt: "2026-11-20T10:00:00.000Z",
    ended: true,
    hidden: [{ place: "face.south", measure: "decision", part: "dome.face.south" }],
    names: { "look.dome.face.south": "Look at the south dome, magnified", "dome-dear": "New dome sheet" },
    score: {
      points: 71,
      found: ["face.south"],
      missed: [],
      wrong: [],
      minutes: 9,
      bestMinutes: 8,
      lostMinor: 420,
      review: {
        best: "mend",
        route: "New dome sheet",
        bestMinor: 1500,
        chosen: "scrap",
        chosenRoute: "",
        chosenMinor: 0,
        ...review,
      },
    },
  }) as unknown as ExerciseView;
const shown = (review: object) =>
  render(<Practice models={[]} cases={[]} exercises={[exercise(review)]} shop={SHOP} />);
const step = (over: object) => ({
  act: "check",
  id: "look.dome.face.south",
  place: null,
  valueMinor: 900,
  best: { act: "attempt", id: "dome-dear", place: "face.south" },
  bestMinor: 1320,
  lostMinor: 420,
  ...over,
});

test("each act stands beside the best one then, by their names, with what it lost", () => {
  const end = { act: "end", id: "scrap", valueMinor: null, lostMinor: 0 };
  shown({
    steps: [step({}), step(end)],
    held: [{ part: "dome.face.south", name: "south dome", share: 0.634 }],
  });
  expect(screen.getByText(/Broken inside: south dome \(held at 63 % in the end\)\./)).toBeTruthy();
  const rows = within(screen.getByLabelText(/^Act by act/)).getAllByRole("row");
  expect(rows).toHaveLength(3);
  expect(rows[1]!.textContent).toContain("Look at the south dome, magnified");
  expect(rows[1]!.textContent).toContain("New dome sheet, face south");
  expect(rows[1]!.textContent).toContain("€4.20");
  expect(rows[2]!.textContent).toContain("not weighed");
  expect(rows[2]!.textContent).toContain("nothing lost");
});

test("an exercise from before acts were reviewed has its score and no empty table", () => {
  shown({});
  expect(screen.getByText(/^Best: /)).toBeTruthy();
  expect(screen.queryByLabelText(/^Act by act/)).toBeNull();
  expect(screen.queryByText(/Broken inside/)).toBeNull();
});

test("a look asks the hidden truth and shows the page anew; a refusal is said", async () => {
  const answers = [
    { ok: false, problem: { code: "not-found", what: "check" } },
    { ok: true, value: { outcome: "sound" } },
  ];
  const asked = jest.fn((_url: string, _init: { body: string }) =>
    Promise.resolve({ json: () => Promise.resolve(answers.shift()) }),
  );
  global.fetch = asked as unknown as typeof fetch;
  render(<LookInside unitId="u1" check="look.dome.face.south" />);
  const look = screen.getByRole("button", { name: "Do it and see" });
  await userEvent.click(look);
  expect((await screen.findByRole("alert")).textContent).toContain("check");
  expect(refresh).not.toHaveBeenCalled();
  await userEvent.click(look);
  expect(JSON.parse(asked.mock.calls[1]![1].body)).toEqual({
    do: "look",
    unitId: "u1",
    check: "look.dome.face.south",
  });
  expect(refresh).toHaveBeenCalledTimes(1);
});
