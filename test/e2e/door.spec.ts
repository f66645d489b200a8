import { deed, expect, newUnit, signIn, test } from "./shop";
import { done, fullTest, MODULE_BAD, nameFault } from "./units";
import type { ModelProfile } from "@/core/profile/profile";

/** What is written down at the door, and what it changes afterwards. */

test("history is tapped at the door, stands where the first test begins, speaks in the case, and can be corrected", async ({
  page,
}) => {
  await signIn(page, "bram");
  const { tag, unitId } = await newUnit(page, "dunlin", { claim: "left stick drifts" });
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
  await page.getByLabel("Cells or pack").selectOption("taken out");
  await page.getByLabel("Where they lie").fill("lid 3");
  await page.getByLabel("Was opened before").check();
  await page.getByRole("button", { name: "Save the intake" }).click();
  await expect(page.getByText("a fall; a child's hands")).toBeVisible();
  await page.goto(`/units/${tag}/test`);
  await expect(door).toContainText(
    /a fall; a child's hands; opened before; rattles: metal; cells: taken out, lid 3; grime: strong/,
  );
  await page.reload();
  await expect(door).toContainText("a fall");
  // what fell is knocked, what rattled listened for, what was taken out put back, before it leaves
  await fullTest(page, "dunlin", unitId);
  await page.goto(`/units/${tag}/prove`);
  for (const [line, why] of [
    ["trigger.tap", "it is told that it fell"],
    ["rattle", "something rattled at the door: metal"],
    ["cells", "its cells lie at lid 3"],
  ])
    await expect(page.locator(`[data-proof="${line}"]`)).toContainText(why!);
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

test("equal ones of a lot come in by one form and a count, and their labels are next", async ({
  page,
  db,
}) => {
  await signIn(page, "bram");
  await done(page, "lot.add", {
    code: "L-EQUAL",
    seller: "quayside market",
    priceMinor: 5400,
    carriageMinor: 900,
    unitsPromised: 6,
  });
  await page.goto("/units/new");
  await page.getByRole("combobox", { name: /^Model/ }).fill("Tidewrack Dunlin");
  await page.keyboard.press("Enter");
  await page.getByRole("button", { name: "From a lot" }).click();
  await page.getByLabel("Lot", { exact: true }).selectOption("L-EQUAL, quayside market");
  await page.getByLabel("How many equal").fill("60");
  await page.getByLabel(/seller.s words/i).fill("untested, from a school");
  await page.getByRole("button", { name: /^Take in 60/ }).click();
  await expect(page.getByLabel("How many equal")).toHaveAttribute("aria-invalid", "true");
  await page.getByLabel("How many equal").fill("6");
  await page.getByRole("button", { name: "Take in 6, and print their labels" }).click();
  await expect(page).toHaveURL(/\/labels\?kind=unit&codes=B-\d+(%2C|,)/);
  const rows = await db("unit as u")
    .join("lot as l", "l.id", "u.lot_id")
    .where("l.code", "L-EQUAL")
    .select("u.tag", "u.lot_share_minor");
  expect(rows).toHaveLength(6);
  expect(rows.reduce((s, r) => s + (r as { lot_share_minor: number }).lot_share_minor, 0)).toBe(6300);
  for (const { tag } of rows as { tag: string }[]) await expect(page.getByText(tag).first()).toBeVisible();
});

test("a mark on the back is put on the back, and is there when the plan is turned over", async ({ page }) => {
  await signIn(page, "bram");
  const { tag } = await newUnit(page, "dunlin", { claim: "" });
  await page.goto(`/units/${tag}/intake`);
  await page.getByRole("button", { name: "Correct the intake" }).click();
  await page.getByLabel("Side").selectOption("back");
  const plan = page.getByRole("group", { name: "Tap where a mark is" });
  await plan.evaluate((drawing) => drawing.scrollIntoView({ block: "center" }));
  const { x, y, width, height } = (await plan.boundingBox())!;
  await page.mouse.click(x + width * 0.4, y + height * 0.5);
  await page.getByRole("button", { name: "Save the intake" }).click();
  await expect(page.getByText("scratch, back")).toBeVisible();
  await page.goto(`/units/${tag}/test`);
  const front = page.getByRole("group", { name: /^Plan of the/ });
  await expect(front).toBeVisible();
  await expect(front.getByText("1", { exact: true })).toHaveCount(0);
  await page.getByRole("button", { name: "Turn it over" }).click();
  const back = page.getByRole("group", { name: /^Back of the/ });
  await expect(back.getByText("1", { exact: true })).toHaveCount(1);
});

test("while the maker's cover runs nothing opens the unit, until it is written who let it go", async ({
  page,
}) => {
  await signIn(page, "bram");
  const intake = { makersCover: "runs", coverUntil: "2099-03-01" };
  const { tag, unitId } = await newUnit(page, "dunlin", { intake });
  await fullTest(page, "dunlin", unitId, { faults: MODULE_BAD });
  const faultId = await nameFault(page, unitId, "stick.left", "rests off centre", "restOffset");
  // the lazy ways: a logged mend that opened it, and an order
  const mend = {
    unitId,
    faultId,
    what: "New module",
    part: "",
    minutes: 20,
    remark: "",
    opened: true,
    settlesFault: true,
  };
  const refused = await deed(page, "mend.add", mend);
  expect(refused.body.problem?.code).toBe("cover-runs");
  await page.goto(`/units/${tag}/mend`);
  await expect(
    page.getByText(/The maker's cover runs until .*2099: opening it voids the cover/),
  ).toBeVisible();
  await page.getByLabel("Who agreed, and how").fill("the shop: the maker takes six weeks");
  await page.getByRole("button", { name: "Let the cover go" }).click();
  await expect(
    page.getByText("The maker's cover ran, and was let go: the shop: the maker takes six weeks."),
  ).toBeVisible();
  await done(page, "mend.add", mend);
});

test("what the claim makes likeliest is asked for first, and the tester is made ready before the unit is blamed", async ({
  page,
}) => {
  await signIn(page, "bram");
  const { tag, unitId } = await newUnit(page, "dunlin", { claim: "right trigger does not reach the end" });
  await page.goto(`/units/${tag}/test/run?kind=full`);
  const ready = page.getByRole("region", { name: "Before it is plugged in" });
  await expect(ready).toContainText("Bond to its former host cleared: Hold home and the left menu key");
  await expect(ready).toContainText(/Tested first: right trigger \(/);
  // a dead radio is no answer before its bond was cleared
  await page.goto(`/units/${tag}/test`);
  await page.getByRole("button", { name: "radio link: fail" }).click();
  const asked = page
    .getByRole("alert")
    .filter({ hasText: "A bond to its former host looks like a dead radio" });
  await expect(asked).toContainText("Hold home and the left menu key");
  // Enter alone is the lazy way: it calls nothing dead
  await page.keyboard.press("Enter");
  await expect(asked).toHaveCount(0);
  await expect(page.locator("[data-function]").filter({ hasText: "radio link" })).toContainText("not tested");
  expect(
    (await deed(page, "function.check", { unitId, functionId: "radio", result: "fail", note: "" })).body
      .problem?.code,
  ).toBe("clear-the-bond");
  await page.getByRole("button", { name: "radio link: fail" }).click();
  await asked.getByRole("button", { name: "It was cleared, and still fails" }).click();
  await expect(page.locator("[data-function]").filter({ hasText: "radio link" })).toContainText(/fail, bram/);
  // the same step by step
  await page.goto(`/units/${tag}/test/bench?for=triage&step=prompt.radio`);
  await page.getByRole("button", { name: "fail Fail x" }).click();
  await expect(asked).toContainText("Hold home and the left menu key");
  await asked.getByRole("button", { name: "Not yet" }).click();
  await expect(asked).toHaveCount(0);
});

test("so much failing at once asks for another tester, until one saw the same", async ({ page }) => {
  await signIn(page, "bram");
  const { tag, unitId } = await newUnit(page, "knot");
  const dead = Object.fromEntries(
    ["pad.up", "pad.down", "pad.left", "pad.right", "face.west", "face.east"].map((id) => [
      id,
      { missRate: 1 },
    ]),
  );
  await fullTest(page, "knot", unitId, { faults: { buttons: dead } });
  await page.goto(`/units/${tag}/test`);
  await expect(
    page.getByText(/controls fail at once\. That looks like a tester, a cable or a host/),
  ).toBeVisible();
});

test("what hands left and what hygiene asks stand before the first screw, and pieces have labels of their own", async ({
  page,
}) => {
  await signIn(page, "bram");
  const { tag } = await newUnit(page, "dunlin", { claim: "untested" });
  await page.goto(`/units/${tag}/intake`);
  await page.getByRole("button", { name: "Correct the intake" }).click();
  await page.getByLabel("Was opened before").check();
  await page
    .getByRole("group", { name: "What earlier hands left" })
    .getByRole("button", { name: "stripped fastener" })
    .click();
  await page.getByLabel("Hygiene").selectOption("gloves, mask");
  await page.getByLabel("Rattle").selectOption("metal, seen through a gap");
  await page.getByRole("button", { name: "Save the intake" }).click();
  await expect(page.getByText(/stripped fastener/)).toBeVisible();
  await page.goto(`/units/${tag}/test`);
  await expect(
    page.getByText("Put gloves and a mask on, and wipe it down before you hold it."),
  ).toBeVisible();
  await page.goto(`/units/${tag}/mend`);
  await expect(page.getByText(/Earlier hands left: stripped fastener/)).toBeVisible();
  await page.goto(`/labels?kind=piece&q=${tag}`);
  await expect(page.getByText("main board")).toBeVisible();
  const field = page.getByRole("combobox", { name: "Tag, words or action" });
  await page.keyboard.press("/");
  await expect(field).toBeFocused();
  await page.keyboard.type(`${tag}-board`);
  await page.keyboard.press("Enter");
  await expect(page).toHaveURL(new RegExp(`/units/${tag}`));
});
