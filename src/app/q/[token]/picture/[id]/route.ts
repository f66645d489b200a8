import { pictureByToken } from "@/features/questions/page/view";
import { houseDatabase } from "@/platform/db/connection";
import { refusal, route } from "@/platform/http/http";

type Asked = { params: Promise<{ token: string; id: string }> };

/** A photograph that the workshop shows a customer on their page; no other is to be had here. */
async function get(_request: Request, { params }: Asked): Promise<Response> {
  const { token, id } = await params;
  const bytes = await pictureByToken(houseDatabase(), token, id);
  if (!bytes) return refusal({ code: "not-found", what: "photograph" });
  return new Response(new Uint8Array(bytes), {
    headers: { "Content-Type": "image/jpeg", "Cache-Control": "private, max-age=3600" },
  });
}

export const GET = route("GET q/[token]/picture/[id]", get);
