import { z } from "@/core/base/schema";

import { database } from "@/platform/db/connection";
import { answer, bodyUpTo, refusal, route, writer } from "@/platform/http/http";
import { MAX_PHOTO_BYTES, storePhoto } from "@/features/intake/photos";
import { say } from "@/words/frame";

const querySchema = z.strictObject({
  unit: z.uuid(),
  caption: z.string().max(120).default(""),
  step: z.string().max(80).optional(),
});

/** Takes a photograph of a unit: the picture's bytes in the body. */
async function post(request: Request): Promise<Response> {
  const who = await writer(request);
  if ("response" in who) return who.response;
  if (who.actor.role === "viewer") return refusal({ code: "not-allowed", role: who.actor.role });
  const query = querySchema.safeParse(Object.fromEntries(new URL(request.url).searchParams));
  if (!query.success)
    return refusal({
      code: "bad-input",
      issues: [{ path: "unit", message: say("sayWhichUnitThePictureIs") }],
    });
  const body = await bodyUpTo(request, MAX_PHOTO_BYTES);
  if (body === null)
    return refusal({
      code: "too-large",
      limit: say("mAXPHOTOBYTESMB", { mAXPHOTOBYTES: MAX_PHOTO_BYTES / 1024 / 1024 }),
    });
  return answer({
    ok: true,
    value: await storePhoto(
      database(),
      who.actor,
      query.data.unit,
      query.data.caption,
      body,
      query.data.step ?? null,
    ),
  });
}

export const POST = route("POST photos", post);
