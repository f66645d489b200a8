import AxeBuilder from "@axe-core/playwright";
import type { Page } from "@playwright/test";

import { hasChart, PAGES } from "./pages";
import { addressOf } from "./units";
import { expect, signIn, test } from "./shop";

/**
 * Every kind of page held against the rules for contrast, names and order (WCAG 2 A and AA); contrast in both
 * schemes.
 */

/** What is in order is not told in full, which takes longer than finding out. */
const VIOLATIONS: Parameters<AxeBuilder["options"]>[0] = { resultTypes: ["violations"] };
/** No page has a frame of another: without looking for any it takes a third of the time. */
const rules = (page: Page) => new AxeBuilder({ page }).options(VIOLATIONS).setLegacyMode(true);
const SCHEMES = [
  { scheme: "light", axe: (page: Page) => rules(page).withTags(["wcag2a", "wcag2aa"]) },
  { scheme: "dark", axe: (page: Page) => rules(page).withRules(["color-contrast"]) },
] as const;

/** Colours change by and by; what never ends is not waited for. */
const settled = (page: Page) =>
  page.waitForFunction(() =>
    document
      .getAnimations()
      .every((a) => a.playState !== "running" || a.effect?.getTiming().iterations === Infinity),
  );

for (const [what, paths] of Object.entries(PAGES))
  test(`readable by rule: ${what}`, async ({ page, db }) => {
    await signIn(page, "ida");
    for (const path of paths) {
      await page.goto(await addressOf(db, path));
      await expect(page.getByRole("heading", { level: 1 }).first()).toBeVisible();
      if (hasChart(path)) await expect(page.locator("canvas").first()).toBeVisible();
      await expect(page.locator("iframe")).toHaveCount(0);
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
