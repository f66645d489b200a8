import "server-only";

import { getIronSession, type SessionOptions, unsealData } from "iron-session";
import { cookies } from "next/headers";

import { houseDatabase } from "@/db/connection";
import type { Actor } from "@/service/base";
import { personOfSession } from "@/service/people";

/** The signed-in session: a sealed, http-only cookie that names the person and the epoch of their password. */

export const COOKIE = "birdcage_session";
const DAYS_14 = 14 * 24 * 3600;

type Sealed = { personId?: string; epoch?: number };

function secret(): string {
  const value = process.env.SESSION_SECRET;
  if (!value || value.length < 32) throw new Error("SESSION_SECRET must hold at least 32 characters");
  return value;
}

const overTls = () => Boolean(process.env.TLS_CERT) || (process.env.PUBLIC_URL ?? "").startsWith("https:");

const options = (): SessionOptions => ({
  cookieName: COOKIE,
  password: secret(),
  ttl: DAYS_14,
  cookieOptions: { httpOnly: true, sameSite: "lax", secure: overTls(), path: "/" },
});

/** Whether a cookie was sealed here and names somebody. The database is asked again by currentPerson. */
export async function isSealed(cookie: string | undefined): Promise<boolean> {
  if (!cookie) return false;
  const sealed = await unsealData<Sealed>(cookie, { password: secret(), ttl: DAYS_14 }).catch((): Sealed => ({}));
  return typeof sealed.personId === "string";
}

export async function currentPerson(): Promise<Actor | null> {
  const session = await getIronSession<Sealed>(await cookies(), options());
  if (!session.personId || !session.epoch) return null;
  return personOfSession(houseDatabase(), session.personId, session.epoch);
}

/** Whether the person practises; a new or ended session is the workshop's own again (src/db/connection.ts reads it). */
export const PRACTICE_COOKIE = "birdcage_practice";

export async function openSession(actor: Actor): Promise<void> {
  (await cookies()).delete(PRACTICE_COOKIE);
  const session = await getIronSession<Sealed>(await cookies(), options());
  session.personId = actor.id;
  session.epoch = actor.epoch;
  await session.save();
}

export async function closeSession(): Promise<void> {
  (await cookies()).delete(PRACTICE_COOKIE);
  (await getIronSession<Sealed>(await cookies(), options())).destroy();
}
