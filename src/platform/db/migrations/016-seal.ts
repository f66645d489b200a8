import type { Knex } from "knex";

/** The shop's own seal as it was read when a unit came back. */
export const name = "016-seal";

export async function up(db: Knex): Promise<void> {
  await db.schema.alterTable("comeback", (t) => {
    // null where none was put on
    t.text("seal").checkIn(["whole", "broken", "other"], "comeback_seal");
    t.text("seal_read").notNullable().defaultTo("");
  });
}

export async function down(db: Knex): Promise<void> {
  await db.schema.alterTable("comeback", (t) => {
    t.dropColumn("seal_read");
    t.dropColumn("seal");
  });
}
