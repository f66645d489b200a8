import { database } from "@/platform/db/connection";
import { answer, reader, route, typed } from "@/platform/http/http";
import { searchUnits } from "@/features/units/list";

/** Units by tag, model or claim, as somebody types. */
async function get(request: Request): Promise<Response> {
  const who = await reader();
  if ("response" in who) return who.response;
  const q = typed(new URL(request.url).searchParams.get("q") ?? "", 80).trim();
  return answer({ ok: true, value: q.length < 2 ? [] : await searchUnits(database(), q) });
}

export const GET = route("GET search", get);
