import { database } from "@/platform/db/connection";
import { answer, reader, route, typed } from "@/platform/http/http";
import { padHistory } from "@/features/test/recordings";

/**
 * What a controller of this name was tested as until now: asked before a test of a unit of another model
 * begins.
 */
async function get(request: Request): Promise<Response> {
  const who = await reader();
  if ("response" in who) return who.response;
  const asked = new URL(request.url).searchParams;
  const [name, model] = [typed(asked.get("name") ?? "", 200), typed(asked.get("model") ?? "", 60)];
  return answer({ ok: true, value: await padHistory(database(), name, model) });
}

export const GET = route("GET controllers", get);
