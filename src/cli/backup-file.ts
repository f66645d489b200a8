/**
 * A backup is one file: a line of JSON that says how to open it, then the manifest and PostgreSQL's own
 * custom dump, sealed with AES-256-GCM under a passphrase where one is set (scrypt, N = 2^15).
 */
import { createCipheriv, createDecipheriv, randomBytes, scryptSync } from "node:crypto";
import { createReadStream, createWriteStream, openSync, readSync, closeSync, statSync } from "node:fs";
import type { Readable } from "node:stream";
import { pipeline } from "node:stream/promises";

import { z } from "@/core/base/schema";

const TAG_BYTES = 16;
const MOST_HEAD = 1000;

const headSchema = z.strictObject({
  birdcage: z.literal("backup"),
  v: z.literal(1),
  seal: z.strictObject({ salt: z.base64(), iv: z.base64() }).nullable(),
});

const keyOf = (passphrase: string, salt: Buffer): Buffer =>
  scryptSync(passphrase, salt, 32, { N: 2 ** 15, r: 8, p: 1, maxmem: 64 * 1024 * 1024 });

/** Writes a body behind its head; sealed where there is a passphrase. */
export async function writeSealed(path: string, body: Readable, passphrase: string | null): Promise<void> {
  const salt = randomBytes(16);
  const iv = randomBytes(12);
  const head = {
    birdcage: "backup",
    v: 1,
    seal: passphrase ? { salt: salt.toString("base64"), iv: iv.toString("base64") } : null,
  };
  const out = createWriteStream(path, { mode: 0o600 });
  out.write(`${JSON.stringify(head)}\n`);
  if (!passphrase) return pipeline(body, out);
  const cipher = createCipheriv("aes-256-gcm", keyOf(passphrase, salt), iv);
  await pipeline(
    body,
    cipher,
    async function* (sealed) {
      yield* sealed;
      yield cipher.getAuthTag();
    },
    out,
  );
}

export class BackupProblem extends Error {}

/**
 * The body of a backup, to a file; a wrong passphrase and a changed byte are told before anything is used.
 */
export async function openSealed(path: string, to: string, passphrase: string | null): Promise<void> {
  const start = Buffer.alloc(MOST_HEAD);
  const fd = openSync(path, "r");
  const read = readSync(fd, start, 0, MOST_HEAD, 0);
  closeSync(fd);
  const end = start.subarray(0, read).indexOf(10);
  const parsed = headSchema.safeParse(end < 0 ? null : parseJson(start.subarray(0, end).toString("utf8")));
  if (!parsed.success) throw new BackupProblem(`${path} is no backup of Birdcage`);
  const { seal } = parsed.data;
  const from = end + 1;
  const out = createWriteStream(to, { mode: 0o600 });
  if (!seal) return pipeline(createReadStream(path, { start: from }), out);
  if (!passphrase)
    throw new BackupProblem("this backup is sealed: name the file of its passphrase in BIRDCAGE_BACKUP_KEY");
  const size = statSync(path).size;
  const tag = Buffer.alloc(TAG_BYTES);
  const tagFd = openSync(path, "r");
  readSync(tagFd, tag, 0, TAG_BYTES, size - TAG_BYTES);
  closeSync(tagFd);
  const decipher = createDecipheriv(
    "aes-256-gcm",
    keyOf(passphrase, Buffer.from(seal.salt, "base64")),
    Buffer.from(seal.iv, "base64"),
  );
  decipher.setAuthTag(tag);
  await pipeline(createReadStream(path, { start: from, end: size - TAG_BYTES - 1 }), decipher, out).catch(
    () => {
      throw new BackupProblem("the passphrase is not this backup's, or the file was changed");
    },
  );
}

function parseJson(text: string): unknown {
  try {
    return JSON.parse(text);
  } catch {
    return null;
  }
}
