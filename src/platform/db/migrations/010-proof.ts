import type { Knex } from "knex";

/**
 * A recording that was not made here proves nothing, unless a lead takes it as the proof: who, why and when.
 * Made here is what the server opened before its first sample.
 */

export const name = "010-proof";

export async function up(db: Knex): Promise<void> {
  await db.raw(
    `alter table recording add column taken_by uuid references person(id), add column taken_why text, add column taken_at timestamptz,
       add constraint recording_taken check ((taken_by is null) = (taken_why is null) and (taken_by is null) = (taken_at is null))`,
  );
  await db.raw("alter table recording add column opened_at timestamptz");
  // what a live controller measured before tests were opened counted, and goes on counting
  await db.raw("update recording set opened_at = started_at where source = 'gamepad'");
  await db.schema.createTable("test_open", (t) => {
    t.uuid("id").primary();
    t.uuid("unit_id").notNullable().references("unit.id");
    t.uuid("by").notNullable().references("person.id");
    t.timestamp("at", { useTz: true }).notNullable().defaultTo(db.fn.now());
  });
  // the same content twice is no second test
  await db.raw("create index recording_content on recording (sha256)");
  // which models a controller of this name was tested as
  await db.raw("create index recording_pad on recording ((tester->>'label')) where source = 'gamepad'");
}

export async function down(db: Knex): Promise<void> {
  await db.raw("drop index recording_pad");
  await db.raw("drop index recording_content");
  await db.schema.dropTable("test_open");
  await db.raw("alter table recording drop column opened_at");
  await db.raw(
    "alter table recording drop constraint recording_taken, drop column taken_by, drop column taken_why, drop column taken_at",
  );
}
