import type { Page } from "@playwright/test";

import { ALERT, deed, expect, newUnit, signIn, test } from "./shop";
import { fullTest, MODULE_BAD } from "./units";
import { injectPad } from "./pad";
import { one } from "@/core/base/one";

/** The Test station step by step: power and links, what the hand finds, the recording, and instruments. */

const active = (page: Page) => page.locator("section[aria-label] h2").first();
const keep = (page: Page) => page.getByRole("button", { name: "Keep this reading" }).click();

/** Does whatever step the page shows, as a technician with made-up instruments would. */
async function doStep(page: Page): Promise<void> {
  const has = (name: string | RegExp) => page.getByRole("button", { name }).count();
  if (await page.getByRole("link", { name: "Measure every control" }).count()) {
    await page.getByRole("link", { name: "Measure every control" }).click();
    await page.getByLabel("Speed").selectOption("20");
    await page.getByRole("button", { name: "Test the simulated controller" }).click();
    await expect(page).toHaveURL(/\/test\/bench\?for=full$/, { timeout: 120_000 });
    return;
  }
  if (await has("Read open voltage")) {
    await page.getByRole("button", { name: "Read open voltage" }).click();
    if (await has("Read voltage under load")) {
      await page.getByRole("button", { name: "Read voltage under load" }).click();
      await page.getByRole("button", { name: "Read load current" }).click();
    }
    return keep(page);
  }
  if (await has("Watch the link")) {
    await page.getByRole("button", { name: "Watch the link" }).click();
    return keep(page);
  }
  if (await has(/^Run the (heavy|light) motor$/)) {
    await page.getByRole("button", { name: /^Run the (heavy|light) motor$/ }).click();
    await page.getByRole("button", { name: "normal", exact: true }).click();
    return keep(page);
  }
  if (await has("Listen to silence")) {
    for (const name of ["Listen to silence", "Listen to the phrase", "Listen to the rub"])
      await page.getByRole("button", { name }).click();
    await expect(page.getByText("not heard yet")).toHaveCount(0);
    return keep(page);
  }
  if (await has("Play the tone and listen")) {
    await page.getByRole("button", { name: "Play the tone and listen" }).click();
    await expect(page.getByText("not heard yet")).toHaveCount(0);
    return keep(page);
  }
  if (await has("Tug: held")) {
    for (let i = 0; i < 14; i++) await page.getByRole("button", { name: "Tug: held" }).click();
    await page.getByRole("button", { name: "Release: let go" }).click();
    return keep(page);
  }
  await page.keyboard.press("y");
}

for (const [model, steps] of [
  ["knot", 7],
  ["whimbrel", 11],
  ["avocet", 15],
] as const)
  test(`the whole protocol of a ${model} with the simulated controller and instruments`, async ({
    page,
    db,
  }) => {
    await signIn(page, "bram");
    const { tag, unitId } = await newUnit(page, model);
    await page.goto(`/units/${tag}/test`);
    await page.getByRole("link", { name: "Step by step" }).click();
    await expect(page.getByText(`0 / ${steps}`)).toBeVisible();
    await expect(active(page)).toHaveText(/Supply/);
    await page.getByRole("button", { name: "simulated instruments" }).click();
    for (let done = 0; done < steps; done++) {
      const was = (await active(page).textContent())!;
      await doStep(page);
      await expect(page.getByText(`${done + 1} / ${steps}`)).toBeVisible({ timeout: 120_000 });
      if (done + 1 < steps) await expect(active(page)).not.toHaveText(was); // it leads on by itself
    }
    await expect(page.getByText("about 0 min left")).toBeVisible();
    const four = page.getByRole("region", { name: "Power and links, four results" });
    for (const link of ["power-on", "charging sign", "cable", "radio"])
      await expect(four).toContainText(new RegExp(`${link}: (pass|not fitted)`));
    const kept = await db("bench_reading")
      .where({ unit_id: unitId })
      .select("kind", "verdict", "instrument", "took_ms", "host");
    expect(kept.length).toBeGreaterThan(0);
    for (const r of kept) expect(r).toMatchObject({ verdict: "pass", instrument: "simulated, healthy" });
    expect(kept.every((r) => (r.took_ms ?? 0) > 0 && r.host.includes("Chrome"))).toBe(true);
    await page.goto(`/units/${tag}/prove`);
    // the protocol answers every function; what only a unit that leaves needs is left
    const blocks = page.getByRole("region", { name: "What blocks the release" }).getByRole("listitem");
    await expect(blocks.filter({ hasText: "Proof sheet" }).first()).toBeVisible();
    const others = blocks.filter({ hasNotText: "Proof sheet" });
    await others
      .filter({ hasText: "one of its buttons may be bad" })
      .getByRole("link", { name: /^press the/ })
      .first()
      .click();
    await page.getByLabel("Speed").selectOption("20");
    await page.getByRole("button", { name: "Test the simulated controller" }).click();
    await expect(page).toHaveURL(/\/prove$/, { timeout: 120_000 });
    await expect(others).toHaveCount(0);
  });

