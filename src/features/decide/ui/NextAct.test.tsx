import { act, render, screen } from "@testing-library/react";

import type { Advice } from "@/core/decide/advise";
import type { NextView } from "@/features/decide/next";
import { SHOP } from "../../../../test/ui/models";
import { NextAct } from "./NextAct";
import { useAdvice } from "./useAdvice";

/** The one next act: at once what is kept, told as old where a fact came since, and then what holds now. */

const AT = "2026-11-02T10:05:00.000Z";
const looking = {
  best: "mend",
  value: 2148,
  upper: 2148,
  testFirst: false,
  checks: [
    { id: "look.flex", kind: "look", name: "left flex" },
    { id: "probe.switch", kind: "probe", name: "right bumper switch" },
  ],
  places: [{ place: "bumper.right", twin: false }],
  options: [{ route: { name: "New switch, original" } }],
  acts: [
    { do: "check", index: 1, value: 2148 },
    { do: "try", index: 0, value: 2142 },
    { do: "end", index: -1, value: 1653 },
  ],
  ends: [
    { disposition: "mend", value: 2148 },
    { disposition: "strip", value: 1653 },
    { disposition: "sell-as-it-is", value: 900 },
  ],
  tree: {
    do: "check",
    check: 1,
    outcomes: [
      { code: "off", chance: 0.6, then: { do: "try", attempt: 0 } },
      { code: "right", chance: 0.4, then: { do: "give-up", value: 1653 } },
    ],
  },
} as unknown as Advice;
const trying = {
  ...looking,
  value: 2300,
  acts: [looking.acts[1]!, looking.acts[2]!],
  tree: { do: "try", attempt: 0 },
} as unknown as Advice;

let answers: ((reply: unknown) => void)[];
let asked: string[];
beforeEach(() => {
  [answers, asked] = [[], []];
  (globalThis as { fetch: unknown }).fetch = async (url: string) => {
    asked.push(url);
    const reply = await new Promise((resolve) => answers.push(resolve));
    return { json: async () => reply };
  };
});
const answer = (reply: unknown) =>
  act(async () => {
    answers.shift()!(reply);
    await new Promise((resolve) => setTimeout(resolve));
  });

function Shown({ next }: { next: NextView }) {
  return <NextAct got={useAdvice("B-0001", next)} shop={SHOP} />;
}
const next = (kept: NextView["kept"], checks: string[] = []): NextView => ({ digest: "d", checks, kept });

test("kept and fresh: what is next, against the second best, what each outcome leads to, and its age; nothing is asked", () => {
  render(<Shown next={next({ advice: looking, at: AT, fresh: true })} />);
  expect(screen.getByRole("heading", { name: "Probe the right bumper switch by itself" })).toBeTruthy();
  expect(screen.getByText("€21.48")).toBeTruthy();
  expect(screen.getByText(/€0\.06 more than the second best: New switch, original, €21\.42/)).toBeTruthy();
  expect(screen.getByText("If it is “off” (60 of 100): New switch, original")).toBeTruthy();
  expect(screen.getByText("If it is “right” (40 of 100): Strip for parts")).toBeTruthy();
  expect(screen.getByText("Worked out at 10:05, on all that is known.")).toBeTruthy();
  expect(asked).toEqual([]);
});

test("a fact came since: the old one is shown with its own checks and told as old, until the new one is there", async () => {
  render(<Shown next={next({ advice: looking, at: AT, fresh: false }, ["look.flex"])} />);
  expect(screen.getByRole("heading", { name: "Probe the right bumper switch by itself" })).toBeTruthy();
  expect(screen.getByText(/before the newest fact; it is being worked out anew/)).toBeTruthy();
  expect(asked).toEqual(["/api/advice/B-0001"]);
  await answer({ ok: true, value: { advice: trying, at: "2026-11-02T10:07:00.000Z", fresh: true } });
  expect(screen.getByRole("heading", { name: "New switch, original" })).toBeTruthy();
  expect(screen.getByText("Worked out at 10:07, on all that is known.")).toBeTruthy();
});

test("nothing is kept yet: it says that it works, and says so when it cannot", async () => {
  render(<Shown next={next(null)} />);
  expect(screen.getByRole("status").textContent).toContain("Working out what is next");
  await answer({ ok: false, problem: { code: "busy" } });
  expect(screen.getByRole("alert").textContent).toContain("could not be worked out");
  expect(screen.queryByRole("heading")).toBeNull();
});

test("where ending pays most, the end is next and the best attempt is second", () => {
  const ending = {
    ...looking,
    best: "strip",
    value: 1653,
    acts: [
      { do: "end", index: -1, value: 1653 },
      { do: "try", index: 0, value: 900 },
    ],
  } as unknown as Advice;
  render(<Shown next={next({ advice: ending, at: AT, fresh: true })} />);
  expect(screen.getByRole("heading", { name: "Strip for parts" })).toBeTruthy();
  expect(screen.getByText(/€7\.53 more than the second best: New switch, original, €9\.00/)).toBeTruthy();
});

test("where not every plan was tried, the bound stands beside the value", () => {
  const bounded = { ...looking, upper: 2613 } as Advice;
  render(<Shown next={next({ advice: bounded, at: AT, fresh: true })} />);
  expect(screen.getByText(/none brings more than €26\.13/)).toBeTruthy();
});

test("no fault is open: no end is proposed as next, and no age is told of nothing", () => {
  const sound = { ...looking, places: [{ place: "stick.left", twin: true }], acts: [looking.acts[2]!] };
  render(<Shown next={next({ advice: sound as unknown as Advice, at: AT, fresh: true })} />);
  expect(screen.queryByRole("heading")).toBeNull();
  expect(screen.queryByText(/Worked out/)).toBeNull();
});

test("a fact came since and the new answer cannot be had: the old one stays, and nothing is promised", async () => {
  render(<Shown next={next({ advice: looking, at: AT, fresh: false })} />);
  await answer({ ok: false, problem: { code: "busy" } });
  expect(screen.getByRole("alert").textContent).toContain("could not be worked out");
  expect(screen.getByText("Worked out at 10:05, before the newest fact.")).toBeTruthy();
});
