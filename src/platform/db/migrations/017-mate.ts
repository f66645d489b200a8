import type { Knex } from "knex";

/** Which unit belongs with which is written at the one that came later; the other finds it by this. */
export const name = "017-mate";

export async function up(db: Knex): Promise<void> {
  await db.raw(
    "create index unit_mate on unit ((intake #>> '{mate,tag}')) where intake #>> '{mate,tag}' is not null",
  );
}

export async function down(db: Knex): Promise<void> {
  await db.raw("drop index unit_mate");
}
