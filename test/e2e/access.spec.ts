import { readdirSync, statSync } from "node:fs";
import { join } from "node:path";
import { gzipSync } from "node:zlib";

import { DEEDS } from "@/contract/deeds";
import { PUBLIC_ROUTES } from "@/contract/public";
import { ALERT, confirm, deed, expect, newUnit, signIn, test } from "./shop";
import { addressOf, readyUnit } from "./units";
import { one } from "@/core/base/one";

/** Every page and route of the application, from its files. */
function routes(folder = "src/app", path = ""): string[] {
  return readdirSync(folder).flatMap((name) => {
    const full = join(folder, name);
    if (statSync(full).isDirectory()) return routes(full, name.startsWith("(") ? path : `${path}/${name}`);
    if (/^(page\.tsx|route\.ts)$/.test(name)) return [path || "/"];
    return /^icon\./.test(name) ? [`${path}/${name}`] : [];
  });
}
const filled = (route: string) => route.replace("[token]", "x".repeat(27)).replace(/\[\w+\]/g, "X-1");

test("only what the public list names answers without signing in", async ({ page }) => {
  const all = [...new Set(routes())];
  expect(PUBLIC_ROUTES.map((p) => p.route as string).filter((r) => !all.includes(r))).toEqual([]);
  for (const route of all) {
    const response = await page.request.get(filled(route), { maxRedirects: 0 });
    const isPublic = PUBLIC_ROUTES.some((p) => p.route === route);
    if (isPublic) expect([200, 404, 405], route).toContain(response.status());
    else if (route.startsWith("/api/")) expect(response.status(), route).toBe(401);
    else {
      expect(response.status(), route).toBe(307);
      expect(response.headers().location, route).toMatch(/^\/sign-in/);
    }
  }
  await page.goto("/units/X-1/prove?x=1");
  await expect(page).toHaveURL(/\/sign-in\?next=%2Funits%2FX-1%2Fprove/);
});

test("the health address says little, and headers are in place", async ({ page }) => {
  const health = await page.request.get("/health");
  expect(await health.text()).toBe("ok\n");
  const headers = (await page.goto("/sign-in"))!.headers();
  expect(headers["content-security-policy"]).toMatch(/script-src 'self' 'nonce-[^']+' 'strict-dynamic'/);
  expect(headers["content-security-policy"]).toContain("frame-ancestors 'none'");
  expect(headers["x-content-type-options"]).toBe("nosniff");
  expect(headers["x-powered-by"]).toBeUndefined();
});

test("a viewer sees and changes nothing, by interface or by direct request", async ({ page }) => {
  await signIn(page, "bram");
  const { tag } = await newUnit(page, "knot");
  await signIn(page, "viktor");
  await expect(page.getByRole("link", { name: "Take in" })).toHaveCount(0);
  await page.goto(`/units/${tag}/test`);
  await expect(page.getByRole("link", { name: "Full test", exact: true })).toHaveCount(0);
  for (const name of Object.keys(DEEDS)) {
    if (["person.change-password", "session.end"].includes(name)) continue; // their own
    const { status, body } = await deed(page, name, {});
    expect([status, body.problem?.code], name).toEqual([403, "not-allowed"]);
  }
  const origin = new URL(page.url()).origin;
  for (const path of ["/api/recordings", "/api/photos"])
    expect((await page.request.post(path, { headers: { Origin: origin } })).status()).toBe(403);
  for (const path of ["/people", "/settings", "/units/new", "/models/learn"])
    expect((await page.goto(path))!.status(), path).toBe(404);
});

test("a technician does not lead", async ({ page }) => {
  await signIn(page, "bram");
  for (const [name, { roles }] of Object.entries(DEEDS)) {
    if ((roles as readonly string[]).includes("technician")) continue;
    expect((await deed(page, name, {})).status, name).toBe(403);
  }
});

test("a write from another origin, or from none, is refused", async ({ page }) => {
  await signIn(page, "ida");
  for (const headers of [{ Origin: "https://elsewhere.invalid" }, { Origin: "null" }, {}] as Record<
    string,
    string
  >[]) {
    for (const path of [
      "/api/do/bench.present",
      "/api/recordings",
      "/api/photos",
      "/api/sign-out",
      "/api/sign-in",
    ]) {
      const response = await page.request.post(path, { data: {}, headers });
      expect(response.status(), `${path} ${JSON.stringify(headers)}`).toBe(403);
    }
  }
});

