import { database } from "@/db/connection";
import { answer, reader } from "@/door/http";
import { trays } from "@/service/views";
import { openWaits } from "@/service/waits";

/** The trays and the waits, for the bench strip. */
export async function GET(): Promise<Response> {
  const who = await reader();
  if ("response" in who) return who.response;
  return answer({ ok: true, value: { trays: await trays(database()), waits: await openWaits(database()) } });
}
