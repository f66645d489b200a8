import type { Knex } from "knex";

/** Readings taken at the bench beside recordings, spot tests, and reference units. */
export const name = "002-bench";

const purposes = (list: string) => `
  do $$ declare c text; begin
    select conname into c from pg_constraint
      where conrelid = 'recording'::regclass and contype = 'c' and pg_get_constraintdef(oid) like '%purpose%';
    execute format('alter table recording drop constraint %I', c);
  end $$;
  alter table recording add constraint recording_purpose check (purpose in (${list}));`;

export async function up(db: Knex): Promise<void> {
  await db.raw(purposes("'quick', 'full', 'spot'"));
  await db.schema.alterTable("recording", (t) => {
    // a spot test: which controls it was about and how hard they were pressed
    t.jsonb("spot");
  });
  await db.schema.alterTable("unit", (t) => {
    t.timestamp("reference_since", { useTz: true });
  });
  await db.schema.createTable("bench_reading", (t) => {
    t.uuid("id").primary().defaultTo(db.raw("gen_random_uuid()"));
    t.uuid("unit_id").notNullable().references("unit.id");
    t.text("kind").notNullable();
    t.text("subject").notNullable();
    t.jsonb("reading").notNullable();
    t.jsonb("result").notNullable();
    t.text("verdict").notNullable().checkIn(["pass", "fail", "not-tested"]);
    t.text("instrument").notNullable();
    t.text("host").notNullable();
    t.integer("took_ms");
    t.uuid("by").notNullable().references("person.id");
    t.timestamp("at", { useTz: true }).notNullable().defaultTo(db.fn.now());
    t.index(["unit_id", "kind", "subject", "at"]);
    t.index(["kind", "at"]);
  });
  await db.schema.alterTable("function_check", (t) => {
    t.uuid("reading_id").references("bench_reading.id");
    t.integer("took_ms");
  });
}

export async function down(db: Knex): Promise<void> {
  await db.schema.alterTable("function_check", (t) => {
    t.dropColumns("reading_id", "took_ms");
  });
  await db.schema.dropTable("bench_reading");
  await db.schema.alterTable("unit", (t) => t.dropColumn("reference_since"));
  await db("recording").where({ purpose: "spot" }).delete();
  await db.schema.alterTable("recording", (t) => t.dropColumn("spot"));
  await db.raw(purposes("'quick', 'full'"));
}
