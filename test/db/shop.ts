import type { Knex } from "knex";

import { connect } from "@/db/connection";
import { migrate, rollBack } from "@/db/migrate";
import type { Actor } from "@/service/base";
import { insertPerson } from "@/service/people";
import { importShippedProfiles } from "@/service/shipped";

/** An empty workshop on the test's database, with a lead, a technician and the shipped models. */
export async function openShop(connections: number): Promise<{ db: Knex; lead: Actor; technician: Actor }> {
  const db = connect(process.env.DATABASE_URL!, connections);
  await migrate(db);
  const person = async (name: string, role: "lead" | "technician"): Promise<Actor> => ({
    id: await insertPerson(db, name, role, "a-long-password"),
    name,
    role,
    epoch: 1,
  });
  const lead = await person("Lead", "lead");
  const technician = await person("Tech", "technician");
  await importShippedProfiles(db, lead.id);
  return { db, lead, technician };
}

export async function closeShop(db: Knex): Promise<void> {
  await rollBack(db);
  await db.destroy();
}
