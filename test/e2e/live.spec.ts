import { readFileSync } from "node:fs";

import type { Page } from "@playwright/test";

import { ALERT, expect, newUnit, scan, signIn, test } from "./shop";
import { injectPad } from "./pad";
import { addressOf } from "./units";
import { one } from "@/core/base/one";

type PadWindow = { pad: { axes: number[]; buttons: number[]; plugged: boolean; began: number } };

test("a quick look with a controller at the browser's own interface: ticks, a fault at once, never proof", async ({
  page,
  db,
}) => {
  await injectPad(page, "quick-look");
  await signIn(page, "bram");
  const { tag, unitId } = await newUnit(page, "dunlin");
  await page.goto(`/units/${tag}/test/run?kind=quick`);
  await page.getByRole("button", { name: /Test Bench pad \(made up\)/ }).click();
  await expect(page.getByText("0 / 19")).toBeVisible();
  await page.evaluate(() => ((window as unknown as PadWindow).pad.began = performance.now()));
  await expect(page.locator(ALERT)).toContainText("left stick: rests 20.2 % off (limit 12.0 %)");
  // it ends within 90 s even when a busy machine misses a press of the script
  await expect(page.getByRole("heading", { name: "Faults seen" })).toBeVisible({ timeout: 120_000 });
  await expect(page.getByText("a quick look, never proof")).toBeVisible();
  const row = one(
    (
      await db("recording").where({ unit_id: unitId }).select("source", "samples", "duration_ms", "tester")
    )[0],
  );
  expect(row.source).toBe("gamepad");
  expect(row.tester.label).toBe("Bench pad (made up)");
  // every reading that the browser gave: one each 4 ms, as far as its timer allows
  expect(row.samples).toBeGreaterThan((row.duration_ms / 1000) * 55);
  await page.goto(`/units/${tag}/prove`);
  await expect(page.getByRole("heading", { name: "Not proven" })).toBeVisible();
});

test("the full test waits, asks once when nothing moves, and goes on after the plug was pulled", async ({
  page,
}) => {
  await injectPad(page, undefined, 1, "Bench pad live 1");
  await signIn(page, "bram");
  const { tag } = await newUnit(page, "dunlin");
  await page.goto(`/units/${tag}/test/run?kind=full`);
  await page.getByRole("button", { name: /Test Bench pad/ }).click();
  await expect(page.getByRole("heading", { name: "Hands off" })).toBeVisible();
  for (const asked of [
    "Press face south on each cue",
    "Press the rim of face south on each cue",
    "Press face east on each cue",
  ]) {
    await expect(page.getByRole("heading", { name: asked })).toBeVisible();
    await page.keyboard.press("s");
  }
  await expect(page.getByRole("heading", { name: "Circle the left stick" })).toBeVisible();
  await page.evaluate(() => ((window as unknown as PadWindow).pad.plugged = false));
  await expect(page.locator(ALERT)).toContainText("The controller is gone");
  await page.evaluate(() => ((window as unknown as PadWindow).pad.plugged = true));
  await expect(page.locator(ALERT)).toHaveCount(0);
  await expect(page.getByText("Nothing came from the left stick. Was it really moved?")).toBeVisible({
    timeout: 120_000,
  });
  await page.keyboard.press("y");
  await expect(page.getByRole("heading", { name: "Circle the right stick" })).toBeVisible();
  await page.keyboard.press("s");
  await page.getByRole("button", { name: "End here, keep what was measured" }).click();
  await expect(page.getByRole("heading", { name: "Fail", exact: true })).toBeVisible();
  await expect(page.getByRole("region", { name: "left stick" })).toContainText("no answer");
  await page.getByRole("option", { name: "not tested right stick", exact: true }).click();
  await expect(page.getByRole("region", { name: "right stick" })).toContainText("not tested");
});

const simulate = async (page: Page, tag: string, kind: "full" | "quick", speed = "20") => {
  await page.goto(`/units/${tag}/test/run?kind=${kind}`);
  await page.getByLabel("Speed").selectOption(speed);
  await page.getByRole("button", { name: "Test the simulated controller" }).click();
};

