import { expect, type Locator, type Page, test as base } from "@playwright/test";
import knex, { type Knex } from "knex";

import type { ModelProfile } from "@/core/profile/profile";

/** What the browser tests share: people who sign in, a door to the database, and a watch on every request. */

const PASSWORDS = {
  ida: "reed-warbler-1",
  bram: "reed-warbler-2",
  oona: "reed-warbler-3",
  viktor: "reed-warbler-4",
} as const;
export type Name = keyof typeof PASSWORDS;

/**
 * Until a page listens to hands; one that is no page of the application (a file, a notice of the server) has
 * nothing to wait for.
 */
export const listens = (page: Page) =>
  page.waitForFunction(
    () =>
      document.documentElement.dataset.listening === "yes" ||
      !document.querySelector("script[src*='/_next/']"),
  );

const heard = new WeakSet<Page>();
/** From now on, whoever goes to an address with this page or loads it anew has it listening. */
function listening(page: Page): void {
  if (heard.has(page)) return;
  heard.add(page);
  const [goto, reload] = [page.goto.bind(page), page.reload.bind(page)];
  page.goto = async (url, options) => {
    const response = await goto(url, options);
    if (options?.waitUntil !== "commit") await listens(page); // who wants no more than the address is in a hurry
    return response;
  };
  page.reload = async (...args) => {
    const response = await reload(...args);
    await listens(page);
    return response;
  };
}

/** Signs in by direct request, which opens one page less: most tests are of what comes after. */
export async function signIn(page: Page, name: Name): Promise<void> {
  const origin = new URL((await page.request.get("/health")).url()).origin;
  const data = { name, password: PASSWORDS[name] };
  const response = await page.request.post("/api/sign-in", { data, headers: { Origin: origin } });
  expect(response.status(), await response.text()).toBe(200);
  await page.goto("/");
  await expect(page.getByRole("heading", { name: "On the bench" })).toBeVisible();
}

export async function signInByHand(page: Page, name: Name): Promise<void> {
  await page.goto("/sign-in");
  await page.getByLabel("Name").fill(name);
  await page.getByLabel("Password").fill(PASSWORDS[name]);
  await page.keyboard.press("Enter");
  await expect(page.getByRole("heading", { name: "On the bench" })).toBeVisible();
  await listens(page); // signing in loads the page anew
}

/**
 * Goes on by Tab until the wished control has the focus, as a hand does; fails when the keyboard cannot reach
 * it.
 */
export async function tabTo(page: Page, wished: Locator, most = 30): Promise<void> {
  for (let i = 0; i < most; i++) {
    if (await wished.evaluate((e) => e === document.activeElement)) return;
    await page.keyboard.press("Tab");
  }
  throw new Error(`${most} times Tab did not reach ${wished.toString()}`);
}

/** Types the person's own password where a page asks for it again. */
export async function confirm(page: Page, name: Name): Promise<void> {
  const dialog = page.getByRole("dialog", { name: "Your password, once more" });
  await dialog.getByLabel("Your password").fill(PASSWORDS[name]);
  await dialog.getByRole("button", { name: "Go on" }).click();
  await expect(dialog).toHaveCount(0);
}

/** A scanner's burst into whatever has the focus: its keys bear the times at which it sent them, however busy the machine is.
 * Gives what then stands in the field. */
export const scan = (page: Page, code: string) =>
  page.evaluate((keys) => {
    const field = document.activeElement ?? document.body;
    const typed = field instanceof HTMLInputElement || field instanceof HTMLTextAreaElement ? field : null;
    const prototype = typed && Object.getPrototypeOf(typed);
    const begun = performance.now();
    [...keys, "Enter"].forEach((key, i) => {
      const event = new KeyboardEvent("keydown", { key, bubbles: true, cancelable: true });
      Object.defineProperty(event, "timeStamp", { value: begun + 4 * i });
      const goesOn = field.dispatchEvent(event);
      if (!typed || !goesOn || key === "Enter") return;
      Object.getOwnPropertyDescriptor(prototype, "value")!.set!.call(typed, typed.value + key);
      typed.dispatchEvent(new Event("input", { bubbles: true }));
    });
    return typed?.value ?? "";
  }, code);

/** Does a deed by direct request, as the signed-in person of the page. */
export async function deed(
  page: Page,
  name: string,
  input: unknown,
  requestId: string = crypto.randomUUID(),
) {
  const origin = new URL(page.url()).origin;
  const response = await page.request.post(`/api/do/${name}`, {
    data: { requestId, input },
    headers: { Origin: origin },
  });
  return {
    status: response.status(),
    body: (await response.json()) as {
      ok: boolean;
      value?: Record<string, string>;
      problem?: { code: string };
    },
  };
}

/**
 * Runs the full test that stands open with the stand-in, and waits for its result. A weak button may answer
 * to no press at all: the page asks, and the hand tries again. `fault` is chosen when there is something to
 * choose.
 */
export async function runFullTest(page: Page, fault: string | null): Promise<void> {
  if (fault !== null) await page.getByLabel("Simulated fault").selectOption(fault);
  await page.getByLabel("Speed").selectOption("20");
  await page.getByRole("button", { name: /^Test the (simulated controller|practice unit)$/ }).click();
  const again = page.getByRole("button", { name: /^No, try again/ });
  await expect(async () => {
    if (await again.isVisible()) await again.click();
    expect(page.url()).toMatch(/\/test\?r=/);
  }).toPass({ timeout: 120_000 });
}

/** A new unit of a model, ready on no tray. */
export async function newUnit(
  page: Page,
  model: string,
  change: object = {},
): Promise<{ tag: string; unitId: string }> {
  const profile = (await (await page.request.get(`/api/profiles/${model}`)).json()) as ModelProfile;
  const whole = { accessories: profile.accessories.map((a) => a.id) }; // nothing is missing, unless a test takes it
  const { body } = await deed(page, "unit.take-in", {
    profileKey: model,
    revision: null,
    origin: { source: "single", seller: "test", priceMinor: 1000, carriageMinor: 0 },
    claim: "left stick drifts",
    swollen: false,
    liquid: false,
    intake: whole,
    toTray: false,
    ...change,
  });
  return body.value as { tag: string; unitId: string };
}

export const test = base.extend<{ hosts: Set<string>; db: Knex }>({
  context: async ({ context }, use) => {
    context.on("page", listening);
    await use(context);
  },
  // the contexts of other people in a test
  browser: [
    async ({ browser }, use) => {
      const make = browser.newContext.bind(browser);
      browser.newContext = async (options) => {
        const context = await make(options);
        context.on("page", listening);
        return context;
      };
      await use(browser);
    },
    { scope: "worker" },
  ],
  // every page of every test: no request may leave this host
  hosts: [
    async ({ page, baseURL }, use) => {
      const hosts = new Set<string>();
      page.on("request", (r) => {
        const url = new URL(r.url());
        if (url.protocol.startsWith("http")) hosts.add(url.host);
      });
      await use(hosts);
      hosts.delete(new URL(baseURL!).host);
      expect([...hosts], "requests to other hosts").toEqual([]);
    },
    { auto: true },
  ],
  db: async ({ page: _page }, use) => {
    const db = knex({ client: "pg", connection: process.env.E2E_DATABASE_URL! });
    await use(db);
    await db.destroy();
  },
});
/** An alert of ours; the framework keeps an empty one of its own for announcing routes. */
export const ALERT = "[role=alert]:not(#__next-route-announcer__)";
export { expect };
