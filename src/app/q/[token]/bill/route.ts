import { paperName } from "@/features/papers/words/text";
import { billByToken } from "@/features/questions/page/view";
import { loadSettings } from "@/features/settings/settings";
import { houseDatabase } from "@/platform/db/connection";
import { pdfFile, refusal, route } from "@/platform/http/http";
import { onPaper } from "@/platform/http/paper";

/** The customer's bill as PDF, by the address that they were sent. */
async function get(_request: Request, { params }: { params: Promise<{ token: string }> }): Promise<Response> {
  const db = houseDatabase();
  const bill = await billByToken(db, (await params).token);
  if (!bill) return refusal({ code: "not-found", what: "bill" });
  const { kind, number, body, correctedBy } = bill;
  const { settings } = await loadSettings(db);
  const pdf = await onPaper("printAccount", [{ kind, number, body, address: null, correctedBy }, settings]);
  return pdfFile(pdf, `${paperName(kind, number).replaceAll(" ", "-").toLowerCase()}.pdf`);
}

export const GET = route("GET q/[token]/bill", get);
