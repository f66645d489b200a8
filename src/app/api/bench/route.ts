import { database } from "@/db/connection";
import { answer, reader } from "@/door/http";
import { trays } from "@/service/views";

/** The trays, for the bench strip. */
export async function GET(): Promise<Response> {
  const who = await reader();
  if ("response" in who) return who.response;
  return answer({ ok: true, value: await trays(database()) });
}
