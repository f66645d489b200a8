import type { Knex } from "knex";

/** Each fitted part has a cover of its own, said at the release; it was one for all parts of a unit. */

export const name = "009-cover";

export async function up(db: Knex): Promise<void> {
  await db.raw("alter table fitted add column cover_days integer check (cover_days >= 0)");
  await db.raw(
    `update fitted f set cover_days = e.part_warranty_days
     from (select distinct on (unit_id) unit_id, part_warranty_days from ending where kind = 'released' order by unit_id, at desc) e
     where e.unit_id = f.unit_id and f.removed_at is null`,
  );
  await db.raw("alter table ending drop column part_warranty_days");
}

export async function down(db: Knex): Promise<void> {
  await db.raw("alter table ending add column part_warranty_days integer not null default 0");
  await db.raw(
    `update ending e set part_warranty_days = f.days
     from (select unit_id, max(cover_days) as days from fitted where removed_at is null group by unit_id) f
     where f.unit_id = e.unit_id and e.kind = 'released' and f.days is not null`,
  );
  await db.raw("alter table fitted drop column cover_days");
}
