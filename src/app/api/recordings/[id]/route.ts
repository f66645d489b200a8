import { Readable } from "node:stream";
import type { ReadableStream as WebStream } from "node:stream/web";
import { createGunzip } from "node:zlib";

import { database } from "@/platform/db/connection";
import { reader, refusal, route } from "@/platform/http/http";
import { recordingCsv } from "@/features/test/recordings";
import { say } from "@/words/frame";

/** The recording in the interchange format. */
async function get(_request: Request, { params }: { params: Promise<{ id: string }> }): Promise<Response> {
  const who = await reader();
  if ("response" in who) return who.response;
  const found = await recordingCsv(database(), (await params).id);
  if (!found) return refusal({ code: "not-found", what: say("recording") });
  const csv = Readable.toWeb(Readable.from([found.csvGz]).pipe(createGunzip())) as WebStream<Uint8Array>;
  return new Response(csv as ReadableStream<Uint8Array>, {
    headers: {
      "Content-Type": "text/csv; charset=utf-8",
      "Content-Disposition": `attachment; filename="${found.name}"`,
      "Cache-Control": "private, max-age=3600",
    },
  });
}

export const GET = route("GET recordings/[id]", get);
