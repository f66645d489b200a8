import { deed, expect, newUnit, signIn, signInByHand, tabTo, test } from "./shop";
import { addressOf } from "./units";

/** The new stations by keyboard alone, with mistakes, a reload in the middle and a step back. */

test("a protocol step by keyboard: figures, a mistake, a reload, and back", async ({ page }) => {
  await signInByHand(page, "bram");
  const { tag } = await newUnit(page, "knot");
  await page.goto(`/units/${tag}/test/bench?for=full`);
  await tabTo(page, page.getByLabel("Open voltage"), 60);
  const byHand = (text: string) => page.keyboard.type(text, { delay: 60 }); // faster would be a scanner
  await byHand("3.0");
  await page.keyboard.press("Tab");
  await byHand("2.9");
  await page.keyboard.press("Enter");
  await expect(
    page.getByText("Give the loaded voltage and the load's current together, or neither."),
  ).toBeVisible();
  await page.keyboard.press("Tab");
  await byHand("0.25");
  await page.keyboard.press("Enter");
  await expect(page.getByText("1 / 7")).toBeVisible();
  await expect(page).toHaveURL(/step=prompt\.power-on/); // it moves on by itself after a pass

  await page.reload();
  await expect(page.getByText("1 / 7")).toBeVisible();
  await page.locator("body").press("x");
  await expect(
    page.locator("section[aria-label='power-on']").getByText("fail", { exact: true }),
  ).toBeVisible();
  await expect(page).toHaveURL(/step=prompt\.power-on/); // a fail stays in view
  await page.locator("body").press("y");
  await expect(page).not.toHaveURL(/power-on/);
  await page.goBack();
  await expect(page.getByRole("heading", { name: /Power-on/ })).toBeVisible();
  await page.locator("body").press("g");
  await expect(page).not.toHaveURL(/power-on/); // g goes to the next one not tested
});

test("the cause by keyboard: an outcome of the next check is given with Enter, and withdrawn again", async ({
  page,
}) => {
  await signIn(page, "bram");
  const { tag, unitId } = await newUnit(page, "knot");
  for (const target of ["face.west", "face.east", "face.south"])
    await deed(page, "find.observe", {
      unitId,
      kind: "function",
      target,
      outcome: "dead",
      value: null,
      note: "",
    });
  for (const target of ["pad.up", "pad.down", "home"])
    await deed(page, "find.observe", {
      unitId,
      kind: "function",
      target,
      outcome: "works",
      value: null,
      note: "",
    });
  await page.goto(`/units/${tag}/find`);
  const cause = page.getByRole("region", { name: "Cause" });
  await expect(cause.locator("h2").first()).toHaveText("face row trace");
  const first = page.getByRole("region", { name: "The next check" }).getByRole("button").first();
  const asked = (await first.getAttribute("aria-label"))!;
  await tabTo(page, first, 80);
  await page.keyboard.press("Enter");
  await expect(first).not.toHaveAttribute("aria-label", asked); // what was answered is not asked again
  const withdraw = page.getByRole("button", { name: "Withdraw" });
  await expect(withdraw).toHaveCount(7);
  await withdraw.last().focus();
  await page.keyboard.press("Enter");
  await expect(withdraw).toHaveCount(6);
  await expect(first).toHaveAttribute("aria-label", asked);
});

test("a viewer looks at every new page and can change nothing there", async ({ page, db }) => {
  await signIn(page, "viktor");
  for (const path of [
    "/units/{measured}/test/bench?for=full&step=supply.main",
    "/units/{measured}/find",
    "/units/{proven}/test/compare",
  ]) {
    await page.goto(await addressOf(db, path));
    await expect(page.getByRole("heading", { level: 1 })).toBeVisible();
    for (const name of [
      "Keep this reading",
      "Pass",
      "Log the try",
      "Write it down",
      "Number it",
      "List what differs",
      "damaged",
    ])
      await expect(page.getByRole("button", { name, exact: true })).toHaveCount(0);
  }
  await expect(page.getByRole("region", { name: /^Compared/ })).toBeVisible();
});

test("a wet or quarantined unit has no protocol: the reason stands in its place", async ({ page }) => {
  await signIn(page, "bram");
  const wet = await newUnit(page, "knot", { liquid: true });
  await page.goto(`/units/${wet.tag}/test/bench?for=full`);
  await expect(page).toHaveURL(new RegExp(`/units/${wet.tag}/test$`));
  const swollen = await newUnit(page, "dunlin", { swollen: true });
  await page.goto(`/units/${swollen.tag}/test/bench?for=full`);
  await expect(page.getByText(/this unit is in quarantine/)).toBeVisible();
  const refused = await deed(page, "reading.take", {
    unitId: swollen.unitId,
    reading: { kind: "supply", supply: "main", openVolts: 3.9, loadedVolts: null, loadAmps: null },
    instrument: "typed by hand",
    host: "test",
    tookMs: null,
  });
  expect(refused.body.problem!.code).toBe("quarantined");
});
