import { database } from "@/db/connection";
import { reader, refusal, typed } from "@/door/http";
import { batchView } from "@/service/batches";
import { labelPdf } from "@/service/documents";
import { loadSettings } from "@/service/settings";
import { loadCatalogue } from "@/service/stock";

/** A batch's label: its code in words and as a code to scan, with what is in it. */
export async function GET(_request: Request, { params }: { params: Promise<{ code: string }> }): Promise<Response> {
  const who = await reader();
  if ("response" in who) return who.response;
  const view = await batchView(database(), typed((await params).code, 24));
  if (!view) return refusal({ code: "not-found", what: "batch" });
  const { value: catalogue } = await loadCatalogue(database());
  const { settings } = await loadSettings(database());
  const name = catalogue.parts.find((p) => p.code === view.batch.part)?.name ?? view.batch.part;
  const pdf = await labelPdf(view.batch.code, `${name}, bin ${view.batch.bin}`, settings.labelWidthMm, settings.labelHeightMm);
  return new Response(Buffer.from(pdf), {
    headers: {
      "Content-Type": "application/pdf",
      "Content-Disposition": `inline; filename="${view.batch.code}.pdf"`,
      "Cache-Control": "no-store",
    },
  });
}
