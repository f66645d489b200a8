import type { Page } from "@playwright/test";

import { ALERT, deed, expect, newUnit, signIn, test } from "./shop";
import { nameFault } from "./units";
import { one } from "@/core/base/one";

const advice = (page: Page) => page.getByRole("region", { name: "Advice" });
const euros = (text: string): number =>
  Math.round(Number(/-?€[\d,.]+/.exec(text)![0].replace(/[€,]/g, "")) * 100);

test("a bid: a listing's words become symptoms, a risk and the highest bid; bought, it arrives with its words", async ({
  page,
}) => {
  await signIn(page, "bram");
  await page.getByRole("link", { name: "Buying" }).click();
  const answer = page.getByRole("region", { name: "What to bid" });
  await expect(answer.getByText("bid at most")).toBeVisible();
  await page.goto("/buying?model=turnstone");
  const words = page.getByLabel("The listing's words");
  await words.fill("Left stick drifts, rest tested");
  await expect(answer.getByText("names its fault")).toBeVisible();
  await expect(answer.getByText(/“drift”, left stick: rests off centre/)).toBeVisible();
  const highest = answer.getByText("bid at most").locator("..");
  await page.getByLabel("Wished margin").fill("2.00");
  await page.getByLabel("Accepted chance of loss, %").fill("60");
  await expect(highest).toContainText(/€\d/);
  const easy = euros((await highest.textContent())!);
  // a wish for more, or less risk, never raises the bid
  await page.getByLabel("Wished margin").fill("9.00");
  await expect.poll(async () => euros((await highest.textContent())!)).toBe(easy - 700);
  await page.getByLabel("Wished margin").fill("a lot");
  await expect(page.getByText("an amount such as 12.50")).toBeVisible();
  await page.getByLabel("Wished margin").fill("2.00");
  await page.getByLabel(/^Price asked/).fill("15.00");
  await expect(answer.getByText("margin at the price asked")).toBeVisible();
  await expect(page.getByRole("img", { name: /chance of a loss from \d+ to \d+ %/ })).toBeVisible();
  await page.getByLabel("Seller").fill("Canal Street finds");
  await page.getByRole("button", { name: "Bought" }).first().click();
  const listings = page.getByRole("region", { name: "Listings" });
  await expect(listings.getByText("Left stick drifts, rest tested")).toBeVisible();
  await listings.getByRole("link", { name: "It arrived: take in" }).first().click();
  await expect(page.getByLabel("The seller’s words")).toHaveValue("Left stick drifts, rest tested");
  await expect(page.getByLabel("Price EUR")).toHaveValue("15.00");
  await expect(page.getByLabel("Seller", { exact: true })).toHaveValue("Canal Street finds");
  await page.getByLabel("Parcel").selectOption("poor");
  await page.getByRole("button", { name: "Take in, then another" }).click();
  await expect(page.getByText(/is taken in/)).toBeVisible();
  await page.goto("/buying");
  await expect(
    page
      .getByRole("region", { name: "Listings" })
      .getByText(/Turnstone, arrived|arrived: “Left stick/)
      .first(),
  ).toBeVisible();
});

test("a lot: its worth, its price over the units to the cent, and again when a unit changes role", async ({
  page,
  db,
}) => {
  await signIn(page, "bram");
  await page.goto("/buying");
  await page.getByRole("tab", { name: "A lot" }).click();
  await expect(page.getByLabel("How many")).toBeVisible();
  await page.getByLabel("How many").fill("12");
  await page.getByLabel("Price of the lot, EUR").fill("90");
  await page.getByRole("button", { name: "What is it worth" }).click();
  await expect(page.getByRole("region", { name: "Worth of the lot" })).toContainText(
    /worth of 12 units.*loss in \d+ of 100/,
  );

  const code = `T-${Date.now() % 100_000}`;
  const lot = await deed(page, "lot.add", {
    code,
    seller: "test",
    priceMinor: 10_000,
    carriageMinor: 1,
    unitsPromised: 3,
  });
  const units = [];
  for (const model of ["dunlin", "knot", "dunlin"])
    units.push(
      await newUnit(page, model, { origin: { source: "lot", lotId: lot.body.value!.id }, claim: "untested" }),
    );
  const shares = async () =>
    (await db("unit")
      .where({ lot_id: lot.body.value!.id })
      .orderBy("tag")
      .pluck("lot_share_minor")) as number[];
  const before = await shares();
  expect(before.reduce((a, b) => a + b, 0)).toBe(10_001);
  expect(before[1]).toBeLessThan(before[0]!); // a knot brings less than a dunlin

  // the last becomes a donor: it carries less, the others more, and it still adds up
  const { version } = one(await db("unit").where({ id: units[2]!.unitId }).first("version"));
  await deed(page, "unit.end", {
    unitId: units[2]!.unitId,
    version,
    kind: "donor",
    known: "board dead",
    priceMinor: null,
  });
  const after = await shares();
  expect(after.reduce((a, b) => a + b, 0)).toBe(10_001);
  expect(after[2]).toBeLessThan(before[2]!);
  expect(after[0]).toBeGreaterThan(before[0]!);

  await page.goto("/buying");
  await page.getByRole("tab", { name: "Lots in house" }).click();
  await expect(page.getByRole("region", { name: `Lot ${code}` })).toBeVisible();
  const here = page.getByRole("region", { name: `Lot ${code}` });
  await expect(here).toContainText("Together€100.01");
  await here.getByRole("combobox", { name: "Spread" }).click();
  await page.getByRole("option", { name: "by hand" }).click();
  for (const [i, amount] of ["40.00", "30.00", "40.00"].entries())
    await here.getByLabel(`share of ${units[i]!.tag}`).fill(amount);
  await here.getByRole("button", { name: "Spread it again" }).click();
  await expect(here.locator(ALERT)).toContainText("The shares miss the lot's cost by -9.99");
  await here.getByLabel(`share of ${units[1]!.tag}`).fill("");
  await here.getByRole("button", { name: "Spread it again" }).click();
  await expect.poll(shares).toEqual([4000, 2001, 4000]);
  await expect(page.getByRole("region", { name: `Lot ${code}` })).toContainText("by hand");
});

