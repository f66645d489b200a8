import { spawn } from "node:child_process";
import { existsSync, readdirSync, readFileSync } from "node:fs";
import { join } from "node:path";

import { expect, type Page, test } from "@playwright/test";

import { LEAD, ownWorkshop, type OwnWorkshop } from "./own-workshop";
import { listens } from "./shop";

/** A workshop of its own by npm start's program: what ends is started again, and pages stand meanwhile. */

test.use({ serviceWorkers: "allow" });

let own: OwnWorkshop;
/** The processes below one, by what their command line holds. */
function below(pid: number, what: string): number[] {
  return readdirSync("/proc")
    .filter((p) => /^\d+$/.test(p))
    .flatMap((p) => {
      try {
        const parent = Number(/\) \S (\d+)/.exec(readFileSync(`/proc/${p}/stat`, "utf8"))![1]);
        return parent === pid && readFileSync(`/proc/${p}/cmdline`, "utf8").includes(what) ? [Number(p)] : [];
      } catch {
        return []; // it ended meanwhile
      }
    });
}
const application = () => below(own.keeper.pid!, "server/main.mjs")[0]!;
const database = () =>
  Number(readFileSync(join(own.folder, "postgres", "postmaster.pid"), "utf8").split("\n")[0]);
const healthy = () =>
  fetch(`${own.base}/health`)
    .then((r) => r.ok)
    .catch(() => false);

test.beforeAll(async () => {
  test.setTimeout(240_000);
  own = await ownWorkshop(4880);
});
test.afterAll(() => own.end());

async function enter(page: Page, to: string): Promise<void> {
  await page.goto(`${own.base}/sign-in`);
  await page.getByLabel("Name").fill(LEAD.name);
  await page.getByLabel("Password").fill(LEAD.password);
  await page.keyboard.press("Enter");
  await expect(page.getByRole("heading", { name: to })).toBeVisible();
  await page.waitForFunction(() => navigator.serviceWorker.controller !== null);
  await listens(page); // what is killed before the page has its scripts leaves it deaf, not out of reach
}
const OUT = "The workshop is out of reach";

test("the application is killed: what is typed stays, no page is the browser's own error, and all comes back by itself", async ({
  page,
  context,
}) => {
  await enter(page, "First, the shop");
  const name = page.getByLabel("What the shop is called");
  await name.fill("Weir Lane Bench");
  own.keeper.kill("SIGSTOP"); // so that it stays away as long as we look
  process.kill(application(), "SIGKILL");
  await expect(page.getByText(OUT)).toBeVisible();
  await expect(name).toHaveValue("Weir Lane Bench");
  // a link that is followed now waits where it is
  await page.getByRole("link", { name: "Units", exact: true }).click();
  await expect(name).toHaveValue("Weir Lane Bench");
  const fresh = await context.newPage();
  await fresh.goto(`${own.base}/day`);
  await expect(fresh.getByRole("heading", { name: OUT })).toBeVisible();

  own.keeper.kill("SIGCONT");
  await expect(fresh.getByRole("heading", { name: "First, the shop" })).toBeVisible();
  await expect(page.getByText(OUT)).toHaveCount(0);
  await expect(name).toHaveValue("Weir Lane Bench");
  await page.getByLabel("Town").fill("Oxmere");
  await page.getByRole("button", { name: "Go on to the bench" }).click();
  await expect(page.getByRole("heading", { name: "On the bench" })).toBeVisible();
});

test("the database is killed: every address says so with 503, and it is started again", async ({ page }) => {
  await enter(page, "On the bench");
  own.keeper.kill("SIGSTOP");
  process.kill(database(), "SIGKILL");
  await expect.poll(healthy).toBe(false);
  for (const path of ["/", "/units", "/sign-in", "/c/xxxxxxxxxxxxxxxxxxxxxxxxxxx", "/models"]) {
    const response = await page.request.get(own.base + path);
    expect([response.status(), await response.text()], path).toEqual([503, expect.stringContaining(OUT)]);
  }
  for (const path of ["/api/bench", "/api/search?q=knot"]) {
    const response = await page.request.get(own.base + path);
    expect([response.status(), await response.json()], path).toEqual([
      503,
      { ok: false, problem: { code: "away" } },
    ]);
  }
  await page.goto(`${own.base}/units`);
  await expect(page.getByRole("heading", { name: OUT })).toBeVisible();
  own.keeper.kill("SIGCONT");
  await expect(page.getByRole("heading", { level: 1, name: "Units" })).toBeVisible();
});

test("behind a trusted proxy one bad neighbour shuts out nobody else", async ({ request }) => {
  const tryAs = async (address: string, name: string) =>
    (
      await request.post(`${own.base}/api/sign-in`, {
        data: { name, password: "not the password" },
        headers: { Origin: own.base, "X-Forwarded-For": `198.51.100.77, ${address}` }, // the first is what the neighbour wrote himself
      })
    ).status();
  for (let i = 0; i < 30; i++) expect(await tryAs("203.0.113.1", `nobody ${i}`)).toBe(401);
  expect(await tryAs("203.0.113.1", "somebody")).toBe(429);
  expect(await tryAs("203.0.113.2", "somebody")).toBe(401);
});

test("the keeper itself is killed: the next start is ready with all that was there", async ({ page }) => {
  const before = application();
  own.keeper.kill("SIGKILL");
  await expect.poll(healthy).toBe(false);
  expect(() => process.kill(database(), 0)).not.toThrow(); // the database's life does not hang on it
  await expect
    .poll(() => {
      try {
        process.kill(before, 0);
        return "runs";
      } catch {
        return "ended";
      }
    })
    .toBe("ended");
  const began = performance.now();
  const soon = new Date(Date.now() + 75_000);
  const at = `${String(soon.getHours()).padStart(2, "0")}:${String(soon.getMinutes()).padStart(2, "0")}`;
  own.keeper = spawn(process.execPath, ["scripts/start.mjs"], {
    env: { ...own.env, BACKUP_AT: at },
    stdio: "ignore",
  });
  await expect.poll(healthy, { intervals: [50] }).toBe(true);
  expect(performance.now() - began).toBeLessThan(20_000); // 4 s on a quiet machine
  await page.goto(`${own.base}/sign-in`);
  await expect(page.getByText("Weir Lane Bench")).toBeVisible();

  // the day's backup comes by itself at its time
  const backups = () =>
    existsSync(join(own.folder, "backups")) ? readdirSync(join(own.folder, "backups")) : [];
  await expect.poll(backups, { timeout: 150_000 }).toEqual([expect.stringMatching(/^birdcage-.*Z\.backup$/)]);
});
