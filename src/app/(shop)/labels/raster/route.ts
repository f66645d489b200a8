import { askedLabels } from "@/platform/http/labels";
import { labelRaster } from "@/print/labels";
import { route } from "@/platform/http/http";

/** One label as dots for a label printer: PNG of one bit a dot, eight a millimetre. */
async function get(request: Request): Promise<Response> {
  const asked = await askedLabels(request);
  if ("response" in asked) return asked.response;
  const png = await labelRaster(asked.labels[0]!, asked.size);
  return new Response(new Uint8Array(png), {
    headers: { "Content-Type": "image/png", "Cache-Control": "no-store" },
  });
}

export const GET = route("GET (shop)/labels/raster", get);
