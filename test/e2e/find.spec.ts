import type { Page } from "@playwright/test";
import { readFileSync } from "node:fs";
import { gzipSync } from "node:zlib";

import type { MappedControl } from "@/core/input/input";
import { controlsOf, profileSchema } from "@/core/profile/profile";
import { writeRecordingCsv } from "@/core/recording/csv";
import type { ControllerFaults } from "@/core/simulate/faults";
import { simulateFullTest } from "@/core/simulate/run";
import { ALERT, deed, expect, newUnit, signIn, test } from "./shop";

/** The Find station walks three stories, from what fails to the cause. */

/** A full test of a made-up unit of the model with these faults, stored as the page would store it. */
async function measured(page: Page, unitId: string, model: string, faults: ControllerFaults): Promise<void> {
  const profile = profileSchema.parse(JSON.parse(readFileSync(`profiles/${model}.json`, "utf8")));
  const controls = controlsOf(profile, null) as (MappedControl & { rim?: boolean })[];
  const csv = [
    ...writeRecordingCsv(simulateFullTest(controls, { seed: 12, rateHz: 100, bits: 10, faults })),
  ].join("");
  const head = {
    id: crypto.randomUUID(),
    unitId,
    purpose: "full",
    source: "simulated",
    tester: { label: "story", host: "test" },
    startedAgoMs: 0,
  };
  const response = await page.request.post("/api/recordings", {
    headers: { "x-recording": encodeURIComponent(JSON.stringify(head)), Origin: new URL(page.url()).origin },
    data: gzipSync(csv),
  });
  expect(response.status()).toBe(200);
}
const answer = (page: Page, unitId: string, functionId: string, result: "pass" | "fail") =>
  deed(page, "function.check", { unitId, functionId, result, note: "" });
const cause = (page: Page) => page.getByRole("region", { name: "Cause" });
const top = (page: Page) => cause(page).locator("h2").first();
const causes = (page: Page) =>
  page.getByRole("list", { name: "Causes, most likely first" }).getByRole("listitem");
const next = (page: Page) => page.getByRole("region", { name: "The next check" });
const unfold = (page: Page, title: RegExp) => page.getByRole("button", { name: title }).click();

test("a light, a touch surface and one bumper share a flex; first the bumper was blamed", async ({
  page,
}) => {
  await signIn(page, "bram");
  const { tag, unitId } = await newUnit(page, "avocet", { claim: "left bumper is dead" });
  await test.step("the bumper alone looks like its switch", async () => {
    await measured(page, unitId, "avocet", { buttons: { "bumper.left": { missRate: 1 } } });
    await page.goto(`/units/${tag}/find`);
    await expect(top(page)).toHaveText("left bumper switch");
    await unfold(page, /What the claim says/);
    await expect(page.getByText("“dead”: left bumper dead")).toBeVisible();
  });
  await test.step("with the light and the touch surface dead too, it is what the three share", async () => {
    await answer(page, unitId, "light.left", "fail");
    await answer(page, unitId, "touch.left", "fail");
    await answer(page, unitId, "light.right", "pass");
    for (const id of [
      "touch.right",
      "motor.left",
      "motor.right",
      "latch",
      "radio.left",
      "radio.right",
      "charge.left",
      "charge.right",
      "motion",
    ])
      await answer(page, unitId, id, "pass");
    await page.reload();
    await expect(top(page)).toHaveText(/left edge flex/);
    await expect(causes(page).first()).toContainText("for: left touch surface dead");
    await expect(page.getByRole("group", { name: /left board, (top|bottom)/ })).toBeVisible();
  });
  await test.step("the advice asks about the flex, says what each answer would mean, and takes the answer", async () => {
    await expect(next(page).getByRole("heading")).toHaveText(/edge flex/);
    await expect(next(page)).toContainText(/likely; then .* \d/);
    await deed(page, "find.observe", {
      unitId,
      kind: "check",
      target: "look.flex.edge.left",
      outcome: "damaged",
      value: null,
      note: "",
    });
    await deed(page, "find.observe", {
      unitId,
      kind: "check",
      target: "look.sock.edge.left",
      outcome: "sound",
      value: null,
      note: "",
    });
    await page.reload();
    await expect(top(page)).toHaveText("left edge flex");
    await expect(
      cause(page)
        .getByText(/^(8|9)\d %$/)
        .first(),
    ).toBeVisible();
  });
  await test.step("the board turns over and is mirrored", async () => {
    await page.getByRole("button", { name: "Turn it over" }).click();
    await expect(page.getByRole("group", { name: /mirrored/ })).toBeVisible();
  });
});