test("a tired cell is found by figures, typed or from a file, and bad figures are told", async ({ page }) => {
  await signIn(page, "bram");
  const { tag } = await newUnit(page, "dunlin");
  await page.goto(`/units/${tag}/test/bench?for=full&step=supply.main`);
  await page.getByLabel("Open voltage").fill("3,95");
  await page.getByLabel("Voltage under load").fill("three");
  await expect(page.getByText("digits only, such as 3.71")).toBeVisible();
  await page.getByLabel("Voltage under load").fill("3.55");
  await page.keyboard.press("Enter");
  await expect(page.locator(ALERT)).toContainText("Give the loaded voltage and the load's current together");
  await expect(page.getByLabel("Open voltage")).toHaveValue("3,95");
  await page.getByLabel("Load current").fill("0.3");
  await page.keyboard.press("Enter");
  const measured = page.getByRole("region", { name: "What was measured" });
  await expect(measured).toContainText("1.33 Ω");
  await expect(measured).toContainText("fail");
  await expect(page.getByText("Points to the cell.")).toBeVisible();

  await page.getByRole("link", { name: /^charge log/ }).click();
  await page.getByLabel("Load a log file").setInputFiles({
    name: "meter.csv",
    mimeType: "text/csv",
    buffer: Buffer.from("minutes;mA;V\n0;450;3,6\n30;450;3,9\n60;x;4,1\n"),
  });
  await keep(page);
  await expect(page.locator(ALERT).last()).toContainText('Row 3: "x" is no figure for milliamps.');
  const log = page.getByLabel(/^Log:/);
  await log.fill((await log.inputValue()).replace("60;x;4,1", "60;20;4,19"));
  await keep(page);
  await expect(measured).toContainText("343 mAh");
  await expect(measured).toContainText("It takes little charge before it is full");
  await expect(
    page.getByRole("img", { name: /3 rows over 60 minutes: current from 450 to 20 mA/ }),
  ).toBeVisible();

  await test.step("one key names it, whoever holds it down names it once, and every station knows", async () => {
    await page.locator("body").click({ position: { x: 2, y: 2 } });
    await page.keyboard.press("n");
    await page.keyboard.press("n");
    await expect(page.getByText("named as a fault")).toBeVisible();
    await page.goto(`/units/${tag}/prove`);
    await expect(page.getByText("Failed at the bench: charge log")).toBeVisible();
    const supply = page.getByRole("listitem").filter({ hasText: "Failed at the bench: supply" });
    await supply.getByRole("link", { name: "read it again" }).click();
    await expect(active(page)).toHaveText(/Supply/);
    await page.goBack();
    await expect(supply).toBeVisible();
    await page.goto(`/units/${tag}/find`);
    await expect(page.getByText("1. charging: charge log")).toHaveCount(1);
    const first = page.getByRole("list", { name: "Causes, most likely first" }).getByRole("listitem").first();
    await expect(first).toContainText("cell");
    await expect(first).toContainText("charge log at the bench: fail");
    await page.getByRole("button", { name: /^Seen inside/ }).click();
    const inside = page.getByRole("region", { name: "What was seen inside" });
    await expect(inside).toContainText("charge log at the bench: fail");
    await page.reload();
    await expect(first).toContainText("charge log at the bench: fail");
  });
});

