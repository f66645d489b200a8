import { fireEvent, render, screen } from "@testing-library/react";
import userEvent from "@testing-library/user-event";

import { MadeUpServer } from "../../../../test/ui/server";
import { modelOf, SHOP } from "../../../../test/ui/models";
import { IntakeForm } from "./IntakeForm";

/** The door on a made-up page: what is missing is named, what is typed stays, what is dangerous comes first. */

const listing = {
  id: "00000000-0000-4000-8000-000000000009",
  modelKey: "dunlin",
  words: "left stick drifts",
  seller: "quayside market",
  priceMinor: 900,
  carriageMinor: 390,
};
const shown = (more: Partial<Parameters<typeof IntakeForm>[0]> = {}) =>
  render(
    <IntakeForm
      models={[modelOf("dunlin"), modelOf("knot")]}
      lots={[]}
      customers={[]}
      nextTag="B-0201"
      freeTrays={3}
      shop={SHOP}
      listing={null}
      {...more}
    />,
  );
const submit = () => userEvent.click(screen.getByRole("button", { name: /^Take in, to a tray/ }));
const model = () => screen.getByRole<HTMLInputElement>("combobox", { name: /Model/ });
beforeEach(() => sessionStorage.clear());

test("without a model nothing is sent, and the field says so", async () => {
  const server = new MadeUpServer();
  shown();
  await submit();
  expect(server.asked).toEqual([]);
  expect(model().getAttribute("aria-invalid")).toBe("true");
});

test("a listing's words, price and seller are there already, and one press takes it in", async () => {
  const server = new MadeUpServer();
  shown({ listing });
  await submit();
  expect(server.asked[0]!.input).toMatchObject({
    profileKey: "dunlin",
    claim: "left stick drifts",
    origin: { source: "single", seller: "quayside market", priceMinor: 900, carriageMinor: 390 },
    toTray: true,
    listingId: listing.id,
    swollen: false,
  });
  await server.answer({ ok: true, value: { tag: "B-0201", unitId: "u", tags: ["B-0201"] } });
});

test("what is told of its history is tapped, goes with it, and is there again after a reload", async () => {
  const server = new MadeUpServer();
  const first = shown({ listing });
  const told = (name: string) => screen.getByRole("button", { name, pressed: undefined });
  await userEvent.click(told("a fall"));
  await userEvent.click(told("teeth"));
  await userEvent.click(told("from the first day"));
  await userEvent.click(told("teeth")); // and not, after all
  first.unmount();
  shown({ listing });
  expect(await screen.findByRole("button", { name: "a fall", pressed: true })).toBeTruthy();
  expect(screen.getByRole("button", { name: "teeth", pressed: false })).toBeTruthy();
  await submit();
  expect(server.asked[0]!.input).toMatchObject({ intake: { told: ["fall", "first-day"] } });
  await server.answer({ ok: true, value: { tag: "B-0201", unitId: "u", tags: ["B-0201"] } });
});

test("the history is one stop for the Tab key, and arrows lead along it", async () => {
  shown({ listing });
  const chips = screen.getAllByRole("button", { pressed: false }).filter((b) => b.tagName !== "BUTTON");
  expect(chips.filter((c) => c.tabIndex === 0)).toHaveLength(1);
  await userEvent.click(chips[0]!);
  await userEvent.keyboard("{ArrowRight}{ArrowRight}{Enter}");
  expect(screen.getByRole("button", { name: "smoke", pressed: true })).toBe(document.activeElement);
  await userEvent.keyboard("{ArrowLeft}{ArrowLeft}{ArrowLeft}");
  expect(screen.getByRole("button", { name: "from one day to the next" })).toBe(document.activeElement);
});

