import type { Page } from "@playwright/test";
import type { Knex } from "knex";

import { ALERT, deed, expect, newUnit, scan, signIn, tabTo, test } from "./shop";
import { done, fullTest, type Made, MODULE_BAD, readyUnit, stickFault } from "./units";
import { one } from "@/core/base/one";
import { catalogueSchema } from "@/core/parts/catalogue";

/**
 * Parts: a batch rejected with its recall, one measured by pedal, a donor harvested, the plan with a lock,
 * what to buy, what fits.
 */

const pick = async (page: Page, label: string, option: string | RegExp) => {
  await page.getByRole("combobox", { name: label }).click();
  await page.getByRole("option", { name: option }).click();
};

/** Ten cheap modules, measured as far as the rule asks and taken. */
async function cheapModules(page: Page, db: Knex): Promise<{ id: string; code: string }> {
  const { id, code } = await done(page, "stock.receive", {
    part: "SM-DUN-C",
    supplier: "old-mill-spares",
    pieces: 10,
    costMinor: 2100,
    bin: "A2",
    source: "bought",
  });
  for (let number = 1; number <= 9; number++)
    await done(page, "batch.read", {
      batchId: id,
      number,
      reading: { ohms: null, thicknessMm: null, feel: 4, tells: [] },
      instrument: "by hand",
      tookMs: 30_000,
    });
  const { version } = one(await db("batch").where({ id }).first("version"));
  await done(page, "batch.judge", { batchId: id, version, verdict: "accept", why: "" });
  return { id: id!, code: code! };
}

async function sell(page: Page, db: Knex, unit: Made, [buyer, contact]: [string, string]): Promise<void> {
  const { unitId } = unit;
  const { version } = one(await db("unit").where({ id: unitId }).first("version"));
  const priceMinor = 4200;
  await done(page, "unit.release", {
    ...{ unitId, version, priceMinor, warrantyDays: 90, known: "", limit: "", reason: "" },
  });
  await done(page, "unit.hand-over", {
    ...{ unitId, kind: "sold", channel: "online market", priceMinor, feesMinor: 497, buyer, contact },
    handedOn: new Date().toISOString().slice(0, 10),
  });
}

/** Scans a batch's label and waits for its page. */
async function scanBatch(page: Page, code: string): Promise<void> {
  await scan(page, code.toLowerCase());
  await expect(page.getByRole("heading", { level: 1, name: code })).toBeVisible();
}

test("a batch that turns out bad is locked, and every unit that holds a piece is listed with whom to tell", async ({
  page,
  db,
}) => {
  await signIn(page, "bram");
  const batch = await cheapModules(page, db);
  const fit = (slot: string) => async (unitId: string) => {
    await done(page, "stock.take", {
      batchId: batch.id,
      count: 1,
      for: { kind: "fit", unitId, slot, mendId: null },
      why: "",
    });
  };
  const gone = await readyUnit(page, { model: "dunlin", before: fit("module.left") });
  await sell(page, db, gone, ["Sorin Vale", "sorin at the observatory"]);
  const customer = await done(page, "customer.add", { name: "Pernilla O.", contact: "calls on Fridays" });
  const inHouse = await newUnit(page, "dunlin", {
    origin: { source: "customer", customerId: customer.id },
  });
  await fit("module.right")(inHouse.unitId);
  await page.getByRole("link", { name: "Parts", exact: true }).click();
  await expect(page.getByRole("heading", { level: 1, name: "Parts" })).toBeVisible();
  await scanBatch(page, batch.code);
  const verdict = page.getByRole("status", { name: "Verdict" });
  await expect(verdict).toContainText("Good enough");
  const piece = page.getByRole("form", { name: "Measure a piece" });
  // a mistake first: nothing was marked
  await piece.getByRole("button", { name: "Keep this piece" }).click();
  await expect(piece.locator(ALERT)).toContainText("Mark the feel");
  await pick(page, "Feel", /loose or stiff/);
  await piece.getByLabel("not as the part should be").last().check();
  await piece.getByLabel("Looked at").check();
  await piece.getByRole("button", { name: "Keep this piece" }).click();
  await expect(verdict).toContainText("Too many bad ones: reject it");
  await expect(page.getByRole("list", { name: "Measured pieces" })).toContainText(
    "feel 1 of 5, at least 3; moulded code like a copy's",
  );
  await expect(page.getByRole("button", { name: "Reject and lock" })).toBeDisabled();
  await page.getByLabel("Why").fill("stiff, and the code is a copy's");
  await page.getByRole("button", { name: "Reject and lock" }).click();
  await expect(page.getByText("Locked: nothing is taken from it.")).toBeVisible();
  const recall = page.getByRole("region", { name: "Recall" });
  await expect(recall).toContainText("2 places hold a piece of it");
  await expect(recall).toContainText("1 in house, 1 gone.");
  await expect(recall.getByRole("row", { name: new RegExp(gone.tag) })).toContainText(
    "Sorin Vale, sorin at the observatory",
  );
  const letters = (await recall.getByRole("link", { name: "Letter to print" }).getAttribute("href"))!;
  expect((await (await page.request.get(letters)).body()).subarray(0, 5).toString()).toBe("%PDF-");
  await expect(recall.getByRole("row", { name: new RegExp(inHouse.tag) })).toContainText(
    "Pernilla O., calls on Fridays",
  );
  await recall.getByRole("link", { name: inHouse.tag }).click();
  await page.goto(`/units/${inHouse.tag}/mend`);
  await expect(page.getByText(/which was rejected. Change it before the unit goes/)).toBeVisible();
  await page.goBack();
  await page.goto(`/parts/${batch.code}`);
  await page.getByLabel("Where it went").fill("electrical waste, by the town's collection");
  await page.getByRole("button", { name: "Disposed of" }).click();
  await expect(page.getByText("Disposed of.", { exact: false }).first()).toBeVisible();
});

