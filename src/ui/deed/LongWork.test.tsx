import { act, render, screen } from "@testing-library/react";
import userEvent from "@testing-library/user-event";

import type { Reply } from "@/contract/refusals";
import { LongWork, useLongWork } from "./LongWork";

/** Work that somebody waits for: shown, stopped, refused, and the page left meanwhile. */

type Ask = Parameters<ReturnType<typeof useLongWork>["run"]>[1];
let work: {
  signal: AbortSignal;
  tell: Parameters<Ask>[1];
  end: (reply: Reply) => void;
  fail: (error: unknown) => void;
};
const ask: Ask = (signal, tell) =>
  new Promise((end, fail) => {
    work = { signal, tell, end, fail };
    signal.addEventListener("abort", () => fail(new DOMException("stopped", "AbortError")));
  });

const replies: (Reply | null)[] = [];
function Page() {
  const long = useLongWork();
  return (
    <>
      <button disabled={long.running} onClick={async () => replies.push(await long.run("Reading it", ask))}>
        Begin
      </button>
      <LongWork work={long} />
    </>
  );
}
const begin = async () => {
  replies.length = 0;
  const page = render(<Page />);
  await userEvent.click(screen.getByRole("button", { name: "Begin" }));
  return page;
};
const told = (run: () => void) =>
  act(async () => {
    run();
    await Promise.resolve();
  });

test("nobody knows how far it is at first; then its share is shown, and it can be begun only once", async () => {
  await begin();
  expect(screen.getByRole("progressbar", { name: "Reading it" }).getAttribute("aria-valuenow")).toBeNull();
  expect(screen.getByRole<HTMLButtonElement>("button", { name: "Begin" }).disabled).toBe(true);
  await told(() => work.tell({ words: "Comparing", share: 0.34 }));
  expect(screen.getByRole("progressbar", { name: "Comparing" }).getAttribute("aria-valuenow")).toBe("34");
  expect(screen.getByRole("status").textContent).toBe("Comparing34 %");
  await told(() => work.end({ ok: true, value: {} }));
  expect(screen.queryByRole("progressbar")).toBeNull();
  expect(replies).toEqual([{ ok: true, value: {} }]);
});

test("stopped: said so, nothing is given, and it can be begun anew", async () => {
  await begin();
  await userEvent.click(screen.getByRole("button", { name: "Stop" }));
  expect(work.signal.aborted).toBe(true);
  expect(screen.getByText("Stopped. Nothing was kept.")).toBeTruthy();
  expect(replies).toEqual([null]);
  await userEvent.click(screen.getByRole("button", { name: "Begin" }));
  expect(screen.queryByText("Stopped. Nothing was kept.")).toBeNull();
  expect(work.signal.aborted).toBe(false);
});

test("refused, or out of reach: told in words", async () => {
  await begin();
  await told(() => work.end({ ok: false, problem: { code: "not-empty" } }));
  expect(screen.getByRole("alert").textContent).not.toBe("");
  await userEvent.click(screen.getByRole("button", { name: "Begin" }));
  expect(screen.queryByRole("alert")).toBeNull();
  await told(() => work.fail(new TypeError("no line")));
  expect(screen.getByRole("alert").textContent).toMatch(/reach/);
});

test("whoever leaves the page stops the work", async () => {
  const page = await begin();
  page.unmount();
  expect(work.signal.aborted).toBe(true);
});
