import type { Page } from "@playwright/test";
import type { Knex } from "knex";

import { injectPad } from "./pad";
import { ALERT, deed, expect, listens, newUnit, runFullTest, signIn, tabTo, test } from "./shop";
import { one } from "@/core/base/one";
import { countOf } from "@/platform/db/joined";
import { catalogueSchema } from "@/core/parts/catalogue";

/**
 * Quick hands, a slow server, a reload in the middle, the full name typed: nothing is taken in wrong, dropped
 * or untrue.
 */

const SLOW_MS = 2000;
/** Every deed takes two seconds to reach the server, as on a bad line. */
const slowDeeds = (page: Page) =>
  page.route("**/api/do/**", async (route) => {
    if (!route.request().url().endsWith("bench.present")) await new Promise((go) => setTimeout(go, SLOW_MS));
    await route.continue().catch(() => undefined); // the page may be gone by then
  });

/**
 * Opens a unit's page and waits until it is alive: it then tells the server that somebody looks at the unit.
 */
async function openAlive(page: Page, address: string): Promise<void> {
  const alive = page.waitForResponse((r) => r.url().endsWith("/bench.present"));
  await page.goto(address);
  await alive;
}

test.describe("taking in", () => {
  const model = (page: Page) => page.getByRole("combobox", { name: "Model" });

  for (const key of ["Enter", "Tab"] as const)
    test(`a full name typed and ${key} is that model, never the first of the list; an unclear text is none`, async ({
      page,
      db,
    }) => {
      await signIn(page, "bram");
      await page.goto("/units/new");
      await expect(model(page)).toBeFocused();
      await page.keyboard.type("Dunlin", { delay: 60 }); // faster would be a scanner
      await page.keyboard.press(key);
      await expect(model(page)).toHaveValue("Dunlin");
      await expect(page.getByText("Nothing is missing.")).toBeVisible();

      await model(page).fill("n");
      await page.keyboard.press(key);
      await expect(model(page)).toHaveValue("n");
      await expect(page.getByText(/which of them: /)).toBeVisible();
      await page.getByLabel("Price EUR").fill("5");
      await page
        .getByRole("button", { name: /^Take in, / })
        .first()
        .click();
      await expect(page).toHaveURL(/\/units\/new$/);

      await model(page).fill("dunl");
      await page.keyboard.press(key);
      await expect(model(page)).toHaveValue("Dunlin");
      // an empty carriage is none
      await page
        .getByRole("button", { name: /^Take in, / })
        .first()
        .click();
      await expect(page).toHaveURL(/\/units\/B-\d+/);
      const tag = (await page.getByRole("heading", { level: 1 }).textContent())!;
      const unit = await db("unit as u")
        .join("model_profile as m", "m.id", "u.profile_id")
        .where({ tag })
        .first("m.key", "carriage_minor");
      expect(unit).toEqual({ key: "dunlin", carriage_minor: 0 });
    });

  test("what is typed before the page is alive is kept, and so is the whole form over a reload", async ({
    page,
  }) => {
    await signIn(page, "bram");
    let open = () => {};
    const held = new Promise<void>((go) => (open = go));
    await page.route("**/_next/static/**/*.js", async (route) => {
      await held;
      await route.continue();
    });
    await page.goto("/units/new", { waitUntil: "commit" });
    await model(page).pressSequentially("Dunlin");
    await page.getByLabel("Seller", { exact: true }).pressSequentially("quayside market");
    open();
    await expect(page.getByText("next tag")).toBeVisible();
    await expect(page.getByText("Nothing is missing.")).toBeVisible();
    await expect(model(page)).toHaveValue("Dunlin");
    await expect(page.getByLabel("Seller", { exact: true })).toHaveValue("quayside market");
    await page.getByLabel("The seller’s words").fill("left stick drifts");
    await page.getByLabel("Was opened before").check();

    await page.reload();
    await expect(page.getByText("As you left it.")).toBeVisible();
    await expect(model(page)).toHaveValue("Dunlin");
    await expect(page.getByLabel("Seller", { exact: true })).toHaveValue("quayside market");
    await expect(page.getByLabel("The seller’s words")).toHaveValue("left stick drifts");
    await expect(page.getByLabel("Was opened before")).toBeChecked();
    await page.getByRole("button", { name: "Start anew" }).click();
    await expect(model(page)).toHaveValue("");
    await page.reload();
    await expect(page.getByText("As you left it.")).toHaveCount(0);
  });

  test("another of the same lot keeps the model", async ({ page }) => {
    await signIn(page, "bram");
    await page.goto("/units/new");
    await page.getByRole("button", { name: "From a lot" }).click();
    await page.getByLabel("Lot", { exact: true }).selectOption({ index: 1 });
    await model(page).fill("curlew");
    await page.keyboard.press("Tab");
    await expect(page.getByText("Nothing is missing.")).toBeVisible();
    await page.getByRole("button", { name: "Take in, then another" }).click();
    await expect(page.getByText(/B-\d+ is taken in/)).toBeVisible();
    await expect(model(page)).toHaveValue("Curlew");
  });

  test("a controller that was another model is asked about before its test begins", async ({ page, db }) => {
    await injectPad(page, undefined, 1, "Bench pad of a knot");
    await signIn(page, "bram");
    const knot = await newUnit(page, "knot");
    const dunlin = await newUnit(page, "dunlin");
    await page.goto(`/units/${knot.tag}/test/run?kind=quick`);
    await page.getByRole("button", { name: /^Test Bench pad/ }).click();
    await page.getByRole("button", { name: "Finish now" }).click();
    await expect(page).toHaveURL(/\/test\?r=/);
    await page.goto(`/units/${dunlin.tag}/test/run?kind=quick`);
    await page.getByRole("button", { name: /^Test Bench pad/ }).click();
    await expect(page.locator(ALERT)).toContainText("was a Knot until now");
    await page.getByRole("link", { name: "No: correct its model" }).click();
    await page.getByRole("button", { name: "Correct the intake" }).click();
    await page.getByLabel("Model", { exact: true }).selectOption("knot");
    await page.getByRole("button", { name: "Save the intake" }).click();
    await expect(page.getByText(/Knot/).first()).toBeVisible();
    const unit = await db("unit as u")
      .join("model_profile as m", "m.id", "u.profile_id")
      .where({ tag: dunlin.tag })
      .first("m.key");
    expect(unit.key).toBe("knot");
  });
});