test("a batch is measured piece after piece by a pedal, and stands as it was after a reload", async ({
  page,
}) => {
  await signIn(page, "oona");
  await page.goto("/parts/P-0016");
  const verdict = page.getByRole("status", { name: "Verdict" });
  await expect(verdict).toContainText("to measure");
  const before = (
    await deed(page, "batch.judge", { batchId: crypto.randomUUID(), version: 1, verdict: "accept", why: "" })
  ).body;
  expect(before.problem?.code).toBe("not-found");
  await pick(page, "Figures from", "simulated meter, many off balance");
  await page.getByRole("button", { name: "Bind another key or pedal" }).click();
  await page.keyboard.press("F9");
  await expect(page.getByRole("button", { name: "Read (f9)" })).toBeVisible();
  await page.getByRole("heading", { level: 1 }).click();
  const pieces = page.getByRole("list", { name: "Measured pieces" }).getByRole("listitem");
  for (let n = 1; n <= 2; n++) {
    // two ends and the thickness: the third press keeps the piece and the next one is asked for
    for (let k = 0; k < 2; k++) await page.keyboard.press("F9");
    await expect(page.getByLabel("to the other")).not.toHaveValue("");
    await page.keyboard.press("F9");
    await expect(pieces).toHaveCount(n);
    await expect(page.getByRole("heading", { name: `Piece ${n + 1}` })).toBeVisible();
  }
  await page.reload();
  await expect(pieces).toHaveCount(2);
  await expect(page.getByRole("heading", { name: "Piece 3" })).toBeVisible();
  await expect(page.getByText(/A usable piece costs/)).toBeVisible();
  await expect(page.getByRole("img", { name: /Chance that the batch is taken/ })).toBeVisible();
  // typed by hand: an open leg is told as bad figures are
  await pick(page, "Figures from", "typed by hand");
  await page.getByLabel("Wiper to one end").fill("5k");
  await expect(page.getByText("digits only, such as 3.71")).toBeVisible();
});

