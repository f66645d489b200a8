import { render, screen } from "@testing-library/react";

import type { Advice } from "@/core/decide/advise";
import type { DecideView } from "@/features/decide/view";
import type { Bill } from "@/core/prove/bill";
import { SHOP } from "../../../../test/ui/models";
import { Agreed } from "./Agreed";

/** What was agreed, what of it is owed, and when it no longer reaches. */

const line = {
  number: 1,
  found: "it misses",
  words: "New dome",
  priceMinor: 3200,
  billed: false,
  isLike: false,
};
const bill = (over: Partial<Bill> = {}): Bill => ({ lines: [line], sumMinor: 0, ceilingMinor: 0, ...over });
const decide = (over: object = {}, of: Bill | null = bill()) =>
  ({
    bill: of,
    input: {
      spent: { purchase: 0, parts: 500, minutes: 30 },
      rates: SHOP.rates,
      agreed: [{ place: "face.south", route: "dome-dear" }],
      tried: [],
      ...over,
    },
  }) as unknown as DecideView;
const next = (minor: number) =>
  ({
    tree: { do: "try", attempt: 0 },
    options: [{ terms: [{ code: "labour", minor: -minor }] }],
  }) as unknown as Advice;

test("nothing agreed, nothing said", () => {
  const { container } = render(<Agreed decide={decide({}, bill({ lines: [] }))} advice={null} shop={SHOP} />);
  expect(container.textContent).toBe("");
});

test("what is not cured is listed and not owed; the cured is, and is the figure", () => {
  const two = bill({ lines: [line, { ...line, number: 2, priceMinor: 1000, billed: true }], sumMinor: 1000 });
  render(<Agreed decide={decide({}, two)} advice={next(100)} shop={SHOP} />);
  const shown = screen.getByRole("region", { name: "Bill" });
  expect(shown.textContent).toMatch(/^€10\.00/);
  const [first, second] = screen.getAllByRole("listitem");
  expect(first!.textContent).toContain("not owed");
  expect(second!.textContent).not.toContain("not owed");
  expect(screen.queryByRole("note")).toBeNull();
});

test("an act that costs more than what is left of the agreed sum asks again", () => {
  render(<Agreed decide={decide()} advice={next(2600)} shop={SHOP} />);
  const note = screen.getByRole("note").textContent!;
  expect(note).toContain("€26.00");
  expect(note).toContain("€32.00 agreed");
  expect(note).toContain("Ask again");
});

test("an agreed way that did not help is said, and that another is not agreed", () => {
  render(
    <Agreed
      decide={decide({ tried: [{ place: "face.south", route: "dome-dear" }] })}
      advice={null}
      shop={SHOP}
    />,
  );
  expect(screen.getByRole("note").textContent).toContain("did not help");
});
