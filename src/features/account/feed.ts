import "server-only";

import { createHash, randomBytes } from "node:crypto";

import ical, { ICalCalendarMethod } from "ical-generator";
import type { Knex } from "knex";

import { allSales } from "@/features/after/view";
import { nothing, Refused } from "@/platform/deed/base";
import { mustBeConfirmed } from "./sessions";
import { loadSettings } from "@/features/settings/settings";
import { deed } from "@/platform/deed/declare";
import { dayOf, daysLater } from "@/core/days/days";
import { rowOf, rowsOf } from "@/platform/db/joined";
import { one } from "@/core/base/one";
import { say } from "@/features/people/words/words";
import type { Id } from "@/core/base/ids";

/**
 * A calendar of due days and ends of cover (RFC 5545) by an address that can be taken back. It names units by
 * tag and nobody.
 */

const TOKEN_BYTES = 20; // 160 random bits
const digest = (token: string) => createHash("sha256").update(token).digest("hex");

export const makeFeed = deed("feed.make", {}, async ({ db, actor, note }, { name }) => {
  mustBeConfirmed(actor);
  const token = randomBytes(TOKEN_BYTES).toString("base64url");
  await db("feed").insert({ person_id: actor.id, token_sha256: digest(token), name });
  note("feed-made", null, { name });
  return { token };
});

export const revokeFeed = deed("feed.revoke", {}, async ({ db, actor, note }, { feedId }) => {
  const changed = await db("feed")
    .where({ id: feedId, person_id: actor.id, revoked_at: null })
    .update({ revoked_at: db.fn.now() });
  if (changed !== 1) throw new Refused({ code: "not-found", what: say("calendarAddress") });
  note("feed-revoked", null, { feedId });
  return nothing;
});

export type FeedView = { id: string; name: string; madeAt: string };

export async function feedsOf(db: Knex, personId: Id<"person">): Promise<FeedView[]> {
  const rows = await db("feed")
    .where({ person_id: personId, revoked_at: null })
    .orderBy("made_at")
    .select("id", "name", "made_at");
  return rows.map((r) => ({ id: r.id, name: r.name, madeAt: r.made_at.toISOString() }));
}

const KEPT_DAYS = 30; // what is long over does not fill a calendar

/**
 * The calendar behind an address; null when it was taken back, its person may not come in any more, or it
 * never was.
 */
export async function calendarOf(db: Knex, token: string, at = new Date()): Promise<string | null> {
  if (!/^[A-Za-z0-9_-]{20,60}$/.test(token)) return null;
  const feed = await rowOf(
    db("feed as f")
      .join("person as p", "p.id", "f.person_id")
      .where({ "f.token_sha256": digest(token), "p.active": true })
      .whereNull("f.revoked_at"),
    { f: "feed", p: "person" },
    "f.id",
  );
  if (!feed) return null;
  const { settings } = await loadSettings(db);
  const since = daysLater(dayOf(at, settings.timeZone), -KEPT_DAYS);
  const due = await rowsOf(
    db("unit as u")
      .join("model_profile as m", "m.id", "u.profile_id")
      .whereNotNull("u.due_on")
      .whereNull("u.ending")
      .orderBy(["u.due_on", "u.tag"]),
    { u: "unit", m: "model_profile" },
    "u.id",
    "u.tag",
    "m.name as model",
    "u.due_on as day",
  );
  const calendar = ical({
    name: settings.shopName,
    method: ICalCalendarMethod.PUBLISH,
    prodId: { company: "birdcage", product: "workshop" },
  });
  const add = (id: string, day: string, summary: string) =>
    calendar.createEvent({
      id: `${id}@birdcage`,
      start: new Date(`${day}T00:00:00Z`),
      allDay: true,
      summary,
      stamp: new Date(`${day}T00:00:00Z`),
    });
  for (const u of due) add(`due-${u.id}`, one(u.day), say("tagIsDueModel", { tag: u.tag, model: u.model }));
  for (const s of await allSales(db)) {
    if (s.coverUntil && s.coverUntil >= since)
      add(`cover-${s.tag}`, s.coverUntil, say("tagWarrantyEndsModel", { tag: s.tag, model: s.model }));
    if (s.partCoverUntil && s.partCoverUntil >= since)
      add(
        `part-cover-${s.tag}`,
        s.partCoverUntil,
        say("tagWarrantyOnFittedPartsEnds", { tag: s.tag, model: s.model }),
      );
  }
  return calendar.toString();
}

/** The changes of this file, for the list of all (features/deeds.ts). */
export const deeds = [makeFeed, revokeFeed] as const;
