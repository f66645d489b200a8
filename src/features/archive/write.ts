import "server-only";

import { createHash } from "node:crypto";
import { promisify } from "node:util";
import { crc32, createDeflateRaw, gunzip } from "node:zlib";

import { Zip, type ZipInputFile } from "fflate";
import type { Knex } from "knex";
import Papa from "papaparse";

import { writeCell } from "@/core/export/cells";
import { archiveColumns, ARCHIVE_VERSION, SEQUENCES, TABLES } from "./tables";
import { asked } from "@/platform/db/joined";
import { one } from "@/core/base/one";

/**
 * The whole workshop as a zip of CSV tables with a Frictionless data package, recordings and photographs. The
 * same workshop gives the same bytes. No password, session, token or private key is in it.
 */

const AT_ONCE = 2000;
// a fixed time for every entry: the archive depends on nothing but the workshop
const STAMP = new Date(Date.UTC(2000, 0, 1, 12));

type Resource = {
  name: string;
  path: string;
  profile: "tabular-data-resource";
  format: "csv";
  mediatype: "text/csv";
  encoding: "utf-8";
  bytes: number;
  hash: string;
  schema: object;
};

const unzip = promisify(gunzip);

type Entry = { push(data: Uint8Array): Promise<void>; end(): Promise<void> };

/** An entry of the zip, deflated by the machine's own library on another thread where `deflate`. */
function entryOf(zip: Zip, path: string, deflate: boolean): Entry {
  const entry: ZipInputFile = {
    filename: path,
    compression: deflate ? 8 : 0,
    mtime: STAMP,
    size: 0,
    crc: 0,
    ondata: undefined as unknown as ZipInputFile["ondata"], // set by the zip that it is added to
  };
  zip.add(entry);
  const out = (data: Uint8Array<ArrayBuffer>, last: boolean) => entry.ondata!(null, data, last);
  const packer = deflate ? createDeflateRaw({ level: 6 }) : null;
  packer?.on("data", (c: Buffer<ArrayBuffer>) => out(c, false));
  const taken = (data: Uint8Array) => new Promise<void>((done) => packer!.write(data, () => done()));
  const ended = () =>
    new Promise<void>((done, failed) => packer!.once("end", done).once("error", failed).end());
  return {
    async push(data) {
      entry.crc = crc32(data, entry.crc);
      entry.size += data.length;
      if (packer) await taken(data);
      else out(new Uint8Array(data), false);
    },
    async end() {
      if (packer) await ended();
      out(new Uint8Array(0), true);
    },
  };
}
const UNWRITTEN: Entry = { push: async () => {}, end: async () => {} };

type Field = { name: string; type: string; required: boolean };
const field = (name: string, type: string): Field => ({ name, type, required: true });

/** An archive while it is written: its zip, what of that waits to go out, and what will describe it. */
class Packing {
  readonly resources: Resource[] = [];
  readonly files: { path: string; bytes: number; sha256: string }[] = [];
  private ready: Uint8Array[] = [];
  private failed: Error | null = null;
  private done = 0;
  private readonly zip = new Zip((error, chunk) => {
    if (error) this.failed = error;
    else this.ready.push(chunk);
  });

  constructor(
    private readonly dry: boolean,
    private readonly tell: (done: number) => void,
  ) {}

  /** What is ready to go out. */
  flush(): Uint8Array[] {
    if (this.failed) throw this.failed;
    const out = this.ready;
    this.ready = [];
    return out;
  }

  private entry(path: string, deflated: boolean) {
    return this.dry ? UNWRITTEN : entryOf(this.zip, path, deflated);
  }

  async *table(name: string, fields: Field[], key: string[], rows: AsyncIterable<string[][]>) {
    const path = `tables/${name}.csv`;
    const entry = this.entry(path, true);
    const hash = createHash("sha256");
    let bytes = 0;
    const put = async (text: string) => {
      const data = Buffer.from(text, "utf8");
      hash.update(data);
      bytes += data.length;
      await entry.push(data);
    };
    await put(`${Papa.unparse([fields.map((f) => f.name)])}\r\n`);
    for await (const some of rows) {
      if (some.length) await put(`${Papa.unparse(some)}\r\n`);
      yield* this.flush();
    }
    await entry.end();
    this.tell(++this.done);
    this.resources.push(described(name, path, fields, key, bytes, hash.digest("hex")));
    yield* this.flush();
  }