test("sign-in attempts are limited, and a forged cookie is nobody", async ({ page, db, context }) => {
  await db("sign_in_attempt").where({ name: "oona" }).delete();
  await page.goto("/sign-in");
  for (let i = 0; i < 5; i++) {
    await page.getByLabel("Name").fill("oona");
    await page.getByLabel("Password").fill(`wrong-password-${i}`);
    await page.getByRole("button", { name: "Sign in" }).click();
    await expect(page.locator(ALERT)).toHaveText("Name or password is not right.");
  }
  await page.getByLabel("Password").fill("reed-warbler-3");
  await page.getByRole("button", { name: "Sign in" }).click();
  await expect(page.locator(ALERT)).toContainText("Too many tries");
  await db("sign_in_attempt").where({ name: "oona" }).delete();
  await context.addCookies([
    { name: "birdcage_session", value: "Fe26.2*1*forged", url: new URL(page.url()).origin },
  ]);
  expect((await page.request.get("/api/bench")).status()).toBe(401);
});

test("after signing in one lands where one wanted to go, and never on another site", async ({ page }) => {
  await signIn(page, "bram");
  const { tag } = await newUnit(page, "knot");
  await page.request.post("/api/sign-out", { headers: { Origin: new URL(page.url()).origin } });
  await page.goto(`/units/${tag}`);
  await page.getByLabel("Name").fill("bram");
  await page.getByLabel("Password").fill("reed-warbler-2");
  await page.keyboard.press("Enter");
  await expect(page).toHaveURL(new RegExp(`/units/${tag}/test`));
  await page.request.post("/api/sign-out", { headers: { Origin: new URL(page.url()).origin } });
  const here = new URL(page.url()).host;
  for (const next of [
    "//elsewhere.invalid/",
    "/%09/elsewhere.invalid",
    "/%0d%0a/elsewhere.invalid",
    "/%5Celsewhere.invalid",
  ]) {
    await page.goto(`/sign-in?next=${next}`);
    await page.getByLabel("Name").fill("bram");
    await page.getByLabel("Password").fill("reed-warbler-2");
    await page.keyboard.press("Enter");
    await page.waitForURL((url) => !url.pathname.startsWith("/sign-in"));
    expect(new URL(page.url()).host, next).toBe(here);
  }
});

test("signing out ends the session for good: its cookie is nobody's", async ({ page, context }) => {
  await signIn(page, "bram");
  const kept = await context.cookies();
  await page.request.post("/api/sign-out", { headers: { Origin: new URL(page.url()).origin } });
  await context.addCookies(kept);
  expect((await page.request.get("/api/bench")).status()).toBe(401);
  await page.goto("/units");
  await expect(page).toHaveURL(/sign-in/);
});

test("sessions are seen under Account, and one that was left behind is ended there", async ({
  page,
  browser,
}) => {
  const left = await (await browser.newContext({ baseURL: process.env.BASE_URL })).newPage();
  await signIn(left, "oona");
  await signIn(page, "oona");
  await page.goto("/account");
  const sessions = page.getByRole("region", { name: "Where you are signed in" });
  await expect(sessions).toContainText("A session that nobody uses ends after 12 hours.");
  await expect(sessions.getByText("this one")).toHaveCount(1);
  await sessions.getByRole("listitem").filter({ hasText: "End it" }).first().getByRole("button").click();
  const open = sessions.getByRole("button", { name: "End it" });
  for (let left = (await open.count()) - 1; left >= 0; left--) {
    await expect(open).toHaveCount(left); // the others are of earlier tests
    if (left > 0) await open.first().click();
  }
  await left.goto("/units");
  await expect(left).toHaveURL(/sign-in/);
  await page.goto("/units");
  await expect(page).toHaveURL(/\/units/);
});

test("a new lead is made only by who types their password again; an easy password is refused", async ({
  page,
  db,
}) => {
  await signIn(page, "ida");
  await page.goto("/people");
  const add = async (password: string) => {
    await page.getByLabel(/^Name/).fill("second lead");
    await page.getByLabel("First password").fill(password);
    await page.getByRole("combobox", { name: "Role" }).last().click();
    await page.getByRole("option", { name: "lead" }).click();
    await page.getByRole("button", { name: "Add", exact: true }).click();
  };
  await add("password1234");
  await page.getByRole("dialog").getByLabel("Your password").fill("reed-warbler-2"); // another's
  await page.getByRole("dialog").getByRole("button", { name: "Go on" }).click();
  await expect(page.getByRole("dialog").locator(ALERT)).toContainText("password is not right");
  expect(await db("person").where({ name: "second lead" })).toEqual([]);
  await confirm(page, "ida");
  await expect(page.locator(ALERT)).toContainText("This password is guessed soon");
  await page.getByLabel("First password").fill("nine tame herons walk");
  await page.getByRole("button", { name: "Add", exact: true }).click();
  await expect.poll(async () => (await db("person").where({ name: "second lead" })).length).toBe(1);
  await db("person").where({ name: "second lead" }).update({ active: false });
});

