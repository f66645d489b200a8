/**
 * node scripts/folder-rings.mjs: says whether folders of src import each other in a ring, types included. The
 * import rules' own check counts a folder's children as its own, so that a feature and its components would
 * always be one ring; here each is itself.
 */
import { dirname, join } from "node:path";
import { createRequire } from "node:module";

import { cruise } from "dependency-cruiser";

import { ROOT } from "./lib/paths.mjs";

process.chdir(ROOT);
const { options } = createRequire(import.meta.url)(join(ROOT, ".dependency-cruiser.cjs"));
const { output } = await cruise(["src"], { ...options, exclude: options.exclude.path });

const between = new Map();
for (const { source, dependencies } of output.modules)
  for (const { resolved } of dependencies) {
    const [from, to] = [dirname(source), dirname(resolved)];
    if (from === to || !to.startsWith("src")) continue;
    const example = `${source} takes ${resolved}`;
    between.set(from, (between.get(from) ?? new Map()).set(to, example));
  }

/** The folders of a way from one back to itself, or null. */
function ringAt(start) {
  const ways = [[start]];
  const seen = new Set();
  for (let way = ways.shift(); way; way = ways.shift())
    for (const next of between.get(way.at(-1))?.keys() ?? []) {
      if (next === start) return [...way, start];
      if (seen.has(next)) continue;
      seen.add(next);
      ways.push([...way, next]);
    }
  return null;
}

const told = new Set();
for (const folder of between.keys()) {
  const ring = told.has(folder) ? null : ringAt(folder);
  if (!ring) continue;
  ring.forEach((f) => told.add(f));
  console.error(`Folders in a ring: ${ring.join(" -> ")}`);
  ring.slice(1).forEach((to, i) => console.error(`  ${between.get(ring[i]).get(to)}`));
}
console.log(`${between.size} folders, ${told.size} of them in a ring`);
process.exit(told.size === 0 ? 0 : 1);