test("contact sensors from a meter on a serial line: repeats, a finger left out, the predicted offset", async ({
  page,
}) => {
  await page.addInitScript(() => {
    // a serial port behind the browser's own interface: it answers SCPI as a meter does
    const ohms = ["5400", "4600", "5410", "4590", "9000", "1000"];
    const encode = (t: string) => new TextEncoder().encode(t);
    const port = () => {
      let push: (t: string) => void = () => undefined;
      return {
        open: async () => undefined,
        close: async () => undefined,
        readable: new ReadableStream<Uint8Array>({ start: (c) => void (push = (t) => c.enqueue(encode(t))) }),
        writable: new WritableStream<Uint8Array>({
          write: (chunk) => {
            const asked = new TextDecoder().decode(chunk).trim();
            if (asked === "*IDN?") push("Oxmere Instruments,M1,7,1.0\r\n");
            if (asked === "MEAS:RES?") push(`${ohms.shift() ?? "9.9E37"}\r\n`);
          },
        }),
      };
    };
    Object.defineProperty(Navigator.prototype, "serial", {
      get: () => ({ requestPort: async () => port() }),
      configurable: true,
    });
  });
  await signIn(page, "bram");
  const { tag } = await newUnit(page, "dunlin");
  await page.goto(`/units/${tag}/test/bench?for=full&step=contact-sensor.stick.left.x`);
  await expect(page.getByText("Unplug the cell by its plug")).toBeVisible();
  await page.getByRole("button", { name: "a meter on a serial line" }).click();
  await expect(page.getByRole("button", { name: "Oxmere Instruments,M1,7,1.0" })).toBeVisible();
  const pair = page.getByRole("button", { name: "Read the pair" });
  await pair.click();
  await expect(page.getByText("5400 / 4600 Ω")).toBeVisible();
  await pair.click();
  await expect(page.getByText("5410 / 4590 Ω")).toBeVisible();
  await page.getByLabel("finger on the part").check();
  await pair.click();
  await expect(page.getByText("9000 / 1000 Ω, finger on it")).toBeVisible();
  await keep(page);
  const measured = page.getByRole("region", { name: "What was measured" });
  await expect(measured).toContainText("13.0 %"); // imbalance 8.1 % times 1.6
  await expect(measured).toContainText("1 reading with a finger on the part left out.");
  await expect(measured).toContainText("Oxmere Instruments,M1,7,1.0");
});

test("a microphone through the browser's own sound: levels are measured and kept", async ({
  page,
  db,
  context,
}) => {
  await context.grantPermissions(["microphone"]);
  await signIn(page, "bram");
  const { tag, unitId } = await newUnit(page, "whimbrel");
  await page.goto(`/units/${tag}/test/bench?for=full&step=microphone.mic.upper`);
  const buttons = page.getByRole("button", { name: /^Listen to/ });
  await expect(buttons.first()).toBeEnabled();
  // quick hands: all three in one moment are one listening, and the other two stay unheard
  await buttons.evaluateAll((all) => all.forEach((b) => (b as HTMLElement).click()));
  await expect(page.getByText("not heard yet")).toHaveCount(2);
  for (const name of ["Listen to silence", "Listen to the phrase", "Listen to the rub"]) {
    const button = page.getByRole("button", { name });
    await expect(button).toBeEnabled({ timeout: 120_000 });
    await button.click();
  }
  await expect(page.getByText("not heard yet")).toHaveCount(0, { timeout: 120_000 });
  await keep(page);
  const kept = () => db("bench_reading").where({ unit_id: unitId }).select("reading", "kind");
  await expect.poll(async () => (await kept()).length).toBe(1);
  const row = one((await kept())[0]);
  expect(row.kind).toBe("microphone");
  expect("phrase" in row.reading && row.reading.phrase.length).toBeGreaterThan(30);
  await page.goto(`/units/${tag}/test/bench?for=full&step=microphone.mic.upper`);
  await expect(page.getByRole("region", { name: "What was measured" })).toContainText(/-?\d+\.\d dBFS/);
});

