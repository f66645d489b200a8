import { database } from "@/platform/db/connection";
import { answer, reader, route } from "@/platform/http/http";
import { nextFor } from "@/features/day/deeds";

/** What the day's plan gives the person now. */
async function get(): Promise<Response> {
  const who = await reader();
  if ("response" in who) return who.response;
  return answer({ ok: true, value: await nextFor(database(), who.actor) });
}

export const GET = route("GET next", get);
