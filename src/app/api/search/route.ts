import { database } from "@/db/connection";
import { answer, reader } from "@/door/http";
import { searchUnits } from "@/service/views";

/** Units by tag, model or claim, as somebody types. */
export async function GET(request: Request): Promise<Response> {
  const who = await reader();
  if ("response" in who) return who.response;
  const q = (new URL(request.url).searchParams.get("q") ?? "").trim().slice(0, 80);
  return answer({ ok: true, value: q.length < 2 ? [] : await searchUnits(database(), q) });
}
