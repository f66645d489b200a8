/** npm run screenshots: one current picture of each main view in docs/screenshots, from the demo data. */
import { mkdirSync } from "node:fs";
import { join } from "node:path";

import { ensurePackages } from "./lib/packages.mjs";
import { ROOT } from "./lib/paths.mjs";
import { throwawayPostgres, throwawayWorkshop } from "./lib/throwaway.mjs";

ensurePackages();
const { chromium } = await import("@playwright/test");
const { default: sharp } = await import("sharp");
const postgres = await throwawayPostgres(54900);
const { base } = await throwawayWorkshop(postgres, "pictures", 4900);
const folder = join(ROOT, "docs/screenshots");
mkdirSync(folder, { recursive: true });

const browser = await chromium.launch({
  executablePath: "/usr/bin/chromium",
  args: [
    "--no-sandbox",
    "--disable-gpu",
    "--disable-quic",
    "--no-first-run",
    "--disable-background-networking",
    "--disable-component-update",
    "--disable-sync",
  ],
});
async function signedIn(options) {
  const page = await (
    await browser.newContext({ baseURL: base, viewport: { width: 1280, height: 800 }, ...options })
  ).newPage();
  await page.goto("/sign-in");
  await page.getByLabel("Name").fill("ida");
  await page.getByLabel("Password").fill("reed-warbler-1");
  await page.keyboard.press("Enter");
  await page.getByRole("heading", { name: "On the bench" }).waitFor();
  return page;
}
async function shoot(page, path, name) {
  await page.goto(path);
  await page.waitForLoadState("load");
  await page
    .getByText(/^(Working|Looking)/)
    .first()
    .waitFor({ state: "hidden", timeout: 60_000 }); // what a worker works out
  await page.waitForTimeout(900); // fonts and charts
  await page.screenshot({ path: join(folder, `${name}.png`) });
  console.log(name);
}

const page = await signedIn({});
for (const [path, name] of [
  ["/", "bench"],
  ["/units/B-0119/test", "result"],
  ["/units/B-0120/find", "find"],
  ["/units/B-0120/decide", "decide"],
  ["/buying?model=dunlin", "buying"],
  ["/results/flow", "results"],
  ["/units/B-0157/mend", "mend"],
  ["/work/B-0157", "step"],
  ["/day", "day"],
  ["/units/B-0113/prove", "prove"],
  ["/units/B-0113/release", "release"],
  ["/units/B-0113/intake", "intake"],
  ["/parts/P-0001", "batch"],
])
  await shoot(page, path, name);

await page.goto("/parts?tab=plan");
await page.getByRole("button", { name: "Make the plan" }).click();
await page.getByRole("status", { name: "The plan" }).waitFor();
await page.screenshot({ path: join(folder, "plan.png") });
console.log("plan");

await page.goto("/units/B-0140/test/run?kind=full");
await page.getByLabel("Simulated fault").selectOption("drifts");
await page.getByRole("button", { name: "Test the simulated controller" }).click();
for (let skipped = 0; skipped < 3; skipped++) {
  await page.getByRole("heading", { name: /^Press/ }).waitFor(); // the two thumb buttons and a rim come first
  await page.keyboard.press("s");
  await page
    .getByRole("heading", { name: /^Press/ })
    .waitFor({ state: "hidden", timeout: 300 })
    .catch(() => undefined);
}
await page.getByText("of the edge").waitFor();
await page.getByText(/[4-7]\d % of the edge/).waitFor();
await page.screenshot({ path: join(folder, "full-test.png") });

// the state code as it is seen by whoever sees colours otherwise: the same drawing four times
await page.goto("/units/B-0119/test");
await page.getByText("grade B", { exact: true }).first().waitFor();
await page.waitForTimeout(900);
const eyes = await page.context().newCDPSession(page);
const seen = [];
const CUT = { x: 10, y: 196, width: 430, height: 374 };
for (const type of ["none", "protanopia", "deuteranopia", "tritanopia", "achromatopsia"]) {
  await eyes.send("Emulation.setEmulatedVisionDeficiency", { type });
  seen.push(await page.screenshot({ clip: CUT }));
}
await eyes.send("Emulation.setEmulatedVisionDeficiency", { type: "none" });
const beside = await sharp({
  create: { width: CUT.width * seen.length, height: CUT.height, channels: 3, background: "#ffffff" },
})
  .composite(seen.map((input, i) => ({ input, left: i * CUT.width, top: 0 })))
  .png()
  .toBuffer();
await sharp(beside).resize({ width: 1280 }).toFile(join(folder, "state-code.png"));
console.log("state-code");

await page.goto("/units/B-0150/release");
const certificate = await page.getByRole("link", { name: "Open the certificate" }).getAttribute("href");
await shoot(page, certificate, "certificate");

await shoot(await signedIn({ colorScheme: "dark" }), "/after", "after-dark");
await shoot(
  await signedIn({ viewport: { width: 390, height: 844 } }),
  "/units/B-0113/intake",
  "phone-intake",
);

await browser.close();
postgres.stop();
