import { execFileSync } from "node:child_process";
import { writeFileSync } from "node:fs";

import type { Page } from "@playwright/test";

import type { ControllerFaults } from "@/core/simulate/faults";
import { one } from "@/core/base/one";
import { expect, newUnit, signIn, test } from "./shop";
import { done, fullTest, MODULE_BAD, stickFault } from "./units";

/** One unit, one case: the joint that was mended, three measures of one stick, and the credit of the heat. */

const facts = (page: Page) => page.getByRole("list", { name: "The case" }).getByRole("listitem");
const cause = (page: Page) => page.getByRole("region", { name: "Cause" });
const shown = (page: Page, text: string | RegExp) => page.getByRole("listitem").filter({ hasText: text });
const unfold = async (page: Page, title: RegExp) => {
  const fold = page.getByRole("button", { name: title });
  if ((await fold.getAttribute("aria-expanded")) !== "true") await fold.click();
};
const seeCracked = (page: Page, unitId: string, target: string) =>
  done(page, "find.observe", {
    unitId,
    kind: "place",
    target,
    outcome: "cracked-joint",
    value: null,
    note: "",
  });
/** A part of the wiring by its kind, as the model's file has it. */
async function partOf(page: Page, model: string, kind: string): Promise<{ id: string; name: string }> {
  const profile = (await (await page.request.get(`/api/profiles/${model}`)).json()) as {
    wiring: { nodes: { id: string; kind: string; name: string }[] };
  };
  return profile.wiring.nodes.find((n) => n.kind === kind)!;
}

test("a joint that was mended is no cracked joint any more, and the case says what ended it", async ({
  page,
}) => {
  await signIn(page, "bram");
  const { tag, unitId } = await newUnit(page, "dunlin", { claim: "left stick jumps. It was dropped once" });
  await fullTest(page, "dunlin", unitId, {
    faults: { sticks: { "stick.left": { wornAt: 0.3, leap: 0.35 } } } as ControllerFaults,
  });
  const joint = await partOf(page, "dunlin", "joint");
  await page.goto(`/units/${tag}/find`);

  await test.step("what was seen says at once what it changed, and its figure opens to the facts", async () => {
    await seeCracked(page, unitId, joint.id);
    await page.reload();
    await expect(
      page.getByText(/Newest fact: Seen: .* cracked joint\..*% before it, \d+ % with it\./),
    ).toBeVisible();
    await cause(page)
      .getByRole("link", { name: `facts behind ${joint.name}` })
      .first()
      .click();
    await expect(page.getByRole("heading", { name: `What stands behind ${joint.name}` })).toBeVisible();
    await expect(shown(page, /Seen: .* cracked joint.*for, .* times/)).toHaveCount(1);
    await expect(shown(page, /History: a fall, read out of words/)).toHaveCount(1);
    await page.goBack();
  });
  await test.step("from every station one key leads to the line of facts", async () => {
    for (const station of ["intake", "test", "find", "decide", "mend", "prove", "release"]) {
      await page.goto(`/units/${tag}/${station}`);
      await page.getByRole("link", { name: /^Case/ }).waitFor();
      await page.keyboard.press("c");
      await expect(facts(page).filter({ hasText: /“left stick jumps/ })).toHaveCount(1);
    }
    await expect(page).toHaveURL(/\/case$/);
    await expect(facts(page).first()).toContainText("cracked joint");
  });
  await test.step("resoldered, the joint is no cracked one: it stays as before and counts for nothing", async () => {
    await done(page, "try.add", {
      unitId,
      suspect: joint.id,
      action: "resolder",
      expects: "no more jumps",
      what: "fresh solder",
    });
    await page.reload();
    await expect(facts(page).filter({ hasText: /Try 1, resolder/ })).toContainText("ended an earlier fact");
    const old = facts(page).filter({ hasText: "cracked joint" });
    await expect(old).toContainText(/over since .*: resoldered/);
    await page.goto(`/units/${tag}/find`);
    await expect(page.getByText(/before it was resoldered/)).toBeVisible();
  });
});

