import { expect, type Page, test } from "@playwright/test";

import { LEAD, ownWorkshop, type OwnWorkshop } from "./own-workshop";
import { listens } from "./shop";

/** Money in a currency of no and of three minor digits, typed and shown by another locale: shops of their own. */

let own: OwnWorkshop;
test.beforeAll(async () => {
  test.setTimeout(240_000);
  own = await ownWorkshop(4890);
});
test.afterAll(() => own.end());

async function go(page: Page, path: string): Promise<void> {
  await page.goto(own.base + path);
  await listens(page);
}
/** What a page shows as text, with the spaces of a locale as plain ones. */
const text = async (page: Page) => (await page.getByRole("main").innerText()).replace(/[\u00a0\u202f]/g, " ");

async function enter(page: Page, to: string): Promise<void> {
  await go(page, "/sign-in");
  await page.getByLabel("Name").fill(LEAD.name);
  await page.getByLabel("Password").fill(LEAD.password);
  await page.keyboard.press("Enter");
  await expect(page.getByRole("heading", { name: to })).toBeVisible();
  await listens(page);
}

test("a shop reckons without minor digits, then in three behind a comma: typed, kept and shown to the last of them", async ({
  page,
}) => {
  await enter(page, "First, the shop");
  await page.getByLabel("What the shop is called").fill("Weir Lane Bench");
  await page.getByLabel("Town").fill("Oxmere");
  await page.getByLabel("Currency").fill("JPY");
  await page.getByLabel("Language and country").fill("ja-JP");
  await page.getByLabel("Time zone").fill("Asia/Tokyo");
  await page.getByRole("button", { name: "Go on to the bench" }).click();
  await expect(page.getByRole("heading", { name: "On the bench" })).toBeVisible();

  await test.step("half of the smallest coin is none; what is taken in costs what was typed", async () => {
    await go(page, "/units/new");
    await page.getByRole("button", { name: "From a lot" }).click();
    await page.getByRole("button", { name: "New lot" }).click();
    const dialog = page.getByRole("dialog", { name: "New lot" });
    await dialog.getByLabel("Code").fill("LOT-1");
    await dialog.getByLabel("Seller").fill("Tern Quay Lots");
    await dialog.getByLabel("Price of the lot").fill("12.5");
    await dialog.getByRole("button", { name: "Add" }).click();
    await expect(dialog.getByText("an amount such as 1250")).toBeVisible();
    await dialog.getByLabel("Price of the lot").fill("12,500");
    await page.keyboard.press("Enter");
    await expect(dialog).toHaveCount(0);
    await page.getByLabel("Model").fill("Dunlin");
    await page.keyboard.press("Tab");
    await page
      .getByRole("button", { name: /^Take in, / })
      .first()
      .click();
    await expect(page).toHaveURL(/\/units\/B-\d+/);
  });

  await test.step("the carriage's bill comes late, and the unit carries it", async () => {
    await go(page, "/buying");
    await expect(page.getByLabel("Carriage")).toHaveValue("490"); // what a parcel costs this shop
    await page.getByRole("tab", { name: /^Lots in house/ }).click();
    const lot = page.getByRole("region", { name: "Lot LOT-1" });
    await expect(lot).toContainText("12,500");
    await expect(lot).not.toContainText("125.00");
    await lot.getByLabel("Carriage of the whole lot, JPY").fill("980");
    await lot.getByRole("button", { name: "Book the carriage" }).click();
    await expect(lot.getByRole("row", { name: /^Together/ })).toContainText("13,480");
    await page.reload();
    await listens(page);
    await page.getByRole("tab", { name: /^Lots in house/ }).click();
    await expect(lot.getByLabel("Carriage of the whole lot, JPY")).toHaveValue("980");
    expect(await text(page)).not.toMatch(/€|EUR/);
  });

  await test.step("three digits behind a comma, and a point for the thousands", async () => {
    await go(page, "/settings");
    await page.getByLabel("Currency").fill("KWD");
    await page.getByLabel("Language and country").fill("de-DE");
    await page.getByRole("button", { name: "Save", exact: true }).first().click();
    await expect(page.getByText("Saved").first()).toBeVisible();
    await go(page, "/units/new");
    await page.getByLabel("Model").fill("Dunlin");
    await page.getByLabel("Price KWD").fill("1,2505"); // a tenth of the smallest coin
    const takeIn = page.getByRole("button", { name: /^Take in, / }).first();
    await takeIn.click();
    await expect(page).toHaveURL(/\/units\/new$/);
    await page.getByLabel("Price KWD").fill("1.234,505");
    await takeIn.click();
    await expect(page).toHaveURL(/\/units\/B-\d+/);
    const tag = (await page.getByRole("heading", { level: 1 }).textContent())!;
    await go(page, `/units/${tag}/decide`);
    expect(await text(page)).toContain("1.234,505");
  });
});
