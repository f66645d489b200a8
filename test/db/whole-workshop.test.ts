import { spawnSync } from "node:child_process";
import { mkdtempSync, readdirSync, readFileSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";

import { strToU8, unzipSync, zipSync } from "fflate";
import type { Knex } from "knex";

import { connect } from "@/platform/db/connection";
import { migrate, rollBack } from "@/platform/db/migrate";
import { checkArchive, makeArchive } from "@/features/archive/make";
import { TABLES } from "@/features/archive/tables";
import { mustFollowTheRecord } from "./shop";
import { countOf } from "@/platform/db/joined";

/**
 * The whole demonstration goes out and comes back, as an archive and as a backup; then as an archive with
 * every column that may be empty both empty and filled.
 */

let db: Knex;
const folder = mkdtempSync(join(tmpdir(), "birdcage-whole-archive-"));
const path = join(folder, "made.zip");

beforeAll(async () => {
  db = connect(process.env.DATABASE_URL!, 3);
  await rollBack(db);
  await migrate(db);
  const load = spawnSync(
    process.execPath,
    ["--conditions=react-server", "--import", "tsx", "src/cli/demo-data.ts"],
    {
      encoding: "utf8",
      env: {
        ...process.env,
        SESSION_SECRET: process.env.SESSION_SECRET ?? "a-secret-of-a-test-that-is-long-enough",
      },
    },
  );
  if (load.status !== 0) throw new Error(load.stderr);
});
afterAll(async () => {
  rmSync(folder, { recursive: true, force: true });
  // rows were bent beyond what a way back would understand
  await db.raw("drop schema public cascade; create schema public");
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

test("after all that was done in it, where each unit stands and what came of it is what its record says", async () => {
  expect(await db("unit").count("id as n").first()).not.toEqual({ n: "0" });
  await mustFollowTheRecord(db);
});

test("the demonstration's archive is read back before it is offered, and leaves no scratch behind", async () => {
  const made = await makeArchive(db, path);
  expect(made.units).toBe(await countOf(db("unit")));
  expect(made.people).toBe(4);
  expect(readFileSync(path)).toHaveLength(made.bytes);
  expect(await scratchSchemas()).toEqual([]);
});

test("one that is not what was written is not offered, and leaves no scratch behind", async () => {
  await expect(checkArchive(db, path, "0".repeat(64))).rejects.toThrow("not the same");
  expect(await scratchSchemas()).toEqual([]);
});

describe("a backup", () => {
  const SECRET = "a-secret-of-a-test-that-is-long-enough";
  const backups = join(folder, "backups");
  const restored = "birdcage_restored_by_test";
  const key = join(folder, "passphrase");
  /** The backup's own program, as npm run backup and npm run restore run it; answers what it says. */
  const run = (args: string[], env: object = {}) => {
    const done = spawnSync(
      process.execPath,
      ["--conditions=react-server", "--import", "tsx", "src/cli/backup.ts", ...args],
      {
        encoding: "utf8",
        env: {
          ...process.env,
          SESSION_SECRET: process.env.SESSION_SECRET ?? SECRET,
          BIRDCAGE_PG_BIN: pgBin(),
          ...env,
        },
      },
    );
    return { status: done.status, said: done.stdout + done.stderr };
  };
  const pgBin = () => {
    const versions = readdirSync("/usr/lib/postgresql").sort((a, b) => Number(b) - Number(a));
    return join("/usr/lib/postgresql", versions[0]!, "bin");
  };
  const newest = () => join(backups, readdirSync(backups).sort().at(-1)!);
  const databases = async (): Promise<string[]> =>
    db("pg_database").whereRaw("datname like 'birdcage_%'").pluck("datname");
  /** What is in a workshop, by other means than the backup's own sums. */
  const contents = async (of: Knex) =>
    Object.fromEntries(
      await Promise.all(
        Object.keys(TABLES).map(async (t) => {
          const { rows } = await of.raw(
            "select md5(string_agg(r, chr(10) order by r)) as md5 from (select x::text as r from ?? x) y",
            [t],
          );
          return [t, rows[0].md5];
        }),
      ),
    );
  afterAll(async () => {
    await db.raw("drop database if exists ?? with (force)", [restored]);
  });

  test("it is read back before it counts, and counts then", async () => {
    const { status, said } = run(["backup", backups]);
    expect([status, said]).toEqual([0, expect.stringContaining("read back and found the same")]);
    expect(Number(/and (\d+) certificates/.exec(said)![1])).toBe(await countOf(db("certificate")));
    expect(await db("backup").pluck("file")).toEqual(readdirSync(backups));
    expect((await databases()).filter((d) => d.includes("check"))).toEqual([]);
  });

  test("restored into an empty workshop it is equal, to the last row", async () => {
    const { status, said } = run(["restore", newest(), restored]);
    expect([status, said]).toEqual([0, expect.stringContaining("every table the same")]);
    const url = new URL(process.env.DATABASE_URL!);
    url.pathname = `/${restored}`;
    const there = connect(url.href, 3);
    try {
      expect(await contents(there)).toEqual(await contents(db));
    } finally {
      await there.destroy();
    }
  });

  test("what is there already is kept beside it", async () => {
    const before = await databases();
    const { said } = run(["restore", newest(), restored]);
    const kept = /is the database (birdcage_\w+)\./.exec(said)![1]!;
    expect((await databases()).filter((d) => !before.includes(d))).toEqual([kept]);
    await db.raw("drop database ?? with (force)", [kept]);
  });

  test("sealed, it opens with its passphrase alone, and a changed byte is told", async () => {
    writeFileSync(key, "nine tame herons walk");
    const sealed = join(folder, "sealed");
    expect(run(["backup", sealed], { BIRDCAGE_BACKUP_KEY: key })).toMatchObject({ status: 0 });
    const file = join(sealed, readdirSync(sealed)[0]!);
    expect(readFileSync(file).includes(Buffer.from("figures"))).toBe(false);
    expect(run(["restore", file, restored])).toMatchObject({
      status: 1,
      said: expect.stringContaining("is sealed"),
    });
    const wrong = join(folder, "wrong");
    writeFileSync(wrong, "another phrase");
    expect(run(["restore", file, restored], { BIRDCAGE_BACKUP_KEY: wrong }).said).toContain(
      "passphrase is not this backup's",
    );
    const bytes = readFileSync(file);
    bytes[Math.floor(bytes.length / 2)]! ^= 1;
    writeFileSync(file, bytes);
    expect(run(["restore", file, restored], { BIRDCAGE_BACKUP_KEY: key }).said).toContain(
      "or the file was changed",
    );
    expect(await databases()).toContain(restored); // what was there stayed
  });

  test("half a backup, and none at all, change nothing", async () => {
    const half = join(folder, "half.backup");
    writeFileSync(half, readFileSync(newest()).subarray(0, 300_000));
    expect(run(["restore", half, restored])).toMatchObject({
      status: 1,
      said: expect.stringContaining("Not done"),
    });
    writeFileSync(half, "no backup");
    expect(run(["restore", half, restored]).said).toContain("is no backup of Birdcage");
    expect(run(["restore", join(folder, "nowhere"), restored]).said).toContain("there is no file");
    expect(await databases()).toContain(restored);
  });
});

/**
 * Something of each type that is hard to write and read back; what a rule of the column asks goes before it.
 */
const SAMPLE: Record<string, string> = {
  text: "'\\N, \"quoted\"\nsecond line ÿ'",
  jsonb: `'{"a": [1, null, "x"], "b": 12345678901234567890}'`,
  _text: `array['a,b', 'c"d', '']`,
  uuid: "gen_random_uuid()",
  int2: "7",
  int4: "7",
  int8: "7",
  float8: "0.1",
  numeric: "0.10",
  bool: "true",
  date: "'2026-11-03'",
  timestamptz: "'2026-11-03 10:11:12.123456+00'",
};
/** Columns that are only filled together, and rows that are nobody's only of one kind. */
const TOGETHER: [string, string][] = [
  [
    "recording",
    "update recording set taken_by = (select id from person limit 1), taken_why = 'seen', taken_at = now() where id = (select id from recording limit 1)",
  ],
  [
    "event",
    "insert into event (kind, unit_id, body) select 'question-answered', id, '{}' from unit order by tag limit 1",
  ],
];

describe("every table", () => {
  let columns: Column[];
  /**
   * A value that the column's own rules take: of the list that it is held to, or of the table that it points
   * to.
   */
  let valueFor: (c: Column) => string;
  const any = async (table: string, what: string) =>
    (await db(table).whereRaw(what).first(db.raw("1"))) !== undefined;
  // rules between rows sleep, so that rows can be bent; reading back holds them all
  const bend = (sql: string) =>
    db.transaction(async (trx) => {
      await trx.raw("set local session_replication_role = replica");
      await trx.raw(sql);
    });

  beforeAll(async () => {
    columns = await columnsOf();
    const rules: { table: string; column: string; points: string | null; at: string | null; rule: string }[] =
      (
        await db.raw(
          `select c.conrelid::regclass::text as table, a.attname::text as column, c.confrelid::regclass::text as points,
           (select attname::text from pg_attribute where attrelid = c.confrelid and attnum = c.confkey[1]) as at,
           pg_get_constraintdef(c.oid) as rule
         from pg_constraint c join pg_attribute a on a.attrelid = c.conrelid and a.attnum = c.conkey[1]
         where c.connamespace = 'public'::regnamespace and c.contype in ('f', 'c') and array_length(c.conkey, 1) = 1`,
        )
      ).rows;
    valueFor = (c) => {
      const own = rules.filter((r) => r.table === c.table && r.column === c.name);
      const points = own.find((r) => r.at !== null);
      if (points) return `(select "${points.at}" from "${points.points}" order by 1 limit 1)`;
      const listed = own.map((r) => /ARRAY\['([^']+)'/.exec(r.rule)?.[1]).find(Boolean);
      return listed ? `'${listed}'` : SAMPLE[c.udt]!;
    };
    for (const table of Object.keys(TABLES)) {
      if (await any(table, "true")) continue;
      const own = columns.filter((c) => c.table === table);
      await bend(
        `insert into "${table}" (${own.map((c) => `"${c.name}"`).join(", ")}) values (${own.map(valueFor).join(", ")})`,
      );
    }
    for (const [, sql] of TOGETHER) await bend(sql);
  });
  /** Bends the first row of a table where no row is so yet; answers the column when its rules refuse. */
  const make = async (c: Column, what: string, value: string): Promise<string[]> => {
    if (await any(c.table, what)) return [];
    const row = `ctid = (select ctid from "${c.table}" order by ctid limit 1)`;
    return bend(`update "${c.table}" set "${c.name}" = ${value} where ${row}`).then(
      () => [],
      () => [`${c.table}.${c.name}`],
    );
  };
  const all = async (wanted: Column[], what: (c: Column) => string, value: (c: Column) => string) => {
    const refused: string[] = [];
    for (const c of wanted) refused.push(...(await make(c, what(c), value(c))));
    expect(refused).toEqual([]);
  };

  test("with every column filled, and with a null of JSON's own in every column of JSON", async () => {
    await all(columns, (c) => `"${c.name}" is not null`, valueFor);
    await all(
      // a model without a name is refused by its table
      columns.filter((c) => c.udt === "jsonb" && c.table !== "model_profile"),
      (c) => `"${c.name}" = 'null'::jsonb`,
      () => "'null'::jsonb",
    );
    await makeArchive(db, path); // throws unless it reads back as the same
  });

  test("with every column empty that may be", async () => {
    await all(
      columns.filter((c) => c.nullable),
      (c) => `"${c.name}" is null`,
      () => "null",
    );
    await makeArchive(db, path);
  });

  test("none is empty, and the archive holds a row of each", async () => {
    const files = unzipSync(readFileSync(path));
    for (const table of Object.keys(TABLES))
      expect([
        table,
        Buffer.from(files[`tables/${table}.csv`]!).toString("utf8").split("\r\n").length > 2,
      ]).toEqual([table, true]);
  });
});

test("a zip that claims much and holds little stays small in memory", async () => {
  const giant = zipSync(
    { "datapackage.json": strToU8("{}"), "tables/unit.csv": new Uint8Array(300 * 1024 * 1024).fill(120) },
    { level: 1 },
  );
  expect(giant.length).toBeLessThan(17 * 1024 * 1024);
  const file = join(folder, "giant.zip");
  writeFileSync(file, giant);
  const before = process.memoryUsage().rss;
  await expect(checkArchive(db, file, "")).rejects.toMatchObject({ problem: { code: "archive" } });
  expect(process.memoryUsage().rss - before).toBeLessThan(100 * 1024 * 1024);
});