test("what a stranger writes into a proxy's header buys no further tries", async ({ page, db }) => {
  await db("sign_in_attempt").delete();
  await page.goto("/sign-in");
  const origin = new URL(page.url()).origin;
  const statuses: number[] = [];
  for (let i = 0; i < 7; i++) {
    const response = await page.request.post("/api/sign-in", {
      data: { name: "viktor", password: `wrong ${i}` },
      headers: { Origin: origin, "X-Forwarded-For": `203.0.113.${i}` },
    });
    statuses.push(response.status());
  }
  expect(statuses).toEqual([401, 401, 401, 401, 401, 429, 429]);
  await db("sign_in_attempt").delete();
});

test("a practice cookie that was left over is nothing: every page answers, for strangers and at the bench", async ({
  page,
  context,
  db,
}) => {
  await page.goto("/sign-in");
  await context.addCookies([{ name: "birdcage_practice", value: "1", url: new URL(page.url()).origin }]);
  for (const path of ["/sign-in", "/.well-known/jwks.json"])
    expect((await page.request.get(path)).status(), path).toBe(200);
  await signIn(page, "viktor");
  for (const path of ["/", "/units", await addressOf(db, "/units/{proven}/test"), "/results"])
    expect((await page.request.get(path)).status(), path).toBe(200);
  await expect(page.getByText("Practice bench")).toHaveCount(0);
});

test("an address that says nothing is one at which nothing is", async ({ page }) => {
  await signIn(page, "bram");
  for (const path of ["/models/%ff", "/units/%c3%28/test", "/parts/%"])
    expect((await page.request.get(path)).status(), path).toBe(404);
});

test("one person's huge recording never delays another person's page", async ({ page, browser }) => {
  await signIn(page, "bram");
  const other = await (await browser.newContext({ baseURL: process.env.BASE_URL })).newPage();
  await signIn(other, "oona");
  const { unitId } = await newUnit(page, "dunlin");
  const lines = Array.from({ length: 900_000 }, (_, i) => `${i},free,${(i % 100) / 100},0,0,0`);
  const body = gzipSync(`t_ms,step,a0,a1,a2,a3\n${lines.join("\n")}\n`);
  const head = {
    id: crypto.randomUUID(),
    unitId,
    purpose: "full",
    source: "import",
    tester: { label: "t", host: "h" },
    startedAgoMs: 0,
    sure: true,
  };
  let done = false;
  const sent = page.request
    .post("/api/recordings", {
      data: body,
      headers: {
        Origin: new URL(page.url()).origin,
        "x-recording": encodeURIComponent(JSON.stringify(head)),
      },
      timeout: 120_000,
    })
    .finally(() => (done = true));
  const took: number[] = [];
  while (!done) {
    const began = performance.now();
    expect((await other.request.get("/api/bench")).status()).toBe(200);
    took.push(performance.now() - began);
  }
  expect((await sent).status()).toBeLessThan(500);
  expect(took.length).toBeGreaterThan(5); // it took long enough to be in the way
  expect(Math.max(...took)).toBeLessThan(1500);
});

test("what was done as somebody else, or at the other bench, or by nobody, says so by its code", async ({
  page,
  browser,
  db,
}) => {
  await signIn(page, "bram");
  const { unitId } = await newUnit(page, "knot");
  const origin = new URL(page.url()).origin;
  const send = (from: typeof page.request, more: object, headers = { Origin: origin }) =>
    from.post(`${origin}/api/do/tip.add`, {
      headers,
      data: {
        requestId: crypto.randomUUID(),
        input: { model: "knot", step: null, kind: "tip", words: "sent as another", source: "", unitId },
        ...more,
      },
    });
  const said = async (answer: ReturnType<typeof send>) => {
    const response = await answer;
    const { problem } = (await response.json()) as { problem: { code: string } };
    return [response.status(), problem.code];
  };
  expect(await said(send(page.request, { by: crypto.randomUUID() }))).toEqual([403, "other-person"]);
  expect(await said(send(page.request, { practice: true }))).toEqual([403, "other-bench"]);
  expect(await said(send(page.request, {}, { Origin: "https://elsewhere.invalid" }))).toEqual([
    403,
    "other-origin",
  ]);
  const stranger = await browser.newContext();
  expect(await said(send(stranger.request, {}))).toEqual([401, "signed-out"]);
  await stranger.close();
  const huge = page.request.post(`${origin}/api/photos?unit=${unitId}&caption=x`, {
    headers: { Origin: origin },
    data: Buffer.alloc(16 * 1024 * 1024),
  });
  expect(await said(huge)).toEqual([413, "too-large"]);
  const guess = () =>
    page.request.post(`${origin}/api/confirm`, { headers: { Origin: origin }, data: { password: "guess" } });
  await db("sign_in_attempt").where({ name: "bram" }).delete();
  for (let i = 0; i < 5; i++) expect(await said(guess())).toEqual([expect.any(Number), "wrong-password"]);
  expect((await said(guess()))[1]).toBe("too-many-tries");
  await db("sign_in_attempt").where({ name: "bram" }).delete();
  await page.goto("/models/knot");
  await expect(page.getByText("sent as another")).toHaveCount(0);
});

