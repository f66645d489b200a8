import type { Knex } from "knex";

/** Every model has a name: its profile's schema says so, and now its table does. */

export const name = "013-named";

export async function up(db: Knex): Promise<void> {
  await db.raw("alter table model_profile alter column name set not null");
}

export async function down(db: Knex): Promise<void> {
  await db.raw("alter table model_profile alter column name drop not null");
}