test("a page on a plain address says that it cannot listen", async ({ page }) => {
  await page.addInitScript(() => Object.defineProperty(window, "isSecureContext", { value: false }));
  await signIn(page, "bram");
  const { tag } = await newUnit(page, "whimbrel");
  await page.goto(`/units/${tag}/test/bench?for=full&step=microphone.mic.upper`);
  await page.getByRole("button", { name: "Listen to silence" }).click();
  await expect(page.locator(ALERT)).toContainText("A plain address cannot use a microphone");
  await page.getByRole("button", { name: "a meter on a serial line" }).click();
  await expect(page.locator(ALERT).first()).toContainText("A plain address cannot use serial lines");
});

test("a watched link with a controller at the browser's own interface: gaps are dropouts at their place", async ({
  page,
}) => {
  await injectPad(page, undefined, 1, "Bench pad bench 1");
  await signIn(page, "bram");
  const { tag } = await newUnit(page, "dunlin");
  await page.goto(`/units/${tag}/test/bench?for=full&step=link-watch.radio`);
  await page.getByRole("button", { name: "Watch the link" }).click();
  await expect(page.getByText("0 m,")).toBeVisible();
  const walkFor = async (ms: number) =>
    page.waitForFunction(([began, ms]) => performance.now() - began > ms, [
      await page.evaluate(() => performance.now()),
      ms,
    ] as const);
  for (const metres of [1, 2, 3]) {
    await page.keyboard.press("Space");
    await expect(page.getByText(`${metres} m,`)).toBeVisible();
    await walkFor(400); // nobody walks a metre in no time: the link is heard at each mark
  }
  await page.evaluate(() => ((window as unknown as { pad: { plugged: boolean } }).pad.plugged = false));
  await walkFor(700);
  await page.evaluate(() => ((window as unknown as { pad: { plugged: boolean } }).pad.plugged = true));
  await page.keyboard.press("Space");
  await page.getByRole("button", { name: "Stop here" }).click();
  await keep(page);
  const measured = page.getByRole("region", { name: "What was measured" });
  await expect(measured).toContainText(/First dropout at 3\.\d m/);
  await expect(measured).toContainText("fail");
});

test("motors run one at a time through the gamepad's actuator", async ({ page }) => {
  await injectPad(page, undefined, 1, "Bench pad bench 2");
  await signIn(page, "bram");
  const { tag } = await newUnit(page, "dunlin");
  await page.goto(`/units/${tag}/test/bench?for=full&step=motor.motor.light`);
  await page.getByRole("button", { name: "Run the light motor" }).click();
  await expect(page.getByText("It ran, through the browser.")).toBeVisible();
  const ran = await page.evaluate(() => (window as unknown as { rumbled: unknown[] }).rumbled);
  expect(ran).toEqual([{ duration: 900, strongMagnitude: 0, weakMagnitude: 1 }]);
  await page.getByRole("button", { name: "weak", exact: true }).click();
  await keep(page);
  await expect(page.getByRole("region", { name: "What was measured" })).toContainText("Runs weakly.");
});

test("two like controllers are told apart, and each stays itself when one is unplugged", async ({
  page,
  db,
}) => {
  await injectPad(page, undefined, 2, "Bench pad bench 3");
  await signIn(page, "bram");
  const { tag, unitId } = await newUnit(page, "knot");
  await page.goto(`/units/${tag}/test/run?kind=full`);
  await expect(page.getByText("2 are plugged in.")).toBeVisible();
  type Two = {
    pad: { buttons: number[]; plugged: boolean };
    second: { buttons: number[]; plugged: boolean };
  };
  await page.evaluate(() => ((window as unknown as Two).second.buttons[3] = 1));
  const second = page.getByRole("button", { name: /slot 2\).*this one moved/ });
  await expect(second).toBeVisible();
  await page.evaluate(() => ((window as unknown as Two).second.buttons[3] = 0));
  await second.click();
  await expect(page.getByRole("heading", { name: "Hands off" })).toBeVisible();
  await page.evaluate(() => ((window as unknown as Two).second.plugged = false));
  await expect(page.locator(ALERT)).toContainText("The controller is gone");
  await page.evaluate(() => ((window as unknown as Two).second.plugged = true));
  await expect(page.locator(ALERT)).toHaveCount(0);
  // the other one going away is nobody's business
  await page.evaluate(() => ((window as unknown as Two).pad.plugged = false));
  await expect(page.getByRole("heading", { name: /Press pad|Press face/ })).toBeVisible({ timeout: 120_000 });
  await expect(page.locator(ALERT)).toHaveCount(0);
  await page.getByRole("button", { name: "End here, keep what was measured" }).click();
  await expect(page.getByRole("heading", { name: "Not tested" })).toBeVisible();
  const row = one((await db("recording").where({ unit_id: unitId }).select("tester"))[0]);
  expect(row.tester).toMatchObject({ slot: 1, link: "cable", version: expect.stringMatching(/^\d+\./) });
});

