import { database } from "@/platform/db/connection";
import { reader, refusal, route, typed } from "@/platform/http/http";
import { modelByKey } from "@/features/models/deeds";
import { say } from "@/words/frame";

/** A model profile in its open format. */
async function get(_request: Request, { params }: { params: Promise<{ key: string }> }): Promise<Response> {
  const who = await reader();
  if ("response" in who) return who.response;
  const model = await modelByKey(database(), typed((await params).key, 60));
  if (!model) return refusal({ code: "not-found", what: say("model") });
  return new Response(JSON.stringify(model.body, null, 2) + "\n", {
    headers: { "Content-Type": "application/json", "Content-Disposition": `attachment; filename="${model.key}.json"`, "Cache-Control": "no-store" },
  });
}

export const GET = route("GET profiles/[key]", get);