test("a donor is a map of its parts; one is taken for a unit that waited, fitted, and stands in both records", async ({
  page,
  db,
}) => {
  await signIn(page, "bram");
  const donor = await newUnit(page, "dunlin");
  await fullTest(page, "dunlin", donor.unitId, { faults: { sticks: { "stick.left": { noAnswer: true } } } });
  const versionOf = async (id: string) => one(await db("unit").where({ id }).first("version")).version;
  await done(page, "unit.end", {
    unitId: donor.unitId,
    version: await versionOf(donor.unitId),
    kind: "donor",
    known: "shell cracked through; parts only",
    priceMinor: null,
  });
  const waiting = await newUnit(page, "dunlin");
  await fullTest(page, "dunlin", waiting.unitId, { faults: MODULE_BAD });
  await done(page, "fault.add", stickFault(waiting.unitId));
  await done(page, "decision.take", {
    unitId: waiting.unitId,
    version: await versionOf(waiting.unitId),
    disposition: "hold",
    route: "module-original",
    why: "waits for its part",
  });
  await page.goto("/");
  await expect(page.getByText("Can go on: the part is here").first()).toBeVisible();
  await page.getByRole("link", { name: "Parts", exact: true }).click();
  await page.getByRole("navigation", { name: "Parts" }).getByRole("link", { name: "Donors" }).click();
  await page.getByRole("link", { name: donor.tag }).click();
  const parts = page.getByRole("list", { name: "Its parts" });
  await expect(parts.getByRole("button", { name: /left stick module.*bad/ })).toBeVisible();
  await parts.getByRole("button", { name: /right stick module/ }).click();
  await expect(page.getByRole("region", { name: "right stick module" })).toBeVisible();
  const panel = page.getByRole("region", { name: "right stick module" });
  await expect(panel).toContainText("By its own tests tested good");
  await expect(panel).toContainText("rest offset");
  await pick(page, "For", `${waiting.tag}, left stick module`);
  await panel.getByRole("button", { name: "Take it out" }).click();
  await expect(parts.getByRole("button", { name: /right stick module, taken as P-\d+/ })).toBeVisible();
  const batch = one(await db("batch").where({ donor_slot: "module.right" }).orderBy("code", "desc").first());
  expect(batch).toMatchObject({ condition: "tested good", reserved: 1, on_hand: 1 });
  expect(batch.cost_minor).toBeGreaterThan(0);

  await page.goto(`/units/${waiting.tag}/mend`);
  const own = page.getByRole("region", { name: "Parts of this unit" });
  await expect(own).toContainText(`Put aside for its left stick module: SM-DUN-O, ${batch.code}`);
  await page.getByLabel("What was done").fill("Module out of the donor");
  await page.getByLabel("Piece from the shelf").selectOption(`${batch.id} module.left`);
  await expect(page.getByText("its name and cost are the batch’s")).toBeVisible();
  await page.getByLabel(/^Minutes/).fill("35");
  await page.getByRole("button", { name: "Log it" }).click();
  await expect(own).toContainText("In it: Dunlin stick module, original at its left stick module");
  await expect(own).toContainText(`out of ${donor.tag}, tested good`);
  const mend = one(await db("mend").where({ what: "Module out of the donor" }).first());
  expect(mend.part_minor).toBe(batch.cost_minor);
  await page.goto(`/parts/${batch.code}`);
  await expect(
    page.getByRole("region", { name: "Movements" }).getByRole("row", { name: /fitted/ }),
  ).toContainText(waiting.tag);
});

test("the plan is proven, says why, keeps to a locked choice, and is applied as parts put aside", async ({
  page,
  db,
}) => {
  await signIn(page, "ida");
  await page.goto("/parts?tab=plan");
  await page.getByRole("button", { name: "Make the plan" }).click();
  await expect(page.getByRole("status", { name: "The plan" })).toBeVisible();
  const plan = page.getByRole("status", { name: "The plan" });
  await expect(plan).toContainText("proven the best there is");
  const table = page.getByRole("region", { name: "What to do with each unit" });
  const mends = table.getByRole("row").filter({ hasText: "from the shelf" });
  await expect(mends.first()).toBeVisible();
  const money = async () => Number(/€([\d,.]+)/.exec((await plan.textContent())!)![1]!.replace(",", ""));
  const first = await money();
  const tag = /B-\d{4}/.exec((await mends.first().textContent())!)![0];
  const did = await table.getByRole("row", { name: tag }).locator("td").nth(1).textContent();
  await page.getByRole("button", { name: `Not that for ${tag}` }).click();
  await expect(
    table.getByRole("row", { name: tag }).getByRole("button", { name: "1 barred: unlock" }),
  ).toBeVisible();
  await expect(table.getByRole("row", { name: tag }).locator("td").nth(1)).not.toHaveText(did!);
  // a lock never makes a plan better
  expect(await money()).toBeLessThanOrEqual(first);
  await table.getByRole("row", { name: tag }).getByRole("button", { name: "1 barred: unlock" }).click();
  await expect(table.getByRole("row", { name: tag }).locator("td").nth(1)).toHaveText(did!);
  await page.getByRole("button", { name: `Keep this for ${tag}` }).click();
  await expect(
    table.getByRole("row", { name: tag }).getByRole("button", { name: "Kept: unlock" }),
  ).toBeVisible();
  await expect(page.getByRole("region", { name: "The next piece" })).toContainText(/€|no part is short/, {
    timeout: 60_000,
  });
  await page.getByRole("button", { name: "Apply it" }).click();
  await expect(page.getByText(/Applied: \d+ parts? (is|are) put aside/)).toBeVisible();
  const held = await db("reservation as r")
    .join("unit as u", "u.id", "r.unit_id")
    .where({ "r.status": "open", "u.tag": tag })
    .whereNotNull("r.allocation_id");
  expect(held.length).toBeGreaterThan(0);
  await page.goto(`/units/${tag}/mend`);
  await expect(page.getByRole("region", { name: "Parts of this unit" })).toContainText("Put aside for its");
});

