import { fireEvent, render, screen } from "@testing-library/react";
import userEvent from "@testing-library/user-event";

import { MadeUpServer } from "../../../../test/ui/server";
import { SHOP } from "../../../../test/ui/models";
import { ShopSettings } from "./ShopSettings";

/** The shop's settings on a made-up page: figures are typed as people say them and kept as they are computed with. */

let version = 0;
beforeEach(() => version++); // each test's save is another one
const shown = () => render(<ShopSettings settings={SHOP} version={version} />);
const save = () => screen.getAllByRole("button", { name: /^Save/ }).at(-1)!;
const field = (name: RegExp) => screen.getAllByRole<HTMLInputElement>("textbox", { name })[0]!;
const retype = (name: RegExp, text: string) => fireEvent.change(field(name), { target: { value: text } });

test("saved as it stands, every figure comes back as it was", async () => {
  const server = new MadeUpServer();
  shown();
  await userEvent.click(save());
  expect(server.asked.map((a) => a.input)).toEqual([{ version, settings: SHOP }]);
  await server.answer({ ok: true, value: {} });
});

test("a figure that is none is named, and nothing is sent", async () => {
  const server = new MadeUpServer();
  shown();
  retype(/^Warranty.*days/i, "three months");
  await userEvent.click(save());
  expect(server.asked).toEqual([]);
  expect(screen.getByRole("alert").textContent!.length).toBeGreaterThan(10);
});

test("percent are kept as shares, money in cents, and only what was typed is changed", async () => {
  const server = new MadeUpServer();
  shown();
  retype(/^Selling fee.*share/i, "12.5");
  retype(/^An hour at the bench/i, "31,20");
  await userEvent.click(save());
  const { settings } = server.asked[0]!.input as { settings: typeof SHOP };
  expect(settings.rates).toEqual({ ...SHOP.rates, feeShare: 0.125, labourPerHour: 3120 });
  expect({ ...settings, rates: SHOP.rates }).toEqual(SHOP);
  await server.answer({ ok: true, value: {} });
});

test("what somebody else saved meanwhile is told, and what was typed stays", async () => {
  const server = new MadeUpServer();
  shown();
  retype(/^An hour at the bench/i, "33");
  await userEvent.click(save());
  await server.answer({
    ok: false,
    problem: { code: "changed-meanwhile", by: "ida", at: "2026-03-02T10:00:00Z" },
  });
  expect(
    screen
      .getAllByRole("alert")
      .map((a) => a.textContent)
      .join(),
  ).toMatch(/ida/i);
  expect(field(/^An hour at the bench/i).value).toBe("33");
});
