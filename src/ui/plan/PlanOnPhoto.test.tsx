import { fireEvent, render, screen } from "@testing-library/react";
import userEvent from "@testing-library/user-event";

import { controlsOf, placeName } from "@/core/profile/profile";
import { modelOf } from "../../../test/ui/models";
import { farthestApart, PlanOnPhoto } from "./PlanOnPhoto";

/** A photograph behind the drawing: laid by two controls that are tapped on it, and marks land on the plan's own places. */

const dunlin = modelOf("dunlin");
const PHOTO = { id: "b7", width: 1600, height: 1200 };

/** The page's own map is one pixel a millimetre: where the pointer is, is where the plan is. */
beforeAll(() => {
  class Point {
    constructor(
      readonly x: number,
      readonly y: number,
    ) {}
    matrixTransform = () => this;
  }
  Object.assign(globalThis, { DOMPoint: Point });
});

function shown(photos = [PHOTO]) {
  const onPlace = jest.fn();
  const view = render(
    <PlanOnPhoto
      profile={dunlin}
      revision={null}
      marks={[]}
      label="Tap it"
      onPlace={onPlace}
      photos={photos}
    />,
  );
  const tap = (x: number, y: number) => {
    const drawing = screen.getByRole("group", { name: "Tap it" });
    Object.assign(drawing, { getScreenCTM: () => ({ inverse: () => null }) });
    fireEvent(drawing, new MouseEvent("pointerdown", { bubbles: true, clientX: x, clientY: y }));
  };
  const image = () => view.container.querySelector("image");
  /** Where a pixel of the photograph lies on the plan, by the matrix of its markup. */
  const onPlan = (x: number, y: number) => {
    const [a, b, c, d, e, f] = /matrix\((.*)\)/
      .exec(image()!.getAttribute("transform")!)![1]!
      .split(" ")
      .map(Number);
    return [a! * x + c! * y + e!, b! * x + d! * y + f!] as const;
  };
  return { onPlace, tap, image, onPlan, container: view.container };
}
const pair = farthestApart(controlsOf(dunlin, null))!;

test("without photographs there is nothing to choose, and marks land at once", () => {
  const { onPlace, tap } = shown([]);
  expect(screen.queryByRole("combobox")).toBeNull();
  tap(30, 40);
  expect(onPlace.mock.calls).toEqual([[30, 40]]);
});

test("two taps lay the photograph under the controls that were asked for, and place no mark", async () => {
  const { onPlace, tap, image, onPlan } = shown();
  expect(image()).toBeNull();
  await userEvent.selectOptions(screen.getByRole("combobox", { name: "Behind the drawing" }), "photograph 1");
  // the whole photograph is within the plan, and the drawing is not over it
  const [left, top] = onPlan(0, 0);
  const [right, bottom] = onPlan(PHOTO.width, PHOTO.height);
  expect([left >= 0, top >= 0, right <= dunlin.plan.width, bottom <= dunlin.plan.height]).toEqual([
    true,
    true,
    true,
    true,
  ]);
  expect(screen.getByRole("status").textContent).toContain(placeName(pair[0]));
  const pixelAt = (x: number, y: number) =>
    [((x - left) / (right - left)) * PHOTO.width, ((y - top) / (bottom - top)) * PHOTO.height] as const;
  const taps = [[60, 50], [95, 62]] as const; // prettier-ignore
  const pixels = taps.map(([x, y]) => pixelAt(x, y));
  tap(...taps[0]);
  expect(screen.getByRole("status").textContent).toContain(placeName(pair[1]));
  tap(...taps[1]);
  expect(screen.queryByRole("status")).toBeNull();
  for (const [i, [x, y]] of pixels.entries()) {
    const [px, py] = onPlan(x, y);
    expect(Math.hypot(px - pair[i]!.at.x, py - pair[i]!.at.y)).toBeLessThan(0.001);
  }
  expect(onPlace).not.toHaveBeenCalled();
  tap(44.4, 33.3);
  expect(onPlace.mock.calls).toEqual([[44.4, 33.3]]);
});

test("a photograph that was laid wrongly is laid anew; none takes it away", async () => {
  const { tap, image, onPlan } = shown();
  const behind = screen.getByRole("combobox", { name: "Behind the drawing" });
  await userEvent.selectOptions(behind, "photograph 1");
  const before = onPlan(0, 0);
  tap(60, 50);
  tap(95, 62);
  expect(onPlan(0, 0)).not.toEqual(before);
  await userEvent.click(screen.getByRole("button", { name: "Lay it anew" }));
  expect(onPlan(0, 0)).toEqual(before);
  expect(screen.getByRole("status").textContent).toContain(placeName(pair[0]));
  await userEvent.selectOptions(behind, "no photograph");
  expect(image()).toBeNull();
});

test("the same place tapped twice lays nothing: both are asked again, and lay it then", async () => {
  const { tap, onPlace, onPlan } = shown();
  await userEvent.selectOptions(screen.getByRole("combobox", { name: "Behind the drawing" }), "photograph 1");
  tap(60, 50);
  tap(60, 50);
  expect(screen.getByRole("status").textContent).toContain(placeName(pair[0]));
  const before = onPlan(0, 0);
  tap(70, 50);
  expect(screen.getByRole("status").textContent).toContain(placeName(pair[1]));
  tap(95, 62);
  expect(screen.queryByRole("status")).toBeNull();
  expect(onPlan(0, 0)).not.toEqual(before);
  expect(onPlace).not.toHaveBeenCalled();
});
