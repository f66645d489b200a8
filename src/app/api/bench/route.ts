import { database } from "@/platform/db/connection";
import { answer, reader, route } from "@/platform/http/http";
import { trays } from "@/features/bench/view";
import { openWaits } from "@/features/waits/deeds";

/** The trays and the waits, for the bench strip. */
async function get(): Promise<Response> {
  const who = await reader();
  if ("response" in who) return who.response;
  return answer({ ok: true, value: { trays: await trays(database()), waits: await openWaits(database()) } });
}

export const GET = route("GET bench", get);