  /** Adds one file; `packed` when it is compressed already. Its digest. */
  async file(path: string, data: Uint8Array, packed: boolean): Promise<string> {
    const entry = this.entry(path, !packed);
    await entry.push(data);
    await entry.end();
    this.tell(++this.done);
    const sha256 = createHash("sha256").update(data).digest("hex");
    this.files.push({ path, bytes: data.length, sha256 });
    return sha256;
  }

  end(): Uint8Array[] {
    if (!this.dry) this.zip.end();
    return this.flush();
  }
}

const described = (
  name: string,
  path: string,
  fields: readonly Field[],
  key: string[],
  bytes: number,
  sha256: string,
): Resource => ({
  name,
  path,
  profile: "tabular-data-resource",
  format: "csv",
  mediatype: "text/csv",
  encoding: "utf-8",
  bytes,
  hash: `sha256:${sha256}`,
  schema: {
    fields: fields.map((f) => ({
      name: f.name,
      type: f.type,
      ...(f.required ? { constraints: { required: true } } : {}),
    })),
    missingValues: ["\\N"],
    ...(key.length ? { primaryKey: key } : {}),
  },
});

async function* recordingsInto(packing: Packing, trx: Knex.Transaction) {
  const all = "select id, csv_gz from recording order by started_at, id";
  for await (const rows of cursor<{ id: string; csv_gz: Buffer }>(trx, all, FILES_AT_ONCE))
    for (const r of rows) {
      await packing.file(`recordings/${r.id}.csv`, await unzip(r.csv_gz), false);
      yield* packing.flush();
    }
}

async function* photosInto(packing: Packing, trx: Knex.Transaction) {
  const all = "select id, image, thumb from photo order by at, id";
  for await (const rows of cursor<{ id: string; image: Buffer; thumb: Buffer }>(trx, all, FILES_AT_ONCE)) {
    for (const r of rows) {
      await packing.file(`photographs/${r.id}.jpg`, r.image, true);
      await packing.file(`photographs/${r.id}-small.jpg`, r.thumb, true);
    }
    yield* packing.flush();
  }
}

const FILES_AT_ONCE = 20;
const DESCRIPTION =
  "Tables of a workshop; recordings and photographs lie beside them and are listed in the table file. \\N is a missing value; a text of backslashes before one N at its end has one backslash more.";

const packageOf = (resources: readonly Resource[]): Buffer =>
  Buffer.from(
    `${JSON.stringify(
      {
        profile: "tabular-data-package",
        name: "birdcage-workshop",
        title: "A workshop of Birdcage",
        version: ARCHIVE_VERSION,
        description: DESCRIPTION,
        resources,
      },
      null,
      2,
    )}\n`,
  );

/**
 * Yields the zip's bytes as they come, and at its end the digest of its description, which holds the digests
 * of everything in it; call it inside a transaction, so that all of it is one moment. `dry`: only the digest,
 * and no byte. `tell`: entries done of all.
 */