test("a pad that falls asleep within a minute when warm, not when cold: halved to one part", async ({
  page,
}) => {
  await signIn(page, "bram");
  const { tag, unitId } = await newUnit(page, "dunlin", { claim: "falls asleep after a minute" });
  await measured(page, unitId, "dunlin", {});
  await deed(page, "find.observe", {
    unitId,
    kind: "function",
    target: "power-on",
    outcome: "intermittent",
    value: null,
    note: "warm only",
  });
  await page.goto(`/units/${tag}/find`);
  await expect(cause(page)).toContainText("comes and goes");
  await unfold(page, /Works here, fails there/);
  await page.getByLabel("It works, and fails").click();
  await page.getByRole("option", { name: "works cold, fails warm" }).click();
  await page.getByRole("button", { name: "List what differs" }).click();
  const search = page.getByRole("region", { name: "Works here, fails there" });
  await expect(search).toContainText("Works cold, fails warm");
  await expect(search).toContainText("Bring only these into the state “warm”");
  // the cell's plug is guilty: it fails whenever the plug is among the warmed
  for (let i = 0; i < 6; i++) {
    if (await search.getByText(/It comes down to/).count()) break;
    const left = await search.getByText(/\d+ left, at most/).textContent();
    const guilty = (await search.getByRole("listitem").allTextContents()).includes("cell plug");
    await search.getByRole("button", { name: guilty ? "It fails" : "It works" }).click();
    await expect(search.getByText(left!)).toHaveCount(0);
  }
  await expect(search).toContainText("It comes down to cell plug.");
  await expect(top(page)).toHaveText("cell plug");
  await expect(causes(page).first()).toContainText("for: the search by halves ends at it");
});

test("jumps that stay after a module swap: a cracked supply joint, and one loose piece that fits nothing", async ({
  page,
}) => {
  await signIn(page, "bram");
  const { tag, unitId } = await newUnit(page, "dunlin", { claim: "aim jumps, left stick" });
  await measured(page, unitId, "dunlin", { sticks: { "stick.left": { wornAt: 0.35 } } });
  await page.goto(`/units/${tag}/find`);
  await expect(top(page)).toHaveText(/left stick (x|y) track/);

  await test.step("the module is swapped, and the retest says that nothing changed", async () => {
    await unfold(page, /^Tries/);
    const tries = page.getByRole("region", { name: "Tries" });
    for (const part of ["left stick x track", "left stick y track"]) {
      await tries.getByLabel("Suspect").selectOption({ label: part });
      await tries.getByLabel("The one action").selectOption("replace");
      await tries.getByLabel("What is expected").fill("no jumps on a slow circle");
      await tries.getByRole("button", { name: "Log the try" }).click();
      await expect(tries).toContainText(`replace the ${part}`);
    }
    await expect(page.locator(ALERT)).toContainText("2 changes are not tested yet");
    for (let i = 0; i < 2; i++) {
      await tries.getByRole("button", { name: "no change" }).first().click();
      await expect(tries.getByRole("button", { name: "no change" })).toHaveCount(1 - i);
    }
    await expect(page.locator(ALERT)).toHaveCount(0);
    await tries.getByLabel("Suspect").selectOption({ label: "left stick x track" });
    await tries.getByLabel("The one action").selectOption("replace");
    await expect(tries).toContainText("failed before (try 1), and nothing new was seen since");
  });

  await test.step("now the joints lead, and a look finds the crack", async () => {
    await expect(top(page)).toHaveText(/left stick .* joint/);
    await unfold(page, /^Seen inside/);
    const inside = page.getByRole("region", { name: "What was seen inside" });
    await inside.getByLabel("Seen at").selectOption({ label: "left stick supply joint" });
    await inside.getByLabel("What").selectOption("cracked-joint");
    await inside.getByRole("button", { name: "Write it down" }).click();
    await expect(inside).toContainText("left stick supply joint: cracked joint");
    await expect(top(page)).toHaveText("left stick supply joint");
  });

  await test.step("a loose piece that fits nothing is numbered and blocks the release", async () => {
    await unfold(page, /^Loose pieces/);
    const pieces = page.getByRole("region", { name: "Loose pieces" });
    await pieces.getByLabel("Piece").fill("sliver of black plastic, 6 mm");
    await pieces.getByLabel("Found at").fill("under the left stick");
    await pieces.getByRole("button", { name: "Number it" }).click();
    await expect(pieces).toContainText("1. sliver of black plastic, 6 mm");
    await expect(pieces).toContainText("fits nothing so far");
    await expect(causes(page).last()).toContainText("whatever loose piece 1 broke from");
    await page.goto(`/units/${tag}/prove`);
    await expect(page.getByText("Loose piece 1 is matched to no part")).toBeVisible();
    await page.goto(`/units/${tag}/find`);
    await pieces.getByLabel("It is from").selectOption({ label: "left stick gimbal" });
    await expect(pieces.getByRole("button", { name: "Match it" })).toBeEnabled();
    await pieces.getByRole("button", { name: "Match it" }).click();
    await expect(page.getByRole("region", { name: "Loose pieces" })).toContainText(
      "from the left stick gimbal",
    );
    await page.goto(`/units/${tag}/prove`);
    await expect(page.getByText("Loose piece 1 is matched to no part")).toHaveCount(0);
  });

  await test.step("a cure is unproven until undoing it brings the fault back", async () => {
    await page.goto(`/units/${tag}/find`);
    const tries = page.getByRole("region", { name: "Tries" });
    await tries.getByLabel("Suspect").selectOption({ label: "left stick supply joint" });
    await tries.getByLabel("The one action").selectOption("resolder");
    await tries.getByLabel("What is expected").fill("no jumps");
    await tries.getByRole("button", { name: "Log the try" }).click();
    await tries.getByRole("button", { name: "cured" }).click();
    await expect(tries).toContainText("(unproven), second test from");
    await tries.getByRole("button", { name: "Undone: it came back" }).click();
    await expect(tries).toContainText("proven: undoing it brought the fault back");
  });
});

