import sharp from "sharp";

import { one } from "@/core/base/one";
import { deed, expect, newUnit, signIn, test } from "./shop";
import { answerAll, done, fullTest, MODULE_BAD, nameFault, readyUnit } from "./units";

/** A customer's unit from their words to the paid bill, seen from both sides; then what else papers and seals say. */

const BOTH_BAD = {
  sticks: { "stick.left": { offset: [0.24, 0.05] as [number, number] } },
  buttons: { "face.south": { missRate: 0.6 } },
};

test("the customer's second fault: found, offered with pictures and the like part, agreed, mended, billed as agreed", async ({
  page,
  browser,
  db,
}) => {
  await signIn(page, "ida");
  const customer = await done(page, "customer.add", { name: "Wren Alder", contact: "Mill Lane 3" });
  const { tag, unitId } = await newUnit(page, "dunlin", {
    claim: "the left one walks off by itself",
    origin: { source: "customer", customerId: customer.id },
  });
  await fullTest(page, "dunlin", unitId, { faults: BOTH_BAD });
  const stick = await nameFault(page, unitId, "stick.left", "rests off centre", "restOffset");
  const south = await nameFault(page, unitId, "face.south", "misses", "decision");
  await page.goto(`/units/${tag}/intake`);
  const picture = await sharp({ create: { width: 640, height: 480, channels: 3, background: "#80705a" } })
    .jpeg()
    .toBuffer();
  await page
    .getByLabel("Add photographs")
    .and(page.locator("input"))
    .setInputFiles({ name: "worn.jpg", mimeType: "image/jpeg", buffer: picture });
  await expect(page.getByRole("img", { name: /photograph 1/i }).first()).toBeVisible();

  // both faults in one question, one of them with its like part, and a picture beside
  await page.goto(`/units/${tag}/decide`);
  await page.getByRole("button", { name: "Ask Wren Alder" }).click();
  const yes = page.getByRole("region", { name: "Customer's yes" });
  await yes.getByRole("group", { name: "Pictures for them" }).getByRole("checkbox").first().check();
  const offers = yes.getByRole("checkbox", { name: "offer Whole module, dear copy" });
  await offers.check();
  const likes = yes.getByRole("checkbox", { name: "And the like part, right stick" });
  await likes.last().check();
  await yes.getByRole("button", { name: "Make the page" }).click();
  await expect(yes).toContainText("waits for an answer");
  // on paper for who has no internet, once
  await yes.getByRole("button", { name: "Offer on paper" }).click();
  await expect(yes.getByText(/^Offer \d{4}, .*: to choose from$/)).toBeVisible();
  const paper = await page.request.get(
    (await yes.getByRole("link", { name: /^Offer \d{4} as PDF$/ }).getAttribute("href"))!,
  );
  expect([paper.status(), paper.headers()["content-type"]]).toEqual([200, "application/pdf"]);

  const theirs = (await yes.getByRole("link", { name: "Their page" }).getAttribute("href"))!;
  const stranger = await browser.newContext({ baseURL: new URL(page.url()).origin });
  const visitor = await stranger.newPage();
  await visitor.goto(theirs);
  await expect(visitor.getByText("In your words: “the left one walks off by itself”")).toBeVisible();
  const shown = visitor.getByRole("img", { name: "a picture of it" });
  await expect(shown).toBeVisible();
  expect((await stranger.request.get((await shown.getAttribute("src"))!)).status()).toBe(200);
  // nothing else of the house is to be had by that address
  expect((await stranger.request.get(`${theirs}/bill`)).status()).toBe(404); // not written yet
  expect((await stranger.request.get(`${theirs}/picture/${unitId}`)).status()).toBe(404);
  const ofStick = visitor.getByRole("group", { name: /stick/ });
  await ofStick.getByRole("radio", { name: /Whole module, dear copy/ }).check();
  await ofStick.getByRole("checkbox", { name: /And the like part, right stick for .*, saves/ }).check();
  const ofSouth = visitor.getByRole("group", { name: /south/ });
  await ofSouth.getByRole("radio", { name: /^Yes:/ }).first().check();
  await visitor.getByRole("radio", { name: /precise aiming/ }).check();
  await visitor.getByLabel("Your name").fill("Wren");
  await visitor.getByLabel(/^I mean it/).check();
  await visitor.getByRole("button", { name: "Send my answer" }).click();
  await expect(visitor.getByText("Answered. What you chose")).toBeVisible();
  await expect(visitor.getByText(/with the right stick/)).toBeVisible();

  // how they use it stands at the intake from now on, where it can be changed again
  await page.goto(`/units/${tag}/intake`);
  await page.getByRole("button", { name: "Correct the intake" }).click();
  await expect(page.getByLabel("Used for")).toHaveValue("precise");
  await page.getByRole("button", { name: "Leave it as it was" }).click();

  // the answer is the route, and the like part stands in the work order that is proposed
  await page.goto(`/units/${tag}/mend`);
  await expect(page.getByText(/Whole module, dear copy: right stick/).first()).toBeVisible();
  await page.goto(`/units/${tag}/decide`);
  await expect(yes).toContainText("Whole module, dear copy, with the right stick");
  const mend = (faultId: string, route: string, what: string) =>
    deed(page, "mend.add", {
      unitId,
      faultId,
      what,
      part: "",
      minutes: 20,
      remark: "",
      opened: true,
      settlesFault: true,
      route,
      partMinor: 0,
    });
  const agreed = (await db("answer as a")
    .join("question as q", "q.id", "a.question_id")
    .where({ "q.unit_id": unitId })
    .select("a.fault_id", "a.choice")) as { fault_id: string; choice: string }[];
  const routeOf = (faultId: string) => one(agreed.find((a) => a.fault_id === faultId)).choice;
  // the lazy way: another route than the one they pay for
  expect((await mend(stick, routeOf(south), "Something else")).body.problem?.code).toBe("other-agreed");
  expect((await mend(stick, routeOf(stick), "Stick module replaced")).body.problem).toBeUndefined();
  expect((await mend(south, routeOf(south), "South button done")).body.problem).toBeUndefined();

  // proven and released at what was agreed for what is in: the like part is not, and is not owed
  await fullTest(page, "dunlin", unitId);
  await answerAll(page, "dunlin", { tag, unitId });
  await page.goto(`/units/${tag}/release`);
  const bill = page.getByRole("region", { name: "Bill" });
  await expect(bill.getByRole("listitem").filter({ hasText: "right stick" })).toContainText(
    "not owed: not fitted",
  );
  const price = page.getByLabel(/^Price/);
  const owed = Number((await price.inputValue()).replace(",", "."));
  expect(owed).toBeGreaterThan(0);
  await price.fill(String(owed + 10));
  await page.getByRole("button", { name: "Release", exact: true }).click();
  await expect(page.getByRole("alert").filter({ hasText: /agreed/ })).toBeVisible();
  await price.fill(String(owed));
  await page.getByRole("button", { name: "Release", exact: true }).click();
  await expect(page.getByRole("heading", { name: /^Released, grade/ })).toBeVisible();
  await page.getByRole("button", { name: "Returned to its owner" }).click();
  await expect(page.getByRole("heading", { name: /^Returned to its owner, / })).toBeVisible();
  await page.getByRole("button", { name: "Write the bill" }).click();
  const written = bill.getByText(/^Bill \d{4}, /);
  await expect(written).toContainText(owed.toFixed(2));
  // a second one is not to be had; the paper stays, and a correction is another one
  await expect(page.getByRole("button", { name: "Write the bill" })).toHaveCount(0);
  expect((await deed(page, "paper.issue", { unitId, kind: "bill" })).body.problem?.code).toBe(
    "paper-written",
  );

  await visitor.goto(theirs);
  await expect(visitor.getByRole("heading", { name: /^Your bill \d{4}: / })).toContainText(owed.toFixed(2));
  const pdf = await stranger.request.get(
    (await visitor.getByRole("link", { name: "Bill as PDF" }).getAttribute("href"))!,
  );
  expect([pdf.status(), pdf.headers()["content-type"]]).toEqual([200, "application/pdf"]);
  await stranger.close();

  await bill.getByRole("button", { name: "Correct" }).click();
  await bill.getByRole("button", { name: "Write the correction" }).click();
  await expect(bill.getByLabel("Why it is corrected (printed)")).toHaveAttribute("aria-invalid", "true");
  await bill.getByLabel("Why it is corrected (printed)").fill("The address was wrong.");
  await bill.getByLabel(/^Address/).fill("Mill Lane 4");
  await bill.getByRole("button", { name: "Write the correction" }).click();
  await expect(bill.getByText(/corrects \d{4}: The address was wrong\./)).toBeVisible();
  await expect(bill.getByText(/corrected by \d{4}/)).toBeVisible();
  await page.goto("/after");
  const book = page.getByRole("region", { name: "Papers" }).first();
  await expect(book.getByRole("row").filter({ hasText: tag })).toHaveCount(3); // offer, bill, correction
  const csv = await (await page.request.get("/api/papers")).text();
  const rows = csv.split("\r\n").filter((r) => r.includes(tag));
  expect(rows.filter((r) => r.startsWith("bill,"))).toHaveLength(2);
  // added up, the correction changes nothing here
  const change = (r: string) => Number(r.split(",")[9]);
  expect(rows.filter((r) => r.startsWith("bill,")).reduce((s, r) => s + change(r), 0)).toBeCloseTo(owed, 2);
});

