import { gunzipSync } from "node:zlib";

import { database } from "@/db/connection";
import { reader, refusal } from "@/door/http";
import { recordingCsv } from "@/service/recordings";

/** The recording in the interchange format. */
export async function GET(_request: Request, { params }: { params: Promise<{ id: string }> }): Promise<Response> {
  const who = await reader();
  if ("response" in who) return who.response;
  const found = await recordingCsv(database(), (await params).id);
  if (!found) return refusal({ code: "not-found", what: "recording" });
  return new Response(new Uint8Array(gunzipSync(found.csvGz)), {
    headers: {
      "Content-Type": "text/csv; charset=utf-8",
      "Content-Disposition": `attachment; filename="${found.name}"`,
      "Cache-Control": "private, max-age=3600",
    },
  });
}
