import { adviceOn } from "@/features/decide/next";
import { database } from "@/platform/db/connection";
import { answer, reader, refusal, route, typed } from "@/platform/http/http";
import { say } from "@/words/frame";

/** The advice on a unit by all that is known now; worked out where it is not kept. */
async function get(_request: Request, { params }: { params: Promise<{ tag: string }> }): Promise<Response> {
  const who = await reader();
  if ("response" in who) return who.response;
  const value = await adviceOn(database(), typed((await params).tag, 20));
  return value ? answer({ ok: true, value }) : refusal({ code: "not-found", what: say("unit") });
}

export const GET = route("GET advice/[tag]", get);
