import { caseFileByTag } from "@/features/decide/next";
import { database } from "@/platform/db/connection";
import { reader, refusal, route, typed } from "@/platform/http/http";
import { say } from "@/words/frame";

/** The case of a unit in its open format, as the command `advise` reads it. */
async function get(_request: Request, { params }: { params: Promise<{ tag: string }> }): Promise<Response> {
  const who = await reader();
  if ("response" in who) return who.response;
  const tag = typed((await params).tag, 20);
  const file = await caseFileByTag(database(), tag);
  if (!file) return refusal({ code: "not-found", what: say("unit") });
  return new Response(JSON.stringify(file, null, 2) + "\n", {
    headers: {
      "Content-Type": "application/json",
      "Content-Disposition": `attachment; filename="case-${tag}.json"`,
      "Cache-Control": "no-store",
    },
  });
}

export const GET = route("GET case/[tag]", get);
