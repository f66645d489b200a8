/**
 * What questions that are prepared by name save: the same views with and without, in turn, within one run.
 */
import { connect } from "@/platform/db/connection";
import { one } from "@/core/base/one";
import { benchView } from "@/features/bench/view";
import { listUnits } from "@/features/units/list";
import { unitView } from "@/features/units/view";
import { findView } from "@/features/find/view";
import { decideView } from "@/features/decide/view";

const url = process.env.DATABASE_URL!;
const dbs = { named: connect(url, 4), plain: connect(url, 4, null, false) };
const person = one(await dbs.named("person").where({ name: "ida" }).first());
const actor = { id: person.id, name: person.name, role: person.role };
const unit = one(await dbs.named("unit").where({ tag: "B-0119" }).first("id"));

const VIEWS: [string, (db: typeof dbs.named) => Promise<unknown>][] = [
  ["bench", (db) => benchView(db)],
  ["units", (db) => listUnits(db, {}, { page: 0, size: 25, sort: { by: "tag", down: true } })],
  ["a unit", (db) => unitView(db, "B-0119", actor)],
  ["find", async (db) => findView(db, one(await unitView(db, "B-0119", actor)))],
  ["decide", (db) => decideView(db, unit.id)],
];
const ROUNDS = 60;
const median = (of: number[]): number => [...of].sort((a, b) => a - b)[Math.floor(of.length / 2)]!;

console.log(
  `\n${"view".padEnd(10)}${"plain ms".padStart(10)}${"named ms".padStart(10)}${"ratio".padStart(8)}`,
);
for (const [name, view] of VIEWS) {
  const took = { named: [] as number[], plain: [] as number[] };
  for (let i = -10; i < ROUNDS; i++)
    for (const way of i % 2 ? (["named", "plain"] as const) : (["plain", "named"] as const)) {
      const began = performance.now();
      await view(dbs[way]);
      if (i >= 0) took[way].push(performance.now() - began);
    }
  const [plain, named] = [median(took.plain), median(took.named)];
  console.log(
    name.padEnd(10) +
      plain.toFixed(1).padStart(10) +
      named.toFixed(1).padStart(10) +
      (named / plain).toFixed(2).padStart(8),
  );
}
await Promise.all(Object.values(dbs).map((db) => db.destroy()));