test("readings are judged by healthy units, and what is not known is said", async ({ page }) => {
  await signIn(page, "bram");
  const { tag, unitId } = await newUnit(page, "dunlin");
  await measured(page, unitId, "dunlin", { sticks: { "stick.left": { dead: "up" } } });
  await deed(page, "find.observe", {
    unitId,
    kind: "point",
    target: "tp.18",
    outcome: "read",
    value: 0.4,
    note: "",
  });
  await page.goto(`/units/${tag}/find`);
  await unfold(page, /Readings beside healthy units/);
  const row = page.getByRole("row", { name: /1.8 V rail/ });
  await expect(row).toContainText("0.4 V");
  await expect(row).toContainText("3 healthy units");
  await expect(row).toContainText("off");
  await expect(page.getByRole("row", { name: /port supply/ })).toContainText("not read");
  const unknown = await deed(page, "find.observe", {
    unitId,
    kind: "point",
    target: "tp.nowhere",
    outcome: "x",
    value: 1,
    note: "",
  });
  expect(unknown.body.problem!.code).toBe("not-found");
  const invented = await deed(page, "find.observe", {
    unitId,
    kind: "check",
    target: "look.cell",
    outcome: "lovely",
    value: null,
    note: "",
  });
  expect(invented.body.problem!.code).toBe("not-found");
});

test("the lead changes the words of complaints, and a bad line is told", async ({ page, db }) => {
  await signIn(page, "ida");
  await page.goto("/settings");
  const form = page.getByRole("form", { name: "Words of complaints" });
  const words = form.getByLabel("Words = meaning, kind");
  const before = await words.inputValue();
  await words.fill(`${before}\nfloats = upward stick`);
  await expect(form).toContainText('"upward" is no meaning of the list');
  await words.fill(`${before}\nfloats about = offset stick`);
  await form.getByRole("button", { name: "Save the words" }).click();
  await expect.poll(async () => (await db("setting").where({ key: "lexicon" })).length).toBe(1);
  const { tag } = await newUnit(page, "curlew", { claim: "stick floats about" });
  await page.goto(`/units/${tag}/find`);
  await unfold(page, /What the claim says/);
  await expect(page.getByText("“floats about”: left stick rests off centre")).toBeVisible();
});
