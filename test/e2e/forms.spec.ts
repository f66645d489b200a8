import { expect, newUnit, signIn, test } from "./shop";

/**
 * Forms hold what is typed against the schema of their deed: before anything is sent, in words under the
 * field, and nothing is lost.
 */

test("a lot is noted: too long cannot be typed, what does not fit is told at its field, and only then is it sent", async ({
  page,
  db,
}) => {
  await signIn(page, "bram");
  await page.goto("/units/new");
  await page.getByRole("button", { name: "From a lot" }).click();
  await page.getByRole("button", { name: "New lot" }).click();
  const dialog = page.getByRole("dialog", { name: "New lot" });
  const lots = async () => Number((await db("lot").count<{ count: string }[]>())[0]!.count);
  const before = await lots();
  const sent: string[] = [];
  page.on("request", (r) => r.url().includes("/api/do/lot.add") && sent.push(r.url()));

  await dialog.getByRole("button", { name: "Add" }).click();
  await expect(dialog.getByText("write something here")).toHaveCount(2);
  await expect(dialog.getByText("missing")).toHaveCount(1); // a lot without a price is not free; one without a carriage came by hand
  await expect(dialog.getByLabel("Code")).toBeFocused();
  await dialog.getByLabel("Code").pressSequentially("LOT-ABCDEFGHIJKLMNOPQRSTUVWXYZ");
  await expect(dialog.getByLabel("Code")).toHaveValue("LOT-ABCDEFGHIJKLMNOP"); // twenty fit
  await dialog.getByLabel("Seller").fill("Tern Quay Lots");
  await dialog.getByLabel("Price of the lot").fill("12o");
  await dialog.getByLabel("How many units").fill("2.5");
  await page.keyboard.press("Enter");
  await expect(dialog.getByText("an amount such as 12.50")).toBeVisible();
  await expect(dialog.getByText("a whole number")).toBeVisible();
  await dialog.getByLabel("How many units").fill("501");
  await expect(dialog.getByText("too large: at most 500")).toBeVisible();
  expect(sent).toEqual([]);
  await expect(dialog.getByLabel("Seller")).toHaveValue("Tern Quay Lots");

  await dialog.getByLabel("Price of the lot").fill("120,50");
  await dialog.getByLabel("How many units").fill("12");
  await page.keyboard.press("Enter");
  await expect(dialog).toHaveCount(0);
  expect(await lots()).toBe(before + 1);
  const lot = await db("lot").where({ code: "LOT-ABCDEFGHIJKLMNOP" }).first();
  expect(lot).toMatchObject({
    price_minor: 12050,
    carriage_minor: 0,
    units_promised: 12,
    seller: "Tern Quay Lots",
  });
});

test("what was done is logged with its cost: letters in an amount are never read as nothing", async ({
  page,
  db,
}) => {
  await signIn(page, "bram");
  const { tag, unitId } = await newUnit(page, "dunlin");
  await page.goto(`/units/${tag}/mend`);
  const mends = () => db("mend").where({ unit_id: unitId }).select("what", "minutes", "part_minor");
  await page.getByLabel("What was done").fill("New cable");
  await page.getByLabel("Part used").fill("cable");
  await page.getByLabel(/^Its cost/).fill("2,6o");
  await page.getByRole("button", { name: "Log it" }).click();
  await expect(page.getByText("an amount such as 12.50")).toBeVisible();
  expect(await mends()).toEqual([]);
  await page.getByLabel(/^Its cost/).fill("2,60");
  await page.getByLabel(/^Minutes/).fill("2001");
  await page.getByRole("button", { name: "Log it" }).click();
  await expect(page.getByText("too large: at most 2000")).toBeVisible();
  await page.getByLabel(/^Minutes/).fill("12");
  await page.getByLabel("The unit was open").uncheck();
  await page.getByRole("button", { name: "Log it" }).click();
  await expect(page.getByText("New cable")).toBeVisible();
  expect(await mends()).toEqual([{ what: "New cable", minutes: 12, part_minor: 260 }]);
  await expect(page.getByLabel("What was done")).toHaveValue("");
  await expect(page.getByLabel("The unit was open")).toBeChecked(); // the next entry begins as the first did
});
