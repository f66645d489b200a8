import "server-only";

import { createHash, randomBytes } from "node:crypto";
import { type Readable, Transform } from "node:stream";
import { promisify } from "node:util";
import { gzip } from "node:zlib";

import type { Knex } from "knex";
import Papa from "papaparse";
import yauzl from "yauzl";
import { z } from "@/core/base/schema";

import { isArchivePath, readCell } from "@/core/export/cells";
import { Refused } from "@/platform/deed/base";
import { addressOfContent } from "@/features/certificate/signing";
import { archiveColumns, type ArchiveColumn, ARCHIVE_VERSION, KEPT_BACK, SEQUENCES, TABLES } from "./tables";
import type { PersonRow } from "@/platform/db/tables";
import { say } from "@/features/people/words/words";

/**
 * Reads an archive into an empty workshop: all or nothing. Names, counts, sizes and how far an entry may
 * unfold are limited before anything is unpacked, and every table and file is held against its size and
 * digest.
 */

export const MAX_ARCHIVE_BYTES = 512 * 1024 * 1024;
const MAX_ENTRIES = 400_000;
const MAX_UNFOLDED = 8 * 1024 * 1024 * 1024;
const MAX_ENTRY = 2 * 1024 * 1024 * 1024;
const MAX_PACKAGE = 4 * 1024 * 1024;
const MAX_RECORDING = 160 * 1024 * 1024; // what an upload may unfold to
const MAX_PHOTO = 40 * 1024 * 1024;
const MAX_ROW = 8 * 1024 * 1024; // of a table, as text
const MAX_EXTRAS = 64; // bytes beside an entry's name
const BYTES_AT_ONCE = 8 * 1024 * 1024;
const MAX_RATIO = 400;
const RATIO_FROM = 1024 * 1024; // small files may well be all alike
const AT_ONCE = 1000;

const bad = (why: string): Refused => new Refused({ code: "archive", why });

const packageSchema = z.looseObject({
  version: z.string(),
  resources: z.array(
    z.looseObject({
      name: z.string(),
      path: z.string(),
      bytes: z.int().min(0),
      hash: z.string().regex(/^sha256:[0-9a-f]{64}$/),
      schema: z.looseObject({ fields: z.array(z.looseObject({ name: z.string() })) }),
    }),
  ),
});
type Resource = z.infer<typeof packageSchema>["resources"][number];

class Archive {
  private constructor(
    private readonly zip: yauzl.ZipFile,
    readonly entries: ReadonlyMap<string, yauzl.Entry>,
  ) {}

  static async open(path: string): Promise<Archive> {
    const zip = await new Promise<yauzl.ZipFile>((resolve, reject) =>
      yauzl.open(path, { lazyEntries: true, autoClose: false, strictFileNames: true }, (error, file) =>
        file ? resolve(file) : reject(error!),
      ),
    ).catch(() => {
      throw bad(say("thisFileIsNoZipOr"));
    });
    const entries = new Map<string, yauzl.Entry>();
    let unfolded = 0;
    await new Promise<void>((resolve, reject) => {
      zip.on("error", (e: Error) =>
        reject(
          bad(
            /path|characters|fileName/i.test(e.message) ? say("aNameInItLeadsOut") : say("thisZipIsDamaged"),
          ),
        ),
      );
      zip.on("end", resolve);
      zip.on("entry", (entry: yauzl.Entry) => {
        unfolded += entry.uncompressedSize;
        const whyOf = () => {
          if (!isArchivePath(entry.fileName))
            return say("fileNameDoesNotBelongIntoAn", { fileName: entry.fileName.slice(0, 80) });
          if (entries.has(entry.fileName)) return say("fileNameIsInItTwice", { fileName: entry.fileName });
          if (entry.isEncrypted()) return say("fileNameIsEncrypted", { fileName: entry.fileName });
          if (entries.size >= MAX_ENTRIES)
            return say("itHoldsMoreThanMAXENTRIESFiles", { mAXENTRIES: MAX_ENTRIES });
          if (entry.extraFieldLength + entry.fileCommentLength > MAX_EXTRAS)
            return say("fileNameCarriesMoreThanAFile", { fileName: entry.fileName });
          if (entry.uncompressedSize > MAX_ENTRY || unfolded > MAX_UNFOLDED)
            return say("itUnfoldsToMoreThanIs");
          if (
            entry.uncompressedSize > RATIO_FROM &&
            entry.uncompressedSize > MAX_RATIO * entry.compressedSize
          )
            return say("fileNameUnfoldsSuspiciously", { fileName: entry.fileName });
          return null;
        };
        const why = whyOf();
        if (why) return reject(bad(why));
        entries.set(entry.fileName, entry);
        zip.readEntry();
      });
      zip.readEntry();
    }).catch((error: unknown) => {
      zip.close();
      throw error;
    });
    return new Archive(zip, entries);
  }