test("light and hard presses of one button are a spot test, which never proves", async ({ page }) => {
  await signIn(page, "bram");
  const { tag } = await newUnit(page, "knot");
  await page.goto(`/units/${tag}/test/run?kind=spot&controls=face.south&force=light`);
  await expect(page.getByText("face south: press as lightly as it goes.")).toBeVisible();
  await page.getByLabel("Simulated fault").selectOption("light-press");
  await page.getByLabel("Speed").selectOption("20");
  await page.getByRole("button", { name: "Test the simulated controller" }).click();
  // so light a press may answer to none of its cues: the page asks, and the hand tries again
  const again = page.getByRole("button", { name: /^No, try again/ });
  await expect(async () => {
    if (await again.isVisible()) await again.click();
    await expect(page.getByText(/a spot test, never proof; pressed light/)).toBeVisible({ timeout: 2000 });
  }).toPass({ timeout: 120_000 });
  await expect(page.getByRole("heading", { name: "Fail", exact: true })).toBeVisible();
  await expect(page.getByRole("img", { name: /middle \d+ of \d+ missed, top/ })).toBeVisible();
  await page.goto(`/units/${tag}/prove`);
  await expect(page.getByRole("heading", { name: "Not proven" })).toBeVisible();
});

test("reference units: their figures stand beside the suspect's, and a retest says whether the bench drifted", async ({
  page,
}) => {
  await signIn(page, "ida");
  const suspect = await newUnit(page, "dunlin");
  await fullTest(page, "dunlin", suspect.unitId, { faults: MODULE_BAD });
  await page.goto(`/units/${suspect.tag}/test`);
  const beside = page.getByRole("region", { name: "Beside the reference units" });
  await expect(beside).toContainText("Beside 3 reference units");
  await expect(beside).toContainText("outside their spread");
  await page.getByRole("link", { name: "Compare" }).click();
  await page.getByLabel("First, dotted").selectOption({ index: 2 });
  await expect(page.getByRole("columnheader", { name: /^B-\d{4}/ })).toHaveCount(2);
  await expect(page.getByRole("region", { name: /^Compared,/ })).toContainText("points");
  const reference = (await page.getByLabel("First, dotted").locator("option:checked").textContent())!.match(
    /B-\d{4}/,
  )![0];
  await page.goto(`/units/${reference}/test`);
  await expect(page.getByText(/Measured once|The bench has not drifted/)).toBeVisible();
  const broken = await newUnit(page, "dunlin");
  const refused = await deed(page, "unit.set-reference", { unitId: broken.unitId, version: 1, on: true });
  expect(refused.body.problem!.code).toBe("not-healthy");
});

test("triage says how much it has looked at, and is never proof", async ({ page }) => {
  await signIn(page, "bram");
  const { tag } = await newUnit(page, "knot");
  await page.goto(`/units/${tag}/test/bench?for=triage`);
  await page.getByRole("link", { name: /^quick look/ }).click();
  await expect(page.getByText("It never counts as proof.")).toBeVisible();
  await page.getByRole("link", { name: "Move everything once" }).click();
  await page.getByLabel("Speed").selectOption("20");
  await page.getByRole("button", { name: "Test the simulated controller" }).click();
  await expect(page).toHaveURL(/test\/bench\?for=triage$/, { timeout: 120_000 });
  await page.goto(`/units/${tag}/test`);
  await expect(
    page.getByText(/never proof: it has looked at 50 % of what a full test measures/),
  ).toBeVisible();
});
