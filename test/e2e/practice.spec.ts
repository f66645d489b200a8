import { expect, runFullTest, signIn, test } from "./shop";
import { one } from "@/core/base/one";

/** The practice bench: hidden faults on the real screens, scored, and apart from the real records. */
test("a practice unit is tested, its fault named, decided on and scored, and nothing of it reaches the workshop", async ({
  page,
  db,
}) => {
  const counts = async () =>
    (await db("unit").first(
      db.raw("(select count(*) from unit)::int as units, (select count(*) from event)::int as events"),
    )) as { units: number; events: number };
  await signIn(page, "bram");
  const before = await counts();
  await page.goto("/practice");
  await expect(page.getByRole("heading", { name: "Practice bench" })).toBeVisible();
  await page.getByLabel("Model").selectOption("knot");
  await page.getByRole("button", { name: "Take one" }).click();
  await expect(page.getByRole("region", { name: "Practice bench" })).toContainText("nothing here counts");
  await expect(page.getByRole("heading", { level: 1 })).toHaveText(/B-\d{4}/);
  const tag = (await page.getByRole("heading", { level: 1 }).textContent())!;
  const { hidden } = await db
    .withSchema("practice")
    .table("exercise")
    .orderBy("began_at", "desc")
    .first("hidden");

  await page.goto(`/units/${tag}/test/run?kind=full`);
  await expect(page.getByLabel("Simulated fault")).toHaveCount(0); // nothing to choose, nothing to read off
  await runFullTest(page, null);
  await page.keyboard.press("n");
  await expect(page.getByText("named as a fault").first()).toBeVisible();
  await page.goto(`/units/${tag}/decide`);
  await page
    .getByRole("button", { name: /^Decide: / })
    .first()
    .click();
  await expect(page.getByText(/Decided|decided/).first()).toBeVisible();

  await page.getByRole("button", { name: "Leave, to score or go on later" }).click();
  await expect(page.getByRole("region", { name: "Under way" })).toContainText(tag);
  await expect(page.getByRole("region", { name: "Practice bench" })).toHaveCount(0);
  await page.getByRole("button", { name: `End and score ${tag}` }).click();
  const scores = page.getByRole("region", { name: "Scores" });
  await expect(scores).toContainText(`${tag}, Knot, level 1`);
  await expect(scores).toContainText("Best: ");
  const { score } = await db
    .withSchema("practice")
    .table("exercise")
    .orderBy("began_at", "desc")
    .first("score");
  expect(score.found).toEqual([hidden[0].place]);
  expect(score.points).toBeGreaterThan(50);
  // the workshop's own records know nothing of it
  expect(await counts()).toEqual(before);
  await expect(page.getByText(tag, { exact: true })).toHaveCount(0);
  // a hard case of the shop's own
  await page
    .getByRole("button", { name: /^Take B-/ })
    .first()
    .click();
  await expect(page.getByRole("region", { name: "Practice bench" })).toBeVisible();
  await page.getByRole("button", { name: "Leave, to score or go on later" }).click();
  // leaving loads the practice page anew: another address before that has come would cut it off
  await expect(page.getByRole("region", { name: "Under way" })).toBeVisible();
  await expect(page.getByRole("region", { name: "Practice bench" })).toHaveCount(0);
  await page.goto("/");
  const onTray = one(await db("unit").whereNotNull("tray").orderBy("tray").first("tray", "tag"));
  await expect(
    page.getByRole("link", { name: new RegExp(`Tray ${onTray.tray}: ${onTray.tag}`) }),
  ).toBeVisible();
});

test("a viewer has no practice bench", async ({ page }) => {
  await signIn(page, "viktor");
  expect((await page.goto("/practice"))!.status()).toBe(404);
  const refused = await page.request.post("/api/practice", {
    data: { do: "go-on" },
    headers: { Origin: new URL(page.url()).origin },
  });
  expect(refused.status()).toBe(403);
});
