import type { Knex } from "knex";

/**
 * Batches of parts and every movement of them, inspection, reservations, what is fitted where, donors, orders
 * and plans.
 */
export const name = "005-parts";

export async function up(db: Knex): Promise<void> {
  const own = (t: Knex.CreateTableBuilder) => {
    t.uuid("id").primary().defaultTo(db.raw("gen_random_uuid()"));
    t.uuid("by").notNullable().references("person.id");
    t.timestamp("at", { useTz: true }).notNullable().defaultTo(db.fn.now());
  };
  await db.raw("create sequence batch_number");
  await db.raw("create sequence order_number");
  await db.schema.createTable("purchase_order", (t) => {
    own(t);
    t.text("code").notNullable().unique();
    t.text("supplier").notNullable();
    t.integer("carriage_minor").notNullable();
    t.date("expected_on").notNullable();
    t.text("status").notNullable().defaultTo("open").checkIn(["open", "arrived", "cancelled"]);
    t.index(["status"]);
  });
  await db.schema.createTable("batch", (t) => {
    own(t);
    t.text("code").notNullable().unique();
    t.text("part").notNullable();
    t.text("source").notNullable().checkIn(["bought", "donor", "split", "found", "returned"]);
    t.text("supplier").notNullable().defaultTo("");
    t.uuid("donor_unit_id").references("unit.id");
    t.text("donor_slot");
    t.uuid("from_batch_id").references("batch.id");
    t.text("bin").notNullable();
    t.integer("pieces").notNullable();
    t.integer("cost_minor").notNullable();
    t.integer("on_hand").notNullable();
    t.integer("reserved").notNullable().defaultTo(0);
    /** what the pieces on hand cost together */
    t.integer("value_minor").notNullable();
    t.text("status").notNullable().checkIn(["waiting", "open", "rejected", "disposed"]);
    t.text("status_why").notNullable().defaultTo("");
    t.text("condition").notNullable().defaultTo("new");
    t.jsonb("figures").notNullable().defaultTo("[]");
    t.integer("version").notNullable().defaultTo(1);
    t.check("on_hand >= 0 and value_minor >= 0", [], "batch_not_below_zero");
    t.check("reserved >= 0 and reserved <= on_hand", [], "batch_reserved_on_hand");
    t.check("on_hand > 0 or value_minor = 0", [], "batch_value_of_nothing");
    t.index(["part", "status"]);
    t.index(["donor_unit_id", "donor_slot"]);
    t.index(["from_batch_id"]);
  });
  await db.schema.createTable("order_line", (t) => {
    t.uuid("id").primary().defaultTo(db.raw("gen_random_uuid()"));
    t.uuid("order_id").notNullable().references("purchase_order.id");
    t.text("part").notNullable();
    t.integer("pack").notNullable();
    t.integer("packs").notNullable();
    t.integer("cost_minor").notNullable();
    t.uuid("batch_id").references("batch.id");
    t.index(["order_id"]);
  });
  await db.schema.createTable("movement", (t) => {
    t.bigIncrements("id");
    t.uuid("batch_id").notNullable().references("batch.id");
    t.text("kind").notNullable();
    t.integer("delta").notNullable();
    t.integer("minor").notNullable();
    t.uuid("unit_id").references("unit.id");
    t.text("why").notNullable().defaultTo("");
    t.uuid("by").notNullable().references("person.id");
    t.timestamp("at", { useTz: true }).notNullable().defaultTo(db.fn.now());
    t.index(["batch_id", "id"]);
    t.index(["unit_id"]);
  });
  await db.schema.createTable("piece_reading", (t) => {
    own(t);
    t.uuid("batch_id").notNullable().references("batch.id");
    t.integer("number").notNullable();
    t.jsonb("body").notNullable();
    t.text("verdict").notNullable().checkIn(["good", "bad"]);
    t.jsonb("findings").notNullable();
    t.text("instrument").notNullable();
    t.integer("took_ms").notNullable();
    t.unique(["batch_id", "number"]);
  });
  await db.schema.createTable("fitted", (t) => {
    own(t);
    t.uuid("unit_id").notNullable().references("unit.id");
    t.text("slot").notNullable();
    t.text("part").notNullable();
    t.integer("count").notNullable();
    t.uuid("batch_id").references("batch.id");
    t.uuid("from_unit_id").references("unit.id");
    t.uuid("mend_id").references("mend.id");
    t.integer("cost_minor").notNullable();
    t.text("condition").notNullable();
    t.jsonb("figures").notNullable().defaultTo("[]");
    t.text("deviation").notNullable().defaultTo("");
    t.integer("feel");
    t.text("feel_words").notNullable().defaultTo("");
    t.timestamp("removed_at", { useTz: true });
    t.text("removed_why").notNullable().defaultTo("");
    t.index(["unit_id"]);
    t.index(["batch_id"]);
    t.index(["part"]);
  });
  await db.schema.createTable("donor_note", (t) => {
    t.bigIncrements("id");
    t.uuid("unit_id").notNullable().references("unit.id");
    t.text("slot").notNullable();
    t.text("state").notNullable().checkIn(["good", "unknown", "worn", "bad", "gone"]);
    t.text("words").notNullable().defaultTo("");
    t.uuid("by").notNullable().references("person.id");
    t.timestamp("at", { useTz: true }).notNullable().defaultTo(db.fn.now());
    t.index(["unit_id", "slot", "id"]);
  });
  await db.schema.createTable("allocation", (t) => {
    own(t);
    t.jsonb("body").notNullable();
    t.integer("value_minor").notNullable();
  });
  await db.schema.createTable("reservation", (t) => {
    own(t);
    t.uuid("unit_id").notNullable().references("unit.id");
    t.text("slot").notNullable();
    t.text("part").notNullable();
    t.integer("count").notNullable();
    t.uuid("batch_id").references("batch.id");
    t.uuid("donor_unit_id").references("unit.id");
    t.text("donor_slot");
    t.uuid("allocation_id").references("allocation.id");
    t.text("status").notNullable().defaultTo("open").checkIn(["open", "used", "released"]);
    t.index(["unit_id", "status"]);
    t.index(["batch_id", "status"]);
  });
  // a part that is still in its donor is promised once
  await db.raw(
    "create unique index reservation_donor_once on reservation (donor_unit_id, donor_slot) where status = 'open' and donor_unit_id is not null",
  );
  for (const table of ["movement", "piece_reading", "donor_note"])
    await db.raw(
      `create trigger ${table}_append_only before update or delete on ${table} for each row execute function event_is_append_only()`,
    );
}

export async function down(db: Knex): Promise<void> {
  for (const table of [
    "reservation",
    "allocation",
    "donor_note",
    "fitted",
    "piece_reading",
    "movement",
    "order_line",
    "batch",
    "purchase_order",
  ])
    await db.schema.dropTable(table);
  await db.raw("drop sequence batch_number");
  await db.raw("drop sequence order_number");
}
