import type { Knex } from "knex";

/** Faults are causes with their symptoms under them, and a search by halves has an end. */
export const name = "014-case";

export async function up(db: Knex): Promise<void> {
  await db.schema.createTable("symptom", (t) => {
    t.uuid("id").primary().defaultTo(db.raw("gen_random_uuid()"));
    t.uuid("unit_id").notNullable().references("unit.id");
    t.uuid("fault_id").notNullable().references("fault.id");
    t.text("place").notNullable();
    t.text("kind").notNullable();
    t.text("words").notNullable().defaultTo("");
    t.text("measure");
    t.uuid("recording_id").references("recording.id");
    // found good after a mend, while the fault that it is under stayed
    t.timestamp("cured_at", { useTz: true });
    t.uuid("by").notNullable().references("person.id");
    t.timestamp("at", { useTz: true }).notNullable().defaultTo(db.fn.now());
    t.index(["fault_id"]);
    t.index(["unit_id"]);
  });
  await db.raw(
    "create unique index symptom_once on symptom (fault_id, place, measure) where measure is not null and cured_at is null",
  );
  // the share of the cure that a mend or a try has earned, where several lay between two tests; all of it without
  for (const table of ["mend", "attempt"])
    await db.schema.alterTable(table, (t) => {
      t.double("credit");
    });
  await db.schema.alterTable("halving", (t) => {
    t.timestamp("ended_at", { useTz: true });
  });
  // the last step of a search is in the record of its unit
  await db.raw(
    `update halving h set ended_at = coalesce(
       (select max(e.at) from event e where e.unit_id = h.unit_id and e.kind = 'search-step' and e.at >= h.at), h.at)
     where h.closed`,
  );
}

export async function down(db: Knex): Promise<void> {
  await db.schema.alterTable("halving", (t) => {
    t.dropColumn("ended_at");
  });
  for (const table of ["mend", "attempt"])
    await db.schema.alterTable(table, (t) => {
      t.dropColumn("credit");
    });
  await db.schema.dropTable("symptom");
}
