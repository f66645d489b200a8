import { render, screen } from "@testing-library/react";
import userEvent from "@testing-library/user-event";

import type { Part } from "@/core/parts/catalogue";
import type { BatchView } from "@/features/stock/batch-view";
import { MadeUpServer } from "../../../../test/ui/server";
import { Inspect } from "./Inspect";

/** Pieces measured one after another on a made-up page: what is missing is said, and no number is taken twice. */

type Check = NonNullable<Part["check"]>;
const part = (check: Partial<Check>) => ({ check: { minutes: 1, ...check }, tells: [] }) as unknown as Part;
/** what is done stands in the page's queue until its page shows it: each test has a batch of its own */
let batchId = "";
beforeEach(() => {
  localStorage.clear();
  batchId = crypto.randomUUID();
});
const view = (read: number[], pieces = 5) =>
  ({
    batch: { id: batchId, code: "P-0007", pieces },
    readings: read.map((number) => ({ number, verdict: "good", findings: [] })),
  }) as unknown as BatchView;
const keep = () => screen.getByRole("button", { name: "Keep this piece" });

test("nothing marked, or half of it: said in words, and nothing is sent", async () => {
  const server = new MadeUpServer();
  render(<Inspect view={view([])} part={part({ feelMin: 3 })} />);
  await userEvent.click(keep());
  expect(screen.getByRole("alert").textContent).toMatch(/Mark the feel/);
  expect(server.asked).toEqual([]);
});

test("a piece that is typed: both ends of the wiper are asked for", async () => {
  const server = new MadeUpServer();
  render(<Inspect view={view([])} part={part({ imbalanceMax: 0.1 })} />);
  await userEvent.type(screen.getByLabelText(/Wiper to one end/), "5040");
  await userEvent.click(keep());
  expect(screen.getByRole("alert").textContent).toMatch(/[Mm]easure or type what is missing/);
  expect(server.asked).toEqual([]);
  await userEvent.type(screen.getByLabelText(/to the other/), "4980");
  await userEvent.click(keep());
  expect(server.asked[0]!.input).toMatchObject({
    batchId,
    number: 1,
    reading: { ohms: [5040, 4980], thicknessMm: null, feel: null, tells: null },
  });
  await server.answer({ ok: true, value: { verdict: "good" } });
});

test("the next number is the first that nobody took; a refused piece is asked for again", async () => {
  const server = new MadeUpServer();
  render(<Inspect view={view([1, 2, 4])} part={part({ imbalanceMax: 0.1 })} />);
  expect(screen.getByRole("heading", { name: "Piece 3" })).toBeTruthy();
  await userEvent.type(screen.getByLabelText(/Wiper to one end/), "5000");
  await userEvent.type(screen.getByLabelText(/to the other/), "5000");
  await userEvent.click(keep());
  expect(screen.getByRole("heading", { name: "Piece 5" })).toBeTruthy();
  await server.answer({ ok: false, problem: { code: "batch-locked", batch: "P-0007", status: "rejected" } });
  expect(screen.getByRole("heading", { name: "Piece 3" })).toBeTruthy();
  expect(screen.getByRole("alert").textContent).toMatch(/P-0007/);
});

test("the bound key reads the next figure, not while one types, and the piece is kept when all is there", async () => {
  const server = new MadeUpServer();
  render(<Inspect view={view([])} part={part({ imbalanceMax: 0.1 })} />);
  await userEvent.click(screen.getByRole("combobox", { name: "Figures from" }));
  await userEvent.click(screen.getByRole("option", { name: "simulated meter, good pieces" }));
  await userEvent.click(screen.getByRole("button", { name: "Bind another key or pedal" }));
  await userEvent.keyboard("{F9}");
  await userEvent.click(screen.getByLabelText(/to the other/));
  await userEvent.keyboard("{F9}");
  expect(screen.getByLabelText<HTMLInputElement>(/Wiper to one end/).value).toBe("");
  await userEvent.click(screen.getByRole("heading", { name: "Piece 1" }));
  await userEvent.keyboard("{F9}");
  expect(await screen.findByDisplayValue(/^\d/)).toBe(screen.getByLabelText(/Wiper to one end/));
  await userEvent.keyboard("{F9}");
  expect(await screen.findByRole("heading", { name: "Piece 2" })).toBeTruthy();
  expect(server.asked).toHaveLength(1);
  await server.answer({ ok: true, value: { verdict: "good" } });
});

test("when every piece was measured nothing more is asked for", () => {
  render(<Inspect view={view([1, 2], 2)} part={part({ feelMin: 3 })} />);
  expect(screen.queryByRole("form")).toBeNull();
  expect(screen.getByText(/[Ee]very piece was measured/)).toBeTruthy();
});
