import "server-only";

import type { Knex } from "knex";
import { createHash, randomBytes } from "node:crypto";
import { promisify } from "node:util";
import { gzip } from "node:zlib";

import { addressOfContent } from "@/features/certificate/signing";
import { say } from "@/features/people/words/words";
import type { PersonRow, SigningKeyRow } from "@/platform/db/tables";
import { Refused } from "@/platform/deed/base";
import { ARCHIVE_VERSION, type ArchiveColumn, KEPT_BACK, SEQUENCES, TABLES, archiveColumns } from "./tables";
import { Archive, type Resource, bad, packageSchema, rowsOf } from "./zip";

/** Reads an archive into an empty workshop: all or nothing. */

const MAX_PACKAGE = 4 * 1024 * 1024;
const MAX_RECORDING = 160 * 1024 * 1024; // what an upload may unfold to
const MAX_PHOTO = 40 * 1024 * 1024;

const isJson = (column: ArchiveColumn): boolean => column.udt === "jsonb" || column.udt === "json";

/**
 * A cell as the database takes it: lists unfold, everything else stays text and is read by the column. JSON
 * stays text too, so that its own null is not the database's.
 */
const valueOf = (column: ArchiveColumn, cell: string | null): unknown => {
  if (cell === null) return null;
  if (column.type !== "any") return cell;
  try {
    const value: unknown = JSON.parse(cell);
    return isJson(column) ? cell : value;
  } catch {
    throw bad(say("aCellOfTheColumnColumn", { column: column.name }));
  }
};

const quoted = (name: string) => `"${name}"`;
const zip = promisify(gzip);

/** Whether nothing was recorded here yet: people, models and settings may be there. */
export async function isEmptyWorkshop(db: Knex): Promise<boolean> {
  for (const table of ["unit", "customer", "lot", "batch", "listing", "purchase_order"])
    if (await db(table).first(db.raw("1"))) return false;
  return true;
}

type Told = (done: number, of: number) => void;

type Resources = (name: string) => Resource;

/** The tables that its package names, each where it must lie. */
async function resourcesOf(archive: Archive): Promise<Resources> {
  const parsed = packageSchema.safeParse(
    parseJson((await archive.bytes("datapackage.json", MAX_PACKAGE)).toString("utf8")),
  );
  if (!parsed.success) throw bad(say("itsDatapackageJsonIsNotOne"));
  const { version, resources } = parsed.data;
  if (version !== ARCHIVE_VERSION)
    throw bad(
      say("itIsOfVersionVersionThis", { version: version.slice(0, 20), aRCHIVEVERSION: ARCHIVE_VERSION }),
    );
  return (name) => {
    const r = resources.find((x) => x.name === name);
    if (!r || r.path !== `tables/${name}.csv`) throw bad(say("theTableNameIsMissing", { name }));
    return r;
  };
}

async function emptied(trx: Knex): Promise<void> {
  const all = [
    ...Object.keys(TABLES),
    ...KEPT_BACK.filter((t) => !t.startsWith("knex") && t !== "sign_in_attempt"),
  ];
  await trx.raw("alter table event disable trigger event_no_truncate");
  await trx.raw(`truncate ${all.map(quoted).join(", ")}`);
  await trx.raw("alter table event enable trigger event_no_truncate");
}

type Files = { known: ReadonlyMap<string, { bytes: number; sha256: string }>; entries: number };

async function filesOf(archive: Archive, file: Resource): Promise<Files> {
  const known = new Map<string, { bytes: number; sha256: string }>();
  for await (const rows of rowsOf(archive, file, ["path", "bytes", "sha256"]))
    for (const [name, bytes, sha256] of rows) known.set(name!, { bytes: Number(bytes), sha256: sha256! });
  return { known, entries: Object.keys(TABLES).length + known.size };
}

/** A file beside the tables, held against what was written of it. */
async function fileOf(archive: Archive, { known }: Files, name: string): Promise<Buffer> {
  const written = known.get(name);
  const data = await archive.bytes(name, name.startsWith("recordings/") ? MAX_RECORDING : MAX_PHOTO);
  const same =
    written?.bytes === data.length && written.sha256 === createHash("sha256").update(data).digest("hex");
  if (!same) throw bad(say("nameIsNotWhatWasWritten", { name }));
  return data;
}

