import type { Knex } from "knex";

/**
 * Sessions are rows, so that signing out ends them and each can be seen and ended. An event may be a
 * customer's own: nobody of the shop stands for them.
 */

export const name = "011-sessions";

export async function up(db: Knex): Promise<void> {
  await db.schema.createTable("session", (t) => {
    t.uuid("id").primary().defaultTo(db.raw("gen_random_uuid()"));
    t.text("token_sha256").notNullable().unique();
    t.uuid("person_id").notNullable().references("person.id").onDelete("CASCADE").index();
    t.text("agent").notNullable();
    t.text("address").notNullable();
    t.timestamp("at", { useTz: true }).notNullable().defaultTo(db.fn.now());
    t.timestamp("seen_at", { useTz: true }).notNullable().defaultTo(db.fn.now());
    t.timestamp("confirmed_at", { useTz: true });
    t.boolean("practice").notNullable().defaultTo(false);
    t.timestamp("ended_at", { useTz: true });
  });
  await db.raw("alter table person drop column session_epoch");
  await db.raw("alter table event alter column by drop not null");
  await db.raw(
    "alter table event add constraint event_by_whom check (by is not null or kind = 'question-answered')",
  );
  await db.raw("create index sign_in_attempt_address on sign_in_attempt (address, at)");
}

export async function down(db: Knex): Promise<void> {
  await db.raw("drop index sign_in_attempt_address");
  await db.raw("alter table event drop constraint event_by_whom");
  await db.raw("alter table event disable trigger event_append_only");
  await db.raw(
    "update event set by = coalesce((select q.by from question q where q.unit_id = event.unit_id order by q.at desc limit 1), (select id from person order by created_at limit 1)) where by is null; alter table event alter column by set not null",
  );
  await db.raw("alter table event enable trigger event_append_only");
  await db.raw("alter table person add column session_epoch integer not null default 1");
  await db.schema.dropTable("session");
}
