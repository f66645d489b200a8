import { z } from "@/core/base/schema";
import { database, inPractice } from "@/platform/db/connection";
import { answer, bodyUpTo, refusal, route, writer } from "@/platform/http/http";
import { recordingHeadSchema } from "@/contract/recording";
import { MAX_UPLOAD_BYTES, storeRecording } from "@/features/test/recordings";
import { Stopped } from "@/platform/work/pool";
import { say } from "@/words/frame";

/** Whose recording it is, and of which bench: what waited in a browser goes out as theirs or not at all. */
const sentSchema = recordingHeadSchema.extend({ by: z.uuid().optional(), practice: z.boolean().optional() });

/**
 * Takes a recording: its head as JSON in the header x-recording, its samples as (gzipped) CSV in the body.
 */
async function post(request: Request): Promise<Response> {
  const who = await writer(request);
  if ("response" in who) return who.response;
  const sent = sentSchema.safeParse(parse(request.headers.get("x-recording")));
  if (sent.success && sent.data.by !== undefined && sent.data.by !== who.actor.id)
    return refusal({ code: "other-person" });
  if (who.actor.role === "viewer") return refusal({ code: "not-allowed", role: who.actor.role });
  if (!sent.success)
    return refusal({
      code: "bad-input",
      issues: [{ path: "x-recording", message: say("theRecordingsHeadIsNotIn") }],
    });
  const body = await bodyUpTo(request, MAX_UPLOAD_BYTES);
  if (body === null)
    return refusal({
      code: "too-large",
      limit: say("mAXUPLOADBYTESMB", { mAXUPLOADBYTES: MAX_UPLOAD_BYTES / 1024 / 1024 }),
    });
  const { by: _by, practice, ...head } = sent.data;
  if (practice !== undefined && practice !== inPractice()) return refusal({ code: "other-bench" });
  try {
    return answer({
      ok: true,
      value: await storeRecording(database(), who.actor, head, body, request.signal),
    });
  } catch (error) {
    if (error instanceof Stopped) return new Response(null, { status: 499 }); // nobody is there to read it
    throw error;
  }
}

function parse(text: string | null): unknown {
  try {
    return JSON.parse(decodeURIComponent(text ?? ""));
  } catch {
    return undefined;
  }
}

export const POST = route("POST recordings", post);