test.describe("ten answers a second on a slow line", () => {
  /** Gives every function of a unit's Prove page an answer, ten a second, by the buttons beside each row. */
  async function answerFast(page: Page, tag: string): Promise<string[]> {
    await openAlive(page, `/units/${tag}/prove`);
    const rows = page.locator("[data-function]");
    await expect(rows.first()).toBeVisible();
    await slowDeeds(page);
    const ids = await rows.evaluateAll((all) => all.map((r) => r.getAttribute("data-function")!));
    for (const id of ids) {
      await page
        .locator(`[data-function="${id}"]`)
        .getByRole("button", { name: /: pass$/ })
        .dispatchEvent("click");
      await page.waitForTimeout(60); // the speed of the hands, not a wait for the page
    }
    return ids;
  }
  const answered = (db: Knex, unitId: string) =>
    db("function_check")
      .where({ unit_id: unitId, result: "pass" })
      .distinct("function_id")
      .pluck("function_id");

  test("all of them are shown at once as saving, and all of them are kept, in their order", async ({
    page,
    db,
  }) => {
    await signIn(page, "bram");
    const { tag, unitId } = await newUnit(page, "whimbrel");
    const ids = await answerFast(page, tag);
    expect(ids.length).toBeGreaterThanOrEqual(8);
    for (const id of ids)
      await expect(page.locator(`[data-function="${id}"]`)).toHaveAttribute(
        "aria-label",
        /: pass(, saving)?$/,
      );
    await expect(page.getByRole("status", { name: "Saving" })).toContainText(/saving \d+/);
    for (const id of ids)
      await expect(page.locator(`[data-function="${id}"]`)).toHaveAttribute("aria-label", /: pass$/, {
        timeout: 90_000,
      });
    const kept: string[] = await db("function_check")
      .where({ unit_id: unitId })
      .orderBy("id")
      .pluck("function_id");
    expect(kept).toEqual(ids);
  });

  test("a reload while they wait loses none", async ({ page, db }) => {
    await signIn(page, "bram");
    const { tag, unitId } = await newUnit(page, "whimbrel");
    const ids = await answerFast(page, tag);
    await page.unroute("**/api/do/**");
    await page.reload();
    await expect.poll(() => answered(db, unitId), { timeout: 90_000 }).toHaveLength(ids.length);
    for (const id of ids)
      await expect(page.locator(`[data-function="${id}"]`)).toHaveAttribute("aria-label", /: pass$/);
    expect(await db("function_check").where({ unit_id: unitId })).toHaveLength(ids.length); // once each
  });

  test("signed out while they wait: nobody else's hands send them, and they go out when the person is back", async ({
    page,
    db,
  }) => {
    await signIn(page, "bram");
    const { tag, unitId } = await newUnit(page, "whimbrel");
    const ids = await answerFast(page, tag);
    await page.unroute("**/api/do/**");
    await page.context().clearCookies();
    await page.goto("/sign-in");
    const before = (await answered(db, unitId)).length;
    expect(before).toBeLessThan(ids.length);
    await signIn(page, "oona");
    await expect(page.getByText(/changes? of Bram wait in this browser/)).toBeVisible();
    expect((await answered(db, unitId)).length).toBe(before);
    const oona = one(await db("person").where({ name: "oona" }).first("id"));
    expect(await db("function_check").where({ unit_id: unitId, by: oona.id })).toEqual([]);
    await page.context().clearCookies();
    await signIn(page, "bram");
    await expect.poll(() => answered(db, unitId), { timeout: 90_000 }).toHaveLength(ids.length);
    const bram = one(await db("person").where({ name: "bram" }).first("id"));
    expect(await db("function_check").where({ unit_id: unitId, by: bram.id })).toHaveLength(ids.length);
  });

  test("signing out by the menu saves first what waits", async ({ page, db }) => {
    await signIn(page, "bram");
    const { tag, unitId } = await newUnit(page, "knot");
    const ids = await answerFast(page, tag);
    await page.getByRole("button", { name: "bram" }).click();
    await page.getByRole("menuitem", { name: "Sign out" }).click();
    await expect(page.getByRole("menuitem", { name: /^Saving \d+ first/ })).toBeVisible();
    await expect(page).toHaveURL(/\/sign-in/, { timeout: 60_000 });
    expect((await answered(db, unitId)).sort()).toEqual([...ids].sort());
  });

  test("one whose answer never comes goes out again by itself, and is there once", async ({ page, db }) => {
    await signIn(page, "bram");
    const { tag, unitId } = await newUnit(page, "knot");
    await openAlive(page, `/units/${tag}/prove`);
    let sent = 0;
    await page.route("**/api/do/function.check", async (route) => {
      // it arrives, and the line dies before the answer is back
      if (++sent === 1) return void (await route.fetch());
      await route.continue();
    });
    const row = page.locator("[data-function]").first();
    await row.focus();
    await page.keyboard.press("y");
    await expect.poll(() => sent, { timeout: 60_000 }).toBe(2);
    await expect(page.getByRole("status").filter({ hasText: /^Saving$/ })).toHaveCount(0);
    await expect(row).toHaveAttribute("aria-label", /: pass$/);
    expect(await answered(db, unitId)).toHaveLength(1);
  });

  test("one that is refused is told by its name; the others stand", async ({ page, db }) => {
    await signIn(page, "bram");
    const { tag, unitId } = await newUnit(page, "knot");
    await openAlive(page, `/units/${tag}/prove`);
    const rows = page.locator("[data-function]");
    let n = 0;
    await page.route("**/api/do/function.check", async (route) => {
      if (++n === 2) return route.fulfill({ status: 409, json: { ok: false, problem: { code: "closed" } } });
      await route.continue();
    });
    const ids = (await rows.evaluateAll((all) => all.map((r) => r.getAttribute("data-function")!))).slice(
      0,
      3,
    );
    await rows.first().focus();
    for (const _ of ids) await page.keyboard.press("y"); // the focus goes to the next row at once
    await expect(page.locator(ALERT)).toContainText(/Not saved: a function, .+: pass\./);
    await expect.poll(() => answered(db, unitId)).toHaveLength(ids.length - 1);
  });
});

