import { act, render, screen } from "@testing-library/react";

import { useKeys, useScanner, useScanTaker } from "./keys";

/**
 * Single keys and scans: a burst is a scan wherever the focus is, a hand's key an action only outside fields.
 */

const did: string[] = [];
const scanned: string[] = [];
function Page({ taker = () => false }: { taker?: (text: string) => boolean }) {
  useKeys({
    n: () => did.push("n"),
    b: () => did.push("b"),
    " ": () => did.push("space"),
    "alt+3": () => did.push("tray 3"),
  });
  useScanner((text) => scanned.push(text));
  useScanTaker(taker);
  return (
    <>
      <input aria-label="Remark" defaultValue="half a word" />
      <button>On</button>
    </>
  );
}

let now = 1000;
function press(
  key: string,
  {
    after = 200,
    on = document.body as Element,
    ...more
  }: KeyboardEventInit & { after?: number; on?: Element } = {},
) {
  now += after;
  const event = new KeyboardEvent("keydown", { key, bubbles: true, cancelable: true, ...more });
  Object.defineProperty(event, "timeStamp", { value: now });
  const goesOn = on.dispatchEvent(event);
  if (goesOn && key.length === 1 && on instanceof HTMLInputElement) on.value += key;
}
const scan = (text: string, on?: Element) =>
  [...text, "Enter"].forEach((key) => press(key, { after: 4, ...(on ? { on } : {}) }));
const later = () => act(() => void jest.advanceTimersByTime(500));

beforeEach(() => {
  jest.useFakeTimers();
  did.length = scanned.length = 0;
});
afterEach(() => jest.useRealTimers());

test("a hand's key acts after a moment; space at once", () => {
  render(<Page />);
  press("n");
  expect(did).toEqual([]);
  later();
  expect(did).toEqual(["n"]);
  press(" ");
  expect(did).toEqual(["n", "space"]);
});

test("a scan is one scan and none of its letters an action", () => {
  render(<Page />);
  scan("b-0113n");
  later();
  expect(scanned).toEqual(["b-0113n"]);
  expect(did).toEqual([]);
});

test("a scan in a field leaves what stood there; slow typing is no scan", () => {
  render(<Page />);
  const field = screen.getByRole<HTMLInputElement>("textbox");
  scan("B-0117", field);
  expect(field.value).toBe("half a word");
  expect(scanned).toEqual(["B-0117"]);
  for (const key of ["x", "y", "z", "1", "Enter"]) press(key, { on: field });
  expect(field.value).toBe("half a wordxyz1");
  expect(scanned).toEqual(["B-0117"]);
});

test("in a field, with control held, or on a button's own key nothing acts; Alt with a digit always does", () => {
  render(<Page />);
  const field = screen.getByRole("textbox");
  press("n", { on: field });
  press("n", { ctrlKey: true });
  press(" ", { on: screen.getByRole("button") });
  later();
  expect(did).toEqual([]);
  press("3", { on: field, altKey: true, code: "Digit3" });
  expect(did).toEqual(["tray 3"]);
});

test("what comes with a gap is typed, and its tail is never read as a whole code", () => {
  render(<Page />);
  const field = screen.getByLabelText<HTMLInputElement>("Remark");
  for (const key of "B-0188-b") press(key, { after: 4, on: field });
  press("o", { after: 90, on: field });
  for (const key of [..."ard", "Enter"]) press(key, { after: 4, on: field });
  expect(scanned).toEqual([]);
  expect(field.value).toBe("half a wordB-0188-board");
  // nor after a hand looked up for a moment in the midst of it
  field.value = "";
  for (const key of "B") press(key, { after: 2000, on: field });
  for (const key of [..."-0188", "Enter"]) press(key, { after: key === "-" ? 400 : 4, on: field });
  expect([scanned, field.value]).toEqual([[], "B-0188"]);
  // after Enter the next code is one again, however soon it comes
  scan("B-0117", field);
  expect(scanned).toEqual(["B-0117"]);
});

test("a page that takes scans has them first", () => {
  const taken: string[] = [];
  render(<Page taker={(text) => taken.push(text) > 0} />);
  scan("P-0003");
  expect([taken, scanned]).toEqual([["P-0003"], []]);
});

test("a page that is left takes its keys along", () => {
  const page = render(<Page />);
  press("n");
  page.unmount();
  later();
  press("b");
  later();
  expect(did).toEqual([]);
});
