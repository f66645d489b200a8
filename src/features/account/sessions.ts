import "server-only";

import { createHash, randomBytes } from "node:crypto";

import type { Knex } from "knex";

import { type Actor, nothing, Refused } from "@/platform/deed/base";
import { deed } from "@/platform/deed/declare";
import { computed, rowOf, rowsOf } from "@/platform/db/joined";
import type { Id } from "@/core/base/ids";

/**
 * Sessions are rows: signing out ends one for good, a person sees and ends their own, and one that nobody
 * used for the shop's idle time is over. The browser holds a random token; the row holds its digest.
 */

export const MOST_DAYS = 14;
const TOKEN_BYTES = 32;
const SEEN_EVERY = "1 minute"; // a row is not written at each request
const CONFIRMED_FOR = "5 minutes";
const IDLE_HOURS = 12; // where the shop has saved no settings yet

const digestOf = (token: string): string => createHash("sha256").update(token).digest("hex");

/** Opens a session and answers its token, which is kept nowhere else. */
export async function openSession(
  db: Knex,
  personId: Id<"person">,
  from: { agent: string; address: string },
): Promise<string> {
  const token = randomBytes(TOKEN_BYTES).toString("base64url");
  await db("session")
    .where({ person_id: personId })
    .whereRaw(`at < now() - interval '${MOST_DAYS} days'`)
    .delete();
  await db("session").insert({
    token_sha256: digestOf(token),
    person_id: personId,
    agent: from.agent.slice(0, 200),
    address: from.address.slice(0, 60),
  });
  return token;
}

const LIVE = `s.ended_at is null and s.at > now() - interval '${MOST_DAYS} days'
  and s.seen_at > now() - make_interval(mins => (60 * coalesce((select (value->>'idleHours')::numeric from setting where key = 'shop'), ${IDLE_HOURS}))::int)`;

/**
 * The person of a token while its session lives, and whether they practise. `seen`: a person's own act, not a
 * page that asks by itself.
 */
export async function personOfToken(
  db: Knex,
  token: string,
  seen: boolean,
): Promise<(Actor & { practice: boolean }) | null> {
  const row = await rowOf(
    db("session as s")
      .join("person as p", "p.id", "s.person_id")
      .where({ "s.token_sha256": digestOf(token), "p.active": true })
      .whereRaw(LIVE),
    { s: "session", p: "person" },
    "s.id",
    "p.id as person_id",
    "p.name",
    "p.role",
    computed<{ practice: boolean }>(
      db.raw("(s.practice and to_regclass('practice.exercise') is not null) as practice"),
    ),
    computed<{ confirmed: boolean }>(
      db.raw(`coalesce(s.confirmed_at > now() - interval '${CONFIRMED_FOR}', false) as confirmed`),
    ),
    computed<{ stale: boolean }>(db.raw(`s.seen_at < now() - interval '${SEEN_EVERY}' as stale`)),
  );
  if (!row) return null;
  if (seen && row.stale) await db("session").where({ id: row.id }).update({ seen_at: db.fn.now() });
  const { person_id: id, name, role, practice } = row;
  return { id, name, role, practice, session: { id: row.id, confirmed: row.confirmed } };
}

export async function endSession(db: Knex, token: string): Promise<void> {
  await db("session")
    .where({ token_sha256: digestOf(token), ended_at: null })
    .update({ ended_at: db.fn.now() });
}

/** Ends a person's sessions, but for the one that is kept. */
export async function endSessionsOf(db: Knex, personId: Id<"person">, but: string | null): Promise<void> {
  await db("session")
    .where({ person_id: personId, ended_at: null })
    .modify((q) => void (but !== null && q.whereNot({ id: but })))
    .update({ ended_at: db.fn.now() });
}

/** The person typed their password again just now. */
export const confirmSession = (db: Knex, sessionId: Id<"session">): Promise<number> =>
  db("session").where({ id: sessionId, ended_at: null }).update({ confirmed_at: db.fn.now() });

export const setPractice = (db: Knex, sessionId: Id<"session">, practice: boolean): Promise<number> =>
  db("session").where({ id: sessionId }).update({ practice });

/** Before what cannot be taken back by a colleague: the browser's own session must know its person anew. */
export function mustBeConfirmed(actor: Actor): void {
  if (actor.session && !actor.session.confirmed) throw new Refused({ code: "confirm-password" });
}

export type SessionView = {
  id: string;
  agent: string;
  address: string;
  at: string;
  seenAt: string;
  own: boolean;
};

/** A person's sessions that live, the newest use first. */
export async function sessionsOf(db: Knex, actor: Actor): Promise<SessionView[]> {
  const rows: { id: string; agent: string; address: string; at: Date; seen_at: Date }[] = await rowsOf(
    db("session as s").where({ person_id: actor.id }).whereRaw(LIVE).orderBy("seen_at", "desc"),
    { s: "session" },
    "s.id",
    "s.agent",
    "s.address",
    "s.at",
    "s.seen_at",
  );
  return rows.map((r) => ({
    id: r.id,
    agent: r.agent,
    address: r.address,
    at: r.at.toISOString(),
    seenAt: r.seen_at.toISOString(),
    own: r.id === actor.session?.id,
  }));
}

export const endOwnSession = deed("session.end", {}, async ({ db, actor, note }, { sessionId }) => {
  const ended = await db("session")
    .where({ id: sessionId, person_id: actor.id, ended_at: null })
    .update({ ended_at: db.fn.now() });
  if (ended !== 1) throw new Refused({ code: "not-found", what: "session" });
  note("session-ended", null, { session: sessionId });
  return nothing;
});

/** The changes of this file, for the list of all (features/deeds.ts). */
export const deeds = [endOwnSession] as const;
