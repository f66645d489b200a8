import { z } from "@/core/base/schema";

import { database, houseDatabase, inPractice } from "@/platform/db/connection";
import { answer, jsonBody, refusal, route, writer } from "@/platform/http/http";
import { doDeed, isDeed } from "@/features/deeds";
import { say } from "@/words/frame";

const envelopeSchema = z.strictObject({
  requestId: z.uuid(),
  input: z.unknown(),
  /**
   * whose deed it is, and whether it was done at the practice bench: what waited in a browser goes out as
   * theirs or not at all
   */
  by: z.uuid().optional(),
  practice: z.boolean().optional(),
});

/** Every change comes through here: POST /api/do/NAME with a request id and the deed's input. */
async function post(request: Request, { params }: { params: Promise<{ deed: string }> }): Promise<Response> {
  const who = await writer(request);
  if ("response" in who) return who.response;
  const { deed } = await params;
  if (!isDeed(deed)) return refusal({ code: "not-found", what: say("action") });
  const envelope = envelopeSchema.safeParse(await jsonBody(request));
  if (!envelope.success)
    return refusal({ code: "bad-input", issues: [{ path: "", message: say("theRequestIsNotInThe") }] });
  const { by, practice } = envelope.data;
  if (by !== undefined && by !== who.actor.id) return refusal({ code: "other-person" });
  if (practice !== undefined && practice !== inPractice()) return refusal({ code: "other-bench" });
  // people and their calendars are the workshop's also while somebody practises
  const db = /^(person|feed|session)\./.test(deed) ? houseDatabase() : database();
  const reply = await doDeed(db, who.actor, deed, envelope.data.requestId, envelope.data.input);
  return answer(reply);
}

export const POST = route("POST do/[deed]", post);