describe("a lot", () => {
  const LOT = { id: "00000000-0000-4000-8000-000000000007", code: "L-7", seller: "quay" };
  const many = async (count: string) => {
    shown({ listing, lots: [LOT] });
    await userEvent.click(screen.getByRole("button", { name: /from a lot/i }));
    await userEvent.selectOptions(screen.getByRole("combobox", { name: /^Lot/ }), LOT.id);
    const field = screen.getByRole("textbox", { name: "How many equal" });
    await userEvent.clear(field);
    if (count) await userEvent.type(field, count);
  };

  test("equal ones are taken in by one form and a count, and the button says so", async () => {
    const server = new MadeUpServer();
    await many("9");
    await userEvent.click(screen.getByRole("button", { name: "Take in 9, and print their labels" }));
    expect(server.asked[0]!.input).toMatchObject({ origin: { source: "lot", lotId: LOT.id, count: 9 } });
    await server.answer({ ok: true, value: { tag: "B-0201", unitId: "u", tags: ["B-0201", "B-0202"] } });
  });

  test("too many, and what is no count, are told; nothing is sent", async () => {
    const server = new MadeUpServer();
    await many("21");
    await userEvent.click(screen.getByRole("button", { name: /^Take in 21/ }));
    expect(server.asked).toEqual([]);
    expect(screen.getByRole("textbox", { name: "How many equal" }).getAttribute("aria-invalid")).toBe("true");
  });
});

test("letters in a price are told, never read as nothing", async () => {
  const server = new MadeUpServer();
  shown({ listing });
  fireEvent.change(screen.getByRole("textbox", { name: /^Price/ }), { target: { value: "9o0" } });
  await submit();
  expect(server.asked).toEqual([]);
  expect(screen.getByRole("textbox", { name: /^Price/ }).getAttribute("aria-invalid")).toBe("true");
});

test("swollen: the caution stands at once, and the way leads into quarantine", async () => {
  shown({ listing });
  await userEvent.click(screen.getByRole("checkbox", { name: /swollen/ }));
  expect(
    screen
      .getAllByRole("alert")
      .map((a) => a.textContent)
      .join(),
  ).toMatch(/Stop\. Do not press, puncture/);
  expect(screen.getByRole("button", { name: "Take in to quarantine" })).toBeTruthy();
});

test("no tray free: it is said on the button before it is pressed", () => {
  shown({ freeTrays: 0 });
  expect(screen.getByRole("button", { name: /without a tray/ })).toBeTruthy();
});

test("what was typed is there again after the page was left, and can be thrown away", async () => {
  const first = shown();
  await userEvent.type(screen.getByRole("textbox", { name: /seller.s words/i }), "drifts");
  first.unmount();
  shown();
  expect(await screen.findByDisplayValue("drifts")).toBeTruthy();
  await userEvent.click(screen.getByRole("button", { name: /anew|again|away/i }));
  expect(screen.queryByDisplayValue("drifts")).toBeNull();
});

test("a refusal keeps everything that was typed", async () => {
  const server = new MadeUpServer();
  shown({ listing: { ...listing, words: "sticks when warm" } });
  await submit();
  await server.answer({ ok: false, problem: { code: "not-allowed", role: "viewer" } });
  expect(screen.getByDisplayValue("sticks when warm")).toBeTruthy();
  expect(screen.getAllByRole("alert").length).toBeGreaterThan(0);
});

test("a mate that is here wants its tag: nothing is sent without one, in words, and nothing is dropped", async () => {
  const server = new MadeUpServer();
  shown({ listing });
  await userEvent.selectOptions(screen.getByLabelText("Belongs with"), "a unit that is here");
  expect(screen.getByText("Type the tag of the unit that it belongs with.")).toBeTruthy();
  await submit();
  expect(server.asked).toEqual([]);
  await userEvent.type(screen.getByLabelText("Its tag"), "b-0117");
  await submit();
  expect(server.asked[0]!.input).toMatchObject({ intake: { mate: { tag: "b-0117", state: "not-known" } } });
  await server.answer({ ok: true, value: { tag: "B-0201", unitId: "u", tags: ["B-0201"] } });
});

test("of a mate that is elsewhere what is told goes with it, and what was told of one that is not there does not", async () => {
  const server = new MadeUpServer();
  shown({ listing });
  const where = screen.getByLabelText("Belongs with");
  await userEvent.selectOptions(where, "one that is elsewhere");
  await userEvent.selectOptions(screen.getByLabelText("How it is"), "faulty");
  await userEvent.selectOptions(screen.getByLabelText("Failed at the place like"), "left stick");
  await userEvent.selectOptions(where, "nothing noted");
  await submit();
  expect(server.asked[0]!.input).toMatchObject({ intake: { mate: null } });
  await server.answer({ ok: true, value: { tag: "B-0201", unitId: "u", tags: ["B-0201"] } });
});