/** Every table in an order in which what a row points to is there before it; gives how many rows each had. */
async function fill(
  trx: Knex,
  archive: Archive,
  resource: Resources,
  here: readonly PersonRow[],
  tell: Told,
): Promise<Map<string, number>> {
  const columns = await archiveColumns(trx);
  const files = await filesOf(archive, resource("file"));
  let done = 0;
  const bytesOf = async (name: string): Promise<Buffer> => {
    const data = await fileOf(archive, files, name);
    tell(++done, files.entries);
    return data;
  };
  const counts = new Map<string, number>();
  for (const table of Object.keys(TABLES)) {
    const own = columns.get(table)!;
    const names = own.map((c) => c.name);
    for await (const rows of rowsOf(archive, resource(table), names)) {
      // rows with files beside them are large: one at a time
      const stride = table === "recording" || table === "photo" ? 1 : rows.length;
      for (let i = 0; i < rows.length; i += stride) {
        const records = rows
          .slice(i, i + stride)
          .map((row) => Object.fromEntries(own.map((c, k) => [c.name, valueOf(c, row[k]!)])));
        await insert(trx, table, own, records, await extrasOf(table, records, here, bytesOf));
      }
      counts.set(table, (counts.get(table) ?? 0) + rows.length);
    }
    tell(++done, files.entries);
  }
  return counts;
}

/** Whoever is here and not in the archive stays, with their password; so does this server's own key. */
async function keepOwn(
  trx: Knex,
  people: readonly PersonRow[],
  keys: readonly SigningKeyRow[],
): Promise<void> {
  for (const p of people)
    if (!(await trx("person").whereRaw("lower(name) = lower(?)", [p.name]).first("id")))
      await trx("person").insert({ ...p, hours: p.hours === null ? null : JSON.stringify(p.hours) });
  for (const k of keys)
    await trx("signing_key")
      .insert({ ...k, public_jwk: JSON.stringify(k.public_jwk) })
      .onConflict("kid")
      .merge();
}

/** What went wrong as what the reader can do something about. */
function asRefusal(error: unknown): unknown {
  if (error instanceof Refused) return error;
  const code = (error as { code?: string }).code ?? "";
  // the database refused a row: a wrong type, a missing or doubled key
  if (/^2[23]/.test(code)) return bad(say("aRowDoesNotFitInto"));
  if (/^(ERR_|Z_)/.test(code) || error instanceof RangeError) return bad(say("theZipIsDamaged"));
  return error;
}

/**
 * Fills an empty workshop from an archive on disk; `tell`: entries done of all. People keep the password that
 * they have here; others get one from a lead.
 */
export async function readArchive(
  db: Knex,
  path: string,
  tell: Told = () => {},
): Promise<{ units: number; people: number }> {
  const archive = await Archive.open(path);
  try {
    const resource = await resourcesOf(archive);
    return await db.transaction(async (trx) => {
      // nobody else writes meanwhile: a second import waits here and then finds the workshop filled
      await trx.raw("select pg_advisory_xact_lock(hashtext('archive'))");
      if (!(await isEmptyWorkshop(trx))) throw new Refused({ code: "not-empty" });
      const here = await trx("person").select("*");
      const keys = await trx("signing_key").select("*");
      await emptied(trx);
      const counts = await fill(trx, archive, resource, here, tell);
      await keepOwn(trx, here, keys);
      await setSequences(trx, await lastNumbers(archive, resource("sequence")));
      return { units: counts.get("unit") ?? 0, people: counts.get("person") ?? 0 };
    });
  } catch (error) {
    throw asRefusal(error);
  } finally {
    archive.close();
  }
}

const parseJson = (text: string): unknown => {
  try {
    return JSON.parse(text);
  } catch {
    return null;
  }
};

