import { database } from "@/db/connection";
import { answer, bodyUpTo, refusal, writer } from "@/door/http";
import { Refused } from "@/service/base";
import { log } from "@/service/log";
import { MAX_UPLOAD_BYTES, recordingHeadSchema, storeRecording } from "@/service/recordings";

/** Takes a recording: its head as JSON in the header x-recording, its samples as (gzipped) CSV in the body. */
export async function POST(request: Request): Promise<Response> {
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
  try {
    return answer({ ok: true, value: await storeRecording(database(), who.actor, head.data, body) });
  } catch (error) {
    if (error instanceof Refused) return refusal(error.problem);
    log.error({ err: error }, "recording not stored");
    return refusal({ code: "busy" });
  }
}

function parse(text: string | null): unknown {
  try {
    return JSON.parse(decodeURIComponent(text ?? ""));
  } catch {
    return undefined;
  }
}
