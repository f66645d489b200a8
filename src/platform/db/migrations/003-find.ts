import type { Knex } from "knex";

/** What was observed and tried on the way to the cause. */
export const name = "003-find";

export async function up(db: Knex): Promise<void> {
  const own = (t: Knex.CreateTableBuilder) => {
    t.uuid("id").primary().defaultTo(db.raw("gen_random_uuid()"));
    t.uuid("unit_id").notNullable().references("unit.id");
    t.uuid("by").notNullable().references("person.id");
    t.timestamp("at", { useTz: true }).notNullable().defaultTo(db.fn.now());
    t.index(["unit_id", "at"]);
  };
  await db.schema.createTable("observation", (t) => {
    own(t);
    t.text("kind").notNullable().checkIn(["function", "check", "place", "point"]);
    t.text("target").notNullable();
    t.text("outcome").notNullable();
    t.double("value");
    t.text("note").notNullable().defaultTo("");
    t.boolean("withdrawn").notNullable().defaultTo(false);
    t.index(["kind", "target"]);
  });
  await db.schema.createTable("attempt", (t) => {
    own(t);
    t.integer("number").notNullable();
    t.text("suspect").notNullable();
    t.text("action").notNullable();
    t.text("expects").notNullable();
    t.text("what").notNullable();
    t.text("outcome").checkIn(["cured", "better", "same", "worse"]);
    t.text("undone").checkIn(["came-back", "stayed-away"]);
    t.uuid("retest_id").references("recording.id");
    t.integer("version").notNullable().defaultTo(1);
    t.unique(["unit_id", "number"]);
  });
  await db.schema.createTable("fragment", (t) => {
    own(t);
    t.integer("number").notNullable();
    t.text("found_at").notNullable();
    t.text("what").notNullable();
    t.text("matched_to");
    t.text("explained").notNullable().defaultTo("");
    t.integer("version").notNullable().defaultTo(1);
    t.unique(["unit_id", "number"]);
  });
  await db.schema.createTable("halving", (t) => {
    own(t);
    t.text("pair").notNullable();
    t.jsonb("items").notNullable();
    t.jsonb("steps").notNullable();
    t.boolean("closed").notNullable().defaultTo(false);
    t.integer("version").notNullable().defaultTo(1);
  });
}

export async function down(db: Knex): Promise<void> {
  for (const table of ["halving", "fragment", "attempt", "observation"]) await db.schema.dropTable(table);
}
