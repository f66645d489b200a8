import { database } from "@/db/connection";
import { answer, bodyUpTo, refusal, route, writer } from "@/door/http";
import { MAX_UPLOAD_BYTES, recordingHeadSchema, storeRecording } from "@/service/recordings";

/** Takes a recording: its head as JSON in the header x-recording, its samples as (gzipped) CSV in the body. */
async function post(request: Request): Promise<Response> {
  const who = await writer(request);
  if ("response" in who) return who.response;
  if (who.actor.role === "viewer") return refusal({ code: "not-allowed", role: who.actor.role });
  const head = recordingHeadSchema.safeParse(parse(request.headers.get("x-recording")));
  if (!head.success)
    return refusal({
      code: "bad-input",
      issues: [{ path: "x-recording", message: "The recording's head is not in the expected form." }],
    });
  const body = await bodyUpTo(request, MAX_UPLOAD_BYTES);
  if (body === null) return refusal({ code: "too-large", limit: `${MAX_UPLOAD_BYTES / 1024 / 1024} MB` });
  return answer({ ok: true, value: await storeRecording(database(), who.actor, head.data, body) });
}

function parse(text: string | null): unknown {
  try {
    return JSON.parse(decodeURIComponent(text ?? ""));
  } catch {
    return undefined;
  }
}

export const POST = route("POST recordings", post);