test("hostile cells and characters get plain refusals", async ({ page }) => {
  await signIn(page, "bram");
  const { unitId } = await newUnit(page, "knot");
  const origin = new URL(page.url()).origin;
  const raw = (path: string, body: string) =>
    page.request.post(path, { data: body, headers: { Origin: origin, "Content-Type": "application/json" } });
  const half = await raw(
    "/api/do/fault.settle",
    `{"requestId":"${crypto.randomUUID()}","input":{"why":"\\ud800"}}`,
  );
  expect([half.status(), ((await half.json()) as { problem: { code: string } }).problem.code]).toEqual([
    400,
    "bad-input",
  ]);
  for (const input of [
    { unitId, version: 2 ** 40, dueOn: null },
    { unitId, version: 1, dueOn: "0000-01-01" },
    { unitId, version: 1, dueOn: "9999-12-31" },
  ]) {
    const { status, body } = await deed(page, "unit.set-due", input);
    expect(status).toBe(400);
    expect(JSON.stringify(body)).not.toMatch(/expected|<=|Too big/);
  }
});

test("changing a password ends the other sessions", async ({ page, browser, db }) => {
  await signIn(page, "ida");
  await deed(page, "person.add", { name: "temp", role: "technician", password: "first-password" });
  const sessions = await Promise.all(
    [1, 2].map(async () => {
      const context = await browser.newContext({ baseURL: new URL(page.url()).origin });
      const other = await context.newPage();
      await other.goto("/sign-in");
      await other.getByLabel("Name").fill("temp");
      await other.getByLabel("Password").fill("first-password");
      await other.keyboard.press("Enter");
      await expect(other.getByRole("heading", { name: "On the bench" })).toBeVisible();
      return other;
    }),
  );
  const [changing, left] = sessions as [(typeof sessions)[0], (typeof sessions)[0]];
  await changing.goto("/account");
  await changing.getByLabel("Current password").fill("first-password");
  await changing.getByLabel("New password, at least 12 characters").fill("second-password");
  // Enter before it is typed again changes nothing, and says why
  await changing.keyboard.press("Enter");
  await expect(changing.getByText("the two differ")).toBeVisible();
  await changing.getByLabel("New password again").fill("second-password");
  await changing.getByRole("button", { name: "Change the password" }).click();
  await expect(changing.getByText("Your other sessions are ended.")).toBeVisible();
  await changing.goto("/");
  await expect(changing.getByRole("heading", { name: "On the bench" })).toBeVisible();
  await left.goto("/units");
  await expect(left).toHaveURL(/sign-in/);
  await db("person").where({ name: "temp" }).update({ active: false });
});

test("the last lead cannot be removed", async ({ page, db }) => {
  await signIn(page, "ida");
  const { id } = one(await db("person").where({ name: "ida" }).first("id"));
  const { body } = await deed(page, "person.change", { personId: id, role: "technician", active: true });
  expect(body.problem!.code).toBe("last-lead");
});

test("only a lead releases below the floor, and says the limit and the reason", async ({ page, browser }) => {
  await signIn(page, "bram");
  const { unitId } = await newUnit(page, "knot");
  const release = {
    unitId,
    version: 1,
    priceMinor: null,
    warrantyDays: 30,
    known: "",
    limit: "by cable only",
    reason: "radio dead",
  };
  expect((await deed(page, "unit.release", release)).body.problem!.code).toBe("no-proof-to-release");
  // a proof that is graded C
  const limited = await readyUnit(page, {
    model: "dunlin",
    faults: { sticks: { "stick.right": { offset: [0.1, 0.01] } } },
  });
  const lead = await (await browser.newContext({ baseURL: new URL(page.url()).origin })).newPage();
  await signIn(lead, "ida");
  await page.goto(`/units/${limited.tag}/release`);
  await expect(page.getByText("A lead can release it with a stated limit and a reason.")).toBeVisible();
  await lead.goto(`/units/${limited.tag}/release`);
  await lead.getByLabel(/^Limit/).fill("not for precise aiming");
  await lead.getByLabel(/^Reason/).fill("right stick rests off centre");
  await lead.getByRole("button", { name: "Release with this limit" }).click();
  await expect(lead.getByRole("heading", { name: "Released, grade C" })).toBeVisible();
  await lead.goto((await lead.getByRole("link", { name: "Open the certificate" }).getAttribute("href"))!);
  await expect(lead.getByText("Limit: not for precise aiming.")).toBeVisible();
  await expect(lead.getByText("right stick rests off centre")).toBeVisible();
});
