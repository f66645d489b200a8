import "server-only";

import { createHash, randomBytes } from "node:crypto";
import { createWriteStream } from "node:fs";
import { Readable, Writable } from "node:stream";
import { pipeline } from "node:stream/promises";

import type { Knex } from "knex";

import { scratchDatabase } from "@/db/connection";
import { migrate } from "@/db/migrate";
import { readArchive } from "./read";
import { archiveChunks } from "./write";

/** Makes an archive that is known to be readable: it is read into a scratch schema and written out again, byte for byte the same. */

export type MadeArchive = { bytes: number; sha256: string; units: number; people: number };

export class ArchiveDiffers extends Error {}

/** Writes an archive to a stream; answers its length and digest. */
async function write(db: Knex, to: Writable): Promise<{ bytes: number; sha256: string }> {
  const hash = createHash("sha256");
  let bytes = 0;
  const trx = await db.transaction();
  try {
    async function* counted() {
      for await (const chunk of archiveChunks(trx)) {
        hash.update(chunk);
        bytes += chunk.length;
        yield chunk;
      }
    }
    await pipeline(Readable.from(counted()), to);
    await trx.commit();
  } catch (error) {
    await trx.rollback();
    throw error;
  }
  return { bytes, sha256: hash.digest("hex") };
}

const nowhere = () => new Writable({ write: (_chunk, _encoding, done) => done() });

/** Reads an archive on disk into a schema of its own, and holds what that would write against the archive. The schema goes again. */
export async function checkArchive(db: Knex, path: string, sha256: string): Promise<{ units: number; people: number }> {
  const schema = `archive_check_${randomBytes(6).toString("hex")}`;
  await db.raw("create schema ??", [schema]);
  const scratch = scratchDatabase(schema);
  try {
    await migrate(scratch);
    const held = await readArchive(scratch, path);
    if ((await write(scratch, nowhere())).sha256 !== sha256) throw new ArchiveDiffers("read back, the archive is not the same");
    return held;
  } finally {
    await scratch.destroy();
    await db.raw("drop schema ?? cascade", [schema]);
  }
}

export async function makeArchive(db: Knex, path: string): Promise<MadeArchive> {
  const made = await write(db, createWriteStream(path, { mode: 0o600 }));
  return { ...made, ...(await checkArchive(db, path, made.sha256)) };
}
