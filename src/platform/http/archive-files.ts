import "server-only";

import { randomBytes } from "node:crypto";
import { mkdir, readdir, rm, stat } from "node:fs/promises";
import { tmpdir } from "node:os";
import { join } from "node:path";

/**
 * Archives that were made and checked wait in a folder of their own to be fetched, for an hour, by names that
 * nobody guesses.
 */

const FOLDER = join(tmpdir(), `birdcage-archives-${process.getuid?.() ?? 0}`);
const KEPT_MS = 3600_000;
const KEY = /^[0-9a-f]{32}$/;

/** A place for a new one; what nobody fetched within the hour goes. */
export async function newArchiveFile(): Promise<{ key: string; path: string }> {
  await mkdir(FOLDER, { recursive: true, mode: 0o700 });
  for (const name of await readdir(FOLDER)) {
    const path = join(FOLDER, name);
    const old = await stat(path).catch(() => null);
    if (old && Date.now() - old.mtimeMs > KEPT_MS) await rm(path, { force: true });
  }
  const key = randomBytes(16).toString("hex");
  return { key, path: join(FOLDER, `${key}.zip`) };
}

/** Where the archive of this key lies; null when it was never made, or is gone. */
export async function archiveFile(key: string): Promise<{ path: string; bytes: number } | null> {
  if (!KEY.test(key)) return null;
  const path = join(FOLDER, `${key}.zip`);
  const found = await stat(path).catch(() => null);
  return found ? { path, bytes: found.size } : null;
}
