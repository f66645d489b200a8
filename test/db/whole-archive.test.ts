import { spawnSync } from "node:child_process";
import { mkdtempSync, readFileSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";

import { unzipSync } from "fflate";
import type { Knex } from "knex";

import { connect } from "@/db/connection";
import { migrate, rollBack } from "@/db/migrate";
import { checkArchive, makeArchive } from "@/service/archive/make";
import { TABLES } from "@/service/archive/tables";

/** The whole demonstration goes out and comes back; then with every column that may be empty both empty and filled. */

let db: Knex;
const folder = mkdtempSync(join(tmpdir(), "birdcage-whole-archive-"));
const path = join(folder, "made.zip");

beforeAll(async () => {
  db = connect(process.env.DATABASE_URL!, 3);
  await rollBack(db);
  await migrate(db);
  const load = spawnSync(process.execPath, ["--conditions=react-server", "--import", "tsx", "src/cli/demo-data.ts"], {
    encoding: "utf8",
    env: { ...process.env, SESSION_SECRET: process.env.SESSION_SECRET ?? "a-secret-of-a-test-that-is-long-enough" },
  });
  if (load.status !== 0) throw new Error(load.stderr);
});
afterAll(async () => {
  rmSync(folder, { recursive: true, force: true });
  await rollBack(db);
  await db.destroy();
});

type Column = { table: string; name: string; udt: string; nullable: boolean };
const columnsOf = async (): Promise<Column[]> =>
  (
    await db.raw(
      `select table_name as table, column_name as name, udt_name as udt, is_nullable = 'YES' as nullable
       from information_schema.columns where table_schema = 'public' and is_generated = 'NEVER' order by 1, ordinal_position`,
    )
  ).rows.filter((c: Column) => c.table in TABLES && !TABLES[c.table]!.without?.includes(c.name));

const scratchSchemas = async (): Promise<string[]> =>
  (await db.raw("select nspname from pg_namespace where nspname like 'archive_check%'")).rows;

test("the demonstration's archive is read back before it is offered, and leaves no scratch behind", async () => {
  const made = await makeArchive(db, path);
  expect(made.units).toBe(Number((await db("unit").count("id as n").first())!.n));
  expect(made.people).toBe(4);
  expect(readFileSync(path)).toHaveLength(made.bytes);
  expect(await scratchSchemas()).toEqual([]);
});

test("one that is not what was written is not offered, and leaves no scratch behind", async () => {
  await expect(checkArchive(db, path, "0".repeat(64))).rejects.toThrow("not the same");
  expect(await scratchSchemas()).toEqual([]);
});

/** Something of each type that no rule of a column may be counted on to refuse; the rules that do are listed below. */
const SAMPLE: Record<string, string> = {
  text: "'\\N, \"quoted\"\nsecond line ÿ'",
  jsonb: `'{"a": [1, null, "x"], "b": 12345678901234567890}'`,
  _text: `array['a,b', 'c"d', '']`,
  uuid: "'6f9619ff-8b86-4d01-b42d-00cf4fc964ff'",
  int2: "7",
  int4: "7",
  int8: "7",
  float8: "0.1",
  numeric: "0.10",
  bool: "true",
  date: "'2026-11-03'",
  timestamptz: "'2026-11-03 10:11:12.123456+00'",
};

test("every table, with each column that may be empty both empty and filled, and with a null of JSON's own", async () => {
  const columns = await columnsOf();
  const unproven: string[] = [];
  await db.transaction(async (trx) => {
    // rules between rows sleep here; those of one row stand, and a column that they bind to others is named below
    await trx.raw("set local session_replication_role = replica");
    for (const table of Object.keys(TABLES)) {
      const own = columns.filter((c) => c.table === table);
      if (!(await trx(table).first(trx.raw("1")))) unproven.push(`${table}: empty`);
      const tryOne = async (c: Column, value: string) => {
        await trx.raw("savepoint one");
        const row = `ctid = (select ctid from "${table}" order by ctid limit 1)`;
        try {
          await trx.raw(`update "${table}" set "${c.name}" = ${value} where ${row}`);
          await trx.raw("release savepoint one");
          return true;
        } catch {
          await trx.raw("rollback to savepoint one");
          return false;
        }
      };
      for (const c of own) {
        const has = async (what: string) => (await trx(table).whereRaw(what).first(trx.raw("1"))) !== undefined;
        if (c.udt === "jsonb" && !(await has(`"${c.name}" = 'null'::jsonb`)) && !(await tryOne(c, "'null'::jsonb")))
          unproven.push(`${table}.${c.name}: null of JSON`);
        if (c.nullable && !(await has(`"${c.name}" is null`)) && !(await tryOne(c, "null")))
          unproven.push(`${table}.${c.name}: empty`);
        if (!(await has(`"${c.name}" is not null`)) && !(await tryOne(c, SAMPLE[c.udt]!)))
          unproven.push(`${table}.${c.name}: filled`);
      }
    }
  });
  expect(unproven).toEqual([]);
});