  stream(path: string): Promise<Readable> {
    const entry = this.entries.get(path);
    if (!entry) throw bad(say("pathIsMissing", { path }));
    return new Promise((resolve, reject) =>
      this.zip.openReadStream(entry, (error, s) =>
        s ? resolve(s) : reject(error ?? bad(say("pathCannotBeRead", { path }))),
      ),
    );
  }

  async bytes(path: string, most: number): Promise<Buffer> {
    if ((this.entries.get(path)?.uncompressedSize ?? 0) > most) throw bad(say("pathIsTooLarge", { path }));
    const chunks: Buffer[] = [];
    let size = 0;
    for await (const c of await this.stream(path)) {
      size += (c as Buffer).length;
      if (size > most) throw bad(say("pathIsTooLarge", { path })); // whatever its size claims
      chunks.push(c as Buffer);
    }
    return Buffer.concat(chunks);
  }

  close(): void {
    this.zip.close();
  }
}

/** The rows of a table, some at a time; the table's size and digest are checked when its end is reached. */
async function* rowsOf(
  archive: Archive,
  r: Resource,
  columns: readonly string[],
): AsyncGenerator<(string | null)[][]> {
  const hash = createHash("sha256");
  let bytes = 0;
  const source = await archive.stream(r.path);
  const parser = Papa.parse(Papa.NODE_STREAM_INPUT, { header: false, skipEmptyLines: false });
  source.on("data", (c: Buffer) => {
    hash.update(c);
    bytes += c.length;
  });
  source.on("error", (e) => parser.destroy(e));
  const rowsOnly = shortRows(r.name);
  rowsOnly.on("error", (e) => parser.destroy(e));
  source.pipe(rowsOnly).pipe(parser);
  let head: string[] | null = null;
  let some: (string | null)[][] = [];
  let held = 0;
  for await (const row of parser as AsyncIterable<string[]>) {
    if (head === null) {
      head = row;
      if (head.join() !== columns.join()) throw bad(say("theTableNameHasOtherColumns", { name: r.name }));
      continue;
    }
    if (row.length === 1 && row[0] === "" && columns.length > 1) continue; // the line end of the last row
    if (row.length !== columns.length)
      throw bad(say("aRowOfTheTableName", { name: r.name, row: row.length, columns: columns.length }));
    some.push(row.map(readCell));
    held += row.reduce((n, c) => n + c.length, 0);
    if (some.length >= AT_ONCE || held > BYTES_AT_ONCE) {
      yield some;
      some = [];
      held = 0;
    }
  }
  if (some.length) yield some;
  if (bytes !== r.bytes || `sha256:${hash.digest("hex")}` !== r.hash)
    throw bad(say("theTableNameIsNotWhat", { name: r.name }));
}

/**
 * Passes a table on while each of its rows is of a bearable length: a parser holds a row whole, and a quote
 * may never close.
 */
function shortRows(table: string): Transform {
  let length = 0;
  let quoted = false;
  return new Transform({
    transform(chunk: Buffer, _encoding, done) {
      for (const byte of chunk) {
        length++;
        if (byte === 34) quoted = !quoted;
        else if (byte === 10 && !quoted) length = 0;
      }
      if (length > MAX_ROW) done(bad(say("aRowOfTheTableTable", { table })));
      else done(null, chunk);
    },
  });
}

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

/**
 * Fills an empty workshop from an archive on disk; `tell`: entries done of all. People keep the password that
 * they have here; others get one from a lead.
 */