test("the server is away: the recording stays in the browser and is sent later, once", async ({
  page,
  context,
  db,
}) => {
  await signIn(page, "bram");
  const { tag, unitId } = await newUnit(page, "knot");
  await page.route("**/api/recordings", (r) => r.abort());
  await simulate(page, tag, "quick");
  await expect(page.getByText(/a recording waits in this browser until the server answers/)).toBeVisible({
    timeout: 120_000,
  });
  await expect(page).toHaveURL(/\/test$/);
  expect(await db("recording").where({ unit_id: unitId })).toHaveLength(0);
  await page.unroute("**/api/recordings");
  await page.reload();
  await expect(page.getByRole("heading", { name: "No fault seen" })).toBeVisible({ timeout: 120_000 });
  await expect(page.getByText(/a recording waits/)).toHaveCount(0);
  expect(await db("recording").where({ unit_id: unitId })).toHaveLength(1);
  await context.setOffline(false);
});

test("a recording stays its maker's: a viewer who signs in here neither sends nor loses it", async ({
  page,
  db,
}) => {
  await signIn(page, "bram");
  const { tag, unitId } = await newUnit(page, "knot");
  await page.route("**/api/recordings", (r) => r.abort());
  await simulate(page, tag, "quick");
  await expect(page.getByText(/a recording waits in this browser until the server answers/)).toBeVisible({
    timeout: 120_000,
  });
  // its maker's page tries every few seconds: the way opens only once that page is gone
  await page.request.post("/api/sign-out", { headers: { Origin: new URL(page.url()).origin } });
  await page.goto("about:blank");
  await page.unroute("**/api/recordings");
  const sends: string[] = [];
  page.on("request", (r) => r.url().endsWith("/api/recordings") && sends.push(r.method()));
  await signIn(page, "viktor");
  const notice = page.getByText(
    `${tag}: a recording of Bram waits in this browser. It is sent when Bram is signed in here again.`,
  );
  await expect(notice).toBeVisible();
  await expect(page.getByRole("button", { name: "Discard" })).toHaveCount(0);
  await expect(page.getByRole("button", { name: "Send it now" })).toHaveCount(0);
  const [file] = await Promise.all([
    page.waitForEvent("download"),
    page.getByRole("button", { name: "Save as a file" }).click(),
  ]);
  expect(file.suggestedFilename()).toMatch(new RegExp(`^${tag}-.*\\.csv$`));
  expect(readFileSync((await file.path())!, "utf8").split(",")[0]).toBe("t_ms");
  await page.reload();
  await expect(notice).toBeVisible();
  // neither does another technician send it as theirs
  await page.request.post("/api/sign-out", { headers: { Origin: new URL(page.url()).origin } });
  await signIn(page, "oona");
  await expect(notice).toBeVisible();
  expect(sends).toEqual([]);
  expect(await db("recording").where({ unit_id: unitId })).toHaveLength(0);
  await page.request.post("/api/sign-out", { headers: { Origin: new URL(page.url()).origin } });
  await signIn(page, "bram");
  const makers = () =>
    db("recording as r").join("person as p", "p.id", "r.by").where({ unit_id: unitId }).pluck("p.name");
  await expect.poll(makers, { timeout: 60_000 }).toEqual(["bram"]);
  await expect(page.getByText(/: a recording/)).toHaveCount(0);
});

test("a session that ends in the middle of a test loses nothing", async ({ page, db, context }) => {
  await signIn(page, "bram");
  const { tag, unitId } = await newUnit(page, "knot");
  await simulate(page, tag, "quick");
  await expect(page.getByText("moved all the way")).toBeVisible();
  const cookies = await context.cookies();
  await context.clearCookies();
  await page.waitForURL(/sign-in/, { timeout: 40_000 }).catch(() => undefined);
  expect(await db("recording").where({ unit_id: unitId })).toHaveLength(0);
  await context.addCookies(cookies);
  await page.goto(`/units/${tag}/test`);
  await expect(page.getByRole("heading", { name: "No fault seen" })).toBeVisible({ timeout: 120_000 });
  expect(await db("recording").where({ unit_id: unitId })).toHaveLength(1);
});

