import type { Locator, Page } from "@playwright/test";

import sharp from "sharp";

import { one } from "@/core/base/one";
import type { ModelProfile } from "@/core/profile/profile";
import type { ControllerFaults } from "@/core/simulate/faults";
import { expect, newUnit, signIn, test } from "./shop";
import { done, fullTest, MODULE_BAD, MODULE_MEND, readyUnit } from "./units";

/** What a measure found, drawn: beside its figure and above the strips, before and after a mend, and while it is measured. */

/** Where the page ends for the eye: the strip of trays with the waits that run. */
async function edgeOf(page: Page): Promise<number> {
  const strips = page.getByRole("contentinfo", { name: "Trays on the bench" });
  await expect(strips.getByRole("region", { name: "Waits" })).toBeVisible();
  return (await strips.boundingBox())!.y;
}
async function liesAbove(page: Page, what: Locator, least = 0): Promise<void> {
  const edge = await edgeOf(page);
  await expect(what).toBeVisible();
  const { y, height } = (await what.boundingBox())!;
  expect([y >= 0, Math.round(y + height) <= edge, height >= least], `${await what.ariaSnapshot()}`).toEqual([
    true,
    true,
    true,
  ]);
}

const FAULTS: {
  of: string;
  faults: ControllerFaults;
  place: string;
  drawn: RegExp;
  figure: RegExp;
  least: number;
}[] = [
  {
    of: "leaps of a stick",
    faults: { sticks: { "stick.left": { wornAt: 0.35 } } },
    place: "left stick",
    drawn: /^The way of the stick; [1-9]\d* leaps left to right, \d+ up and down; reaches, /,
    figure: /^jumps [1-9]/,
    least: 280,
  },
  {
    of: "a stick that rests off",
    faults: MODULE_BAD,
    place: "left stick",
    drawn: /^The middle of the stick, brought near; rests within 2\d\.\d %; trembles by .*; let go \d+ times/,
    figure: /^rest offset 2\d/,
    least: 280,
  },
  {
    of: "a hole in a trigger's travel",
    faults: { triggers: { "trigger.left": { hole: 0.25 } } },
    place: "left trigger",
    drawn: /pulls over time, the highest .*; leaps by \d+\.\d % at \d+\.\d %/,
    figure: /^largest step/,
    least: 180,
  },
  {
    of: "a button that misses",
    faults: { buttons: { "face.south": { missRate: 0.4 } } },
    place: "face south",
    drawn: /^\d+ cues, [1-9]\d* without a press; missed at cue \d/,
    figure: /^presses /,
    least: 120,
  },
];

for (const { of, faults, place, drawn, figure, least } of FAULTS)
  test(`a failed measure shows what happened, above the strips: ${of}`, async ({ page }) => {
    await page.setViewportSize({ width: 1280, height: 800 });
    await signIn(page, "bram");
    const { tag, unitId } = await newUnit(page, "dunlin");
    await fullTest(page, "dunlin", unitId, { faults });
    await page.goto(`/units/${tag}/test`);
    const card = page.getByRole("region", { name: place, exact: true });
    await liesAbove(page, card.getByRole("img", { name: drawn }), least);
    await liesAbove(page, card.getByText(figure).first());
    await liesAbove(page, card.getByRole("button", { name: /^Name as fault/ }).first());
    await page.setViewportSize({ width: 390, height: 844 });
    const { x, width } = (await card.getByRole("img", { name: drawn }).boundingBox())!;
    expect([x >= 0, x + width <= 390]).toEqual([true, true]);
  });

test("a healthy unit of the model lies behind in grey, once the shop keeps one", async ({ page, db }) => {
  await signIn(page, "bram");
  const { tag, unitId } = await newUnit(page, "knot");
  await fullTest(page, "knot", unitId, { faults: { buttons: { "face.south": { missRate: 0.4 } } } });
  await page.goto(`/units/${tag}/test`);
  await expect(page.getByRole("img", { name: /^\d+ cues, [1-9]/ })).toBeVisible();
  await expect(page.getByText(/^In grey:/)).toHaveCount(0); // the demonstration keeps none of this model
  const sound = await newUnit(page, "knot");
  await fullTest(page, "knot", sound.unitId);
  const keep = async (on: boolean) => {
    const { version } = (await db("unit").where({ id: sound.unitId }).first()) as { version: number };
    await done(page, "unit.set-reference", { unitId: sound.unitId, version, on });
  };
  await keep(true);
  await page.reload();
  await expect(page.getByText(`In grey: ${sound.tag}, a reference unit.`)).toBeVisible();
  await keep(false); // a reference unit vouches for its tester: other tests need one that nobody vouches for
});

test("at proof the way before and the way after stand side by side", async ({ page }) => {
  await signIn(page, "bram");
  const { tag } = await readyUnit(page, { model: "dunlin", mended: MODULE_MEND });
  await page.goto(`/units/${tag}/prove`);
  const both = page.getByRole("region", { name: "Before and after, left stick" });
  const middles = both.getByRole("img", { name: /^The middle of the stick/ });
  await expect(middles).toHaveCount(2);
  await expect(middles.first()).toHaveAccessibleName(/rests within 2\d\.\d %/);
  await expect(middles.last()).toHaveAccessibleName(/rests within [0-5]\.\d %/);
  const [before, after] = [(await middles.first().boundingBox())!, (await middles.last().boundingBox())!];
  expect([before.x + before.width <= after.x, Math.round(before.y - after.y)]).toEqual([true, 0]);
  await expect(both.getByRole("img", { name: /^The way of the stick/ })).toHaveCount(2);
});