test("n names the worst measure first, the next n the next one, however quickly they come", async ({
  page,
  db,
}) => {
  await signIn(page, "bram");
  const { tag, unitId } = await newUnit(page, "dunlin", { claim: "left stick drifts" });
  await page.goto(`/units/${tag}/test/run?kind=full`);
  await runFullTest(page, "dead-half");
  await slowDeeds(page);
  const saving = page.getByText("saving as a fault");
  await page.keyboard.press("n");
  await expect(saving).toHaveCount(1);
  await page.keyboard.press("n");
  await expect(saving).toHaveCount(2);
  await expect(page.getByText("named as a fault")).toHaveCount(2, { timeout: 30_000 });
  // two measures of one place are one fault, and the worst speaks for it, whichever came first
  const faults = await db("fault").where({ unit_id: unitId }).select("id", "measure", "place", "claimed");
  expect(faults).toHaveLength(1);
  expect(faults[0]).toMatchObject({ measure: "deadHalves", claimed: one(faults[0]).place === "stick.left" });
  const under = await db("symptom")
    .where({ fault_id: one(faults[0]).id })
    .pluck("measure");
  expect(under).toHaveLength(1);
  expect(under).not.toContain("deadHalves");
});

test("a file proves nothing: it is said, and a technician cannot take it", async ({ page, browser }) => {
  await signIn(page, "bram");
  const made = await newUnit(page, "knot");
  await page.goto(`/units/${made.tag}/test/run?kind=full`);
  await runFullTest(page, "healthy");
  const address = (await page.getByRole("link", { name: "Export as CSV" }).getAttribute("href"))!;
  const csv = await (await page.request.get(address)).body();
  const other = await newUnit(page, "knot");
  await page.goto(`/units/${other.tag}/test`);
  await page
    .getByLabel("Import a recording")
    .setInputFiles({ name: "good.csv", mimeType: "text/csv", buffer: csv });
  await expect(page.getByText("The same recording was here before: it is no second test")).toBeVisible();
  await expect(page.getByRole("button", { name: "Take it as the proof" })).toHaveCount(0);
  await page.keyboard.press("p");
  await expect(page.getByRole("heading", { name: "Not proven" })).toBeVisible();
  await expect(page.getByRole("region", { name: "What blocks the release" })).toContainText(
    "that was made here",
  );

  // one that was never here may be taken by a lead, with a reason
  const changed = Buffer.from(csv.toString("utf8").replace(/\n[^\n]*\n$/, "\n"));
  const lead = await browser.newContext({ baseURL: new URL(page.url()).origin });
  const ida = await lead.newPage();
  await signIn(ida, "ida");
  await ida.goto(`/units/${other.tag}/test`);
  await ida
    .getByLabel("Import a recording")
    .setInputFiles({ name: "mine.csv", mimeType: "text/csv", buffer: changed });
  await expect(ida.getByText("it is a reading with a source, and proves nothing")).toBeVisible();
  await ida.getByLabel("Why it may prove the unit (printed)").fill("made on the spare bench, I was there");
  await ida.getByRole("button", { name: "Take it as the proof" }).click();
  await expect(ida.getByText(/took it as the proof: made on the spare bench/)).toBeVisible();
  await ida.keyboard.press("p");
  await expect(ida.getByRole("heading", { name: /^Proof: / })).toBeVisible();
  await lead.close();
});

