/**
 * How long other people's pages take while one heavy job runs: a recording of 100 MB is read, an archive is
 * written and read back. Aim: the 95th percentile stays under twice its usual plus 20 ms.
 */
import { readFileSync } from "node:fs";
import { gzipSync } from "node:zlib";

import { one } from "@/core/base/one";
import { connect } from "@/platform/db/connection";

const base = process.env.BASE_URL!;
const db = connect(process.env.DATABASE_URL!, 2);
const csv = readFileSync(process.argv[2]!);
const PAGES = [
  "/",
  "/units",
  "/units/B-0119/test",
  "/units/B-0119/find",
  "/units/B-0116/mend",
  "/parts",
  "/models",
];
const USUAL = 70;

const signed = await fetch(`${base}/api/sign-in`, {
  method: "POST",
  headers: { "Content-Type": "application/json", Origin: base },
  body: JSON.stringify({ name: "ida", password: "reed-warbler-1" }),
});
const cookie = one(signed.headers.getSetCookie()[0]).split(";")[0]!;
const headers = { cookie, Origin: base };

const confirmed = await fetch(`${base}/api/confirm`, {
  method: "POST",
  headers: { ...headers, "Content-Type": "application/json" },
  body: JSON.stringify({ password: "reed-warbler-1" }),
});
if (!confirmed.ok) throw new Error(`the password was not taken: ${confirmed.status}`);

const ask = async (i: number): Promise<number> => {
  const path = PAGES[i % PAGES.length]!;
  const began = performance.now();
  const answer = await fetch(base + path, { headers });
  await answer.text();
  if (!answer.ok) throw new Error(`${path} answered ${answer.status}`);
  return performance.now() - began;
};
const sorted = (took: readonly number[]): number[] => [...took].sort((a, b) => a - b);

/** One page after another, as one person asks. */
async function pages(count: number): Promise<number[]> {
  const took: number[] = [];
  for (let i = 0; i < count; i++) took.push(await ask(i));
  return sorted(took);
}
const at = (took: readonly number[], p: number): number =>
  took[Math.min(took.length - 1, Math.floor(p * took.length))]!;

async function beside(
  job: () => Promise<Response>,
): Promise<{ took: number[]; seconds: number; said: string }> {
  let done = false;
  let seconds = 0;
  let said = "";
  const began = performance.now();
  const running = job().then(async (answer) => {
    said = `${answer.status} ${(await answer.text()).trim().split("\n").at(-1)!.slice(0, 90)}`;
    seconds = (performance.now() - began) / 1000;
    done = true;
  });
  const took: number[] = [];
  while (!done) took.push(await ask(took.length));
  await running;
  return { took: sorted(took), seconds, said };
}

await pages(2 * PAGES.length); // everything was asked before
const usual = await pages(USUAL);
const unit = one(
  await db("unit")
    .whereNull("ending")
    .where({ next_action: "first-test", swollen: false, liquid: false })
    .first("id"),
);
const upload = () =>
  fetch(`${base}/api/recordings`, {
    method: "POST",
    headers: {
      ...headers,
      "x-recording": encodeURIComponent(
        JSON.stringify({
          id: crypto.randomUUID(),
          unitId: unit.id,
          purpose: "full",
          source: "import",
          sure: true,
          tester: { label: "bench", host: "bench" },
          startedAgoMs: 0,
        }),
      ),
    },
    body: gzipSync(csv),
  });
const archive = () => fetch(`${base}/api/archive/make`, { method: "POST", headers });

const limit = 2 * at(usual, 0.95) + 20;
console.log(
  `usual: median ${at(usual, 0.5).toFixed(0)} ms, 95 % ${at(usual, 0.95).toFixed(0)} ms, of ${usual.length} pages`,
);
for (const [name, job] of [
  [`a recording of ${(csv.length / 1e6).toFixed(0)} MB`, upload],
  ["an archive", archive],
] as const) {
  const { took, seconds, said } = await beside(job);
  console.log(
    `${name}: ${seconds.toFixed(1)} s (${said}); beside it median ${at(took, 0.5).toFixed(0)} ms, 95 % ${at(took, 0.95).toFixed(0)} ms, ` +
      `longest ${at(took, 1).toFixed(0)} ms of ${took.length} pages; ${(at(took, 0.95) / limit).toFixed(2)} of the limit (${limit.toFixed(0)} ms)`,
  );
}
await db.destroy();
