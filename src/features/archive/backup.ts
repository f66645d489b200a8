import "server-only";

import type { Knex } from "knex";

import { certificateByToken } from "@/features/certificate/view";
import { asked } from "@/platform/db/joined";
import { one } from "@/core/base/one";

/** What a backup is held against, and when the last good one was taken. */

/** Of each table how many rows, and a sum over their contents. */
export type Figures = Record<string, { rows: number; sum: string }>;

/**
 * Reads the figures of all tables of the workshop's schema, in one moment when called inside a transaction.
 */
export async function figuresOf(db: Knex): Promise<Figures> {
  const tables = await asked<{ name: string }>(
    db,
    "select table_name as name from information_schema.tables where table_schema = 'public' order by 1",
  );
  const figures: Figures = {};
  for (const { name } of tables) {
    const [row] = await asked<Figures[string]>(
      db,
      "select count(*)::int as rows, coalesce(sum(hashtextextended(t::text, 0)::numeric), 0)::text as sum from ?? t",
      [name],
    );
    figures[name] = one(row);
  }
  return figures;
}

/** Tables whose rows or contents differ. */
export const differences = (a: Figures, b: Figures): string[] =>
  [...new Set([...Object.keys(a), ...Object.keys(b)])]
    .filter((t) => a[t]?.rows !== b[t]?.rows || a[t]?.sum !== b[t]?.sum)
    .sort();

/** Certificates that do not verify by the keys beside them. */
export async function badCertificates(db: Knex): Promise<{ checked: number; bad: string[] }> {
  const rows: { id: string; token: string }[] = await db("certificate").select("id", "token");
  const bad: string[] = [];
  for (const r of rows)
    if ((await certificateByToken(db, r.token))?.signature.state !== "good") bad.push(r.id);
  return { checked: rows.length, bad };
}

export const noteBackup = (db: Knex, b: { file: string; bytes: number; takenAt: Date }): Promise<unknown> =>
  db("backup").insert({ file: b.file, bytes: String(b.bytes), taken_at: b.takenAt });

const DAY_MS = 24 * 3600_000;

/**
 * When the last good backup was taken, where it is missing or older than a day; null when all is well. The
 * demonstration holds nothing that anybody would miss, and is only told of backups that were once made.
 */
export async function backupOverdue(db: Knex, now = new Date()): Promise<{ last: string | null } | null> {
  const newest = await db("backup").orderBy("taken_at", "desc").first("taken_at");
  const last = newest?.taken_at ?? null;
  if (last !== null) return now.getTime() - last.getTime() > DAY_MS ? { last: last.toISOString() } : null;
  const demo = await db("setting").where({ key: "demo" }).first("key");
  const first = demo ? undefined : await db("unit").orderBy("received_at").first("received_at");
  return first && now.getTime() - first.received_at.getTime() > DAY_MS ? { last: null } : null;
}