test("never tested and filthy: Decide says what is untested, gives no figure, and leads to the test", async ({
  page,
}) => {
  await signIn(page, "bram");
  const { tag } = await newUnit(page, "dunlin", { claim: "", intake: { grime: "strong", smell: "strong" } });
  await page.goto(`/units/${tag}/decide`);
  await expect(page.getByRole("heading", { name: "Test it first" })).toBeVisible();
  await expect(page.getByText(/things are not tested/)).toBeVisible();
  await expect(page.getByText("expected from here")).toHaveCount(0);
  await expect(page.getByRole("region", { name: "Ways to end" })).toHaveCount(0); // its parts are not known to be good either
  await expect(page.getByRole("button", { name: /^Decide: / })).toHaveCount(0);
  await page.getByRole("link", { name: "Go and test" }).click();
  await expect(page).toHaveURL(/\/test$/);
});

test("the list of units counts all, pages on the server, and its address leads back", async ({
  page,
  db,
}) => {
  await signIn(page, "bram");
  const total = await countOf(db("unit"));
  await page.goto("/units");
  await expect(page.getByRole("heading", { level: 1 })).toHaveText(`${total} units`);
  const firstTag = await page.locator(".MuiDataGrid-row .MuiDataGrid-cell").first().textContent();
  await listens(page);
  await expect(page.getByRole("button", { name: "Page before" })).toBeDisabled();
  await page.getByRole("link", { name: "Next page" }).click();
  await expect(page).toHaveURL(/page=2/);
  await expect(page.locator(".MuiDataGrid-row .MuiDataGrid-cell").first()).not.toHaveText(firstTag!);
  await expect(page.getByText(`26 to 50 of ${total}`)).toBeVisible();
  await page.reload();
  await expect(page.getByRole("heading", { level: 1 })).toHaveText(`${total} units`);
  await expect(page).toHaveURL(/page=2/); // the list itself does not lead elsewhere
  await expect(page.locator(".MuiDataGrid-row .MuiDataGrid-cell").first()).not.toHaveText(firstTag!);
  await page.goBack();
  await expect(page.locator(".MuiDataGrid-row .MuiDataGrid-cell").first()).toHaveText(firstTag!);
});

