/**
 * npm run tables [-- --check]: writes src/platform/db/tables.ts, the row types of every table, from a
 * database that was just migrated. What a
 * CHECK or src/platform/db/columns.ts says of a column narrows it. With --check it only says whether the file
 * is current.
 */
import { readFileSync, writeFileSync } from "node:fs";
import { join } from "node:path";

import pg from "pg";
import prettier from "prettier";

import { ROOT } from "./lib/paths.mjs";
import { throwawayPostgres } from "./lib/throwaway.mjs";
import { cli } from "./lib/workshop.mjs";

const FILE = join(ROOT, "src/platform/db/tables.ts");
const TYPES = {
  smallint: "number",
  integer: "number",
  "double precision": "number",
  boolean: "boolean",
  text: "string",
  "character varying": "string",
  uuid: "string",
  bigint: "string",
  bytea: "Buffer",
  date: "string",
  "timestamp with time zone": "Date",
};

const camel = (table) => table.replace(/(^|_)(.)/g, (_all, _dash, letter) => letter.toUpperCase());

/** The names that a column's CHECK allows, as a type; null when it has no list of names. */
function namesOf(checks, column) {
  const check = checks.find((c) => c.startsWith(`CHECK ((${column} = ANY (ARRAY[`));
  return check ? [...check.matchAll(/'([^']*)'::text/g)].map((m) => JSON.stringify(m[1])).join(" | ") : null;
}

function typeOf(column, checks, narrowed, owners) {
  const key = `${column.table_name}.${column.column_name}`;
  if (narrowed.has(key)) return `Narrowed[${JSON.stringify(key)}]`;
  if (owners.has(key)) return `Id<${JSON.stringify(owners.get(key))}>`;
  if (column.data_type === "jsonb") return `Json<${JSON.stringify(key)}>`;
  if (column.data_type === "ARRAY") return "readonly string[]";
  return namesOf(checks, column.column_name) ?? TYPES[column.data_type];
}

async function tablesOf(url) {
  const client = new pg.Client({ connectionString: url });
  await client.connect();
  const { rows: columns } = await client.query(
    `select table_name, column_name, data_type, is_nullable = 'YES' as optional, column_default is not null or is_generated = 'ALWAYS' as given
     from information_schema.columns where table_schema = 'public' and table_name not like 'knex_%' order by table_name, ordinal_position`,
  );
  const { rows: checks } = await client.query(
    "select conrelid::regclass::text as table, pg_get_constraintdef(oid) as text from pg_constraint where contype = 'c'",
  );
  // a key of one column that the database makes up, and whatever refers to it
  const { rows: keys } = await client.query(
    `select c.relname as table_name, a.attname as column_name, case k.contype when 'p' then c.relname else o.relname end as owner
     from pg_constraint k join pg_class c on c.oid = k.conrelid join pg_attribute a on a.attrelid = c.oid and a.attnum = k.conkey[1]
     left join pg_class o on o.oid = k.confrelid
     where k.contype in ('p', 'f') and array_length(k.conkey, 1) = 1 and a.atttypid in ('uuid'::regtype, 'bigint'::regtype)
     order by k.contype desc`,
  );
  await client.end();
  const owners = new Map(keys.map((k) => [`${k.table_name}.${k.column_name}`, k.owner]));
  const said = readFileSync(join(ROOT, "src/platform/db/columns.ts"), "utf8").match(
    /export type Narrowed = \{([^}]*)\}/,
  )[1];
  const narrowed = new Set([...said.matchAll(/"([a-z_.]+)":/g)].map((m) => m[1]));
  const parts = [...new Set(columns.map((c) => c.table_name))].map((table) => {
    const list = columns.filter((c) => c.table_name === table);
    const own = checks.filter((c) => c.table === table).map((c) => c.text);
    const fields = list.map(
      (c) => `${c.column_name}: ${typeOf(c, own, narrowed, owners)}${c.optional ? " | null" : ""};`,
    );
    const given = list.filter((c) => c.optional || c.given).map((c) => JSON.stringify(c.column_name));
    return {
      of: `${table}: ${camel(table)}Row;`,
      row: `export type ${camel(table)}Row = { ${fields.join(" ")} };`,
      entry: `${table}: Table<${camel(table)}Row, ${given.join(" | ") || "never"}>;`,
    };
  });
  return prettier.format(
    `/* Made by npm run tables from the migrated database: change a migration, not this file. */
import type { Id } from "@/core/base/ids";
import type { Json, Narrowed, Table } from "./columns";

${parts.map((p) => p.row).join("\n\n")}

/** The row of each table. */
export type TableRow = { ${parts.map((p) => p.of).join("\n")} };

type TableTypes = { ${parts.map((p) => p.entry).join("\n")} };

declare module "knex/types/tables" {
  // eslint-disable-next-line @typescript-eslint/no-empty-object-type -- how Knex is told
  interface Tables extends TableTypes {}
}
`,
    { ...(await prettier.resolveConfig(FILE)), parser: "typescript" },
  );
}

const postgres = await throwawayPostgres(54750);
const url = postgres.database("birdcage_tables");
cli("migrate", url);
const text = await tablesOf(url);
postgres.stop();
if (!process.argv.includes("--check")) writeFileSync(FILE, text);
else if (readFileSync(FILE, "utf8") !== text) {
  console.error("src/platform/db/tables.ts is not what the migrations make: npm run tables writes it anew.");
  process.exitCode = 1;
}