test("a drifting stick: the ladder, five schools beside it, what would change it, and an override that says why", async ({
  page,
}) => {
  await signIn(page, "bram");
  const { tag, unitId } = await newUnit(page, "dunlin");
  await nameFault(page, unitId, "stick.left", "rest offset", "restOffset");
  await page.goto(`/units/${tag}/find`);
  await page.locator("body").press("d");
  await expect(page).toHaveURL(`/units/${tag}/decide`);
  await expect(advice(page).getByRole("heading", { level: 2 })).toHaveText("Mend");
  await expect(advice(page)).toContainText("stated"); // why, and from how many cases
  const ladder = page.getByRole("list", { name: "Ladder of attempts" });
  await expect(ladder).toContainText("if the retest fails");
  await expect(ladder).toContainText(/Stop there|Sell/);
  const schools = page.getByRole("region", { name: "Schools" });
  for (const school of [
    "Clean first",
    "Only the sensors",
    "Replace the part whole",
    "Calibrate only",
    "Change to magnetic",
  ])
    await expect(schools.locator("b", { hasText: school })).toBeVisible();
  const best = euros((await advice(page).getByText("expected from here").locator("..").textContent())!);
  const figures = (await schools.allTextContents())
    .join(" ")
    .match(/€\d+\.\d\d/g)!
    .map(euros);
  expect(Math.max(...figures)).toBeLessThanOrEqual(best + 1);
  await expect(page.getByRole("region", { name: "What would change it" })).toContainText(
    /grade A sells for €47\.00: (down to|from|nothing)/,
    {
      timeout: 90_000,
    },
  );
  const first = ladder.getByRole("button").first();
  await first.focus();
  await page.keyboard.press("Enter");
  await expect(ladder).toContainText("Comes back:");
  await expect(ladder).toContainText("bench time");

  // an override without a reason is refused, and nothing typed is lost
  await page.getByRole("button", { name: "Otherwise" }).click();
  await page.getByLabel("What is done").selectOption("mend");
  await page.getByLabel("By which route first").selectOption("sensors-dear");
  await page.getByRole("button", { name: "Decide so" }).click();
  await expect(page.locator(ALERT)).toContainText("Write why: both are kept.");
  await expect(page.getByLabel("By which route first")).toHaveValue("sensors-dear");
  await page.getByLabel("Why not as advised").fill("the click feels new");
  await page.getByRole("button", { name: "Decide so" }).click();
  const past = page.getByRole("region", { name: "Decisions" });
  await expect(past).toContainText("New sensors, dear copy first");
  await expect(past).toContainText("the click feels new");
  await expect(past).toContainText("Advised was mend");
  await page.reload();
  await expect(past).toContainText("the click feels new");
  await page.getByRole("link", { name: "Go and mend" }).click();
  await expect(page).toHaveURL(`/units/${tag}/mend`);
  await page.goBack();
  await expect(advice(page)).toContainText("Decided: Mend");
});