/** Columns that an archive does not carry: made new, or brought back from the files. */
async function extrasOf(
  table: string,
  records: readonly Record<string, unknown>[],
  here: readonly PersonRow[],
  bytesOf: (path: string) => Promise<Buffer>,
): Promise<{ column: string; type: string; values: unknown[] }[]> {
  switch (table) {
    case "person": {
      const known = records.map((r) =>
        here.find((p) => p.name.toLowerCase() === String(r.name).toLowerCase()),
      );
      return [
        // nothing verifies against an empty hash: these people get a password from a lead
        { column: "password_hash", type: "text", values: known.map((p) => p?.password_hash ?? "") },
      ];
    }
    case "signing_key":
      // without its private half a key signs nothing more here
      return [
        { column: "retired_at", type: "timestamptz", values: records.map(() => new Date().toISOString()) },
      ];
    case "certificate":
      return [
        {
          column: "token",
          type: "text",
          values: records.map((r) => addressOfContent(JSON.parse(String(r.body)))),
        },
      ];
    case "question":
      return [
        { column: "token", type: "text", values: records.map(() => randomBytes(20).toString("base64url")) },
      ];
    case "recording":
      return [
        {
          column: "csv_gz",
          type: "bytea",
          values: await Promise.all(
            records.map(async (r) => {
              const csv = await bytesOf(`recordings/${String(r.id)}.csv`);
              if (createHash("sha256").update(csv).digest("hex") !== r.sha256)
                throw bad(say("theRecordingIdIsNotThe", { id: String(r.id) }));
              return `\\x${(await zip(csv)).toString("hex")}`;
            }),
          ),
        },
      ];
    case "photo":
      return Promise.all(
        (["image", "thumb"] as const).map(async (column) => ({
          column,
          type: "bytea",
          values: await Promise.all(
            records.map(
              async (r) =>
                `\\x${(await bytesOf(`photographs/${String(r.id)}${column === "thumb" ? "-small" : ""}.jpg`)).toString("hex")}`,
            ),
          ),
        })),
      );
    default:
      return [];
  }
}

/**
 * Inserts rows by the columns' own types; rows that point to others of the same table come in the same
 * statement or later.
 */
async function insert(
  trx: Knex,
  table: string,
  own: readonly ArchiveColumn[],
  records: readonly Record<string, unknown>[],
  extra: readonly { column: string; type: string; values: unknown[] }[],
): Promise<void> {
  const rows = records.map((r, i) => ({
    ...r,
    ...Object.fromEntries(extra.map((e) => [e.column, e.values[i]])),
  }));
  const json = new Set(own.filter(isJson).map((c) => c.name));
  const names = [...own.map((c) => c.name), ...extra.map((e) => e.column)];
  const values = names.map((n) => (json.has(n) ? `(e->>'${n}')::jsonb` : `p.${quoted(n)}`));
  await trx.raw(
    `insert into ${quoted(table)} (${names.map(quoted).join(", ")}) select ${values.join(", ")}
     from jsonb_array_elements(?::jsonb) as e
     cross join lateral jsonb_populate_record(null::${quoted(table)}, e - ?::text[]) as p`,
    [JSON.stringify(rows), [...json]],
  );
}

async function lastNumbers(archive: Archive, r: Resource): Promise<Map<string, number>> {
  const out = new Map<string, number>();
  for await (const rows of rowsOf(archive, r, ["name", "last"]))
    for (const [name, last] of rows) out.set(name!, Number(last));
  return out;
}

/** Numbers go on where they were: those of batches and orders, and those of rows that are numbered. */
async function setSequences(trx: Knex, last: ReadonlyMap<string, number>): Promise<void> {
  for (const name of SEQUENCES) {
    const n = last.get(name) ?? 0;
    await trx.raw(`select setval('${name}', ?, ?)`, [Math.max(1, n), n > 0]);
  }
  for (const [table, spec] of Object.entries(TABLES))
    if (spec.order.length === 1 && spec.order[0] === "id")
      await trx.raw(
        `select setval(pg_get_serial_sequence('${table}', 'id'), greatest(1, (select coalesce(max(id), 0) from ${quoted(table)})), (select count(*) > 0 from ${quoted(table)}))`,
      );
}
