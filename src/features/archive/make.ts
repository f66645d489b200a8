import "server-only";

import { randomBytes } from "node:crypto";
import { createWriteStream } from "node:fs";
import { Readable, Writable } from "node:stream";
import { pipeline } from "node:stream/promises";

import type { Knex } from "knex";

import { scratchDatabase } from "@/platform/db/connection";
import { migrate } from "@/platform/db/migrate";
import { readArchive } from "./read";
import { archiveChunks } from "./write";
import type { ArchiveStep } from "@/contract/archive";
import { say } from "@/features/people/words/words";

/**
 * Makes an archive that is known to be readable: it is read into a scratch schema, and what that would write
 * is the same.
 */

/** `digest`: of the description of all that is in it */
export type MadeArchive = { bytes: number; digest: string; units: number; people: number };

export class ArchiveDiffers extends Error {}

/** Told after each entry; what it throws ends the work, and nothing of it stays. */
type Tell = (step: ArchiveStep) => void;

/** Writes an archive to a stream, or only works out its digest. */
async function write(db: Knex, to: Writable | null, tell: Tell): Promise<{ bytes: number; digest: string }> {
  let bytes = 0;
  let digest = "";
  const trx = await db.transaction();
  try {
    async function* counted() {
      const part = to === null ? "compare" : "write";
      const chunks = archiveChunks(trx, to === null, (done, of) => tell({ part, done, of }));
      for (let next = await chunks.next(); ; next = await chunks.next()) {
        if (next.done) return void (digest = next.value);
        bytes += next.value.length;
        yield next.value;
      }
    }
    await pipeline(
      Readable.from(counted()),
      to ?? new Writable({ write: (_chunk, _encoding, done) => done() }),
    );
    await trx.commit();
  } catch (error) {
    await trx.rollback();
    throw error;
  }
  return { bytes, digest };
}

/**
 * Reads an archive on disk into a schema of its own, and holds what that would write against the archive. The
 * schema goes again.
 */
export async function checkArchive(
  db: Knex,
  path: string,
  digest: string,
  tell: Tell = () => {},
): Promise<{ units: number; people: number }> {
  const schema = `archive_check_${randomBytes(6).toString("hex")}`;
  await db.raw("create schema ??", [schema]);
  const scratch = scratchDatabase(schema);
  try {
    await migrate(scratch);
    const held = await readArchive(scratch, path, (done, of) => tell({ part: "read", done, of }));
    if ((await write(scratch, null, tell)).digest !== digest)
      throw new ArchiveDiffers(say("readBackTheArchiveIsNot"));
    return held;
  } finally {
    await scratch.destroy();
    await db.raw("drop schema ?? cascade", [schema]);
  }
}

export async function makeArchive(db: Knex, path: string, tell: Tell = () => {}): Promise<MadeArchive> {
  const made = await write(db, createWriteStream(path, { mode: 0o600 }), tell);
  return { ...made, ...(await checkArchive(db, path, made.digest, tell)) };
}