test("a new workshop says who it is before anything else", async ({ page, db }) => {
  const shop = one(await db("setting").where({ key: "shop" }).first("value"));
  await signIn(page, "ida");
  await db("setting").where({ key: "shop" }).delete();
  try {
    await page.goto("/units");
    await expect(page.getByRole("heading", { name: "First, the shop" })).toBeVisible();
    await expect(page.getByRole("button", { name: "Go on to the bench" })).toBeDisabled();
    await page.getByLabel("What the shop is called").fill("Sluice House Mending");
    await page.getByLabel("Town", { exact: false }).first().fill("Oxmere");
    await page.getByRole("button", { name: "Go on to the bench" }).click();
    await expect(page.getByRole("heading", { level: 1 })).toHaveText(/units$/);
    expect(one(await db("setting").where({ key: "shop" }).first("value")).value).toMatchObject({
      shopName: "Sluice House Mending",
    });
  } finally {
    await db("setting").where({ key: "shop" }).delete();
    await db("setting").insert({ key: "shop", value: JSON.stringify(shop.value) });
  }
});

test("a kit of four gives the pieces of four, said before and taken back after", async ({ page, db }) => {
  await signIn(page, "bram");
  const batch = one(await db("batch").where({ part: "AS-MODULE" }).orderBy("code").first());
  await page.goto(`/parts/${batch.code}`);
  const kit = page.getByRole("region", { name: "Take apart" });
  await kit.getByLabel("How many taken apart").fill("4");
  await expect(kit.getByRole("status", { name: "What comes out" })).toContainText("Out of 4 come:");
  const catalogue = catalogueSchema.parse(
    one(await db("setting").where({ key: "catalogue" }).first("value")).value,
  );
  const inside = catalogue.parts.find((p) => p.code === "AS-MODULE")?.contents ?? [];
  expect(inside).not.toEqual([]);
  for (const c of inside) await expect(kit.getByLabel(`good, ${c.part}`)).toHaveValue(String(4 * c.count));
  await kit.getByRole("button", { name: "Take apart" }).click();
  await expect(kit.getByRole("button", { name: /^Take back: 4 taken apart into/ })).toBeVisible();
  expect(one(await db("batch").where({ id: batch.id }).first("on_hand")).on_hand).toBe(batch.on_hand - 4);
  await kit.getByRole("button", { name: /^Take back/ }).click();
  await expect
    .poll(async () => one(await db("batch").where({ id: batch.id }).first("on_hand")).on_hand)
    .toBe(batch.on_hand);
});

