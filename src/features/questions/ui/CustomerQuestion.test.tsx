import { render, screen } from "@testing-library/react";
import userEvent from "@testing-library/user-event";

import type { PublicQuestion } from "@/features/questions/page/view";
import { MadeUpServer } from "../../../../test/ui/server";
import { CustomerQuestion } from "./CustomerQuestion";

/** The customer's page on a made-up page: what cannot be sent, what is sent once, and what each state shows. */

const shop = {
  locale: "en-GB",
  timeZone: "Europe/Berlin",
  currency: "EUR",
  shopName: "Reedbank Repairs",
  town: "Sandhaven",
};
const option = (key: string, priceMinor: number) => ({
  key,
  words: `way ${key}`,
  priceMinor,
  days: 3,
  warrantyDays: 90,
});
const fault = (number: number, ...prices: number[]) => ({
  faultId: `00000000-0000-4000-8000-00000000000${number}`,
  number,
  found: `fault ${number}`,
  options: prices.map((p, i) => option(String(i), p)),
});
const question = (more: Partial<PublicQuestion> = {}) =>
  ({
    tag: "B-0042",
    model: "Dunlin",
    state: "waiting",
    mayChange: true,
    expiresAt: "2026-12-09T10:00:00.000Z",
    answers: [],
    claim: "it walks off by itself",
    use: "unknown",
    pictures: [],
    bill: null,
    body: {
      v: 1,
      findings: "The left stick is worn.",
      refresh: [],
      faults: [fault(1, 1200, 2000), fault(2, 500)],
    },
    ...more,
  }) as unknown as PublicQuestion;
const shown = (more?: Partial<PublicQuestion>) =>
  render(<CustomerQuestion question={question(more)} token="t0" shop={shop} />);
const answerButton = () => screen.getByRole<HTMLButtonElement>("button", { name: "Send my answer" });
const choose = async (number: number, which: RegExp) => {
  const group = screen.getByRole("radiogroup", { name: `Fault ${number}` });
  const radios = [...group.querySelectorAll("label")];
  await userEvent.click(radios.find((l) => which.test(l.textContent))!);
};

test("nothing can be sent before every fault has a choice, there is a name, and the total was meant", async () => {
  shown();
  expect(answerButton().disabled).toBe(true);
  await userEvent.type(screen.getByRole("textbox", { name: "Your name" }), "Mara");
  await userEvent.click(screen.getByRole("checkbox"));
  await choose(1, /way 1/);
  expect(answerButton().disabled).toBe(true);
  await choose(2, /No/);
  expect(answerButton().disabled).toBe(false);
  await userEvent.click(screen.getByRole("checkbox"));
  expect(answerButton().disabled).toBe(true);
});

test("the total is that of what was chosen, and follows it", async () => {
  shown();
  await choose(1, /way 1/);
  await choose(2, /way 0/);
  expect(screen.getByRole("checkbox").closest("label")!.textContent).toContain("25.00");
  await choose(2, /No/);
  expect(screen.getByRole("checkbox").closest("label")!.textContent).toContain("20.00");
});

describe("sending", () => {
  const filled = async () => {
    const server = new MadeUpServer();
    shown();
    await choose(1, /way 0/);
    await choose(2, /No/);
    await userEvent.type(screen.getByRole("textbox", { name: "Your name" }), "Mara");
    await userEvent.click(screen.getByRole("checkbox"));
    await userEvent.click(answerButton());
    return server;
  };
  test("a second press while it is on its way sends nothing more", async () => {
    const server = await filled();
    expect(answerButton().disabled).toBe(true);
    await userEvent.type(screen.getByRole("textbox", { name: "Your name" }), "{Enter}");
    expect(server.asked).toHaveLength(1);
    await server.answer({ ok: true, value: {} });
  });
  test("a lost answer is told, what was chosen stays, and sending again is the same request", async () => {
    const server = await filled();
    await server.noLine();
    expect(screen.getByRole("alert").textContent).toBeTruthy();
    await userEvent.click(answerButton());
    await server.answer({ ok: true, value: {} });
    expect(server.asked.map((a) => a.requestId)).toEqual([
      server.asked[0]!.requestId,
      server.asked[0]!.requestId,
    ]);
    expect(screen.queryByRole("alert")).toBeNull();
  });
  test("a refusal is told in words", async () => {
    const server = await filled();
    await server.answer({ ok: false, problem: { code: "question-over", why: "withdrawn" } });
    expect(screen.getByRole("alert").textContent).toMatch(/took this question back/);
  });
});

test.each(["expired", "withdrawn", "closed"] as const)("%s: said, and nothing can be answered", (state) => {
  shown({ state });
  expect(screen.getByRole("status").textContent!.length).toBeGreaterThan(10);
  expect(screen.queryByRole("button")).toBeNull();
});