test("a page that is left in the middle of a test offers what was measured until then", async ({ page }) => {
  await signIn(page, "bram");
  const { tag } = await newUnit(page, "dunlin");
  await simulate(page, tag, "full", "4");
  const kept = () =>
    page.evaluate(async () => {
      if (!(await indexedDB.databases()).some((d) => d.name === "birdcage-outbox")) return 0;
      const asked = <T>(request: IDBRequest<T>) =>
        new Promise<T>((good, bad) => {
          request.onsuccess = () => good(request.result);
          request.onerror = () => bad(new Error("the outbox does not open"));
        });
      const db = await asked(indexedDB.open("birdcage-outbox"));
      const items = await asked(db.transaction("recordings").objectStore("recordings").count());
      db.close();
      return items;
    });
  await expect.poll(kept, { timeout: 120_000 }).toBeGreaterThan(0);
  // what is kept while it runs was left by nobody
  await expect(page.getByText(/: a test was left in the middle/)).toHaveCount(0);
  await page.reload();
  await expect(page.getByText(/: a test was left in the middle/)).toBeVisible({ timeout: 120_000 });
  await page.getByRole("button", { name: "Keep what was measured" }).click();
  await expect(page.getByText(/a test was left in the middle/)).toHaveCount(0, { timeout: 120_000 });
  await page.goto(`/units/${tag}/test`);
  await expect(page.getByRole("heading", { name: "Not tested" })).toBeVisible();
  await expect(page.getByText(/^Full test, .* simulated controller/)).toBeVisible();
});

