import { deed, expect, runFullTest, signInByHand, tabTo, test } from "./shop";

/** One unit from the door to the label, as a technician does it: mostly by keyboard. */
test("a drifting pad is taken in, tested, mended, proven, released, and its certificate stands", async ({
  page,
  browser,
}) => {
  await signInByHand(page, "ida");

  await test.step("intake by keyboard alone, under a minute for a known model", async () => {
    const began = Date.now();
    await page.getByRole("link", { name: "Take in" }).focus();
    await page.keyboard.press("Enter");
    await expect(page.getByLabel("Model")).toBeFocused();
    await page.keyboard.type("knot");
    await page.keyboard.press("Tab");
    await expect(page.getByText("Nothing is missing.")).toBeVisible();
    await tabTo(page, page.getByLabel("Seller", { exact: true }));
    await page.keyboard.type("quayside market");
    await page.keyboard.press("Tab");
    await page.keyboard.type("6.50");
    await page.keyboard.press("Tab");
    await page.keyboard.type("3");
    await page.keyboard.press("Tab");
    await page.keyboard.type("face south needs two pushes");
    await tabTo(page, page.getByLabel("wrist strap"));
    await page.keyboard.press("Space");
    await expect(page.getByText("Missing: wrist strap €2.50. Together €2.50.")).toBeVisible();
    await tabTo(page, page.getByRole("button", { name: /^Take in, (to|without) a tray$/ }));
    await page.keyboard.press("Enter");
    await expect(page.getByRole("heading", { level: 1 })).toHaveText(/B-\d{4}/);
    expect(Date.now() - began).toBeLessThan(60_000);
  });
  const tag = (await page.getByRole("heading", { level: 1 }).textContent())!;
  await expect(page).toHaveURL(new RegExp(`/units/${tag}/test`));
  await expect(page.getByRole("heading", { name: "Not tested" })).toBeVisible();
  await expect(page.getByText("“face south needs two pushes”")).toBeVisible();

  await test.step("the first full test finds the weak button", async () => {
    await page.getByRole("link", { name: "Full test", exact: true }).click();
    // on this model the first button that has no stick before it is the pad's
    await runFullTest(page, "weak-button");
    await expect(page.getByRole("heading", { name: "Fail", exact: true })).toBeVisible();
    await expect(page.getByRole("region", { name: "pad up" })).toContainText("presses bad");
  });

  await test.step("one key names the fault, with the recording as evidence", async () => {
    await page.keyboard.press("n");
    await expect(page.getByText("named as a fault").first()).toBeVisible();
    await page.keyboard.press("f");
    await expect(page.getByRole("heading", { name: "Claimed" })).toBeVisible();
    await expect(page.getByText("1. pad up: presses")).toBeVisible();
    await expect(page.getByRole("link", { name: "evidence" })).toBeVisible();
  });

  await test.step("the mend is logged to the fault", async () => {
    await page.getByRole("link", { name: "Mend it" }).click();
    await page.getByLabel("What was done").fill("New dome sheet");
    await page.getByLabel("Part used").fill("dome sheet, original");
    await page.getByLabel("Minutes").fill("14");
    await page.getByRole("button", { name: "Log it" }).click();
    await expect(page.getByText("No open fault")).toBeVisible();
    await expect(page.getByText("New dome sheet")).toBeVisible();
    await expect(page.getByText(/after the full test of/)).toBeVisible();
  });

  await test.step("the earlier test no longer proves anything", async () => {
    await page.keyboard.press("r");
    await expect(page.getByText("No full test after the last mend")).toBeVisible();
    await expect(page.getByRole("button", { name: "Release", exact: true })).toHaveCount(0);
  });

  await test.step("the proof, with before and after side by side", async () => {
    await page.keyboard.press("p");
    await page.getByRole("link", { name: "Full test now" }).click();
    await runFullTest(page, "healthy");
    await page.keyboard.press("p");
    await expect(page.getByRole("heading", { name: "Proof: grade A" })).toBeVisible();
    const compare = page.getByRole("region", { name: "Before and after, pad up" });
    await expect(compare.getByRole("row", { name: /^presses/ })).toContainText(
      /(1[5-9]|2\d) of \1\D/, // a proof presses until few bad buttons can be left
    );
    await expect(page.getByText("radio link: not tested")).toBeVisible();
  });

  await test.step("functions by keys on each row", async () => {
    const rows = page.locator("[data-function]");
    await rows.first().focus();
    for (let i = 0; i < (await rows.count()); i++) {
      await rows.nth(i).focus();
      await page.keyboard.press("y");
      await expect(rows.nth(i)).toHaveAttribute("aria-label", /: pass$/);
    }
    await expect(page.getByText(/Proof sheet, silence: not done/)).toBeVisible();
  });

  await test.step("the proof sheet by keys on each row", async () => {
    const rows = page.locator("[data-proof]");
    await rows.first().focus();
    for (let i = 0; i < (await rows.count()); i++) {
      await rows.nth(i).focus();
      await page.keyboard.press("y");
      await expect(rows.nth(i)).toHaveAttribute("aria-label", /: pass$/);
    }
    await expect(page.getByText("Nothing blocks the release.")).toBeVisible();
  });

  await test.step("release gives a certificate that anybody with the address can read", async () => {
    await page.keyboard.press("r");
    await page.getByLabel(/^Price/).fill("14.00");
    await page.getByRole("button", { name: "Release", exact: true }).click();
    await expect(page.getByRole("heading", { name: "Released, grade A" })).toBeVisible();
    const href = (await page.getByRole("link", { name: "Open the certificate" }).getAttribute("href"))!;
    const stranger = await browser.newContext({ baseURL: new URL(page.url()).origin });
    const visitor = await stranger.newPage();
    const response = await visitor.goto(href);
    expect(response!.headers()["referrer-policy"]).toBe("no-referrer");
    await expect(visitor.getByText("grade A").first()).toBeVisible();
    await expect(visitor.getByText("15 of 15").first()).toBeVisible();
    await expect(visitor.getByText("New dome sheet (dome sheet, original)")).toBeVisible();
    const words = await visitor.locator("body").innerText();
    for (const secret of ["quayside", "6.50", "14.00"]) expect(words).not.toContain(secret);
    const pdf = await visitor.request.get(`${href}/pdf`);
    expect((await pdf.body()).subarray(0, 5).toString()).toBe("%PDF-");
    await stranger.close();
  });

  await test.step("the label is a PDF of the asked size, in millimetres", async () => {
    const pdf = await page.request.get(`/labels/pdf?kind=unit&codes=${tag}&w=40&h=20`);
    const { PDFDocument } = await import("pdf-lib");
    const document = await PDFDocument.load(await pdf.body());
    const { width, height } = document.getPage(0).getSize();
    expect([Math.round((width * 25.4) / 72), Math.round((height * 25.4) / 72)]).toEqual([40, 20]);
  });

  await test.step("the unit is closed, and a lead can revoke what was given out", async () => {
    const refused = await deed(page, "mend.add", {
      unitId: crypto.randomUUID(),
      faultId: null,
      what: "x",
      part: "",
      minutes: 1,
      remark: "",
      opened: false,
      settlesFault: false,
    });
    expect(refused.body.problem!.code).toBe("not-found");
    const address = (await page.getByRole("link", { name: "Open the certificate" }).getAttribute("href"))!;
    await page.getByLabel(/^Why/).fill("sold to somebody else");
    await page.getByRole("button", { name: "Revoke the certificate" }).click();
    await expect(page.getByText(/was revoked: sold to somebody else/)).toBeVisible();
    await page.goto(address);
    await expect(page.getByText(/This certificate was revoked/)).toBeVisible();
  });
});