test("what to buy: the backlog's needs, the cheapest basket, ordered, and here", async ({ page, db }) => {
  await signIn(page, "bram");
  await page.goto("/parts");
  await expect(page.getByText("Running out: Cleaning alcohol.")).toBeVisible();
  await page.goto("/parts?tab=buy");
  const basket = page.getByRole("region", { name: "The cheapest basket" });
  await expect(basket).toContainText(/€[\d.]+ of it carriage/);
  const alcohol = page.getByLabel("pieces of ALCOHOL");
  await alcohol.fill("510");
  await expect(basket).toContainText("2 x 500 Cleaning alcohol");
  await basket.getByRole("button", { name: "Write down the order to Tidewater Parts" }).click();
  const way = page.getByRole("region", { name: "On its way" });
  await expect(way).toContainText("1000 Cleaning alcohol");
  await way.getByText("1000 Cleaning alcohol").getByRole("button", { name: "It is here" }).click();
  await expect(way.getByText("1000 Cleaning alcohol")).toContainText(/arrived as P-\d+/);
  expect(await db("batch").where({ part: "ALCOHOL" }).orderBy("at", "desc").first()).toMatchObject({
    pieces: 1000,
    status: "open",
  });
});

test("what fits where, both ways; a file is looked at before it is taken, and a wrong one changes nothing", async ({
  page,
  db,
}) => {
  await signIn(page, "ida");
  await page.goto("/parts?tab=catalogue&part=SM-DUN-D");
  const fits = page.getByRole("region", { name: "Where it fits" });
  await pick(page, "Into which model", "Whimbrel");
  await expect(fits).toContainText("mechanical: does not fit, height 16.9 mm, asked is 17 to 17.8 mm");
  await expect(fits).toContainText("electrical: fits");
  await page.goto("/parts?tab=catalogue&part=SM-WHI-D");
  await pick(page, "Into which model", "Dunlin");
  await expect(fits).toContainText("mechanical: fits");

  // found out by trying: it stands before what its height says
  await fits.getByRole("button", { name: "Found out by trying, module.left" }).click();
  const found = page.getByRole("form", { name: "Found out by trying" });
  await pick(page, "It fits", "no");
  await found.getByLabel("How one knows").fill("its posts touch the motor");
  await found.getByRole("button", { name: "Write it down" }).click();
  await expect(fits).toContainText("mechanical: does not fit, its posts touch the motor");

  const csv = await (await page.request.get("/api/parts-csv?kind=offers")).text();
  const file = (text: string) => ({ name: "offers.csv", mimeType: "text/csv", buffer: Buffer.from(text) });
  const input = page.getByLabel("Import a catalogue, offers or stock");
  const row = "harbour-originals,SM-DUN-O,1,1,9.00,8";
  expect(csv).toContain(row);
  const dry = page.getByRole("region", { name: "What the file would do" });
  await input.setInputFiles(file(csv.replace(row, row.replace("9.00", "nine"))));
  await expect(dry).toContainText("The file has errors; nothing is changed");
  await expect(dry).toContainText('price "nine" is no amount');
  await expect(dry.getByRole("button", { name: "Do it" })).toHaveCount(0);
  await input.setInputFiles(file(csv.replace(row, row.replace("9.00", "9.40"))));
  await expect(dry).toContainText("The file would change 1 row");
  await expect(dry.getByRole("row", { name: /SM-DUN-O/ })).toContainText("9.00 becomes 9.40");
  await dry.getByRole("button", { name: "Do it" }).click();
  await expect(dry).toHaveCount(0);
  const saved = catalogueSchema.parse(
    one(await db("setting").where({ key: "catalogue" }).first("value")).value,
  );
  const offer = saved.offers.find((o) => o.part === "SM-DUN-O");
  expect(offer!.breaks[0]!.priceMinor).toBe(940);
});

