import { homedir } from "node:os";
import { dirname, join } from "node:path";
import { fileURLToPath } from "node:url";

export const ROOT = join(dirname(fileURLToPath(import.meta.url)), "..", "..");

const isRoot = process.getuid?.() === 0;

/**
 * Where the workshop's data lies. As root PostgreSQL runs as its own user, which must be able to enter the
 * folder.
 */
export function dataFolder() {
  if (process.env.BIRDCAGE_DATA) return process.env.BIRDCAGE_DATA;
  return isRoot ? "/var/lib/birdcage" : join(homedir(), ".local", "share", "birdcage");
}
