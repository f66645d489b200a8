import { expect, newUnit, signIn, test } from "./shop";
import { fullTest, MODULE_BAD, nameFault } from "./units";
import type { ModelProfile } from "@/core/profile/profile";

/** What is written down at the door, and what it changes afterwards. */

test("history is tapped at the door, stands where the first test begins, speaks in the case, and can be corrected", async ({
  page,
}) => {
  await signIn(page, "bram");
  const { tag } = await newUnit(page, "dunlin", { claim: "left stick drifts" });
  await page.goto(`/units/${tag}/test`);
  const door = page.getByRole("region", { name: "At the door" });
  await expect(door).toContainText("Nothing was told of it");
  await door.getByRole("link", { name: "correct it" }).click();
  await page.getByRole("button", { name: "Correct the intake" }).click();
  const told = page.getByRole("group", { name: "Told of it" });
  await told.getByRole("button", { name: "a fall", exact: true }).click();
  await told.getByRole("button", { name: "a child's hands" }).click();
  await page.getByLabel("Rattle").selectOption("metal");
  await page.getByLabel("Grime").selectOption("strong");
  await page.getByLabel("Was opened before").check();
  await page.getByRole("button", { name: "Save the intake" }).click();
  await expect(page.getByText("a fall; a child's hands")).toBeVisible();
  await page.goto(`/units/${tag}/test`);
  await expect(door).toContainText(/a fall; a child's hands; opened before; rattles: metal; .*grime: strong/);
  await page.reload();
  await expect(door).toContainText("a fall");
  // each is a fact of the case, and says what it makes likelier
  await page.goto(`/units/${tag}/case`);
  const facts = page.getByRole("main");
  await expect(facts).toContainText("a fall");
  await expect(facts).toContainText("teeth");
});

test("what it came without lowers its price and stands on the buying list, until it is ticked", async ({
  page,
}) => {
  await signIn(page, "bram");
  const { accessories } = (await (await page.request.get("/api/profiles/dunlin")).json()) as ModelProfile;
  const [lost, ...kept] = accessories;
  const { tag, unitId } = await newUnit(page, "dunlin", { intake: { accessories: kept.map((a) => a.id) } });
  await fullTest(page, "dunlin", unitId, { faults: MODULE_BAD });
  await nameFault(page, unitId, "stick.left", "rests off centre", "restOffset");
  await page.goto(`/units/${tag}/decide`);
  const less = page.getByText(new RegExp(`less than a whole one, for what it came without: ${lost!.name}`));
  await expect(less).toBeVisible();
  await page.goto("/parts?tab=buy");
  const list = page.getByRole("region", { name: "What units came without" });
  const row = list.getByRole("row").filter({ has: page.getByRole("link", { name: tag }) });
  await expect(row).toContainText(lost!.name);
  await row.getByRole("link", { name: tag }).click();
  await page.getByRole("button", { name: "Correct the intake" }).click();
  await page.getByRole("checkbox", { name: lost!.name }).check();
  await page.getByRole("button", { name: "Save the intake" }).click();
  await expect(page.getByRole("button", { name: "Correct the intake" })).toBeVisible();
  await page.goto("/parts?tab=buy");
  await expect(page.getByRole("heading", { name: "What to order" }).or(list).first()).toBeVisible();
  await expect(row).toHaveCount(0);
  await page.goto(`/units/${tag}/decide`);
  await expect(page.getByText(/^Going rates/)).toBeVisible();
  await expect(less).toHaveCount(0);
});