test("a kit is held against its pieces and taken apart; what is missing is told", async ({ page, db }) => {
  await signIn(page, "bram");
  await page.goto("/parts/P-0014");
  const kit = page.getByRole("region", { name: "Take apart" });
  await expect(kit).toContainText(/the kit saves €|the kit costs €/);
  await kit.getByLabel("we have one").first().check();
  await expect(kit).toContainText("without what we have");
  await kit.getByLabel("good, SWABS").fill("8");
  await expect(kit).toContainText("Not as listed: Cotton swabs");
  await kit.getByRole("button", { name: "Take apart" }).click();
  const became = kit.getByText(/Became P-\d+/);
  await expect(became).toBeVisible();
  const codes = (await became.textContent())!.match(/P-\d+/g)!;
  const made = await db("batch").where({ source: "split" }).whereIn("code", codes);
  expect(made).toHaveLength(codes.length);
  expect(made.reduce((s, b) => s + b.cost_minor, 0)).toBe(690);
});

test("by keyboard: a batch is received, its label scanned, a piece used; the last one is refused to the second", async ({
  page,
  db,
}) => {
  await signIn(page, "oona");
  await page.goto("/parts");
  const form = page.getByRole("form", { name: "Receive a batch" });
  await page.keyboard.press("n");
  await expect(form).toBeVisible();
  await expect(form.getByLabel("Part")).toBeFocused();
  await page.keyboard.type("AN-60", { delay: 60 });
  await page.keyboard.press("ArrowDown");
  await page.keyboard.press("Enter");
  await tabTo(page, form.getByLabel("Pieces"));
  await page.keyboard.type("1", { delay: 60 });
  await tabTo(page, form.getByLabel("Cost with carriage"));
  await page.keyboard.type("nothing", { delay: 60 });
  await expect(form.getByText("an amount such as 12.50")).toBeVisible();
  await page.keyboard.press("ControlOrMeta+a");
  await page.keyboard.type("1.56", { delay: 60 });
  await tabTo(page, form.getByLabel("Bin"));
  await page.keyboard.type("B4", { delay: 60 });
  await tabTo(page, form.getByRole("button", { name: "Receive" }));
  await page.keyboard.press("Enter");
  await expect(page).toHaveURL(/\/parts\/P-\d+/);
  const code = /P-\d+/.exec(page.url())![0];
  const label = await page.request.get(`/labels/pdf?kind=batch&codes=${code}`);
  expect(label.headers()["content-type"]).toBe("application/pdf");
  await page.goto("/");
  await scanBatch(page, code);
  const { id } = one(await db("batch").where({ code }).first("id"));
  // in by counting, out by one key
  const hand = page.getByRole("region", { name: "Take, move, count" });
  await hand.getByLabel("Counted").fill("2");
  await hand.getByRole("button", { name: "Set the count" }).click();
  await expect(
    page.getByRole("region", { name: "Movements" }).getByRole("row", { name: /counted: stocktake/ }),
  ).toBeVisible();
  await page.getByRole("heading", { level: 1 }).click();
  await page.keyboard.press("o");
  await expect(
    page.getByRole("region", { name: "Movements" }).getByRole("row", { name: /used/ }),
  ).toBeVisible();
  const take = () =>
    deed(page, "stock.take", { batchId: id, count: 1, for: { kind: "use", unitId: null }, why: "" });
  const [a, b] = await Promise.all([take(), take()]);
  expect([a.body.ok, b.body.ok].sort()).toEqual([false, true]);
  expect([a, b].find((r) => !r.body.ok)!.body.problem!.code).toBe("stock-short");
});

