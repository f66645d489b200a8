import type { Knex } from "knex";

/** The proof sheet, signed certificates, handing over, calendar feeds, and where units were day by day. */
export const name = "007-release";

export async function up(db: Knex): Promise<void> {
  const id = (t: Knex.CreateTableBuilder) => t.uuid("id").primary().defaultTo(db.raw("gen_random_uuid()"));
  const made = (t: Knex.CreateTableBuilder) => {
    t.uuid("by").notNullable().references("person.id");
    t.timestamp("at", { useTz: true }).notNullable().defaultTo(db.fn.now());
  };

  await db.schema.createTable("proof_check", (t) => {
    t.bigIncrements("id");
    t.uuid("unit_id").notNullable().references("unit.id");
    t.text("key").notNullable();
    t.text("result").notNullable().checkIn(["pass", "fail", "cannot"]);
    t.double("value");
    t.text("note").notNullable().defaultTo("");
    made(t);
    t.index(["unit_id", "key", "id"]);
  });
  await db.raw(
    "create trigger proof_check_append_only before update or delete on proof_check for each row execute function event_is_append_only()",
  );

  await db.schema.createTable("signing_key", (t) => {
    t.text("kid").primary();
    t.jsonb("public_jwk").notNullable();
    /** sealed with the session secret; null once retired, or when it came from another workshop's archive */
    t.text("private_sealed");
    t.timestamp("made_at", { useTz: true }).notNullable().defaultTo(db.fn.now());
    t.timestamp("retired_at", { useTz: true });
  });
  await db.schema.alterTable("certificate", (t) => {
    t.text("jws").notNullable().defaultTo("");
    t.uuid("superseded_by").references("certificate.id");
  });
  await db.schema.alterTable("ending", (t) => {
    t.integer("part_warranty_days").notNullable().defaultTo(0);
  });
  await db.schema.alterTable("unit", (t) => {
    /** when it was handed over after its last ending; null while it is here */
    t.date("handed_on");
  });
  await db.schema.createTable("handover", (t) => {
    id(t);
    t.uuid("unit_id").notNullable().references("unit.id");
    t.uuid("ending_id").notNullable().references("ending.id");
    t.text("kind").notNullable().checkIn(["sold", "returned"]);
    t.text("channel").notNullable().defaultTo("");
    t.integer("price_minor");
    t.integer("fees_minor").notNullable().defaultTo(0);
    t.date("handed_on").notNullable();
    /** the last days of cover, of the unit and of what was fitted */
    t.date("unit_until");
    t.date("parts_until");
    t.text("buyer").notNullable().defaultTo("");
    t.text("contact").notNullable().defaultTo("");
    made(t);
    t.index(["ending_id", "at"]);
    t.index(["unit_id", "at"]);
    t.index(["handed_on", "at"]);
    t.index(["unit_until"]);
    t.index(["parts_until"]);
  });
  await db.schema.alterTable("comeback", (t) => {
    t.uuid("ending_id").references("ending.id");
    t.uuid("fitted_id").references("fitted.id");
    t.boolean("in_warranty");
    t.index(["mend_id"]);
    t.index(["at"]);
  });
  await db.schema.createTable("feed", (t) => {
    id(t);
    t.uuid("person_id").notNullable().references("person.id");
    t.text("token_sha256").notNullable().unique();
    t.text("name").notNullable();
    t.timestamp("made_at", { useTz: true }).notNullable().defaultTo(db.fn.now());
    t.timestamp("revoked_at", { useTz: true });
  });

  // only used on the practice bench: what a unit hides, for whom, and how it was handled
  await db.schema.createTable("exercise", (t) => {
    id(t);
    t.uuid("unit_id").notNullable().references("unit.id");
    t.uuid("person_id").notNullable().references("person.id");
    t.integer("level").notNullable();
    t.text("from_tag").notNullable().defaultTo("");
    t.jsonb("hidden").notNullable();
    t.timestamp("began_at", { useTz: true }).notNullable().defaultTo(db.fn.now());
    t.timestamp("ended_at", { useTz: true });
    t.jsonb("score");
    t.index(["person_id", "began_at"]);
  });

  // what came of each closed unit, added up when it closes: reports read this and never the whole record
  await db.schema.createTable("outcome", (t) => {
    t.uuid("unit_id").primary().references("unit.id");
    t.text("model").notNullable();
    t.text("revision");
    t.text("source").notNullable();
    t.text("seller").notNullable();
    t.text("ending").notNullable();
    t.text("grade");
    t.timestamp("closed_at", { useTz: true }).notNullable();
    t.date("sold_on");
    t.integer("price_minor").notNullable();
    t.integer("margin_minor").notNullable();
    t.integer("minutes").notNullable();
    t.integer("forecast_minor");
    t.integer("forecast_low_minor");
    t.integer("forecast_high_minor");
    t.specificType("routes", "text[]").notNullable();
    t.specificType("families", "text[]").notNullable();
    t.boolean("poor_parcel").notNullable();
    t.boolean("differed").notNullable();
    t.integer("faults").notNullable();
    t.integer("faults_claimed").notNullable();
    t.index(["closed_at"]);
    t.index(["model", "grade", "closed_at"]);
    t.index(["model", "closed_at"]);
  });

  // every stay of a unit at a station, and how the counts changed from day to day
  await db.schema.createTable("stay", (t) => {
    t.bigIncrements("id");
    t.uuid("unit_id").notNullable().references("unit.id");
    t.text("stage").notNullable();
    t.timestamp("came_at", { useTz: true }).notNullable();
    t.timestamp("left_at", { useTz: true });
    t.index(["left_at"]);
  });
  await db.raw("create unique index stay_open on stay (unit_id) where left_at is null");
  await db.schema.createTable("stage_day", (t) => {
    t.date("day").notNullable();
    t.text("model").notNullable();
    t.text("stage").notNullable();
    t.integer("delta").notNullable();
    t.primary(["day", "model", "stage"]);
  });
  // what was in house before this was kept: each unit stands where it stands since it last changed
  await db.raw(`
    insert into stay (unit_id, stage, came_at) select id, stage, least(changed_at, now()) from unit;
    insert into stage_day (day, model, stage, delta)
      select (s.came_at at time zone 'UTC')::date, m.key, s.stage, count(*) from stay s
        join unit u on u.id = s.unit_id join model_profile m on m.id = u.profile_id group by 1, 2, 3;`);
  for (const table of ["mend", "work_event", "fitted", "batch"])
    await db.raw(`create index ${table}_at on ${table} (at)`);
  // reading a name out of a whole profile for every row of a list is what makes lists slow
  await db.raw("alter table model_profile add column name text generated always as (body->>'name') stored");
  await db.raw("create index mend_review on mend (review_on) where review_on is not null");
  await db.raw("create index event_kind on event (kind, id)");
  await db.raw("create index unit_reference on unit (id) where reference_since is not null");
  await db.raw(
    "create index unit_to_hand_over on unit (closed_at) where ending = 'released' and handed_on is null",
  );
  await db.raw(
    "create index fault_mended on fault (place, measure, at) where status = 'mended' and measure is not null",
  );
  // words inside tags and claims, where the server has the extension; without it they are read one by one
  await db.raw(`do $$ begin
    create extension if not exists pg_trgm;
    execute 'create index unit_tag_words on unit using gin (tag gin_trgm_ops)';
    execute 'create index unit_claim_words on unit using gin (claim gin_trgm_ops)';
  exception when others then raise notice 'no trigram index: %', sqlerrm; end $$`);
  await db.raw("create index unit_open on unit (next_action, received_at) where ending is null");
  await db.raw("create index unit_closed on unit (closed_at) where ending is not null");
}

