import { render, screen, within } from "@testing-library/react";
import userEvent from "@testing-library/user-event";

import type { FaultView, UnitView } from "@/features/units/view";
import { MadeUpServer } from "../../../../test/ui/server";
import { modelOf, SHOP } from "../../../../test/ui/models";
import { Fault } from "./Fault";
import { NameFault } from "./NameFault";

/** A fault is a cause: what it shows itself by stands under it, is taken out of it, or is put under another. */

const DONE = { ok: true, value: {} } as const;
const id = () => crypto.randomUUID();
const fault = (number: number, change: Partial<FaultView> = {}): FaultView =>
  ({
    id: id(),
    number,
    place: "stick.left",
    kind: "jumps",
    words: "",
    foundWhen: "test",
    claimed: false,
    measure: "jumps",
    recordingId: null,
    status: "open",
    statusWhy: "",
    cause: "not-known",
    version: 1,
    by: "ida",
    at: "2026-11-02T10:00:00.000Z",
    symptoms: [],
    ...change,
  }) as FaultView;
const symptom = (place: string, kind: string) =>
  ({ id: id(), place, kind, words: "", measure: kind, recordingId: null }) as FaultView["symptoms"][number];
const viewOf = (faults: FaultView[]) =>
  ({
    unit: { id: id(), tag: "B-0001", revision: null },
    profile: modelOf("dunlin"),
    settings: SHOP,
    mends: [],
    faults,
  }) as unknown as UnitView;
const show = (faults: FaultView[], canWork = true) =>
  render(<Fault fault={faults[0]!} view={viewOf(faults)} role="technician" canWork={canWork} />);
const button = (name: string | RegExp) => screen.queryByRole("button", { name });

test("symptoms stand under their fault, each place named where it is another, and one is taken out by a button", async () => {
  const server = new MadeUpServer();
  const one = fault(1, { symptoms: [symptom("stick.left", "noise"), symptom("face.south", "misses")] });
  show([one]);
  const under = within(screen.getByRole("list", { name: "Also shown by" })).getAllByRole("listitem");
  expect(under.map((li) => li.textContent!.replace("Has its own cause", "").trim())).toEqual([
    "noise",
    "face south: misses",
  ]);
  await userEvent.click(within(under[1]!).getByRole("button", { name: "Has its own cause" }));
  expect(server.asked).toMatchObject([{ deed: "symptom.part", input: { symptomId: one.symptoms[1]!.id } }]);
  await server.answer(DONE);
});

test("two open faults can be put under one cause; a settled one is not offered", async () => {
  const server = new MadeUpServer();
  const [first, second, third] = [
    fault(1),
    fault(2, { place: "face.south" }),
    fault(3, { status: "mended" }),
  ];
  show([first!, second!, third!]);
  expect(button("Same cause as 3")).toBeNull();
  await userEvent.click(button("Same cause as 2")!);
  expect(server.asked).toMatchObject([
    { deed: "fault.join", input: { faultId: first!.id, version: 1, underId: second!.id } },
  ]);
  await server.answer(DONE);
});

test("of many open faults the one with the same cause is picked from a list", async () => {
  const server = new MadeUpServer();
  const all = [1, 2, 3, 4, 5].map((n) => fault(n));
  show(all);
  expect(button(/Same cause/)).toBeNull();
  await userEvent.selectOptions(screen.getByRole("combobox", { name: "Same cause as" }), all[3]!.id);
  expect(server.asked).toMatchObject([
    { deed: "fault.join", input: { faultId: all[0]!.id, underId: all[3]!.id } },
  ]);
  await server.answer(DONE);
});

test("a measure's words begin with its name, which is not said twice", () => {
  const said = { ...symptom("stick.left", "shortest reach"), words: "shortest reach 0.0 %: fail" };
  show([fault(1, { symptoms: [said] })], false);
  const [only] = within(screen.getByRole("list", { name: "Also shown by" })).getAllByRole("listitem");
  expect(only!.textContent!.trim()).toBe("shortest reach 0.0 %: fail");
});

test("who only looks changes nothing, and a fault without symptoms has no empty list", () => {
  show([fault(1, { symptoms: [symptom("stick.left", "noise")] }), fault(2)], false);
  expect(screen.getByRole("list", { name: "Also shown by" })).toBeTruthy();
  expect([button("Has its own cause"), button(/Same cause/)]).toEqual([null, null]);
  show([fault(4)], false);
  expect(screen.getAllByRole("list", { name: "Also shown by" })).toHaveLength(1);
});

describe("naming by hand", () => {
  const name = async (faults: FaultView[], place: string, under?: string) => {
    const server = new MadeUpServer();
    render(<NameFault view={viewOf(faults)} place={place} onPlace={() => undefined} />);
    if (under)
      await userEvent.selectOptions(screen.getByRole("combobox", { name: "What it belongs to" }), under);
    await userEvent.type(screen.getByRole("textbox", { name: /^Kind/ }), "worn box");
    await userEvent.click(screen.getByRole("button", { name: "Name the fault" }));
    const [asked] = server.asked;
    await server.answer(DONE);
    return asked!.input;
  };

  test("where a fault is open it is a sign of that cause, unless the hand says that it has its own", async () => {
    const open = fault(1);
    expect(await name([open], "stick.left")).toMatchObject({ under: open.id, measure: null });
  });
  test("a cause of its own is chosen in words", async () => {
    expect(await name([fault(1)], "stick.left", "own")).toMatchObject({ under: "own" });
  });
  test("elsewhere nothing is asked", async () => {
    expect(await name([fault(1)], "stick.right")).not.toHaveProperty("under");
    expect(screen.queryByRole("combobox", { name: "What it belongs to" })).toBeNull();
  });
});
