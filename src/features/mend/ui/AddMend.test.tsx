import { render, screen } from "@testing-library/react";
import userEvent from "@testing-library/user-event";

import type { UnitParts } from "@/features/parts/needs";
import type { UnitView } from "@/features/units/view";
import { MadeUpServer } from "../../../../test/ui/server";
import { modelOf, SHOP } from "../../../../test/ui/models";
import { AddMend } from "./AddMend";

/** The log of mends on a made-up page: what a route offers is taken by a hand only, and half a day is refused. */

let unitId = "";
beforeEach(() => (unitId = crypto.randomUUID()));
const FAULT = "00000000-0000-4000-8000-000000000001";
const view = () =>
  ({
    unit: { id: unitId, intake: { marks: [] } },
    settings: SHOP,
    profile: modelOf("dunlin"),
    minutesNow: 12,
    faults: [{ id: FAULT, number: 1, place: "stick.left", kind: "rests off centre", status: "open" }],
    mends: [],
  }) as unknown as UnitView;
const routes = [
  { id: "module-dear", name: "New module", places: ["stick.left"], part: "module, dear", partMinor: 520 },
  { id: "dome", name: "New dome", places: ["face.south"], part: "dome", partMinor: 90 },
];
const shown = () =>
  render(<AddMend view={view()} routes={routes} parts={{ shelf: [] } as unknown as UnitParts} />);
const box = (name: string | RegExp) => screen.getByRole<HTMLInputElement>("textbox", { name });
const log = () => userEvent.click(screen.getByRole("button", { name: "Log it" }));

test("the caution stands before the first mend", () => {
  shown();
  expect(screen.getByText(/unplug/i)).toBeTruthy();
});

test("nothing said: nothing is sent, and the field says what it wants", async () => {
  const server = new MadeUpServer();
  shown();
  await log();
  expect(server.asked).toEqual([]);
  expect(box(/What was done/).getAttribute("aria-invalid")).toBe("true");
});

test("only routes of the fault's place are offered; one names the work, its part goes in only by hand", async () => {
  const server = new MadeUpServer();
  shown();
  const route = screen.getByRole("combobox", { name: /route/i });
  expect([...route.querySelectorAll("option")].map((o) => o.textContent)).not.toContain("New dome");
  await userEvent.selectOptions(route, "module-dear");
  expect([box(/What was done/).value, box(/Part used/).value]).toEqual(["New module", ""]);
  await userEvent.click(screen.getByRole("button", { name: /It was this/ }));
  expect(box(/Part used/).value).toBe("module, dear");
  await log();
  expect(server.asked[0]!.input).toMatchObject({
    unitId,
    faultId: FAULT,
    what: "New module",
    part: "module, dear",
    partMinor: 520,
    minutes: 12,
    route: "module-dear",
    settlesFault: true,
    provisional: null,
  });
  await server.answer({ ok: true, value: {} });
  expect(box(/What was done/).value).toBe("");
});

test("letters in the cost are told, never read as nothing", async () => {
  const server = new MadeUpServer();
  shown();
  await userEvent.type(box(/What was done/), "Cleaned it");
  await userEvent.clear(box(/Its cost/));
  await userEvent.type(box(/Its cost/), "4o");
  await log();
  expect(server.asked).toEqual([]);
  expect(box(/Its cost/).getAttribute("aria-invalid")).toBe("true");
});

test("good for now needs the day on which it is looked at again", async () => {
  const server = new MadeUpServer();
  shown();
  await userEvent.type(box(/What was done/), "Cleaned it");
  await userEvent.type(box(/[Gg]ood for now/), "a new module");
  await log();
  expect(server.asked).toEqual([]);
  expect(screen.getByText(/[Nn]ame the day/)).toBeTruthy();
});

test("a refusal keeps what was typed", async () => {
  const server = new MadeUpServer();
  shown();
  await userEvent.type(box(/What was done/), "Cleaned it");
  await log();
  await server.answer({ ok: false, problem: { code: "quarantined" } });
  expect(
    screen
      .getAllByRole("alert")
      .map((a) => a.textContent)
      .join(),
  ).toMatch(/quarantine/);
  expect(box(/What was done/).value).toBe("Cleaned it");
});