test("while a test runs it shows the edge as it is drawn, presses as they fall, what was found and the risk that is left", async ({
  page,
}) => {
  test.setTimeout(180_000);
  await page.setViewportSize({ width: 1280, height: 800 });
  await signIn(page, "bram");
  const { tag } = await newUnit(page, "dunlin");
  await page.goto(`/units/${tag}/test/run?kind=full`);
  await page.getByLabel("Simulated fault").selectOption("dead-half");
  await page.getByLabel("Speed").selectOption("4");
  await page.getByRole("button", { name: "Test the simulated controller" }).click();
  const found = page.getByRole("region", { name: "Found so far" });
  const risk = found.getByRole("region", { name: "chance that a bad button gets by" });
  const share = async () => Number(/([\d.]+) %/.exec(await risk.innerText())![1]);

  await expect(page.getByRole("img", { name: /^[1-9]\d* cues, \d+ without a press/ })).toBeVisible();
  await expect(found).toContainText("0 of 19 controls measured");
  await liesAbove(page, risk);
  await expect(risk).not.toContainText("wanted under"); // a first test looks for faults
  const atFirst = await share();

  const edge = page.getByRole("img", { name: /its edge is drawn in \d+ of 72 parts/ });
  await liesAbove(page, edge, 210);
  const drawn = async () => Number(/drawn in (\d+) of/.exec((await edge.getAttribute("aria-label"))!)![1]);
  const began = await drawn();
  await expect.poll(drawn).toBeGreaterThan(began);
  await liesAbove(page, page.getByRole("progressbar", { name: "This step" }));
  await liesAbove(page, page.getByRole("button", { name: /^Repeat/ }));
  expect(await share()).toBeLessThan(atFirst);

  // what was found stands there while the test goes on, and what is open is not called passed
  await expect(found).toContainText(/left stick\s*dead halves right.*fail/, { timeout: 120_000 });
  await expect(found).toContainText(/Still open: .*right stick/);
  await expect(found).not.toContainText("All of them grade A");
});

test("a photograph of the unit is laid behind its plan by two taps, and a mark lands where it is seen", async ({
  page,
  db,
}) => {
  await page.setViewportSize({ width: 1280, height: 800 });
  await signIn(page, "bram");
  const { tag, unitId } = await newUnit(page, "dunlin");
  await page.goto(`/units/${tag}/intake`);
  const picture = await sharp({ create: { width: 1200, height: 800, channels: 3, background: "#887766" } })
    .jpeg()
    .toBuffer();
  await page
    .getByLabel("Add photographs")
    .and(page.locator("input"))
    .setInputFiles({ name: "front.jpg", mimeType: "image/jpeg", buffer: picture });
  await expect(page.getByRole("img", { name: "Photograph 1" })).toBeVisible();
  await page.getByRole("button", { name: "Correct the intake" }).click();
  await page.getByLabel("Behind the drawing").selectOption("photograph 1");
  const plan = page.getByRole("group", { name: /Tap where a mark is/ });
  const photo = plan.locator("image");
  const tapAt = async (across: number, down: number) => {
    await plan.evaluate((drawing) => drawing.scrollIntoView({ block: "center" }));
    const { x, y, width, height } = (await photo.boundingBox())!;
    await page.mouse.click(x + across * width, y + down * height);
  };
  await expect(page.getByRole("status").filter({ hasText: /^Tap the middle of the/ })).toBeVisible();
  const before = await photo.getAttribute("transform");
  await tapAt(0.3, 0.4);
  await tapAt(0.7, 0.6);
  await expect(page.getByRole("status").filter({ hasText: /^Tap the middle of the/ })).toHaveCount(0);
  await expect.poll(() => photo.getAttribute("transform")).not.toBe(before);
  await tapAt(0.5, 0.5);
  await page.getByRole("button", { name: "Save the intake" }).click();
  await expect(page.getByRole("button", { name: "Correct the intake" })).toBeVisible();
  const { intake } = (await db("unit").where({ id: unitId }).first("intake")) as {
    intake: { marks: { x: number; y: number }[] };
  };
  // between two controls of the photograph is between the same two of the plan
  const { controls } = (await (await page.request.get("/api/profiles/dunlin")).json()) as ModelProfile;
  const [a, b] = farthestOf(
    controls.filter((c) => c.kind !== "trigger" && !("shape" in c && c.shape === "paddle")),
  );
  const mark = one(intake.marks[0]);
  expect(Math.hypot(mark.x - (a.at.x + b.at.x) / 2, mark.y - (a.at.y + b.at.y) / 2)).toBeLessThan(1);
});

type Placed = ModelProfile["controls"][number];
/** The two that lie farthest apart, looked for by every pair. */
function farthestOf(all: readonly Placed[]): [Placed, Placed] {
  const pairs = all.flatMap((a) => all.map((b): [Placed, Placed] => [a, b]));
  const far = ([a, b]: [Placed, Placed]) => Math.hypot(a.at.x - b.at.x, a.at.y - b.at.y);
  return pairs.reduce((best, pair) => (far(pair) > far(best) ? pair : best));
}
