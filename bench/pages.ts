/**
 * Server time of each page with the demo data, beside the time of its queries alone, and the JavaScript of
 * its first load.
 */
import { gzipSync } from "node:zlib";

import { connect } from "@/platform/db/connection";
import { listModels } from "@/features/models/deeds";
import { recordingById } from "@/features/test/recordings";
import { loadSettings } from "@/features/settings/settings";
import { benchView, trays } from "@/features/bench/view";
import { listUnits } from "@/features/units/list";
import { unitView } from "@/features/units/view";
import { one } from "@/core/base/one";

const base = process.env.BASE_URL!;
const db = connect(process.env.DATABASE_URL!, 4);
const person = one(await db("person").where({ name: "ida" }).first());
const actor = { id: person.id, name: person.name, role: person.role };
const TIMES = 25;

const signed = await fetch(`${base}/api/sign-in`, {
  method: "POST",
  headers: { "Content-Type": "application/json", Origin: base },
  body: JSON.stringify({ name: "ida", password: "reed-warbler-1" }),
});
const cookie = signed.headers.getSetCookie()[0]!.split(";")[0]!;

const at = (sorted: number[], p: number) =>
  sorted[Math.min(sorted.length - 1, Math.floor(p * sorted.length))]!;
async function timed(run: () => Promise<unknown>): Promise<number[]> {
  for (let i = 0; i < 3; i++) await run();
  const took: number[] = [];
  for (let i = 0; i < TIMES; i++) {
    const began = performance.now();
    await run();
    took.push(performance.now() - began);
  }
  return took.sort((a, b) => a - b);
}

const unit = async (tag: string) => {
  await trays(db);
  return unitView(db, tag, actor);
};
const tested = async (tag: string) => {
  const view = await unit(tag);
  await recordingById(db, view!.recordings[0]!.id);
};
const pages: [string, () => Promise<unknown>][] = [
  ["/", () => Promise.all([trays(db), benchView(db)])],
  [
    "/units",
    () =>
      Promise.all([
        trays(db),
        listUnits(db, {}, { page: 0, size: 25, sort: { by: "tag", down: true } }),
        listModels(db),
        loadSettings(db),
      ]),
  ],
  ["/units/new", () => Promise.all([trays(db), listModels(db)])],
  ["/units/B-0113/intake", () => unit("B-0113")],
  ["/units/B-0119/test", () => tested("B-0119")],
  ["/units/B-0119/test/run", () => unit("B-0119")],
  ["/units/B-0119/find", () => unit("B-0119")],
  ["/units/B-0116/mend", () => unit("B-0116")],
  ["/units/B-0113/prove", () => tested("B-0113")],
  ["/units/B-0113/release", () => unit("B-0113")],
  ["/models", () => Promise.all([trays(db), listModels(db)])],
];

console.log("page                      median    95 %   queries alone   first-load JavaScript, gzipped");
for (const [path, queries] of pages) {
  let html = "";
  const page = await timed(async () => {
    html = await (await fetch(base + path, { headers: { cookie } })).text();
  });
  const alone = await timed(queries);
  const scripts = [
    ...new Set([...html.matchAll(/\/_next\/static\/chunks\/[^"'\\ ]+\.js/g)].map((m) => m[0])),
  ];
  const sizes = await Promise.all(
    scripts.map(async (s) => gzipSync(Buffer.from(await (await fetch(base + s)).arrayBuffer())).length),
  );
  const kb = sizes.reduce((a, b) => a + b, 0) / 1024;
  console.log(
    `${path.padEnd(24)} ${at(page, 0.5).toFixed(0).padStart(5)} ms ${at(page, 0.95).toFixed(0).padStart(5)} ms ${at(alone, 0.5).toFixed(0).padStart(10)} ms ${kb.toFixed(0).padStart(16)} kB in ${scripts.length}`,
  );
}
await db.destroy();
