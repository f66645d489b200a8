import "server-only";

import { getIronSession, type SessionOptions, unsealData } from "iron-session";
import { cookies, headers } from "next/headers";

import { houseDatabase, requestOf } from "@/platform/db/connection";
import type { Actor } from "@/platform/deed/base";
import { endSession, MOST_DAYS, openSession as openRow, personOfToken } from "@/features/account/sessions";

/**
 * The signed-in session: a sealed, http-only cookie around a random token; the session itself is a row that
 * can be ended.
 */

export const COOKIE = "birdcage_session";
const TTL_SECONDS = MOST_DAYS * 24 * 3600;
/** Pages ask these by themselves: they do not keep a session alive that nobody uses. */
const ASKED_BY_PAGES: ReadonlySet<string> = new Set(["/api/bench", "/api/next"]);

type Sealed = { token?: string };

function secret(): string {
  const value = process.env.SESSION_SECRET;
  if (!value || value.length < 32) throw new Error("SESSION_SECRET must hold at least 32 characters");
  return value;
}

const overTls = () => Boolean(process.env.TLS_CERT) || (process.env.PUBLIC_URL ?? "").startsWith("https:");

const options = (): SessionOptions => ({
  cookieName: COOKIE,
  password: secret(),
  ttl: TTL_SECONDS,
  cookieOptions: { httpOnly: true, sameSite: "lax", secure: overTls(), path: "/" },
});

/** Whether a cookie was sealed here. The database is asked by currentPerson whether its session lives. */
export async function isSealed(cookie: string | undefined): Promise<boolean> {
  if (!cookie) return false;
  const sealed = await unsealData<Sealed>(cookie, { password: secret(), ttl: TTL_SECONDS }).catch(
    (): Sealed => ({}),
  );
  return typeof sealed.token === "string";
}

const sealedSession = async () => getIronSession<Sealed>(await cookies(), options());

/**
 * Who asks; it also settles which records the request is about (src/db/connection.ts), which nothing may ask
 * for before.
 */
export async function currentPerson(): Promise<Actor | null> {
  const { token } = await sealedSession();
  if (!token) return null;
  const request = requestOf();
  const found = await personOfToken(houseDatabase(), token, !ASKED_BY_PAGES.has(request?.path ?? ""));
  if (!found) return null;
  const { practice, ...actor } = found;
  if (request) request.bench = practice ? "practice" : "house";
  return actor;
}

/** Signs a person in on this browser; a session that the browser had is ended. */
export async function openSession(person: Pick<Actor, "id">): Promise<void> {
  const session = await sealedSession();
  if (session.token) await endSession(houseDatabase(), session.token);
  const asked = await headers();
  session.token = await openRow(houseDatabase(), person.id, {
    agent: asked.get("user-agent") ?? "",
    address: asked.get("x-birdcage-address") ?? "",
  });
  await session.save();
}

export async function closeSession(): Promise<void> {
  const session = await sealedSession();
  if (session.token) await endSession(houseDatabase(), session.token);
  session.destroy();
}
