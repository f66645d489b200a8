import "server-only";

import type { Knex } from "knex";

import { type FieldType, fieldType } from "@/core/export/cells";
import { asked } from "@/platform/db/joined";

/**
 * The tables of a workshop's archive, in the order in which they can be filled again, and what never leaves
 * the house.
 */

export const ARCHIVE_VERSION = "1";

type Spec = {
  /** the order of rows, which also lets a row follow the row that it points to */
  order: string[];
  /** secrets, and bytes that are files of their own */
  without?: string[];
};

export const TABLES: Readonly<Record<string, Spec>> = {
  person: { order: ["created_at", "id"], without: ["password_hash"] },
  setting: { order: ["key"] },
  counter: { order: ["key"] },
  signing_key: { order: ["made_at", "kid"], without: ["private_sealed", "retired_at"] },
  model_profile: { order: ["key", "version"] },
  customer: { order: ["at", "id"] },
  lot: { order: ["code"] },
  unit: { order: ["tag"] },
  photo: { order: ["at", "id"], without: ["image", "thumb"] },
  recording: { order: ["started_at", "id"], without: ["csv_gz"] },
  fault: { order: ["unit_id", "number"] },
  symptom: { order: ["at", "id"] },
  mend: { order: ["unit_id", "number"] },
  bench_reading: { order: ["at", "id"] },
  function_check: { order: ["id"] },
  bench_time: { order: ["id"] },
  proof_check: { order: ["id"] },
  ending: { order: ["at", "id"] },
  // the later one first: an older one points to it
  certificate: { order: ["at desc", "id"], without: ["token"] },
  // a correction follows what it corrects
  paper: { order: ["kind", "number"] },
  handover: { order: ["at", "id"] },
  event: { order: ["id"] },
  observation: { order: ["at", "id"] },
  attempt: { order: ["unit_id", "number"] },
  fragment: { order: ["unit_id", "number"] },
  halving: { order: ["at", "id"] },
  lot_spread: { order: ["at", "id"] },
  decision: { order: ["at", "id"] },
  listing: { order: ["at", "id"] },
  question: { order: ["at", "id"], without: ["token"] },
  answer: { order: ["id"] },
  purchase_order: { order: ["code"] },
  batch: { order: ["at", "code"] },
  order_line: { order: ["order_id", "id"] },
  movement: { order: ["id"] },
  piece_reading: { order: ["batch_id", "number"] },
  fitted: { order: ["at", "id"] },
  donor_note: { order: ["id"] },
  allocation: { order: ["at", "id"] },
  reservation: { order: ["at", "id"] },
  comeback: { order: ["at", "id"] },
  work_order: { order: ["at", "id"] },
  work_event: { order: ["id"] },
  damage: { order: ["at", "id"] },
  wait: { order: ["at", "id"] },
  heat: { order: ["at", "id"] },
  calibration: { order: ["at", "id"] },
  tip: { order: ["at", "id"] },
  day_pin: { order: ["task"] },
  stay: { order: ["id"] },
  stage_day: { order: ["day", "model", "stage"] },
  outcome: { order: ["unit_id"] },
};

/**
 * What is not in an archive at all: sessions, tokens, passwords' attempts, receipts of requests, and
 * practice.
 */
export const KEPT_BACK = [
  "sign_in_attempt",
  "session",
  "backup",
  "deed_receipt",
  "test_open",
  "feed",
  "exercise",
  "knex_migrations",
  "knex_migrations_lock",
];

export type ArchiveColumn = { name: string; udt: string; type: FieldType; required: boolean };

/** The columns of each table as they are written, in the database's own order. */
export async function archiveColumns(db: Knex): Promise<Map<string, ArchiveColumn[]>> {
  const rows = await asked<{
    table_name: string;
    column_name: string;
    udt_name: string;
    is_nullable: string;
  }>(
    db,
    `select table_name, column_name, udt_name, is_nullable from information_schema.columns
     where table_schema = current_schema() and is_generated = 'NEVER' order by table_name, ordinal_position`,
  );
  return new Map(
    Object.entries(TABLES).map(([table, spec]) => [
      table,
      rows
        .filter((r) => r.table_name === table && !spec.without?.includes(r.column_name))
        .map((r) => ({
          name: r.column_name,
          udt: r.udt_name,
          type: fieldType(r.udt_name),
          required: r.is_nullable === "NO",
        })),
    ]),
  );
}

/** Tables that the database has and the archive does not know: there must be none. */
export async function unknownTables(db: Knex): Promise<string[]> {
  const rows = await asked<{ name: string }>(
    db,
    "select table_name as name from information_schema.tables where table_schema = current_schema()",
  );
  return rows
    .map((r) => r.name)
    .filter((n) => !(n in TABLES) && !KEPT_BACK.includes(n))
    .sort();
}

export const SEQUENCES = ["batch_number", "order_number"];
