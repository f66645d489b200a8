import type { Knex } from "knex";

/** The newest work orders of a model, for what its steps take. */

export const name = "008-quick";

export async function up(db: Knex): Promise<void> {
  await db.raw("create index work_order_model on work_order (profile_id, at)");
}

export async function down(db: Knex): Promise<void> {
  await db.raw("drop index work_order_model");
}
