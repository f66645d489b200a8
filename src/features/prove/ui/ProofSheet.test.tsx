import { render, screen, within } from "@testing-library/react";
import userEvent from "@testing-library/user-event";

import type { ProofLine, UnitView } from "@/features/units/view";
import { MadeUpServer } from "../../../../test/ui/server";
import { SHOP } from "../../../../test/ui/models";
import { ProofSheet } from "./ProofSheet";

/** The proof sheet on a made-up page: empty, busy, refused, out of reach, stale, and for who only looks. */

const line = (key: string, answer: Partial<NonNullable<ProofLine["answer"]>> | null = null) =>
  ({
    key,
    why: { code: "always" },
    answer: answer && {
      result: "pass",
      value: null,
      by: "oona",
      at: "2026-03-02T10:00:00Z",
      stale: false,
      ...answer,
    },
  }) as unknown as ProofLine;
/** what is done stands in the page's queue until its page shows it: each test has a unit of its own */
let unitId = "";
beforeEach(() => (unitId = crypto.randomUUID()));
const view = (...lines: ProofLine[]) =>
  ({ unit: { id: unitId }, settings: SHOP, proofSheet: lines }) as unknown as UnitView;
const shown = (lines: ProofLine[], canWork = true) =>
  render(<ProofSheet view={view(...lines)} canWork={canWork} />);
const rows = () => [...document.querySelectorAll<HTMLElement>("[data-proof]")];
const stateOf = (i: number) => rows()[i]!.getAttribute("aria-label")!.split(": ")[1];

test("nothing answered: every line is not done, and none looks passed", () => {
  shown([line("shake"), line("cable")]);
  expect(screen.getByText(/0 of 2/)).toBeTruthy();
  expect([stateOf(0), stateOf(1)]).toEqual(["not done", "not done"]);
});

test("an answer from before the last work counts no more, and says why", () => {
  shown([line("shake", { stale: true }), line("cable", {})]);
  expect(screen.getByText(/1 of 2/)).toBeTruthy();
  expect([stateOf(0), stateOf(1)]).toEqual(["not done", "pass"]);
  expect(rows()[0]!.textContent).toMatch(/before the last work/);
});

test("keys answer the row that has the focus, which moves on; what is on its way says so", async () => {
  const server = new MadeUpServer();
  shown([line("shake"), line("cable")]);
  rows()[0]!.focus();
  await userEvent.keyboard("q");
  expect(server.asked).toEqual([]);
  await userEvent.keyboard("y");
  expect(document.activeElement).toBe(rows()[1]);
  await userEvent.keyboard("x");
  expect(rows().map((r) => r.getAttribute("aria-label")!)).toEqual([
    expect.stringContaining("pass, saving"),
    expect.stringContaining("fail, saving"),
  ]);
  await server.answer({ ok: true, value: {} });
  await server.answer({ ok: true, value: {} });
  expect(server.asked.map((a) => a.input)).toEqual([
    { unitId, key: "shake", result: "pass", value: null },
    { unitId, key: "cable", result: "fail", value: null },
  ]);
});

test("a refused answer is told by its name, and the line is not done", async () => {
  const server = new MadeUpServer();
  shown([line("shake")]);
  await userEvent.click(within(rows()[0]!).getAllByRole("button")[0]!);
  await server.answer({ ok: false, problem: { code: "quarantined" } });
  expect(screen.getByRole("alert").textContent).toMatch(/quarantine/);
  expect(stateOf(0)).toBe("not done");
});

test("a charge is read, never ticked: a word or a figure of no charge sends nothing", async () => {
  const server = new MadeUpServer();
  shown([line("storage")]);
  const row = rows()[0]!;
  row.focus();
  await userEvent.keyboard("y");
  expect(within(row).queryByRole("button", { name: /pass/ })).toBeNull();
  const field = within(row).getByRole("textbox");
  await userEvent.type(field, "half{Enter}");
  await userEvent.clear(field);
  await userEvent.type(field, "140{Enter}");
  expect(server.asked).toEqual([]);
  await userEvent.clear(field);
  await userEvent.type(field, "48{Enter}");
  expect(server.asked.map((a) => a.input.value)).toEqual([0.48]);
  await server.answer({ ok: true, value: {} });
});

test("who only looks has nothing to press", async () => {
  const server = new MadeUpServer();
  shown([line("shake"), line("storage")], false);
  expect(screen.queryByRole("button")).toBeNull();
  expect(screen.queryByRole("textbox")).toBeNull();
  await userEvent.keyboard("y");
  expect(server.asked).toEqual([]);
});

test("out of reach: the answer waits and is not lost", async () => {
  const server = new MadeUpServer();
  shown([line("shake")]);
  await userEvent.click(within(rows()[0]!).getAllByRole("button")[0]!);
  await server.noLine();
  expect(screen.queryByRole("alert")).toBeNull();
  expect(stateOf(0)).toMatch(/saving/);
});
