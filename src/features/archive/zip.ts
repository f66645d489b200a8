import "server-only";

import { createHash } from "node:crypto";
import { type Readable, Transform } from "node:stream";
import Papa from "papaparse";
import yauzl from "yauzl";

import { z } from "@/core/base/schema";
import { isArchivePath, readCell } from "@/core/export/cells";
import { say } from "@/features/people/words/words";
import { Refused } from "@/platform/deed/base";

/**
 * An archive's file: what may lie in it is limited before anything is unpacked, and every table is held
 * against its size and digest.
 */

export const MAX_ARCHIVE_BYTES = 512 * 1024 * 1024;
const MAX_ENTRIES = 400_000;
const MAX_UNFOLDED = 8 * 1024 * 1024 * 1024;
const MAX_ENTRY = 2 * 1024 * 1024 * 1024;
const MAX_ROW = 8 * 1024 * 1024; // of a table, as text
const MAX_EXTRAS = 64; // bytes beside an entry's name
const BYTES_AT_ONCE = 8 * 1024 * 1024;
const MAX_RATIO = 400;
const RATIO_FROM = 1024 * 1024; // small files may well be all alike
const AT_ONCE = 1000;

export const bad = (why: string): Refused => new Refused({ code: "archive", why });

export const packageSchema = z.looseObject({
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

export type Resource = z.infer<typeof packageSchema>["resources"][number];

/** Why an entry does not belong into an archive; null where it does. */
function whyBarred(
  entry: yauzl.Entry,
  entries: ReadonlyMap<string, yauzl.Entry>,
  unfolded: number,
): string | null {
  const { fileName } = entry;
  if (!isArchivePath(fileName))
    return say("fileNameDoesNotBelongIntoAn", { fileName: fileName.slice(0, 80) });
  if (entries.has(fileName)) return say("fileNameIsInItTwice", { fileName });
  if (entry.isEncrypted()) return say("fileNameIsEncrypted", { fileName });
  if (entries.size >= MAX_ENTRIES) return say("itHoldsMoreThanMAXENTRIESFiles", { mAXENTRIES: MAX_ENTRIES });
  if (entry.extraFieldLength + entry.fileCommentLength > MAX_EXTRAS)
    return say("fileNameCarriesMoreThanAFile", { fileName });
  if (entry.uncompressedSize > MAX_ENTRY || unfolded > MAX_UNFOLDED) return say("itUnfoldsToMoreThanIs");
  if (entry.uncompressedSize > RATIO_FROM && entry.uncompressedSize > MAX_RATIO * entry.compressedSize)
    return say("fileNameUnfoldsSuspiciously", { fileName });
  return null;
}

export class Archive {
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
        const why = whyBarred(entry, entries, unfolded);
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
export async function* rowsOf(
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
