import { database } from "@/platform/db/connection";
import { reader, refusal, route } from "@/platform/http/http";
import { photoBytes } from "@/features/intake/photos";
import { say } from "@/words/frame";

async function get(request: Request, { params }: { params: Promise<{ id: string }> }): Promise<Response> {
  const who = await reader();
  if ("response" in who) return who.response;
  const bytes = await photoBytes(
    database(),
    (await params).id,
    new URL(request.url).searchParams.has("small"),
  );
  if (!bytes) return refusal({ code: "not-found", what: say("photograph") });
  return new Response(new Uint8Array(bytes), {
    headers: { "Content-Type": "image/jpeg", "Cache-Control": "private, max-age=86400, immutable" },
  });
}

export const GET = route("GET photos/[id]", get);