test("three measures of one stick are one fault, the worst speaks, and one cure settles them all", async ({
  page,
  db,
}) => {
  await signIn(page, "bram");
  const { tag, unitId } = await newUnit(page, "dunlin", { claim: "left stick drifts" });
  const bad = {
    sticks: { "stick.left": { offset: [0.24, 0.05], noise: 0.05, scatter: 0.2 } },
  } as ControllerFaults;
  const id = await fullTest(page, "dunlin", unitId, { faults: bad });
  await page.goto(`/units/${tag}/test?r=${id}`);
  const named = page.getByText("named as a fault");
  await expect(page.getByRole("button", { name: /^Name as fault/ }).nth(2)).toBeVisible();
  for (let i = 1; i <= 3; i++) {
    await page.keyboard.press("n");
    await expect(named).toHaveCount(i);
  }
  await page.keyboard.press("f");
  await expect(page.getByRole("list", { name: "Also shown by" }).getByRole("listitem")).toHaveCount(2);
  await expect(page.getByText(/^2\. left stick/)).toHaveCount(0);

  // what a hand names there is offered as a sign of the same cause
  await page.getByLabel("Place (or pick it on the plan)").selectOption("stick.left");
  await expect(page.getByLabel("What it belongs to")).toHaveValue(/.+/);
  await page.getByLabel("Kind").fill("worn box");
  await page.getByRole("button", { name: "Name the fault" }).click();
  await expect(page.getByRole("list", { name: "Also shown by" }).getByRole("listitem")).toHaveCount(3);

  await page.goto(`/units/${tag}/prove`);
  await expect(page.getByText("Fault 1 is open")).toBeVisible();
  await expect(page.getByText(/Fault 2 is open/)).toHaveCount(0);

  // one mend at that cause, one test after it: nothing of it blocks any more
  const { id: faultId } = one(await db("fault").where({ unit_id: unitId }).first("id"));
  await done(page, "mend.add", {
    unitId,
    faultId,
    what: "New module",
    part: "module",
    minutes: 20,
    remark: "",
    opened: true,
    settlesFault: true,
    route: "module-dear",
    partMinor: 520,
    cause: "wear",
  });
  await fullTest(page, "dunlin", unitId, {});
  await page.reload();
  await expect(page.getByRole("heading", { name: /^Proof: / })).toBeVisible();
  await expect(page.getByText("Fault 1 is open")).toHaveCount(0);
  await page.keyboard.press("c");
  await expect(facts(page).filter({ hasText: /New module/ })).toHaveCount(1);
  await expect(facts(page).filter({ hasText: "over since" }).first()).toBeVisible();
});

