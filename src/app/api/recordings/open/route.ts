import { z } from "@/core/base/schema";

import { database } from "@/platform/db/connection";
import { answer, jsonBody, refusal, route, writer } from "@/platform/http/http";
import { openTest } from "@/features/test/recordings";
import { say } from "@/words/frame";

const askedSchema = z.strictObject({ unitId: z.uuid() });

/** Opens a test: only what is measured under its id from now on was made here. */
async function post(request: Request): Promise<Response> {
  const who = await writer(request);
  if ("response" in who) return who.response;
  if (who.actor.role === "viewer") return refusal({ code: "not-allowed", role: who.actor.role });
  const asked = askedSchema.safeParse(await jsonBody(request, 1024));
  if (!asked.success)
    return refusal({ code: "bad-input", issues: [{ path: "unitId", message: say("whichUnitIsIt") }] });
  return answer({ ok: true, value: await openTest(database(), who.actor, asked.data.unitId) });
}

export const POST = route("POST recordings/open", post);