test("what was bought from a private person has a receipt to sign, seen from its unit, once", async ({
  page,
}) => {
  await signIn(page, "bram");
  const { tag, unitId } = await newUnit(page, "knot", {
    claim: "works, box opened",
    origin: { source: "single", seller: "Aldo Crane", priceMinor: 850, carriageMinor: 0 },
  });
  await page.goto(`/units/${tag}/intake`);
  const receipt = page.getByRole("region", { name: "Receipt of purchase" });
  await receipt.getByLabel(/^Address/).fill("Quay stall 4");
  await receipt.getByRole("button", { name: "Write the receipt" }).click();
  await expect(receipt.getByText(/^Receipt of purchase \d{4}, .*8\.50$/)).toBeVisible();
  await expect(receipt.getByRole("button", { name: "Write the receipt" })).toHaveCount(0);
  expect((await deed(page, "paper.issue", { unitId, kind: "receipt" })).body.problem?.code).toBe(
    "paper-written",
  );
  await page.reload();
  await expect(receipt.getByText("Aldo Crane, by bram")).toBeVisible();
});

test("our seal is read at a return: not the one that was put on ends the cover, in words, and nothing without reading it", async ({
  page,
}) => {
  await signIn(page, "bram");
  const { tag } = await readyUnit(page, { model: "knot" });
  await page.goto(`/units/${tag}/release`);
  await page.getByLabel(/^Seal/).fill("RC-0471");
  await page.getByLabel(/^Price/).fill("19");
  await page.getByRole("button", { name: "Release", exact: true }).click();
  await expect(page.getByRole("heading", { name: /^Released, grade/ })).toBeVisible();
  await page.getByRole("button", { name: "It came back" }).click();
  const back = page.getByRole("form", { name: "It came back" });
  await back.getByLabel("What they say is wrong").fill("dead again");
  await back.getByRole("button", { name: "Take it back in" }).click();
  await expect(back.getByRole("alert")).toContainText("It left with our seal. Read the number on it");
  await back.getByLabel("Number on our seal, as you read it").fill("RC-0741");
  await back.getByRole("button", { name: "Take it back in" }).click();
  await expect(back).toHaveCount(0);
  await page.goto(`/units/${tag}/record`);
  await expect(page.getByText(/not the seal that we put on, so others opened it/)).toBeVisible();
  await page.goto(`/units/${tag}/intake`);
  await expect(page.getByText(/was opened before/)).toBeVisible();
});

