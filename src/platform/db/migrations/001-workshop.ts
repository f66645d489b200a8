import type { Knex } from "knex";

/** People, models, units and everything recorded about them. */
export const name = "001-workshop";

export async function up(db: Knex): Promise<void> {
  const now = db.fn.now();
  const id = (t: Knex.CreateTableBuilder) => t.uuid("id").primary().defaultTo(db.raw("gen_random_uuid()"));
  const stamp = (t: Knex.CreateTableBuilder) => {
    t.uuid("by").notNullable().references("person.id");
    t.timestamp("at", { useTz: true }).notNullable().defaultTo(now);
  };

  await db.schema.createTable("person", (t) => {
    id(t);
    t.text("name").notNullable();
    t.text("role").notNullable().checkIn(["technician", "lead", "viewer"]);
    t.text("password_hash").notNullable();
    t.integer("session_epoch").notNullable().defaultTo(1);
    t.boolean("active").notNullable().defaultTo(true);
    t.timestamp("created_at", { useTz: true }).notNullable().defaultTo(now);
  });
  await db.raw("create unique index person_name on person (lower(name))");

  await db.schema.createTable("sign_in_attempt", (t) => {
    t.bigIncrements("id");
    t.text("name").notNullable();
    t.text("address").notNullable();
    t.boolean("ok").notNullable();
    t.timestamp("at", { useTz: true }).notNullable().defaultTo(now);
    t.index(["at"]);
  });

  await db.schema.createTable("setting", (t) => {
    t.text("key").primary();
    t.jsonb("value").notNullable();
    t.integer("version").notNullable().defaultTo(1);
  });
  await db.schema.createTable("counter", (t) => {
    t.text("key").primary();
    t.integer("last").notNullable();
  });
  await db("counter").insert({ key: "unit-tag", last: 100 });

  await db.schema.createTable("model_profile", (t) => {
    id(t);
    t.text("key").notNullable();
    t.integer("version").notNullable();
    t.jsonb("body").notNullable();
    stamp(t);
    t.unique(["key", "version"]);
  });

  await db.schema.createTable("customer", (t) => {
    id(t);
    t.text("name").notNullable();
    t.text("contact").notNullable();
    stamp(t);
  });
  await db.schema.createTable("lot", (t) => {
    id(t);
    t.text("code").notNullable().unique();
    t.text("seller").notNullable();
    t.integer("price_minor").notNullable();
    t.integer("carriage_minor").notNullable();
    stamp(t);
  });

  await db.schema.createTable("unit", (t) => {
    id(t);
    t.text("tag").notNullable().unique();
    t.uuid("profile_id").notNullable().references("model_profile.id");
    t.text("revision");
    t.text("source").notNullable().checkIn(["single", "lot", "customer"]);
    t.uuid("lot_id").references("lot.id");
    t.uuid("customer_id").references("customer.id");
    t.text("seller").notNullable().defaultTo("");
    t.integer("price_minor");
    t.integer("carriage_minor");
    t.text("claim").notNullable();
    t.jsonb("intake").notNullable();
    t.boolean("swollen").notNullable().defaultTo(false);
    t.boolean("liquid").notNullable().defaultTo(false);
    t.jsonb("liquid_cleared");
    t.smallint("tray").unique().checkBetween([1, 9]);
    t.text("stage").notNullable();
    t.text("next_action").notNullable();
    t.text("ending");
    t.integer("version").notNullable().defaultTo(1);
    t.uuid("changed_by").notNullable().references("person.id");
    t.timestamp("changed_at", { useTz: true }).notNullable().defaultTo(now);
    t.timestamp("received_at", { useTz: true }).notNullable().defaultTo(now);
    t.timestamp("closed_at", { useTz: true });
    t.index(["stage"]);
    t.index(["received_at"]);
    t.index(["customer_id"]);
    t.index(["lot_id"]);
  });

  await db.schema.createTable("photo", (t) => {
    id(t);
    t.uuid("unit_id").notNullable().references("unit.id");
    t.binary("image").notNullable();
    t.binary("thumb").notNullable();
    t.integer("width").notNullable();
    t.integer("height").notNullable();
    t.text("sha256").notNullable();
    t.text("caption").notNullable().defaultTo("");
    t.boolean("removed").notNullable().defaultTo(false);
    stamp(t);
    t.unique(["unit_id", "sha256"]);
  });

  await db.schema.createTable("recording", (t) => {
    t.uuid("id").primary();
    t.uuid("unit_id").notNullable().references("unit.id");
    t.text("purpose").notNullable().checkIn(["quick", "full"]);
    t.text("source").notNullable().checkIn(["gamepad", "simulated", "playback", "import"]);
    t.jsonb("tester").notNullable();
    t.uuid("profile_id").notNullable().references("model_profile.id");
    t.text("revision");
    t.timestamp("started_at", { useTz: true }).notNullable();
    t.integer("samples").notNullable();
    t.integer("duration_ms").notNullable();
    t.binary("csv_gz").notNullable();
    t.text("sha256").notNullable();
    t.jsonb("analysis").notNullable();
    t.jsonb("plots").notNullable();
    t.jsonb("grades").notNullable();
    t.jsonb("quick");
    t.text("grade").notNullable();
    stamp(t);
    t.index(["unit_id", "started_at"]);
  });

  await db.schema.createTable("function_check", (t) => {
    t.bigIncrements("id");
    t.uuid("unit_id").notNullable().references("unit.id");
    t.text("function_id").notNullable();
    t.text("result").notNullable().checkIn(["pass", "fail", "not-tested", "not-fitted"]);
    t.text("note").notNullable().defaultTo("");
    stamp(t);
    t.index(["unit_id", "function_id", "id"]);
  });

  await db.schema.createTable("fault", (t) => {
    id(t);
    t.uuid("unit_id").notNullable().references("unit.id");
    t.integer("number").notNullable();
    t.text("place").notNullable();
    t.text("kind").notNullable();
    t.text("words").notNullable();
    t.text("found_when").notNullable().checkIn(["intake", "test", "opened", "proof"]);
    t.boolean("claimed").notNullable().defaultTo(false);
    t.text("measure");
    t.uuid("recording_id").references("recording.id");
    t.text("status").notNullable().defaultTo("open").checkIn(["open", "mended", "accepted", "withdrawn"]);
    t.text("status_why").notNullable().defaultTo("");
    t.integer("version").notNullable().defaultTo(1);
    stamp(t);
    t.unique(["unit_id", "number"]);
  });
  await db.raw(
    "create unique index fault_once on fault (unit_id, place, measure) where measure is not null and status = 'open'",
  );

  await db.schema.createTable("mend", (t) => {
    id(t);
    t.uuid("unit_id").notNullable().references("unit.id");
    t.uuid("fault_id").references("fault.id");
    t.integer("number").notNullable();
    t.text("what").notNullable();
    t.text("part").notNullable().defaultTo("");
    t.integer("minutes").notNullable();
    t.text("remark").notNullable().defaultTo("");
    t.boolean("opened").notNullable();
    t.uuid("after_recording_id").references("recording.id");
    t.integer("version").notNullable().defaultTo(1);
    stamp(t);
    t.unique(["unit_id", "number"]);
  });

  await db.schema.createTable("bench_time", (t) => {
    t.bigIncrements("id");
    t.uuid("unit_id").notNullable().references("unit.id");
    t.uuid("person_id").notNullable().references("person.id");
    t.timestamp("began_at", { useTz: true }).notNullable().defaultTo(now);
    t.timestamp("seen_at", { useTz: true }).notNullable().defaultTo(now);
    t.index(["unit_id", "person_id", "seen_at"]);
  });

  await db.schema.createTable("ending", (t) => {
    id(t);
    t.uuid("unit_id").notNullable().references("unit.id");
    t.text("kind")
      .notNullable()
      .checkIn(["released", "returned-unmended", "sold-as-found", "donor", "scrap"]);
    t.text("grade");
    t.integer("price_minor");
    t.integer("warranty_days");
    t.text("known").notNullable().defaultTo("");
    t.text("limit_text").notNullable().defaultTo("");
    t.text("reason").notNullable().defaultTo("");
    t.uuid("proof_id").references("recording.id");
    t.uuid("before_id").references("recording.id");
    stamp(t);
    t.index(["unit_id", "at"]);
  });

  await db.schema.createTable("certificate", (t) => {
    id(t);
    t.uuid("unit_id").notNullable().references("unit.id");
    t.uuid("ending_id").notNullable().references("ending.id");
    t.text("token").notNullable().unique();
    t.jsonb("body").notNullable();
    t.timestamp("revoked_at", { useTz: true });
    t.text("revoked_why").notNullable().defaultTo("");
    stamp(t);
    t.index(["unit_id"]);
  });

  await db.schema.createTable("deed_receipt", (t) => {
    t.uuid("request_id").primary();
    t.text("deed").notNullable();
    t.uuid("person_id").notNullable().references("person.id");
    t.jsonb("reply").notNullable();
    t.timestamp("at", { useTz: true }).notNullable().defaultTo(now);
  });

  await db.schema.createTable("event", (t) => {
    t.bigIncrements("id");
    t.uuid("unit_id").references("unit.id");
    t.text("kind").notNullable();
    t.jsonb("body").notNullable();
    stamp(t);
    t.index(["unit_id", "id"]);
  });
  // what was written about who did what stays as it was written
  await db.raw(`
    create function event_is_append_only() returns trigger language plpgsql as
      $$ begin raise exception 'the record of events is append-only'; end $$;
    create trigger event_append_only before update or delete on event for each row execute function event_is_append_only();
    create trigger event_no_truncate before truncate on event for each statement execute function event_is_append_only();
  `);
}

export async function down(db: Knex): Promise<void> {
  const tables = [
    "event",
    "deed_receipt",
    "certificate",
    "ending",
    "bench_time",
    "mend",
    "fault",
    "function_check",
    "recording",
    "photo",
    "unit",
    "lot",
    "customer",
    "model_profile",
    "counter",
    "setting",
    "sign_in_attempt",
    "person",
  ];
  for (const table of tables) await db.schema.dropTable(table);
  await db.raw("drop function event_is_append_only");
}