export async function readArchive(
  db: Knex,
  path: string,
  tell: (done: number, of: number) => void = () => {},
): Promise<{ units: number; people: number }> {
  const archive = await Archive.open(path);
  try {
    const parsed = packageSchema.safeParse(
      parseJson((await archive.bytes("datapackage.json", MAX_PACKAGE)).toString("utf8")),
    );
    if (!parsed.success) throw bad(say("itsDatapackageJsonIsNotOne"));
    if (parsed.data.version !== ARCHIVE_VERSION)
      throw bad(
        say("itIsOfVersionVersionThis", {
          version: parsed.data.version.slice(0, 20),
          aRCHIVEVERSION: ARCHIVE_VERSION,
        }),
      );
    const resource = (name: string): Resource => {
      const r = parsed.data.resources.find((x) => x.name === name);
      if (!r || r.path !== `tables/${name}.csv`) throw bad(say("theTableNameIsMissing", { name }));
      return r;
    };
    return await db.transaction(async (trx) => {
      // nobody else writes meanwhile: a second import waits here and then finds the workshop filled
      await trx.raw("select pg_advisory_xact_lock(hashtext('archive'))");
      if (!(await isEmptyWorkshop(trx))) throw new Refused({ code: "not-empty" });
      const here = await trx("person").select("*");
      const keys = await trx("signing_key").select("*");
      const columns = await archiveColumns(trx);
      const all = [
        ...Object.keys(TABLES),
        ...KEPT_BACK.filter((t) => !t.startsWith("knex") && t !== "sign_in_attempt"),
      ];
      await trx.raw("alter table event disable trigger event_no_truncate");
      await trx.raw(`truncate ${all.map(quoted).join(", ")}`);
      await trx.raw("alter table event enable trigger event_no_truncate");

      const files = new Map<string, { bytes: number; sha256: string }>();
      for await (const rows of rowsOf(archive, resource("file"), ["path", "bytes", "sha256"]))
        for (const [name, bytes, sha256] of rows) files.set(name!, { bytes: Number(bytes), sha256: sha256! });
      const entries = Object.keys(TABLES).length + files.size;
      let done = 0;
      const bytesOf = async (name: string): Promise<Buffer> => {
        const known = files.get(name);
        const data = await archive.bytes(name, name.startsWith("recordings/") ? MAX_RECORDING : MAX_PHOTO);
        if (
          !known ||
          known.bytes !== data.length ||
          known.sha256 !== createHash("sha256").update(data).digest("hex")
        )
          throw bad(say("nameIsNotWhatWasWritten", { name }));
        tell(++done, entries);
        return data;
      };

      let units = 0;
      let people = 0;
      for (const table of Object.keys(TABLES)) {
        const own = columns.get(table)!;
        for await (const rows of rowsOf(
          archive,
          resource(table),
          own.map((c) => c.name),
        )) {
          // rows with files beside them are large: one at a time
          const stride = table === "recording" || table === "photo" ? 1 : rows.length;
          for (let i = 0; i < rows.length; i += stride) {
            const records = rows
              .slice(i, i + stride)
              .map((row) => Object.fromEntries(own.map((c, k) => [c.name, valueOf(c, row[k]!)])));
            await insert(trx, table, own, records, await extrasOf(table, records, here, bytesOf));
          }
          if (table === "unit") units += rows.length;
          if (table === "person") people += rows.length;
        }
        tell(++done, entries);
      }
      // whoever is here and not in the archive stays, with their password; so does this server's own key
      for (const p of here)
        if (!(await trx("person").whereRaw("lower(name) = lower(?)", [p.name]).first("id")))
          await trx("person").insert({ ...p, hours: p.hours === null ? null : JSON.stringify(p.hours) });
      for (const k of keys)
        await trx("signing_key")
          .insert({ ...k, public_jwk: JSON.stringify(k.public_jwk) })
          .onConflict("kid")
          .merge();
      await setSequences(trx, await lastNumbers(archive, resource("sequence")));
      return { units, people };
    });
  } catch (error) {
    if (error instanceof Refused) throw error;
    const code = (error as { code?: string }).code ?? "";
    // the database refused a row: a wrong type, a missing or doubled key
    if (/^2[23]/.test(code)) throw bad(say("aRowDoesNotFitInto"));
    if (/^(ERR_|Z_)/.test(code) || error instanceof RangeError) throw bad(say("theZipIsDamaged"));
    throw error;
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
