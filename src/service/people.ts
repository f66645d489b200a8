import "server-only";

import { hash, verify } from "@node-rs/argon2";
import type { Knex } from "knex";

import type { Role } from "@/contract/deeds";
import { type Actor, type Deed, note, nothing, Refused } from "./base";

// argon2id with the parameters that RFC 9106 recommends where memory is scarce: 64 MiB, 3 passes
const HASHING = { memoryCost: 65536, timeCost: 3, parallelism: 1 } as const;
export const hashPassword = (password: string): Promise<string> => hash(password, HASHING);

const WINDOW = "15 minutes";
const FAILS_PER_NAME_AND_ADDRESS = 5;
const FAILS_PER_ADDRESS = 30;
const FAILS_PER_NAME = 25;

type PersonRow = { id: string; name: string; role: Role; password_hash: string; session_epoch: number; active: boolean };

const asActor = (p: PersonRow): Actor => ({ id: p.id, name: p.name, role: p.role, epoch: p.session_epoch });

/** The person of a session cookie, if the account is active and the password was not changed since. */
export async function personOfSession(db: Knex, id: string, epoch: number): Promise<Actor | null> {
  const row = await db<PersonRow>("person").where({ id, session_epoch: epoch, active: true }).first();
  return row ? asActor(row) : null;
}

/** Somebody by name, to carry a session over when their id changed. */
export async function personByName(db: Knex, name: string): Promise<Actor | null> {
  const row = await db<PersonRow>("person").where({ active: true }).whereRaw("lower(name) = lower(?)", [name]).first();
  return row ? asActor(row) : null;
}

type SignIn = { ok: true; actor: Actor } | { ok: false; why: "wrong" | "too-many" };

async function tooMany(db: Knex, name: string, address: string): Promise<boolean> {
  const row = await db("sign_in_attempt")
    .where({ ok: false })
    .whereRaw(`at > now() - interval '${WINDOW}'`)
    .andWhere((q) => q.where({ name }).orWhere({ address }))
    .first(
      db.raw("count(*) filter (where name = ? and address = ?)::int as both", [name, address]),
      db.raw("count(*) filter (where address = ?)::int as by_address", [address]),
      db.raw("count(*) filter (where name = ?)::int as by_name", [name]),
    );
  return row.both >= FAILS_PER_NAME_AND_ADDRESS || row.by_address >= FAILS_PER_ADDRESS || row.by_name >= FAILS_PER_NAME;
}

let decoy: Promise<string> | undefined; // an unknown name costs the same time as a wrong password

/** Checks name and password; attempts are limited per name and address. */
export async function signIn(db: Knex, rawName: string, password: string, address: string): Promise<SignIn> {
  const name = rawName.trim().toLowerCase();
  if (await tooMany(db, name, address)) return { ok: false, why: "too-many" };
  const row = await db<PersonRow>("person").whereRaw("lower(name) = ?", [name]).first();
  const right = await verify(row?.password_hash ?? (await (decoy ??= hashPassword("nobody has this one"))), password).catch(
    () => false,
  );
  const ok = right && row !== undefined && row.active;
  await db("sign_in_attempt").insert({ name, address, ok });
  await db("sign_in_attempt").whereRaw("at < now() - interval '1 day'").delete();
  return ok ? { ok: true, actor: asActor(row) } : { ok: false, why: "wrong" };
}

export async function insertPerson(db: Knex, name: string, role: Role, password: string): Promise<string> {
  const rows = await db("person")
    .insert({ name, role, password_hash: await hashPassword(password) })
    .onConflict(db.raw("(lower(name))"))
    .ignore()
    .returning("id");
  if (rows.length !== 1) throw new Refused({ code: "name-taken", name });
  return rows[0].id;
}

export const addPerson: Deed<"person.add"> = async (db, actor, { name, role, password }) => {
  const id = await insertPerson(db, name, role, password);
  await note(db, actor, "person-added", null, { person: id, name, role });
  return nothing;
};

export const changePerson: Deed<"person.change"> = async (db, actor, { personId, role, active }) => {
  // all leads are locked, so that two cannot remove each other at once
  const leads = await db<PersonRow>("person").where({ role: "lead", active: true }).forUpdate();
  const losesLead = leads.some((l) => l.id === personId) && (role !== "lead" || !active);
  if (losesLead && leads.length === 1) throw new Refused({ code: "last-lead" });
  const changed = await db("person")
    .where({ id: personId })
    .update({ role, active, ...(active ? {} : { session_epoch: db.raw("session_epoch + 1") }) });
  if (changed !== 1) throw new Refused({ code: "not-found", what: "person" });
  await note(db, actor, "person-changed", null, { person: personId, role, active });
  return nothing;
};

export const changePassword: Deed<"person.change-password"> = async (db, actor, { current, next }) => {
  const row = await db<PersonRow>("person").where({ id: actor.id }).forUpdate().first();
  if (!row || !(await verify(row.password_hash, current).catch(() => false))) throw new Refused({ code: "wrong-password" });
  await db("person")
    .where({ id: actor.id })
    .update({ password_hash: await hashPassword(next), session_epoch: row.session_epoch + 1 });
  await note(db, actor, "password-changed", null, {});
  return nothing;
};

export type Person = { id: string; name: string; role: Role; active: boolean };
export const listPeople = (db: Knex): Promise<Person[]> => db("person").select("id", "name", "role", "active").orderBy("name");
