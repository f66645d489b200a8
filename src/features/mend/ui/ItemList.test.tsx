import { fireEvent, render, screen } from "@testing-library/react";
import userEvent from "@testing-library/user-event";

import type { OrderView } from "@/features/mend/view";
import { ItemList } from "./ItemList";

/** The pieces of a step on a made-up page: what a hand and a key tick, and what only shows. */

const order = {
  guide: {
    fasteners: [],
    clips: [],
    cables: [],
    pieces: [
      { id: "cap", name: "left cap", sits: "on its post", falls: true },
      { id: "ring", name: "ring", sits: "under the cap" },
    ],
  },
} as unknown as OrderView;
type Item = OrderView["items"][number];
const item = (id: string, state: Item["state"], more: object = {}) =>
  ({ id: `piece:${id}`, state, away: "", fate: null, why: "", ...more }) as unknown as Item;

const hands = () => ({ onMark: jest.fn<void, [number]>(), onToggle: jest.fn<void, [Item]>() });
const shown = (canWork: boolean, h = hands(), marked = 0) => {
  render(
    <ItemList
      items={[item("cap", "out"), item("ring", "in")]}
      order={order}
      phase="back"
      marked={marked}
      canWork={canWork}
      {...h}
    />,
  );
  return h;
};

test("whoever may not work sees where each piece is and can tick none", async () => {
  const h = shown(false);
  expect(screen.queryByRole("checkbox")).toBeNull();
  expect(screen.getByText("left cap").closest("li")!.textContent).toMatch(/◌ out/);
  await userEvent.click(screen.getByText("left cap"));
  expect(h.onToggle).not.toHaveBeenCalled();
});

test("a piece that is out is unticked, says that it falls out, and a press puts it back", async () => {
  const h = shown(true);
  const cap = screen.getByRole("checkbox", { name: /left cap/ });
  expect(cap.getAttribute("aria-checked")).toBe("false");
  expect(cap.textContent).toMatch(/falls out/);
  await userEvent.click(cap);
  expect(h.onMark).toHaveBeenLastCalledWith(0);
  expect(h.onToggle).toHaveBeenCalledTimes(1);
  expect(h.onToggle.mock.calls[0]![0].id).toBe("piece:cap");
});

test("Space ticks and does not scroll; Enter is the step's and ticks nothing", () => {
  const h = shown(true);
  const ring = screen.getByRole("checkbox", { name: /ring/ });
  expect(fireEvent.keyDown(ring, { key: "Enter" })).toBe(true);
  expect(h.onToggle).not.toHaveBeenCalled();
  expect(fireEvent.keyDown(ring, { key: " " })).toBe(false);
  expect(h.onToggle.mock.calls[0]![0].id).toBe("piece:ring");
});

test("what was settled says how, and why", () => {
  render(
    <ItemList
      items={[item("ring", "explained", { fate: "lost", why: "under the bench" })]}
      order={order}
      phase="back"
      marked={0}
      canWork
      {...hands()}
    />,
  );
  expect(screen.getByRole("checkbox").textContent).toMatch(/settled.*lost here: under the bench/);
});