describe("answered", () => {
  const answers = [
    {
      faultId: fault(1).faultId,
      choice: "0",
      wording: "way 0",
      refresh: [],
      name: "Mara",
      at: "2026-11-28T09:00:00.000Z",
    },
  ] as unknown as PublicQuestion["answers"];
  test("the answer stands there; a changed mind opens the form for a new one", async () => {
    shown({ state: "answered", answers });
    expect(screen.getByRole("status").textContent).toMatch(/way 0 \(Mara/);
    await userEvent.click(screen.getByRole("button", { name: /changed my mind/ }));
    expect(screen.getByRole("button", { name: "Send the new answer" })).toBeTruthy();
  });
  test("changed too often: no way to answer again", () => {
    shown({ state: "answered", answers, mayChange: false });
    expect(screen.queryByRole("button")).toBeNull();
  });
});

test("their own words and the workshop's pictures stand there, and a like part counts only with what it comes with", async () => {
  const like = {
    place: "stick.right",
    words: "Whole module: right stick",
    priceMinor: 900,
    savesMinor: 350,
  };
  const withLike = { ...fault(1, 1200, 2000) };
  withLike.options[1] = { ...withLike.options[1]!, like } as (typeof withLike.options)[number];
  shown({
    pictures: [{ id: "p1", caption: "worn track" }],
    body: {
      v: 1,
      findings: "",
      photos: ["p1"],
      refresh: [],
      faults: [withLike],
    } as unknown as PublicQuestion["body"],
  });
  expect(screen.getByText("In your words: “it walks off by itself”")).toBeTruthy();
  expect(screen.getByRole("img", { name: "worn track" }).getAttribute("src")).toBe("/q/t0/picture/p1");
  const likeBox = () => screen.queryByRole("checkbox", { name: /like part/ });
  const total = () => screen.getByRole("checkbox", { name: /I mean it/ }).closest("label")!.textContent;
  expect(likeBox()).toBeNull();
  await choose(1, /way 1/);
  await userEvent.click(likeBox()!);
  expect(total()).toContain("29.00");
  // another choice has no like part: what was ticked for the first does not count with it
  await choose(1, /way 0/);
  expect(likeBox()).toBeNull();
  expect(total()).toContain("12.00");
});

test("once the bill was written it stands there with its number, and can be had as a paper", () => {
  shown({ state: "closed", bill: { number: 7, sumMinor: 3200 } });
  expect(screen.getByRole("heading", { name: /Your bill 0007: .*32\.00/ })).toBeTruthy();
  expect(screen.getByRole("link", { name: "Bill as PDF" }).getAttribute("href")).toBe("/q/t0/bill");
});

test("how they use it goes with the answer where they say it, and nothing is made up where they do not", async () => {
  const server = new MadeUpServer();
  shown();
  await choose(1, /No/);
  await choose(2, /No/);
  await userEvent.type(screen.getByRole("textbox", { name: "Your name" }), "Mara");
  await userEvent.click(screen.getByRole("checkbox"));
  await userEvent.click(answerButton());
  expect(server.sent[0]!.answer).not.toHaveProperty("use");
  await server.noLine();
  await userEvent.click(screen.getByRole("radio", { name: /precise aiming/ }));
  await userEvent.click(answerButton());
  expect(server.sent[1]!.answer).toMatchObject({ use: "precise" });
});

test("a full refresh is one choice with one price, takes in the like part, and wants some work that opens the unit", async () => {
  const server = new MadeUpServer();
  const part = (place: string, priceMinor: number) => ({ place, words: place, priceMinor, savesMinor: 100 });
  const like = part("stick.right", 900);
  const withLike = { ...fault(1, 1200) };
  withLike.options[0] = { ...withLike.options[0]!, like } as (typeof withLike.options)[number];
  const refresh = [part("stick.right", 900), part("face.south", 400), part("cell", 700)];
  shown({
    body: {
      v: 1,
      findings: "",
      photos: [],
      refresh,
      faults: [withLike],
    } as unknown as PublicQuestion["body"],
  });
  const box = () => screen.queryByRole("checkbox", { name: /full refresh/ });
  const total = () => screen.getByRole("checkbox", { name: /I mean it/ }).closest("label")!.textContent;
  expect(box()).toBeNull();
  await choose(1, /way 0/);
  expect(box()!.closest("label")!.textContent).toMatch(/20\.00; saves .*3\.00/);
  await userEvent.click(screen.getByRole("checkbox", { name: /like part/ }));
  expect(total()).toContain("21.00");
  await userEvent.click(box()!);
  // the stick on the other side is in it, and is not charged twice
  expect(total()).toContain("32.00");
  await userEvent.type(screen.getByRole("textbox", { name: "Your name" }), "Mara");
  await userEvent.click(screen.getByRole("checkbox", { name: /I mean it/ }));
  await userEvent.click(answerButton());
  expect(server.sent[0]).toMatchObject({
    answer: { refresh: true, choices: [{ choice: "0", like: false }] },
  });
  // with every fault turned down nothing opens it
  await server.noLine();
  await choose(1, /No/);
  expect(box()).toBeNull();
  expect(total()).toContain("0.00");
});
