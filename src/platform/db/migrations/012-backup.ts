import type { Knex } from "knex";

/** Backups that were read back and found the same, so that the Bench can say when the last one is too old. */

export const name = "012-backup";

export async function up(db: Knex): Promise<void> {
  await db.schema.createTable("backup", (t) => {
    t.uuid("id").primary().defaultTo(db.raw("gen_random_uuid()"));
    t.text("file").notNullable();
    t.bigInteger("bytes").notNullable();
    t.timestamp("taken_at", { useTz: true }).notNullable();
    t.timestamp("checked_at", { useTz: true }).notNullable().defaultTo(db.fn.now());
  });
}

export async function down(db: Knex): Promise<void> {
  await db.schema.dropTable("backup");
}
