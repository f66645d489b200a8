import { createReadStream, createWriteStream } from "node:fs";
import { mkdtemp, rm } from "node:fs/promises";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { Readable, Transform } from "node:stream";
import { pipeline } from "node:stream/promises";
import type { ReadableStream as WebStream } from "node:stream/web";

import { houseDatabase } from "@/platform/db/connection";
import { answer, reader, refusal, route, writer } from "@/platform/http/http";
import { archiveFile } from "@/platform/http/archive-files";
import { openSession } from "@/platform/http/session";
import { MAX_ARCHIVE_BYTES } from "@/features/archive/zip";
import { readArchive } from "@/features/archive/read";
import { Refused } from "@/platform/deed/base";
import { log } from "@/platform/log";
import { personByName } from "@/features/people/deeds";
import { loadSettings } from "@/features/settings/settings";
import { dayOf } from "@/core/days/days";
import { say } from "@/words/frame";

const LIMIT = say("mAXARCHIVEBYTESMB", { mAXARCHIVEBYTES: MAX_ARCHIVE_BYTES / 1024 / 1024 });

/** An archive that was made and checked (POST archive/make), by its key; for leads. */
async function get(request: Request): Promise<Response> {
  const who = await reader();
  if ("response" in who) return who.response;
  if (who.actor.role !== "lead") return refusal({ code: "not-allowed", role: who.actor.role });
  const found = await archiveFile(new URL(request.url).searchParams.get("key") ?? "");
  if (!found) return refusal({ code: "not-found", what: say("archive2") });
  const { settings } = await loadSettings(houseDatabase());
  const day = dayOf(new Date(), settings.timeZone);
  return new Response(Readable.toWeb(createReadStream(found.path)) as ReadableStream<Uint8Array>, {
    headers: {
      "Content-Type": "application/zip",
      "Content-Length": String(found.bytes),
      "Content-Disposition": `attachment; filename="workshop-${day}.zip"`,
      "Cache-Control": "no-store",
      "X-Content-Type-Options": "nosniff",
      "Referrer-Policy": "same-origin",
    },
  });
}

/** Fills an empty workshop from such a file; for leads. The file is the body. */
async function post(request: Request): Promise<Response> {
  const who = await writer(request);
  if ("response" in who) return who.response;
  if (who.actor.role !== "lead") return refusal({ code: "not-allowed", role: who.actor.role });
  if (Number(request.headers.get("content-length") ?? 0) > MAX_ARCHIVE_BYTES || !request.body)
    return refusal({ code: "too-large", limit: LIMIT });
  const folder = await mkdtemp(join(tmpdir(), "birdcage-archive-"));
  const path = join(folder, "sent.zip");
  try {
    await pipeline(
      Readable.fromWeb(request.body as WebStream<Uint8Array>),
      upTo(MAX_ARCHIVE_BYTES),
      createWriteStream(path),
    );
    const value = await readArchive(houseDatabase(), path);
    // the lead may stand in the archive under another id: the session follows the name
    const actor = await personByName(houseDatabase(), who.actor.name);
    if (actor) await openSession(actor);
    log.info({ ...value, by: who.actor.name }, "archive read in");
    return answer({ ok: true, value });
  } finally {
    await rm(folder, { recursive: true, force: true });
  }
}

/** Ends a transfer that is longer than was promised. */
function upTo(most: number): Transform {
  let size = 0;
  return new Transform({
    transform(chunk: Buffer, _encoding, done) {
      size += chunk.length;
      if (size > most) done(new Refused({ code: "too-large", limit: LIMIT }));
      else done(null, chunk);
    },
  });
}

export const GET = route("GET archive", get);
export const POST = route("POST archive", post);