export async function down(db: Knex): Promise<void> {
  for (const table of ["mend", "work_event", "fitted", "batch"]) await db.raw(`drop index ${table}_at`);
  for (const index of ["unit_tag_words", "unit_claim_words"]) await db.raw(`drop index if exists ${index}`);
  for (const index of ["mend_review", "event_kind", "unit_reference", "unit_to_hand_over", "fault_mended"])
    await db.raw(`drop index ${index}`);
  await db.schema.alterTable("unit", (t) => t.dropColumn("handed_on"));
  await db.schema.alterTable("model_profile", (t) => t.dropColumn("name"));
  await db.raw("drop index unit_open");
  await db.raw("drop index unit_closed");
  for (const table of ["exercise", "stage_day", "stay", "outcome", "feed", "handover"])
    await db.schema.dropTable(table);
  await db.schema.alterTable("comeback", (t) => {
    t.dropIndex(["mend_id"]);
    t.dropIndex(["at"]);
    t.dropColumns("ending_id", "fitted_id", "in_warranty");
  });
  await db.schema.alterTable("ending", (t) => t.dropColumn("part_warranty_days"));
  await db.schema.alterTable("certificate", (t) => t.dropColumns("jws", "superseded_by"));
  for (const table of ["signing_key", "proof_check"]) await db.schema.dropTable(table);
}
