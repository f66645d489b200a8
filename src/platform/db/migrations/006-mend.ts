import type { Knex } from "knex";

/**
 * Work orders and what was done under them, damage on the way, waits, solder work, calibration, tips, hours
 * and pins of the day plan.
 */
export const name = "006-mend";

export async function up(db: Knex): Promise<void> {
  const id = (t: Knex.CreateTableBuilder) => t.uuid("id").primary().defaultTo(db.raw("gen_random_uuid()"));
  const made = (t: Knex.CreateTableBuilder) => {
    t.uuid("by").notNullable().references("person.id");
    t.timestamp("at", { useTz: true }).notNullable().defaultTo(db.fn.now());
  };
  const ofUnit = (t: Knex.CreateTableBuilder) => {
    id(t);
    t.uuid("unit_id").notNullable().references("unit.id");
    made(t);
    t.index(["unit_id", "at"]);
  };

  await db.schema.createTable("work_order", (t) => {
    ofUnit(t);
    t.uuid("profile_id").notNullable().references("model_profile.id");
    t.text("revision");
    t.jsonb("body").notNullable();
    t.text("status").notNullable().defaultTo("open").checkIn(["open", "closed", "dropped"]);
    t.timestamp("closed_at", { useTz: true });
    t.integer("version").notNullable().defaultTo(1);
  });
  await db.raw("create unique index work_order_open on work_order (unit_id) where status = 'open'");
  await db.schema.createTable("work_event", (t) => {
    t.bigIncrements("id");
    t.uuid("work_order_id").notNullable().references("work_order.id");
    t.jsonb("body").notNullable();
    t.double("minutes");
    t.text("note").notNullable().defaultTo("");
    t.uuid("mend_id").references("mend.id");
    /** taken back by the person right after: it counts no more */
    t.boolean("undone").notNullable().defaultTo(false);
    made(t);
    t.index(["work_order_id", "id"]);
  });
  await db.schema.createTable("damage", (t) => {
    ofUnit(t);
    t.text("place").notNullable();
    t.text("what").notNullable();
    t.boolean("clip_lost").notNullable().defaultTo(false);
    /** a clip that the shell holds without */
    t.boolean("still_firm");
    t.text("made_good").notNullable().defaultTo("");
    t.integer("version").notNullable().defaultTo(1);
  });
  await db.schema.createTable("wait", (t) => {
    id(t);
    t.uuid("unit_id").references("unit.id");
    t.text("kind").notNullable();
    t.text("what").notNullable();
    t.timestamp("ends_at", { useTz: true }).notNullable();
    t.timestamp("seen_at", { useTz: true });
    t.uuid("seen_by").references("person.id");
    t.text("outcome").notNullable().defaultTo("");
    made(t);
    t.index(["seen_at", "ends_at"]);
  });
  await db.schema.createTable("heat", (t) => {
    ofUnit(t);
    t.text("job").notNullable();
    t.integer("celsius").notNullable();
    t.text("exception").notNullable().defaultTo("");
    t.text("method").notNullable();
    t.jsonb("chips").notNullable();
    t.text("shielded").notNullable().defaultTo("");
    t.jsonb("holes").notNullable();
    t.jsonb("joints").notNullable();
  });
  await db.schema.createTable("calibration", (t) => {
    ofUnit(t);
    t.text("stick").notNullable();
    t.text("part").notNullable().checkIn(["centre", "range"]);
    t.uuid("recording_id").notNullable().references("recording.id");
    t.jsonb("table_before").notNullable();
    t.jsonb("table_after").notNullable();
    t.jsonb("read_back");
    t.timestamp("saved_at", { useTz: true });
    t.text("port").notNullable();
  });
  await db.schema.createTable("tip", (t) => {
    id(t);
    t.text("model").notNullable();
    t.text("step");
    t.text("kind").notNullable().checkIn(["surprise", "better-idea", "tip", "missed", "step"]);
    t.text("words").notNullable();
    t.text("source").notNullable().defaultTo("");
    t.text("state").notNullable().defaultTo("open").checkIn(["open", "confirmed", "refuted", "adopted"]);
    t.uuid("unit_id").references("unit.id");
    t.jsonb("body");
    made(t);
    t.index(["model", "step"]);
  });
  await db.schema.createTable("day_pin", (t) => {
    t.text("task").primary();
    t.uuid("person_id").notNullable().references("person.id");
    t.timestamp("start_at", { useTz: true }).notNullable();
    made(t);
  });
  await db.schema.alterTable("unit", (t) => {
    t.date("due_on");
  });
  await db.schema.alterTable("person", (t) => {
    t.integer("skill").notNullable().defaultTo(2);
    t.jsonb("hours");
  });
  await db.schema.alterTable("photo", (t) => {
    t.text("step");
  });
}

export async function down(db: Knex): Promise<void> {
  await db.schema.alterTable("photo", (t) => t.dropColumn("step"));
  await db.schema.alterTable("person", (t) => t.dropColumns("skill", "hours"));
  await db.schema.alterTable("unit", (t) => t.dropColumn("due_on"));
  for (const table of ["day_pin", "tip", "calibration", "heat", "wait", "damage", "work_event", "work_order"])
    await db.schema.dropTable(table);
}
