import { type ChildProcess, spawn, spawnSync } from "node:child_process";
import { existsSync, mkdtempSync, readdirSync, readFileSync, rmSync } from "node:fs";
import { join } from "node:path";

import { expect, type Page, test } from "@playwright/test";

import { listens } from "./shop";

/** A workshop of its own by npm start's program: what ends is started again, and pages stand meanwhile. */

test.use({ serviceWorkers: "allow" });

let folder: string;
let keeper: ChildProcess;
let base: string;
const env = () => {
  const { DATABASE_URL: _none, ...rest } = process.env;
  return { ...rest, BIRDCAGE_DATA: folder, PORT: "4880", BACKUP_AT: "never", TRUSTED_PROXIES: "loopback" };
};

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
const application = () => below(keeper.pid!, "server/main.mjs")[0]!;
const database = () =>
  Number(readFileSync(join(folder, "postgres", "postmaster.pid"), "utf8").split("\n")[0]);
const healthy = () =>
  fetch(`${base}/health`)
    .then((r) => r.ok)
    .catch(() => false);

test.beforeAll(async () => {
  test.setTimeout(240_000);
  folder = mkdtempSync(join(process.getuid?.() === 0 ? "/var/tmp" : "/tmp", "birdcage-reach-"));
  spawnSync("chmod", ["755", folder]);
  keeper = spawn(process.execPath, ["scripts/start.mjs"], {
    env: env(),
    stdio: ["ignore", "pipe", "inherit"],
  });
  base = await new Promise<string>((resolve, reject) => {
    let said = "";
    keeper.stdout!.on("data", (c: Buffer) => {
      said += c.toString();
      const found = /(http:\/\/\S+)\n/.exec(said);
      if (found) resolve(found[1]!);
    });
    keeper.once("exit", (code) => reject(new Error(`it ended with ${code}: ${said}`)));
  });
  const added = spawnSync(process.execPath, ["scripts/user-add.mjs", "--name", "greta"], {
    env: env(),
    input: "nine tame herons walk\n",
    encoding: "utf8",
  });
  expect(added.status, added.stderr).toBe(0);
});
test.afterAll(async () => {
  keeper.kill("SIGCONT");
  const ended = new Promise((resolve) => keeper.once("exit", resolve));
  keeper.kill("SIGTERM");
  await ended;
  rmSync(folder, { recursive: true, force: true });
});

async function enter(page: Page, to: string): Promise<void> {
  await page.goto(`${base}/sign-in`);
  await page.getByLabel("Name").fill("greta");
  await page.getByLabel("Password").fill("nine tame herons walk");
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
  keeper.kill("SIGSTOP"); // so that it stays away as long as we look
  process.kill(application(), "SIGKILL");
  await expect(page.getByText(OUT)).toBeVisible();
  await expect(name).toHaveValue("Weir Lane Bench");
  // a link that is followed now waits where it is
  await page.getByRole("link", { name: "Units", exact: true }).click();
  await expect(name).toHaveValue("Weir Lane Bench");
  const fresh = await context.newPage();
  await fresh.goto(`${base}/day`);
  await expect(fresh.getByRole("heading", { name: OUT })).toBeVisible();

  keeper.kill("SIGCONT");
  await expect(fresh.getByRole("heading", { name: "First, the shop" })).toBeVisible();
  await expect(page.getByText(OUT)).toHaveCount(0);
  await expect(name).toHaveValue("Weir Lane Bench");
  await page.getByLabel("Town").fill("Oxmere");
  await page.getByRole("button", { name: "Go on to the bench" }).click();
  await expect(page.getByRole("heading", { name: "On the bench" })).toBeVisible();
});

test("the database is killed: every address says so with 503, and it is started again", async ({ page }) => {
  await enter(page, "On the bench");
  keeper.kill("SIGSTOP");
  process.kill(database(), "SIGKILL");
  await expect.poll(healthy).toBe(false);
  for (const path of ["/", "/units", "/sign-in", "/c/xxxxxxxxxxxxxxxxxxxxxxxxxxx", "/models"]) {
    const response = await page.request.get(base + path);
    expect([response.status(), await response.text()], path).toEqual([503, expect.stringContaining(OUT)]);
  }
  for (const path of ["/api/bench", "/api/search?q=knot"]) {
    const response = await page.request.get(base + path);
    expect([response.status(), await response.json()], path).toEqual([
      503,
      { ok: false, problem: { code: "away" } },
    ]);
  }
  await page.goto(`${base}/units`);
  await expect(page.getByRole("heading", { name: OUT })).toBeVisible();
  keeper.kill("SIGCONT");
  await expect(page.getByRole("heading", { level: 1, name: "Units" })).toBeVisible();
});

test("behind a trusted proxy one bad neighbour shuts out nobody else", async ({ request }) => {
  const tryAs = async (address: string, name: string) =>
    (
      await request.post(`${base}/api/sign-in`, {
        data: { name, password: "not the password" },
        headers: { Origin: base, "X-Forwarded-For": `198.51.100.77, ${address}` }, // the first is what the neighbour wrote himself
      })
    ).status();
  for (let i = 0; i < 30; i++) expect(await tryAs("203.0.113.1", `nobody ${i}`)).toBe(401);
  expect(await tryAs("203.0.113.1", "somebody")).toBe(429);
  expect(await tryAs("203.0.113.2", "somebody")).toBe(401);
});

test("the keeper itself is killed: the next start is ready with all that was there", async ({ page }) => {
  const before = application();
  keeper.kill("SIGKILL");
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
  keeper = spawn(process.execPath, ["scripts/start.mjs"], {
    env: { ...env(), BACKUP_AT: at },
    stdio: "ignore",
  });
  await expect.poll(healthy, { intervals: [50] }).toBe(true);
  expect(performance.now() - began).toBeLessThan(20_000); // 4 s on a quiet machine
  await page.goto(`${base}/sign-in`);
  await expect(page.getByText("Weir Lane Bench")).toBeVisible();

  // the day's backup comes by itself at its time
  const backups = () => (existsSync(join(folder, "backups")) ? readdirSync(join(folder, "backups")) : []);
  await expect.poll(backups, { timeout: 150_000 }).toEqual([expect.stringMatching(/^birdcage-.*Z\.backup$/)]);
});
