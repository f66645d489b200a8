import "server-only";

import type { Knex } from "knex";

import type { Role } from "@/contract/roles";
import { type Actor, nothing, Refused } from "@/platform/deed/base";
import { hashPassword, matches, mustBeHard } from "@/features/account/passwords";
import { endSessionsOf, mustBeConfirmed } from "@/features/account/sessions";
import { loadSettings } from "@/features/settings/settings";
import { deed } from "@/platform/deed/declare";
import { one } from "@/core/base/one";
import { figuresOf } from "@/platform/db/joined";

const WINDOW = "15 minutes";
/**
 * Wrong passwords in that time: of one name from one address, of many names from one address, and of one name
 * from many.
 */
const FAILS_PER_NAME_AND_ADDRESS = 5;
const FAILS_PER_ADDRESS = 30;
const FAILS_PER_NAME = 25;

type PersonRow = { id: string; name: string; role: Role; password_hash: string; active: boolean };
export type PersonNamed = Pick<Actor, "id" | "name" | "role">;

const asPerson = ({ id, name, role }: PersonRow): PersonNamed => ({ id, name, role });

/** Somebody by name, to carry a session over when their id changed. */
export async function personByName(db: Knex, name: string): Promise<PersonNamed | null> {
  const row = await db<PersonRow>("person")
    .where({ active: true })
    .whereRaw("lower(name) = lower(?)", [name])
    .first();
  return row ? asPerson(row) : null;
}

type SignIn = { ok: true; person: PersonNamed } | { ok: false; why: "wrong" | "too-many" };

/**
 * Counts a try before it is judged, one after another for the same name and for the same address: tries in
 * parallel count as well as tries in a row. Null when there were too many.
 */
async function countTry(db: Knex, name: string, address: string): Promise<string | null> {
  return db.transaction(async (trx) => {
    for (const key of [`name ${name}`, `address ${address}`].sort())
      await trx.raw("select pg_advisory_xact_lock(hashtextextended(?, 7))", [key]);
    const row = await figuresOf<{ both: number; by_address: number; by_name: number }>(
      trx("sign_in_attempt")
        .where({ ok: false })
        .whereRaw(`at > now() - interval '${WINDOW}'`)
        .andWhere((q) => q.where({ name }).orWhere({ address })),
      trx.raw(
        `count(*) filter (where name = ? and address = ?)::int as both, count(*) filter (where address = ?)::int as by_address,
         count(*) filter (where name = ?)::int as by_name`,
        [name, address, address, name],
      ),
    );
    if (
      row.both >= FAILS_PER_NAME_AND_ADDRESS ||
      row.by_address >= FAILS_PER_ADDRESS ||
      row.by_name >= FAILS_PER_NAME
    )
      return null;
    // clock_timestamp: now() is when this transaction began to wait
    const made = one(
      (
        await trx("sign_in_attempt")
          .insert({ name, address, ok: false, at: trx.raw("clock_timestamp()") })
          .returning("id")
      )[0],
    );
    return made.id;
  });
}

/**
 * Checks name and password; tries are limited by name, by address and by both together, whether they come in
 * a row or at once.
 */
export async function signIn(db: Knex, rawName: string, password: string, address: string): Promise<SignIn> {
  const name = rawName.trim().toLowerCase();
  const attempt = await countTry(db, name, address);
  if (attempt === null) return { ok: false, why: "too-many" };
  const row = await db<PersonRow>("person").whereRaw("lower(name) = ?", [name]).first();
  const right = await matches(row?.password_hash, password);
  if (!right || !row?.active) return { ok: false, why: "wrong" };
  await db("sign_in_attempt").where({ id: attempt }).update({ ok: true });
  await db("sign_in_attempt").whereRaw("at < now() - interval '1 day'").delete();
  return { ok: true, person: asPerson(row) };
}

export async function insertPerson(db: Knex, name: string, role: Role, password: string): Promise<string> {
  const rows = await db("person")
    .insert({ name, role, password_hash: await hashPassword(password) })
    .onConflict(db.raw("(lower(name))"))
    .ignore()
    .returning("id");
  if (rows.length !== 1) throw new Refused({ code: "name-taken", name });
  return one(rows[0]).id;
}

const houseWords = async (db: Knex): Promise<string[]> => {
  const { settings } = await loadSettings(db);
  return [settings.shopName, settings.town];
};

export const addPerson = deed("person.add", {}, async ({ db, actor, note }, { name, role, password }) => {
  if (role === "lead") mustBeConfirmed(actor);
  mustBeHard(password, [name, ...(await houseWords(db))]);
  const id = await insertPerson(db, name, role, password);
  note("person-added", null, { person: id, name, role });
  return nothing;
});

export const changePerson = deed(
  "person.change",
  {},
  async ({ db, actor, note }, { personId, role, active }) => {
    // all leads are locked, so that two cannot remove each other at once
    const leads = await db<PersonRow>("person").where({ role: "lead", active: true }).forUpdate();
    const isLead = leads.some((l) => l.id === personId);
    if (role === "lead" && active && !isLead) mustBeConfirmed(actor);
    if (isLead && (role !== "lead" || !active) && leads.length === 1)
      throw new Refused({ code: "last-lead" });
    const changed = await db("person").where({ id: personId }).update({ role, active });
    if (changed !== 1) throw new Refused({ code: "not-found", what: "person" });
    if (!active) await endSessionsOf(db, personId, null);
    note("person-changed", null, { person: personId, role, active });
    return nothing;
  },
);

export const changePassword = deed(
  "person.change-password",
  {},
  async ({ db, actor, note }, { current, next }) => {
    const row = await db<PersonRow>("person").where({ id: actor.id }).forUpdate().first();
    if (!row || !(await matches(row.password_hash, current))) throw new Refused({ code: "wrong-password" });
    mustBeHard(next, [row.name, ...(await houseWords(db))]);
    await db("person")
      .where({ id: actor.id })
      .update({ password_hash: await hashPassword(next) });
    await endSessionsOf(db, actor.id, actor.session?.id ?? null);
    note("password-changed", null, {});
    return nothing;
  },
);

export type Person = { id: string; name: string; role: Role; active: boolean };
export const listPeople = (db: Knex): Promise<Person[]> =>
  db("person").select("id", "name", "role", "active").orderBy("name");

/** The changes of this file, for the list of all (features/deeds.ts). */
export const deeds = [addPerson, changePassword, changePerson] as const;