test("a customer's yes while the unit lies open: looking answers nothing, a posted answer does, once; a change of mind is a new entry", async ({
  page,
  browser,
  db,
}) => {
  await signIn(page, "bram");
  const customer = await deed(page, "customer.add", { name: "Test Customer", contact: "" });
  const { tag, unitId } = await newUnit(page, "dunlin", {
    origin: { source: "customer", customerId: customer.body.value!.id },
  });
  const stick = await nameFault(page, unitId, "stick.left", "rest offset", "restOffset");
  const south = await nameFault(page, unitId, "face.south", "presses", "decision");
  const mend = (faultId: string, route: string | null = null) =>
    deed(page, "mend.add", {
      unitId,
      faultId,
      what: "tried",
      part: "",
      minutes: 5,
      remark: "",
      opened: true,
      settlesFault: false,
      route,
    });
  expect((await mend(south)).body.ok).toBe(true); // the unit lies open now

  await page.goto(`/units/${tag}/decide`);
  await page.getByRole("button", { name: "Ask Test Customer" }).click();
  await page.getByLabel(/^Fault 2/).uncheck();
  await page.getByRole("button", { name: "Make the page" }).click();
  const yes = page.getByRole("region", { name: "Customer's yes" });
  await expect(yes).toContainText("waits for an answer");
  await expect(yes).toContainText("The unit lies open: a reply now saves a second strip-down.");
  const href = (await yes.getByRole("link", { name: "Their page" }).getAttribute("href"))!;
  expect(href).toMatch(/^\/q\/[A-Za-z0-9_-]{27}$/);
  expect((await mend(stick)).body.problem?.code).toBe("yes-awaited");
  expect((await mend(south)).body.ok).toBe(true); // the rest goes on
  await page.goto("/");
  await expect(page.getByRole("link", { name: new RegExp(`${tag}.*remind them`) })).toBeVisible();

  const stranger = await browser.newContext({ baseURL: new URL(page.url()).origin });
  const visitor = await stranger.newPage();
  for (let i = 0; i < 3; i++) await visitor.goto(href); // a mail scanner looks too
  const answers = () =>
    db("answer as a")
      .join("question as q", "q.id", "a.question_id")
      .where({ "q.unit_id": unitId })
      .select("a.choice") as Promise<{ choice: string }[]>;
  expect(await answers()).toEqual([]);
  const send = visitor.getByRole("button", { name: "Send my answer" });
  await expect(send).toBeDisabled();
  await visitor.getByLabel(/^Yes:/).first().check();
  await visitor.getByLabel("Your name").fill("T. Customer");
  await visitor.getByLabel(/^I mean it/).check();
  await expect(send).toBeEnabled();
  await send.dblclick();
  await expect(visitor.getByText("Answered. What you chose")).toBeVisible();
  expect(await answers()).toHaveLength(1);
  await visitor.reload();
  await expect(visitor.getByRole("button", { name: "Send my answer" })).toHaveCount(0);

  await page.goto(`/units/${tag}/decide`);
  await expect(page.getByRole("region", { name: "Customer's yes" })).toContainText(
    "T. Customer, on the page",
  );
  // what was agreed is done, and nothing else in its place
  const [yesTo] = await answers();
  expect((await mend(stick)).body.problem?.code).toBe("other-agreed");
  expect((await mend(stick, yesTo!.choice)).body.ok).toBe(true);

  // a change of mind is a new entry, and the work is locked again
  await visitor.getByRole("button", { name: "I have changed my mind" }).click();
  await visitor.getByLabel("No: leave this as it is").check();
  await visitor.getByLabel("Your name").fill("T. Customer");
  await visitor.getByLabel(/^I mean it/).check();
  await visitor.getByRole("button", { name: "Send the new answer" }).click();
  await expect.poll(async () => (await answers()).map((a) => a.choice === "no")).toEqual([false, true]);
  expect((await mend(stick)).body.problem?.code).toBe("no-was-said");

  await db("question").where({ unit_id: unitId }).update({ withdrawn_at: new Date() });
  await visitor.reload();
  await expect(visitor.getByText("The workshop took this question back")).toBeVisible();
  expect((await visitor.goto(`/q/${"x".repeat(27)}`))!.status()).toBe(404);
  await stranger.close();
});

test("a stop-loss that trips: two routes fail, and what is left costs more than it brings", async ({
  page,
}) => {
  await signIn(page, "bram");
  const { tag, unitId } = await newUnit(page, "curlew", { revision: "wide", claim: "stick drifts" });
  await nameFault(page, unitId, "stick.left", "rest offset", "restOffset");
  await page.goto(`/units/${tag}/mend`);
  for (const [route, minutes] of [
    ["calibrate", "8"],
    ["clean-contacts", "24"],
    ["sensors-cheap", "41"],
  ] as const) {
    await page.getByLabel("By which route").selectOption(route);
    await expect(page.getByLabel("What was done")).not.toHaveValue("");
    await page.getByLabel("To which fault").selectOption({ index: 1 });
    await page.getByLabel("Minutes").fill(minutes);
    await page.getByLabel("The retest is good: this mends the fault").uncheck();
    await page.getByRole("button", { name: "Log it" }).click();
    await expect(page.getByText(`${minutes}`, { exact: true }).first()).toBeVisible();
    await page.reload();
  }
  await page.goto(`/units/${tag}/decide`);
  const line = page.locator(ALERT).filter({ hasText: "Stop: the line is crossed." });
  await expect(line).toContainText("73 minutes are spent either way");
  await expect(advice(page).getByRole("heading", { level: 2 })).not.toHaveText("Mend");
  await page.getByText(/routes are left out/).click();
  await expect(
    page.getByText("Clean the contact surfaces at the left stick: was tried here and did not help"),
  ).toBeVisible();
  await page.getByRole("button", { name: /^Decide: / }).click();
  await expect(page.getByRole("region", { name: "Decisions" })).toBeVisible();
  await expect(page.getByRole("navigation", { name: "Stations" })).toContainText(/strip|sell as it is|scrap/);
});