test("choosing a route in the log fills in no part; what it usually takes is one press away", async ({
  page,
}) => {
  await signIn(page, "bram");
  const { tag, unitId } = await newUnit(page, "knot");
  await deed(page, "fault.add", {
    unitId,
    place: "face.south",
    kind: "misses presses",
    words: "",
    foundWhen: "test",
    measure: null,
    recordingId: null,
  });
  await page.goto(`/units/${tag}/mend`);
  await page.getByLabel("By which route").selectOption("dome-dear");
  await expect(page.getByLabel("What was done")).toHaveValue("New dome sheet, dear copy");
  await expect(page.getByLabel("Part used")).toHaveValue("");
  await expect(page.getByLabel("Its cost, EUR")).toHaveValue("0.00");
  await page.getByRole("button", { name: "It was this" }).click();
  await expect(page.getByLabel("Part used")).toHaveValue(/dome sheet/);
});

test("at a step: the total stays, keys work with the keys panel open, and one Space too many takes nothing out again", async ({
  page,
  db,
}) => {
  await signIn(page, "bram");
  const { tag, unitId } = await newUnit(page, "knot");
  const { body } = await deed(page, "work.open", {
    unitId,
    targets: [{ faultId: null, what: "Look inside", slot: "dome.centre", route: null }],
    cleaningLevel: 0,
    calibrate: [],
  });
  expect(body.ok).toBe(true);
  await page.goto(`/work/${tag}`);
  const figure = page.getByText(/^\d+\/\d+$/);
  const total = (await figure.textContent())!.split("/")[1]!;
  const keys = page.getByRole("button", { name: "Keys, pedal, buttons" });
  await keys.click();
  await expect(keys).toHaveAttribute("aria-expanded", "true");
  const heading = page.getByRole("heading", { level: 1 });
  // Enter, Enter, Enter: each step stands there before the next press, and none is lost
  for (let i = 0; i < 20; i++) {
    const now = (await heading.textContent())!;
    if (now.startsWith("Back:")) break;
    await page.locator("body").press("Enter");
    await expect(heading).not.toHaveText(now);
    expect((await figure.textContent())!.split("/")[1]).toBe(total);
  }
  await expect(heading).toHaveText(/^Back: /);
  const boxes = page.getByRole("checkbox", { name: /: (in|out)$/ });
  const count = await boxes.count();
  // taken apart a moment ago, perhaps not yet at the server: every piece is out, and none looks as if it were
  // in
  expect(count).toBeGreaterThan(0);
  await expect(page.getByRole("checkbox", { name: /: out$/ })).toHaveCount(count, { timeout: 1000 });
  for (let i = 0; i < count + 3; i++) {
    await page.locator("body").press(" ");
    await expect(page.getByRole("checkbox", { name: /: out$/ })).toHaveCount(Math.max(0, count - i - 1));
  }
  await expect
    .poll(
      async () =>
        await countOf(
          db("work_event").whereRaw("body->>'kind' = 'in'").whereRaw("work_order_id = ?", [body.value!.id!]),
        ),
    )
    .toBe(count);
  await tabTo(page, page.getByRole("button", { name: /^Done/ }), 60);
  // the button is whole above the strip of the bench
  const button = (await page.getByRole("button", { name: /^Done/ }).boundingBox())!;
  const strip = (await page.getByRole("contentinfo", { name: "Trays on the bench" }).boundingBox())!;
  expect(button.y + button.height).toBeLessThanOrEqual(strip.y + 1);
});
