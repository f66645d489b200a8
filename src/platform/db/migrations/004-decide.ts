import type { Knex } from "knex";

/** What was decided and forecast, what was asked of customers, listings, and how a lot's price is spread. */
export const name = "004-decide";

export async function up(db: Knex): Promise<void> {
  const own = (t: Knex.CreateTableBuilder) => {
    t.uuid("id").primary().defaultTo(db.raw("gen_random_uuid()"));
    t.uuid("by").notNullable().references("person.id");
    t.timestamp("at", { useTz: true }).notNullable().defaultTo(db.fn.now());
  };
  await db.schema.alterTable("mend", (t) => {
    t.text("route");
    t.text("outcome").checkIn(["worked", "failed"]);
    t.integer("part_minor").notNullable().defaultTo(0);
    /** a gift or sample: from whom; it counts for the job and costs no cash */
    t.text("part_gift").notNullable().defaultTo("");
    t.index(["route"]);
    t.text("fallback").notNullable().defaultTo("");
    t.date("review_on");
  });
  await db.schema.alterTable("fault", (t) => {
    t.text("cause").notNullable().defaultTo("not-known");
  });
  await db.schema.alterTable("lot", (t) => {
    t.text("spread_way").notNullable().defaultTo("value").checkIn(["value", "even", "hand"]);
    t.integer("units_promised");
    t.integer("version").notNullable().defaultTo(1);
  });
  await db.schema.alterTable("unit", (t) => {
    t.integer("lot_share_minor");
    t.integer("hand_share_minor");
    /** what it was expected to bring when it arrived, for its share of the lot */
    t.integer("expected_minor");
  });
  await db.schema.createTable("lot_spread", (t) => {
    own(t);
    t.uuid("lot_id").notNullable().references("lot.id");
    t.text("way").notNullable();
    t.text("why").notNullable();
    t.jsonb("shares").notNullable();
    t.index(["lot_id", "at"]);
  });
  await db.schema.createTable("decision", (t) => {
    own(t);
    t.uuid("unit_id").notNullable().references("unit.id");
    t.text("disposition").notNullable();
    t.text("route");
    t.text("why").notNullable().defaultTo("");
    t.jsonb("faults").notNullable();
    /** what was advised, what the standing rules gave, and what is expected of the choice */
    t.jsonb("advised").notNullable();
    t.jsonb("forecast").notNullable();
    t.index(["unit_id", "at"]);
  });
  await db.schema.createTable("listing", (t) => {
    own(t);
    t.text("profile_key").notNullable();
    t.text("words").notNullable();
    t.text("seller").notNullable();
    t.integer("price_minor").notNullable();
    t.integer("carriage_minor").notNullable();
    t.text("risk").notNullable();
    t.integer("worth_minor").notNullable();
    t.integer("highest_minor");
    t.text("status").notNullable().defaultTo("watched").checkIn(["watched", "bought", "passed", "arrived"]);
    t.uuid("unit_id").references("unit.id");
    t.integer("version").notNullable().defaultTo(1);
    t.index(["status", "at"]);
  });
  await db.schema.createTable("question", (t) => {
    own(t);
    t.uuid("unit_id").notNullable().references("unit.id");
    t.integer("number").notNullable();
    t.text("token").notNullable().unique();
    t.jsonb("body").notNullable();
    t.timestamp("expires_at", { useTz: true }).notNullable();
    t.timestamp("withdrawn_at", { useTz: true });
    t.unique(["unit_id", "number"]);
  });
  await db.schema.createTable("answer", (t) => {
    t.bigIncrements("id");
    t.uuid("request_id").notNullable().unique();
    t.uuid("question_id").notNullable().references("question.id");
    t.uuid("fault_id").notNullable().references("fault.id");
    t.text("choice").notNullable();
    /** the option's words and price as they stood when it was answered */
    t.jsonb("wording").notNullable();
    t.text("name").notNullable();
    t.text("words").notNullable().defaultTo("");
    t.text("came_by").notNullable().checkIn(["page", "told"]);
    t.uuid("by").references("person.id");
    t.timestamp("at", { useTz: true }).notNullable().defaultTo(db.fn.now());
    t.index(["question_id", "id"]);
  });
  await db.raw(
    "create trigger answer_append_only before update or delete on answer for each row execute function event_is_append_only()",
  );
  await db.schema.createTable("comeback", (t) => {
    own(t);
    t.uuid("unit_id").notNullable().references("unit.id");
    t.uuid("mend_id").references("mend.id");
    t.text("words").notNullable();
    t.timestamp("released_at", { useTz: true }).notNullable();
    t.index(["unit_id"]);
  });
}

export async function down(db: Knex): Promise<void> {
  for (const table of ["comeback", "answer", "question", "listing", "decision", "lot_spread"])
    await db.schema.dropTable(table);
  await db.schema.alterTable("unit", (t) =>
    t.dropColumns("lot_share_minor", "hand_share_minor", "expected_minor"),
  );
  await db.schema.alterTable("lot", (t) => t.dropColumns("spread_way", "units_promised", "version"));
  await db.schema.alterTable("fault", (t) => t.dropColumns("cause"));
  await db.schema.alterTable("mend", (t) =>
    t.dropColumns("route", "outcome", "part_minor", "part_gift", "fallback", "review_on"),
  );
}
