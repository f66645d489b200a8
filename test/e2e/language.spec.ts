import type { ChildProcess } from "node:child_process";
import { readdirSync, readFileSync } from "node:fs";

import type { BrowserContext, Page } from "@playwright/test";
import knex, { type Knex } from "knex";

import { OUTCOMES } from "@/core/diagnosis/priors";
import { ended, ownServer } from "./own-server";
import { hasChart, PAGES } from "./pages";
import { addressOf } from "./units";
import { expect, listens, test } from "./shop";

/**
 * The application in a made-up language 40 % longer than English, for a shop that writes a decimal comma:
 * what still reads as English was not taken from a catalogue (unless a person or a profile wrote it), what
 * shows a decimal point was not written by the shop's locale, and what does not fit is cut off. At the widths
 * of a desk and of a phone.
 */
const LOCALE = "de-DE";

const WIDTHS = [
  { width: 1280, height: 800 },
  { width: 390, height: 844 },
];

/** Fields that hold names, not codes, even where they are one small word. */
const NAMES =
  /^(name|words?|claim|colour|leads|title|what|tools?|consumables|where|place_at|id|lacks|under|head|town|seller|bin|for|why|from)$/;

/** Not words of a language: units of measure, names of formats and of this product, keys of the keyboard. */
const SIGNS =
  /\b(Birdcage|CSV|JSON|ZIP|PDF|PNG|JPEG|WebP|SHA|Enter|Tab|Space|Esc|Shift|Alt|Ctrl|min|mAh|mA|mm|mV|ms|dB|dBFS|Hz|kHz|ohm|kg|MB|kB|EUR|t_ms|UTC|SCPI|RH|SVG|PLA|ESD|Chrome|X11)\b/g;

let server: ChildProcess;
let here: BrowserContext;
let page: Page;
let kept = "";
/** What stands between commas and the like in stored texts that are no codes. */
let pieces = new Set<string>();

/**
 * Everything that a person, a profile or a catalogue file wrote, as one text: data is no part of the
 * interface's language.
 */