test("where a new stick opens everything, all that wears is one choice with one price, and stands in the work order", async ({
  page,
  browser,
}) => {
  await signIn(page, "ida");
  const customer = await done(page, "customer.add", { name: "Rook Sedge", contact: "" });
  const { tag, unitId } = await newUnit(page, "dunlin", {
    claim: "the left one walks off",
    origin: { source: "customer", customerId: customer.id },
  });
  await fullTest(page, "dunlin", unitId, { faults: MODULE_BAD });
  await nameFault(page, unitId, "stick.left", "rests off centre", "restOffset");
  await page.goto(`/units/${tag}/decide`);
  await page.getByRole("button", { name: "Ask Rook Sedge" }).click();
  const yes = page.getByRole("region", { name: "Customer's yes" });
  const offered = yes.getByRole("checkbox", {
    name: "And a full refresh: right stick module, dome sheet, cell, right stick cap",
  });
  await offered.check();
  // a price that is no amount is told, and nothing is sent
  const price = yes.getByLabel("Price EUR").last();
  await price.fill("much");
  await expect(yes.getByRole("button", { name: "Make the page" })).toBeDisabled();
  await price.fill("48");
  await yes.getByRole("button", { name: "Make the page" }).click();
  await expect(yes).toContainText("waits for an answer");
  const theirs = (await yes.getByRole("link", { name: "Their page" }).getAttribute("href"))!;
  const stranger = await browser.newContext({ baseURL: new URL(page.url()).origin });
  const visitor = await stranger.newPage();
  await visitor.goto(theirs);
  const refresh = visitor.getByRole("checkbox", { name: /full refresh, everything that wears made new/ });
  await expect(refresh).toHaveCount(0); // beside nothing there is none
  await visitor.getByRole("radio", { name: /^Yes:/ }).first().check();
  await refresh.check();
  await expect(visitor.getByText(/for .48\.00; saves/)).toBeVisible();
  await visitor.getByLabel("Your name").fill("Rook");
  await visitor.getByLabel(/^I mean it/).check();
  await visitor.getByRole("button", { name: "Send my answer" }).click();
  await expect(visitor.getByText(/with a full refresh/)).toBeVisible();
  await page.goto(`/units/${tag}/mend`);
  for (const part of ["right stick module", "dome sheet", "right stick cap"])
    await expect(page.getByText(part).filter({ visible: true }).first()).toBeVisible();
  await page.goto(`/units/${tag}/decide`);
  await expect(yes).toContainText("with a full refresh");
  await stranger.close();
});