export async function* archiveChunks(
  trx: Knex.Transaction,
  dry = false,
  tell: (done: number, of: number) => void = () => {},
): AsyncGenerator<Uint8Array, string> {
  await trx.raw("set transaction isolation level repeatable read, read only");
  const entries = await entryCount(trx);
  const packing = new Packing(dry, (done) => tell(done, entries));
  const columns = await archiveColumns(trx);
  const keys = await primaryKeys(trx);
  for (const [name, spec] of Object.entries(TABLES)) {
    const own = columns.get(name)!;
    yield* packing.table(name, own, keys.get(name) ?? [], rowsOf(trx, name, own, spec.order));
  }
  const last = await sequences(trx);
  const counters = once(last.map((s) => [s.name, String(s.last)]));
  yield* packing.table("sequence", [field("name", "string"), field("last", "integer")], ["name"], counters);
  yield* recordingsInto(packing, trx);
  yield* photosInto(packing, trx);
  const listed = once(packing.files.map((f) => [f.path, String(f.bytes), f.sha256]));
  const ofFile = [field("path", "string"), field("bytes", "integer"), field("sha256", "string")];
  yield* packing.table("file", ofFile, ["path"], listed);
  const digest = await packing.file("datapackage.json", packageOf(packing.resources), false);
  yield* packing.end();
  return digest;
}

/** Tables (and those of sequences and files), files beside them, and the description. */
async function entryCount(trx: Knex.Transaction): Promise<number> {
  const [found] = await asked<{ recordings: number; photos: number }>(
    trx,
    "select (select count(*)::int from recording) as recordings, (select count(*)::int from photo) as photos",
  );
  const { recordings, photos } = one(found);
  return Object.keys(TABLES).length + 2 + recordings + 2 * photos + 1;
}

const quoted = (name: string) => `"${name.replaceAll('"', '""')}"`;

/** Each column as text that does not depend on settings of the session. */
const asText = (c: { name: string; udt: string }): string => {
  const q = quoted(c.name);
  if (c.udt === "timestamptz") return `to_char(${q} at time zone 'UTC', 'YYYY-MM-DD"T"HH24:MI:SS.US"Z"')`;
  if (c.udt === "date") return `to_char(${q}, 'YYYY-MM-DD')`;
  if (c.udt === "_text") return `to_json(${q})::text`;
  return `${q}::text`;
};

async function* rowsOf(
  trx: Knex.Transaction,
  table: string,
  columns: readonly { name: string; udt: string }[],
  order: readonly string[],
): AsyncGenerator<string[][]> {
  const select = columns.map((c, i) => `${asText(c)} as c${i}`).join(", ");
  const sql = `select ${select} from ${quoted(table)} order by ${order.join(", ")}`;
  for await (const rows of cursor<Record<string, string | null>>(trx, sql, AT_ONCE))
    yield rows.map((r) => columns.map((_, i) => writeCell(r[`c${i}`] ?? null)));
}

async function* once(rows: string[][]): AsyncGenerator<string[][]> {
  yield rows;
}

let cursors = 0;
/** Reads a query some rows at a time. */
async function* cursor<T>(trx: Knex.Transaction, sql: string, some: number): AsyncGenerator<T[]> {
  const name = `archive_${++cursors}`;
  await trx.raw(`declare ${name} no scroll cursor for ${sql}`);
  for (;;) {
    const { rows }: { rows: T[] } = await trx.raw(`fetch ${some} from ${name}`);
    if (rows.length === 0) break;
    yield rows;
  }
  await trx.raw(`close ${name}`);
}

async function primaryKeys(trx: Knex.Transaction): Promise<Map<string, string[]>> {
  const { rows }: { rows: { table: string; columns: string[] }[] } = await trx.raw(
    `select c.relname as table, array_agg(a.attname::text order by k.place) as columns
     from pg_constraint p join pg_class c on c.oid = p.conrelid join pg_namespace n on n.oid = c.relnamespace
     cross join lateral unnest(p.conkey) with ordinality as k(number, place)
     join pg_attribute a on a.attrelid = c.oid and a.attnum = k.number
     where p.contype = 'p' and n.nspname = current_schema() group by 1`,
  );
  return new Map(rows.map((r) => [r.table, r.columns]));
}

async function sequences(trx: Knex.Transaction): Promise<{ name: string; last: number }[]> {
  const out: { name: string; last: number }[] = [];
  for (const name of SEQUENCES) {
    const sql = `select case when is_called then last_value else 0 end as last from ${quoted(name)}`;
    const [row] = await asked<{ last: string }>(trx, sql);
    out.push({ name, last: Number(one(row).last) });
  }
  return out;
}