test("a recording is played back through the same gauges", async ({ page }) => {
  await signIn(page, "bram");
  const { tag } = await newUnit(page, "knot");
  await simulate(page, tag, "quick");
  await expect(page.getByRole("heading", { name: "No fault seen" })).toBeVisible({ timeout: 120_000 });
  const href = (await page.getByRole("link", { name: "Export as CSV" }).getAttribute("href"))!;
  const csv = await (await page.request.get(href)).body();
  await page.goto(`/units/${tag}/test/run?kind=quick`);
  await page.getByLabel("Speed").selectOption("20");
  await page
    .getByLabel("Play a recording back")
    .and(page.locator("input"))
    .setInputFiles({ name: "r.csv", mimeType: "text/csv", buffer: csv });
  await expect(page.getByText("Playing back")).toBeVisible();
  await expect(page.getByText(/recording played back \(recording played back/)).toBeVisible({
    timeout: 120_000,
  });
});

test("a controller is learnt by pressing what is asked, and its profile is kept", async ({ page }) => {
  await injectPad(page, undefined, 1, "Bench pad live 2");
  await signIn(page, "bram");
  await page.goto("/models/learn");
  await page.getByLabel("Model name").fill("Redshank");
  await page.getByLabel("Maker").fill("Fenlight");
  const labels = await page
    .getByRole("checkbox", { checked: true })
    .evaluateAll((boxes) => boxes.map((box) => box.closest("label")!.innerText.trim()));
  for (const label of labels.filter((l) => l !== "left stick" && l !== "face south"))
    await page.getByLabel(label, { exact: true }).uncheck();
  await page.getByRole("button", { name: "Begin" }).click();
  const move = (js: string) => page.evaluate(js);
  await expect(page.getByRole("heading", { name: "Push the left stick to the right" })).toBeVisible();
  await move("pad.axes[2] = 1");
  await expect(page.getByRole("heading", { name: "Hands off" })).toBeVisible();
  await move("pad.axes[2] = 0");
  await expect(page.getByRole("heading", { name: "Push the left stick down, toward you" })).toBeVisible();
  await move("pad.axes[3] = -1");
  await expect(page.getByRole("heading", { name: "Hands off" })).toBeVisible();
  await move("pad.axes[3] = 0");
  await expect(page.getByRole("heading", { name: "Press face south" })).toBeVisible();
  await move("pad.buttons[3] = 1");
  await expect(page.getByRole("heading", { name: "2 controls learnt" })).toBeVisible();
  await page.getByRole("button", { name: "Keep it as Redshank" }).click();
  await expect(page.getByRole("heading", { name: "Fenlight Redshank" })).toBeVisible();
  const profile = await (await page.request.get("/api/profiles/redshank")).json();
  expect(profile.controls.map((c: { input: object }) => c.input)).toEqual([
    { axes: [2, 3], flip: [false, true] },
    { button: 3 },
  ]);
});

test("a scan opens its unit from inside a field and leaves the field as it was; number keys go to trays", async ({
  page,
  db,
}) => {
  await signIn(page, "bram");
  const [here, there] = [await newUnit(page, "knot"), await newUnit(page, "knot")];
  await page.goto(`/units/${here.tag}/mend`);
  await page.getByLabel("Remark").fill("half a word");
  await page.getByLabel("Remark").focus();
  expect(await scan(page, there.tag)).toBe("half a word");
  await expect(page).toHaveURL(new RegExp(there.tag));
  await page.locator("main").click({ position: { x: 2, y: 2 } });
  const onTray = one(await db("unit").whereNotNull("tray").orderBy("tray").first("tray", "tag"));
  await page.keyboard.press(String(onTray.tray));
  await expect(page).toHaveURL(new RegExp(onTray.tag));
  await page.keyboard.press("/");
  await page.keyboard.type(here.tag.slice(-3), { delay: 60 });
  await page.keyboard.press("Enter");
  await expect(page).toHaveURL(new RegExp(here.tag));
  await page.keyboard.press("Escape");
  await page.locator("main").click({ position: { x: 2, y: 2 } });
  await page.keyboard.press("?");
  await expect(page.getByRole("dialog", { name: "Keys" })).toBeVisible();
});

test("swollen is quarantined and everything else locked; liquid skips the test until signed off", async ({
  page,
}) => {
  await signIn(page, "oona");
  await page.goto("/units/new");
  await page.getByLabel("Model").fill("dun");
  await page.keyboard.press("Enter");
  await page.getByLabel("Cell swollen, hot or punctured").check();
  await expect(page.locator(ALERT)).toContainText("Stop. Do not press, puncture, charge or open it.");
  await page.getByLabel("Price EUR").fill("4");
  await page.getByLabel("Carriage").fill("0");
  await page.getByRole("button", { name: "Take in to quarantine" }).click();
  await expect(page.getByText(/^Quarantine: the cell is swollen/)).toBeVisible();
  await page.getByRole("link", { name: /^Test/ }).click();
  await expect(page.getByText("Locked: this unit is in quarantine.")).toBeVisible();

  const { tag } = await newUnit(page, "dunlin", { liquid: true });
  await page.goto(`/units/${tag}/test/run`);
  await expect(page.getByText("The test is skipped: this unit took liquid.")).toBeVisible();
  await expect(page.getByRole("button", { name: "Sign off as dry" })).toBeDisabled();
  for (const box of await page.getByRole("checkbox").all()) await box.check();
  await page.getByRole("button", { name: "Sign off as dry" }).click();
  await expect(page.getByRole("heading", { name: "Not tested" })).toBeVisible();
});

test("other endings say what is known, and the unit is closed", async ({ page }) => {
  await signIn(page, "bram");
  const { tag } = await newUnit(page, "sanderling");
  await page.goto(`/units/${tag}/release`);
  await page.getByRole("button", { name: "donor" }).click();
  await page.getByLabel(/^What is known/).fill("Board good, shell cracked");
  await page.getByRole("button", { name: "Close as donor" }).click();
  await expect(page.getByRole("heading", { name: "Donor" })).toBeVisible();
  await expect(page.getByText("Board good, shell cracked")).toBeVisible();
  await page.goto(`/units/${tag}/mend`);
  await expect(page.getByRole("button", { name: "Log it" })).toHaveCount(0);
});

test("on a phone: photographs, looking a unit up, intake, all within the width", async ({ page, db }) => {
  await page.setViewportSize({ width: 390, height: 844 });
  await signIn(page, "ida");
  for (const path of [
    "/",
    "/units/{proven}/intake",
    "/units/new",
    "/units/{measured}/test",
    "/units/{measured}/test/bench",
    "/units/{measured}/find",
    "/units/{faulty}/decide",
    "/buying",
    "/buying?lot=none",
    "/parts",
    "/parts?tab=catalogue",
    "/parts?tab=plan",
    "/parts?tab=buy",
    "/parts/P-0001",
    "/parts/donors/{donor}",
    "/results",
    "/results/flow",
    "/results/margin",
    "/after",
    "/labels",
    "/units/{proven}/prove",
    "/units/{proven}/release",
    "/units/{released}/release",
    "/routes",
    "/account",
    "/settings",
    "/people",
    "/practice",
    "/archive",
    "/units/{proven}/test/compare",
    "/units/{working}/mend",
    "/units/{working}/mend/map",
    "/units/{working}/mend/solder",
    "/units/{proven}/mend/calibrate",
    "/work/{working}",
    "/day",
    "/models/dunlin/guide",
  ]) {
    await page.goto(await addressOf(db, path));
    await expect(page.getByRole("heading", { level: 1 }).first()).toBeVisible();
    const wide = await page.evaluate(
      () => document.documentElement.scrollWidth - document.documentElement.clientWidth,
    );
    expect(wide, path).toBeLessThanOrEqual(0);
  }
  const { tag } = await newUnit(page, "curlew");
  await page.goto("/");
  await page.getByLabel("Tag, words or action").fill("curlew");
  await page.getByRole("option", { name: new RegExp(tag) }).click();
  await expect(page).toHaveURL(new RegExp(tag));
});