test("the credit of the heat goes when the search by halves names the lead", async ({ page }) => {
  await signIn(page, "bram");
  const { tag, unitId } = await newUnit(page, "dunlin", { claim: "rumble comes and goes" });
  await fullTest(page, "dunlin", unitId, {});
  // the heavy motor hangs by its leads from the drive chip, which is what was heated
  const lead = await partOf(page, "dunlin", "lead");
  const [motor, chip] = ["motor.heavy", { id: "drive.chip" }] as const;
  await done(page, "find.observe", {
    unitId,
    kind: "function",
    target: motor,
    outcome: "intermittent",
    value: null,
    note: "",
  });
  await done(page, "try.add", {
    unitId,
    suspect: chip.id,
    action: "reheat",
    expects: "it stays",
    what: "hot air",
  });
  await page.goto(`/units/${tag}/find`);
  await unfold(page, /^Tries/);
  await page.getByRole("button", { name: "cured", exact: true }).first().click();
  await page.goto(`/units/${tag}/case`);
  await expect(facts(page).filter({ hasText: /Try 1, reheat .*: cured/ })).toHaveCount(1);
  await expect(page.getByText("credit taken back by a later finding")).toHaveCount(0);

  await page.goto(`/units/${tag}/find`);
  await unfold(page, /Works here, fails there/);
  await page.getByRole("button", { name: "List what differs" }).click();
  const search = page.getByRole("region", { name: "Works here, fails there" });
  await test.step("a screw that a hand moved is added to the list; the same again is refused in words", async () => {
    await search.getByLabel("What it is").fill("the long screw");
    await search.getByRole("button", { name: "Add it to the list" }).click();
    await expect(search.getByLabel("What it is")).toHaveValue("");
    await search.getByLabel("What it is").fill("the long screw");
    await search.getByRole("button", { name: "Add it to the list" }).click();
    await expect(search.getByRole("alert")).toBeVisible();
  });
  for (let i = 0; i < 7; i++) {
    if (await search.getByText(/It comes down to/).count()) break;
    const left = await search.getByText(/\d+ left, at most/).textContent();
    const guilty = (await search.getByRole("listitem").allTextContents()).includes(lead.name);
    await search.getByRole("button", { name: guilty ? "It fails" : "It works" }).click();
    await expect(search.getByText(left!)).toHaveCount(0);
  }
  await expect(search.getByText(/It comes down to/)).toContainText(lead.name);
  await expect(cause(page).locator("h2").first()).toHaveText(new RegExp(lead.name, "i"));
  await page.keyboard.press("c");
  await expect(facts(page).first()).toContainText("The search by halves came down to");
  await expect(facts(page).filter({ hasText: "Try 1, reheat" })).toContainText(
    "credit taken back by a later finding",
  );
});

test("a case goes out as a file, the command prints what the page shows, and the file opens at another bench", async ({
  page,
}, info) => {
  await signIn(page, "bram");
  const { tag, unitId } = await newUnit(page, "dunlin", { claim: "left stick drifts" });
  await fullTest(page, "dunlin", unitId, { faults: MODULE_BAD });
  await done(page, "fault.add", stickFault(unitId));
  const next = page.getByRole("region", { name: "The next act" });

  await page.goto(`/units/${tag}/decide`);
  await expect(page.getByText(/Worked out at .*, on all that is known/)).toBeVisible();
  const act = await next.getByRole("heading").innerText();
  const value = await next
    .getByText(/^[−-]?€[\d.,]+$/)
    .first()
    .innerText();

  await page.goto(`/units/${tag}/case`);
  const coming = page.waitForEvent("download");
  await page.getByRole("link", { name: "Save the case as a file" }).click();
  const download = await coming;
  expect(download.suggestedFilename()).toBe(`case-${tag}.json`);
  const path = info.outputPath("case.json");
  await download.saveAs(path);

  await test.step("the command prints the same figure", () => {
    const out = JSON.parse(execFileSync("node", ["scripts/advise.mjs", path], { encoding: "utf8" })) as {
      expectedMinor: number;
      next: { act: string; valueMinor: number };
    };
    expect(value.replace(/[^\d.−-]/g, "").replace("−", "-")).toBe(
      (Math.round(out.expectedMinor) / 100).toFixed(2),
    );
    expect(out.next.act).not.toBe("end");
  });
  await test.step("what is no case is refused by its place, and the page stays", async () => {
    const bad = info.outputPath("bad.json");
    writeFileSync(bad, JSON.stringify({ format: "birdcage-case", version: 7 }));
    await page.goto("/practice");
    await page.getByLabel("Open a case").setInputFiles(bad);
    await expect(page.getByRole("alert").filter({ hasText: "not a case that can be read" })).toContainText(
      "version",
    );
  });
  await test.step("the case itself opens: the same act, the same figure, what may be behind it", async () => {
    await page.getByLabel("Open a case").setInputFiles(path);
    const opened = page.getByTestId("opened-case");
    await expect(opened.getByRole("region", { name: "The next act" }).getByRole("heading")).toHaveText(act);
    await expect(opened.getByText(value, { exact: true }).first()).toBeVisible();
    await expect(
      opened.getByRole("list", { name: "What may be behind it, as a whole" }).getByRole("listitem").first(),
    ).toContainText("%");
  });
});