test("a lead changes odds and prices, sets a rule, and a bad catalogue changes nothing", async ({
  page,
  db,
}) => {
  await signIn(page, "ida");
  await page.goto("/routes");
  await expect(page.getByRole("heading", { name: /^\d+ routes$/ })).toBeVisible();
  await page.getByLabel("Import routes").setInputFiles({
    name: "x.json",
    mimeType: "application/json",
    buffer: Buffer.from('{"format":"other"}'),
  });
  await expect(page.locator(ALERT)).toContainText("Nothing was changed");
  await page.getByRole("gridcell", { name: "Clean the contact surfaces" }).click();
  const edit = page.getByRole("form", { name: "Route Clean the contact surfaces" });
  await edit.getByLabel("minutes", { exact: true }).fill("17");
  await edit.getByRole("button", { name: "Save" }).click();
  await expect
    .poll(async () => (await db("setting").where({ key: "routes" }).first("version"))?.version ?? 0)
    .toBe(1);

  const rules = page.getByRole("region", { name: "Prices and rules" });
  await rules.getByRole("combobox", { name: "Model" }).click();
  await page.getByRole("option", { name: "Whimbrel" }).click();
  await rules.getByRole("button", { name: "Add a rule" }).click();
  await rules.getByRole("combobox", { name: "Use" }).click();
  await page.getByRole("option", { name: "Whole module, original" }).click();
  await rules.getByLabel("Why").fill("buyers of this model ask for it");
  await rules.getByRole("button", { name: "Save" }).click();
  await expect
    .poll(async () => (await db("setting").where({ key: "model:whimbrel" }).first("version"))?.version ?? 0)
    .toBe(1);
  const { tag, unitId } = await newUnit(page, "whimbrel");
  await nameFault(page, unitId, "stick.left", "rest offset", "restOffset");
  await page.goto(`/units/${tag}/decide`);
  await expect(advice(page)).toContainText("The shop's rule: Whole module, original.");
  await expect(advice(page)).toContainText("Without it:");
  await page.getByRole("button", { name: /^Decide: / }).click();
  await expect(page.getByRole("region", { name: "Decisions" })).toContainText("the rules gave");
});

test("a mend that is good for now names its fallback and its day, with the cause; the bench reminds", async ({
  page,
}) => {
  await signIn(page, "oona");
  const { tag, unitId } = await newUnit(page, "knot", { claim: "face south weak" });
  await nameFault(page, unitId, "face.south", "presses", "decision");
  await page.goto(`/units/${tag}/mend`);
  await page.getByLabel("By which route").selectOption("pad-behind");
  await expect(page.getByLabel("What was done")).toHaveValue("Pad it from behind");
  await page.getByLabel("Minutes").fill("9");
  await page.getByLabel("Why the fault came").selectOption("wrong-use");
  await page.getByLabel("Good for now; falls back on").fill("a new dome sheet");
  await page.getByRole("button", { name: "Log it" }).click();
  await expect(page.getByText("name the day")).toBeVisible();
  // half a day is no day, and is told; whole, it is taken in the shop's way of writing it
  const on = new Date(Date.now() + 3 * 24 * 3600_000).toISOString().slice(0, 10);
  await page.getByRole("group", { name: "Look again on" }).getByRole("spinbutton", { name: "Day" }).click();
  await page.keyboard.type(on.slice(8), { delay: 80 });
  await page.getByRole("button", { name: "Log it" }).click();
  await expect(page.getByText("name the day")).toBeVisible();
  await page.getByRole("group", { name: "Look again on" }).getByRole("spinbutton", { name: "Month" }).click();
  await page.keyboard.type(`${on.slice(5, 7)}${on.slice(0, 4)}`, { delay: 80 });
  await page.getByRole("button", { name: "Log it" }).click();
  await expect(
    page.getByText(
      /Cause: wrong use by the owner\. Good for now, falls back on a new dome sheet, look again on/,
    ),
  ).toBeVisible();
  await page.goto("/");
  await expect(page.getByText(new RegExp(`${tag} by .*falls back on a new dome sheet`))).toBeVisible();
});
