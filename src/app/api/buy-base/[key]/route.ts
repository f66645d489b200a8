import { database } from "@/platform/db/connection";
import { answer, reader, refusal, route, typed } from "@/platform/http/http";
import { buyBase } from "@/features/buying/deeds";
import { say } from "@/words/frame";

/** What bids on one model are worked out from; for lots of several models. */
async function get(_request: Request, { params }: { params: Promise<{ key: string }> }): Promise<Response> {
  const who = await reader();
  if ("response" in who) return who.response;
  const base = await buyBase(database(), typed((await params).key, 60));
  return base ? answer({ ok: true, value: base }) : refusal({ code: "not-found", what: say("model") });
}

export const GET = route("GET buy-base/[key]", get);