async function keptTexts(db: Knex): Promise<string> {
  const tables = await db("information_schema.tables")
    .where({ table_schema: "public", table_type: "BASE TABLE" })
    .pluck<string[]>("table_name");
  const texts: string[] = [];
  const named: string[] = [];
  const read = (value: unknown, key = ""): void => {
    if (typeof value === "string") {
      texts.push(value);
      if (NAMES.test(key)) named.push(value);
    } else if (value !== null && typeof value === "object")
      Object.entries(value).forEach(([k, inner]) => read(inner, k));
  };
  // bytes and drawings hold no words, and are most of what is stored
  const wordless = await db("information_schema.columns")
    .where({ table_schema: "public" })
    .where((q) => void q.where({ data_type: "bytea" }).orWhere({ column_name: "plots" }))
    .select<{ table_name: string; column_name: string }[]>("table_name", "column_name");
  for (const table of tables) {
    const without = wordless.filter((c) => c.table_name === table).map((c) => c.column_name);
    for (const row of await db(table).select(db.raw("to_jsonb(??) - ?::text[] as row", [table, without])))
      read((row as { row: unknown }).row);
  }
  for (const file of readdirSync("catalogue", { recursive: true, encoding: "utf8" }).filter((f) =>
    f.endsWith(".json"),
  ))
    read(JSON.parse(readFileSync(`catalogue/${file}`, "utf8")));
  const whole = [
    ...named,
    ...OUTCOMES, // which a lead types as they stand
    ...texts.filter((t) => /[\p{Lu} ]/u.test(t)),
  ];
  pieces = new Set(whole.flatMap((t) => t.split(/[^\p{L}' -]+/u).map((piece) => piece.trim().toLowerCase())));
  return texts.join("\n").toLowerCase();
}

/** What a page shows or says aloud, text by text. */
const texts = (on: Page): Promise<string[]> =>
  on.evaluate(() => {
    const said: string[] = [];
    const walk = document.createTreeWalker(document.body, NodeFilter.SHOW_TEXT | NodeFilter.SHOW_ELEMENT);
    for (let n = walk.nextNode(); n; n = walk.nextNode()) {
      if (n instanceof Element)
        for (const name of ["aria-label", "title", "placeholder", "alt"])
          said.push(n.getAttribute(name) ?? "");
      else if (!n.parentElement?.closest("script, style, noscript, textarea, kbd, next-route-announcer"))
        said.push(n.textContent ?? "");
    }
    said.push(document.title);
    return [...new Set(said.map((s) => s.replace(/\s+/g, " ").trim()).filter(Boolean))];
  });

/**
 * Whether a row of words is one of the stored texts, or two of them side by side: "Dunlin" and "First board".
 */
function isKept(run: string): boolean {
  if (!run.includes(" ")) return pieces.has(run); // one word may be part of anything
  if (kept.includes(run)) return true;
  const words = run.split(" ");
  return words.some(
    (_, i) => i > 0 && kept.includes(words.slice(0, i).join(" ")) && kept.includes(words.slice(i).join(" ")),
  );
}

/** Rows of plain letters that no stored text holds. */
function notTaken(said: string[]): string[] {
  const days = Array.from({ length: 12 }, (_, m) => new Date(2026, m, 3 + m)).flatMap((d) =>
    (["short", "long"] as const).flatMap((form) => [
      d.toLocaleString(LOCALE, { month: form }).replace(/\.$/, ""),
      d.toLocaleString(LOCALE, { weekday: form }),
    ]),
  );
  const calendar = new RegExp(`(?<![\\p{L}-])(${days.join("|")})(?![\\p{L}-])`, "giu");
  // what stands whole in the data is somebody's: its "do" is no Donnerstag
  const others = said.filter((text) => !(text.includes(" ") && isKept(text.toLowerCase())));
  return others.filter((text) =>
    text
      .replace(calendar, "0")
      .replace(SIGNS, "0")
      .split(/[^\p{L}' -]+/u)
      .flatMap((run) => run.split(/\s*[\p{L}'-]*[^\P{L}A-Za-z][\p{L}'-]*\s*/u))
      .map((run) => run.trim().toLowerCase())
      .some((run) => /[a-z]{3}/.test(run) && !isKept(run)),
  );
}

/** Figures with a decimal point and a unit, unless a person wrote them so. */
const otherwiseWritten = (said: string[]): string[] =>
  said.filter((text) => {
    const found = /-?\d+\.\d{1,3} ?(%|€|V|Ω|kΩ|mAh|mA|mm|ms|min|s|h|m|g|dBFS|dB|MB|bits?)(?!\p{L})/u.exec(
      text,
    );
    return found !== null && !kept.includes(found[0].toLowerCase());
  });

/** The shop's locale as its settings keep it. */
async function writeAs(locale: string): Promise<string> {
  const db = knex({ client: "pg", connection: process.env.E2E_DATABASE_URL! });
  const shop = () => db("setting").where({ key: "shop" });
  const { value } = (await shop().first("value"))!;
  await shop().update({ value: JSON.stringify({ ...(value as object), locale }) });
  await db.destroy();
  return (value as { locale: string }).locale;
}

/**
 * Until a page has drawn itself at its new width: what listens to a width hears of it with the next frame and
 * draws with the one after.
 */
const drawn = (on: Page) =>
  on.evaluate(
    () =>
      new Promise<void>((done) => requestAnimationFrame(() => requestAnimationFrame(() => setTimeout(done)))),
  );

/** What stands wider than its box and is hidden by it, and what leaves the window. */
const cutOff = (on: Page): Promise<string[]> =>
  on.evaluate(() => {
    const found = new Set<string>();
    const words = (e: Element) =>
      `${e.tagName.toLowerCase()}.${e.className.toString().split(" ")[0]}: ${(e.textContent ?? "").trim().slice(0, 60)}`;
    const beyond = document.documentElement.scrollWidth - document.documentElement.clientWidth;
    if (beyond > 1) found.add(`the page is ${beyond} px wider than the window`);
    for (const e of document.body.querySelectorAll<HTMLElement>("*")) {
      const box = e.getBoundingClientRect();
      if (
        box.width < 2 ||
        box.height < 2 ||
        !e.checkVisibility({ visibilityProperty: true, opacityProperty: true })
      )
        continue;
      const style = getComputedStyle(e);
      // what a person or a profile wrote may be long in any language; a bar as long as its minutes tells its
      // name when asked
      if (!/[à-ỳ]/iu.test(e.textContent ?? "") || e.closest("[title]")) continue;
      const own = [...e.childNodes].some(
        (n) => n.nodeType === Node.TEXT_NODE && (n.textContent ?? "").trim(),
      );
      const hides = (overflow: string) => overflow === "hidden" || overflow === "clip";
      if (own && e.tagName !== "TEXTAREA" && hides(style.overflowX) && e.scrollWidth > e.clientWidth + 1)
        found.add(`cut: ${words(e)}`);
      if (own && /^(BUTTON|LABEL|TH|TD)$/.test(e.tagName) && style.overflowX === "visible") {
        const range = document.createRange();
        range.selectNodeContents(e);
        const inside = range.getBoundingClientRect();
        if (inside.right > box.right + 1.5 || inside.left < box.left - 1.5)
          found.add(`over its edge: ${words(e)}`);
      }
    }
    return [...found];
  });

let localeBefore: string;
test.beforeAll(async ({ browser }) => {
  localeBefore = await writeAs(LOCALE);
  const port = 4590 + (process.pid % 100);
  server = await ownServer(port, { LANGUAGE_OF_SHOP: "en-x-drawn" });
  here = await browser.newContext({ baseURL: `http://127.0.0.1:${port}`, viewport: WIDTHS[0]! });
  page = await here.newPage();
  await page.goto("/sign-in");
  await listens(page);
  await page.locator("input[name=name]").fill("ida");
  await page.locator("input[name=password]").fill("reed-warbler-1");
  await page.locator("button[type=submit]").click();
  await page.waitForURL((url) => url.pathname === "/");
});
test.afterAll(async () => {
  await writeAs(localeBefore);
  await here.close();
  await ended(server);
});

test("in a longer language: the way in", async ({ browser, db }) => {
  kept ||= await keptTexts(db);
  const stranger = await browser.newContext({ baseURL: new URL(page.url()).origin, viewport: WIDTHS[1]! });
  const door = await stranger.newPage();
  await door.goto("/sign-in");
  await listens(door);
  expect([...notTaken(await texts(door)), ...(await cutOff(door))]).toEqual([]);
  await stranger.close();
});

for (const [what, paths] of Object.entries(PAGES))
  test(`in a longer language: ${what}`, async ({ db }) => {
    kept ||= await keptTexts(db);
    const found: string[] = [];
    for (const path of paths) {
      await page.setViewportSize(WIDTHS[0]!);
      await page.goto(await addressOf(db, path));
      await listens(page);
      await expect(page.getByRole("heading", { level: 1 }).first()).toBeVisible();
      if (hasChart(path)) await expect(page.locator("canvas").first()).toBeVisible();
      for (const size of WIDTHS) {
        await page.setViewportSize(size);
        await drawn(page);
        const at = `${path} at ${size.width}`;
        const said = await texts(page);
        found.push(...notTaken(said).map((t) => `${at}: not taken: ${t}`));
        found.push(...otherwiseWritten(said).map((t) => `${at}: not by the shop's locale: ${t}`));
        found.push(...(await cutOff(page)).map((t) => `${at}: ${t}`));
      }
    }
    expect(found).toEqual([]);
  });
