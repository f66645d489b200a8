import { pdfFile, route } from "@/platform/http/http";
import { askedLabels } from "@/platform/http/labels";
import { onPaper } from "@/platform/http/paper";

/** Labels as PDF, sizes in millimetres; /labels/pdf?kind=unit&codes=B-0101,B-0102&w=50&h=25&sheet=1. */
async function get(request: Request): Promise<Response> {
  const asked = await askedLabels(request);
  if ("response" in asked) return asked.response;
  const { labels, size, sheet } = asked;
  return pdfFile(
    await onPaper("printLabels", [labels, size, sheet]),
    labels.length === 1 ? `label-${labels[0]!.code}.pdf` : "labels.pdf",
  );
}

export const GET = route("GET (shop)/labels/pdf", get);