test("two like parts change places: both units' records say what came and what went", async ({
  page,
  db,
}) => {
  await signIn(page, "bram");
  const [a, b] = [await newUnit(page, "dunlin"), await newUnit(page, "dunlin")];
  await page.goto(`/units/${a.tag}/mend`);
  const own = page.getByRole("region", { name: "Parts of this unit" });
  const form = page.getByRole("form", { name: "Swap a part" });
  await own.getByRole("button", { name: "Swap a part with another unit" }).click();
  await expect(form).toBeVisible();
  await form.getByLabel("With unit").fill("B-9999");
  await form.getByLabel("Part", { exact: true }).fill("SM-AVO-L-O");
  await form.getByLabel("Why").fill("to see whether the fault goes along");
  await form.getByRole("button", { name: "They were swapped" }).click();
  await expect(form.locator(ALERT)).toContainText("There is no unit B-9999");
  await form.getByLabel("With unit").fill(b.tag);
  await form.getByRole("button", { name: "They were swapped" }).click();
  await expect(form.locator(ALERT)).toContainText(
    "SM-AVO-L-O does not fit here: base four post low, asked is four post",
  );
  await form.getByLabel("Part", { exact: true }).fill("SM-DUN-O");
  await form.getByRole("button", { name: "They were swapped" }).click();
  await expect(own).toContainText(
    `In it: Dunlin stick module, original at its left stick module, out of ${b.tag}`,
  );
  await page.goto(`/units/${b.tag}/mend`);
  await expect(own).toContainText(`out of ${a.tag}`);
  expect(
    await db("event").where({ kind: "part-swapped" }).whereIn("unit_id", [a.unitId, b.unitId]),
  ).toHaveLength(2);
});

test("a search for a plan is stopped, and nothing was changed", async ({ page, db }) => {
  await signIn(page, "ida");
  const before = (await db("reservation").pluck("id")).length;
  await page.goto("/parts?tab=plan");
  await page.getByRole("button", { name: /Make the plan|Plan again/ }).click();
  await page.getByRole("button", { name: "Stop" }).click();
  await expect(page.getByText("Stopped. Nothing was changed.")).toBeVisible();
  expect((await db("reservation").pluck("id")).length).toBe(before);
});

test("a viewer sees all of it and changes nothing", async ({ page }) => {
  await signIn(page, "viktor");
  for (const path of [
    "/parts",
    "/parts?tab=catalogue",
    "/parts?tab=suppliers",
    "/parts?tab=donors",
    "/parts?tab=buy",
    "/parts/P-0001",
  ]) {
    await page.goto(path);
    await expect(page.getByRole("heading", { level: 1 })).toBeVisible();
    await expect(
      page.getByRole("button", { name: /^(Receive|Accept|Reject|Take|Ordered|Import|Use)/ }),
    ).toHaveCount(0);
  }
  const refused = await deed(page, "plan.apply", { lines: [], choices: [], valueMinor: 0 });
  expect(refused.body.problem?.code).toBe("not-allowed");
});

test("a kit is held against its pieces before it is bought, without the tools that lie on the shelf", async ({
  page,
  db,
}) => {
  await signIn(page, "bram");
  const address = "/parts?tab=catalogue&part=KIT-STICK";
  await page.goto(address);
  const kit = page.getByRole("region", { name: "The kit, or its pieces singly" });
  const rowOf = (name: string) => kit.getByRole("row").filter({ hasText: name });
  // what is used up is bought again, however much lies there
  await expect(rowOf("swab")).toContainText("0.20");
  for (const [part, name, price] of [
    ["PRY", "Plastic prying blade", "0.90"],
    ["DRIVER-TRI", "Three-lobed driver", "2.40"],
  ] as const) {
    const { rows } = await db.raw("select 1 from batch where part = ? and on_hand > 0", [part]);
    const owned = (rows as unknown[]).length > 0; // tests before this one may have taken a kit apart
    await expect(rowOf(name)).toContainText(owned ? "Owned already" : price);
    await done(page, "stock.receive", {
      part,
      supplier: "tidewater-parts",
      pieces: 1,
      costMinor: 90,
      bin: "T1",
      source: "bought",
    });
    await page.goto(address);
    await expect(rowOf(name)).toContainText("Owned already");
  }
  // with both tools there its two sticks and swabs are cheaper by themselves: 2 x 1.68 and 10 x 0.02 against 6.90
  await expect(
    kit.getByText(/^Buy singly: what is wanted of it costs .3\.56, .3\.34 less than the kit\.$/),
  ).toBeVisible();
});
