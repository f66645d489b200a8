import AxeBuilder from "@axe-core/playwright";
import type { Page } from "@playwright/test";

import { REPORTS } from "@/contract/reports";
import { expect, signIn, test } from "./shop";

/** Every kind of page held against the rules for contrast, names and order (WCAG 2 A and AA); contrast in both schemes. */

/** A chart is loaded after its page: these are looked at once it is drawn. */
const CHARTED = new Set(["/buying", "/parts/P-0001", "/units/B-0119/test", "/units/B-0113/test/compare", "/units/B-0113/prove"]);

const PAGES = {
  "a unit from door to test": [
    "/",
    "/units",
    "/units/new",
    "/units/B-0113/intake",
    "/units/B-0119/test",
    "/units/B-0119/test/bench?for=full&step=contact-sensor.stick.left.x",
    "/units/B-0123/test/bench?for=full&step=supply.main",
    "/units/B-0113/test/compare",
  ],
  "finding and deciding": ["/units/B-0119/find", "/units/B-0120/decide", "/units/B-0148/decide", "/buying", "/routes"],
  "parts and donors": [
    "/parts",
    "/parts?tab=catalogue&part=SM-WHI-O",
    "/parts?tab=suppliers",
    "/parts?tab=donors",
    "/parts?tab=plan",
    "/parts?tab=buy",
    "/parts/P-0001",
    "/parts/P-0014",
    "/parts/donors/B-0152",
  ],
  mending: [
    "/units/B-0116/mend",
    "/units/B-0157/mend",
    "/units/B-0157/mend/map",
    "/units/B-0158/mend/solder",
    "/units/B-0113/mend/calibrate",
    "/units/B-0113/mend/notes",
    "/work/B-0157",
    "/day",
    "/models/dunlin/guide",
  ],
  "proof, release and after": [
    "/units/B-0113/prove",
    "/units/B-0113/release",
    "/units/B-0146/release",
    "/units/B-0113/record",
    "/after",
    "/labels",
    "/practice",
  ],
  results: ["/results", ...REPORTS.map((report) => `/results/${report}`)],
  "the house": ["/models", "/models/whimbrel", "/settings", "/people", "/account", "/archive"],
};

/** What is in order is not told in full, which takes longer than finding out. */
const VIOLATIONS: Parameters<AxeBuilder["options"]>[0] = { resultTypes: ["violations"] };
const SCHEMES = [
  { scheme: "light", axe: (page: Page) => new AxeBuilder({ page }).options(VIOLATIONS).withTags(["wcag2a", "wcag2aa"]) },
  { scheme: "dark", axe: (page: Page) => new AxeBuilder({ page }).options(VIOLATIONS).withRules(["color-contrast"]) },
] as const;

/** Colours change by and by; what never ends is not waited for. */
const settled = (page: Page) =>
  page.waitForFunction(() =>
    document.getAnimations().every((a) => a.playState !== "running" || a.effect?.getTiming().iterations === Infinity),
  );

for (const [what, paths] of Object.entries(PAGES))
  test(`readable by rule: ${what}`, async ({ page }) => {
    await signIn(page, "ida");
    for (const path of paths) {
      await page.goto(path);
      await expect(page.getByRole("heading", { level: 1 }).first()).toBeVisible();
      if (CHARTED.has(path) || path.startsWith("/results/")) await expect(page.locator("canvas").first()).toBeVisible();
      for (const { scheme, axe } of SCHEMES) {
        await page.emulateMedia({ colorScheme: scheme });
        await expect(page.locator("html")).toHaveAttribute("data-scheme", scheme);
        await settled(page);
        const { violations } = await axe(page).analyze();
        const said = violations.map(
          (v) =>
            `${path} ${scheme} ${v.id}: ${v.nodes
              .slice(0, 3)
              .map((n) => n.target.join(" "))
              .join(" | ")}`,
        );
        expect(said).toEqual([]);
      }
    }
  });
