import type { Knex } from "knex";

/** Offers, bills and receipts of purchase: numbered without gaps, never edited. */
export const name = "015-papers";

export async function up(db: Knex): Promise<void> {
  await db.schema.createTable("paper", (t) => {
    t.uuid("id").primary().defaultTo(db.raw("gen_random_uuid()"));
    t.text("kind").notNullable().checkIn(["offer", "bill", "receipt"], "paper_kind");
    t.integer("number").notNullable();
    t.uuid("unit_id").notNullable().references("unit.id");
    // a lot is bought with one receipt
    t.uuid("lot_id").references("lot.id");
    // the question, ending, unit or lot that it is about: one paper each, but for corrections
    t.uuid("of_id").notNullable();
    t.uuid("corrects").unique().references("paper.id");
    t.jsonb("body").notNullable();
    t.uuid("by").notNullable().references("person.id");
    t.timestamp("at", { useTz: true }).notNullable().defaultTo(db.fn.now());
    t.unique(["kind", "number"]);
    t.index(["unit_id"]);
    t.index(["lot_id"]);
  });
  await db.raw("create unique index paper_once on paper (kind, of_id) where corrects is null");
  await db.raw(
    "create trigger paper_append_only before update or delete on paper for each row execute function event_is_append_only()",
  );
}

export async function down(db: Knex): Promise<void> {
  await db.schema.dropTable("paper");
}
