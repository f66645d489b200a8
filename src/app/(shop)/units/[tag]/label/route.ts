import { z } from "zod";

import { database } from "@/db/connection";
import { reader, refusal, typed } from "@/door/http";
import { labelPdf } from "@/service/documents";
import { loadSettings } from "@/service/settings";
import { unitView } from "@/service/views";

const sizeSchema = z.strictObject({
  w: z.coerce.number().min(15).max(120).optional(),
  h: z.coerce.number().min(10).max(120).optional(),
});

/** The unit's label as PDF, its size in millimetres in the query (w, h) or from the shop's settings. */
export async function GET(request: Request, { params }: { params: Promise<{ tag: string }> }): Promise<Response> {
  const who = await reader();
  if ("response" in who) return who.response;
  const size = sizeSchema.safeParse(Object.fromEntries(new URL(request.url).searchParams));
  if (!size.success)
    return refusal({ code: "bad-input", issues: [{ path: "w, h", message: "15 to 120 mm wide, 10 to 120 mm high" }] });
  const view = await unitView(database(), typed((await params).tag, 20), who.actor);
  if (!view) return refusal({ code: "not-found", what: "unit" });
  const { settings } = await loadSettings(database());
  const pdf = await labelPdf(
    view.unit.tag,
    view.profile.name,
    size.data.w ?? settings.labelWidthMm,
    size.data.h ?? settings.labelHeightMm,
  );
  return new Response(new Uint8Array(pdf), {
    headers: {
      "Content-Type": "application/pdf",
      "Content-Disposition": `inline; filename="label-${view.unit.tag}.pdf"`,
      "Cache-Control": "no-store",
    },
  });
}
