import { z } from "@/core/base/schema";
import { offerAddress, paperById } from "@/features/papers/view";
import { paperName } from "@/features/papers/words/text";
import { loadSettings } from "@/features/settings/settings";
import { database } from "@/platform/db/connection";
import { publicAddress } from "@/platform/http/address";
import { pdfFile, reader, refusal, route } from "@/platform/http/http";
import { onPaper } from "@/platform/http/paper";

/** An offer, a bill or a receipt as PDF, as it was written; an offer says where it can still be answered. */
async function get(_request: Request, { params }: { params: Promise<{ id: string }> }): Promise<Response> {
  const who = await reader();
  if ("response" in who) return who.response;
  const id = z.uuid().safeParse((await params).id);
  const paper = id.success ? await paperById(database(), id.data) : null;
  if (!paper) return refusal({ code: "not-found", what: "paper" });
  const [{ settings }, page] = await Promise.all([
    loadSettings(database()),
    offerAddress(database(), paper.questionId),
  ]);
  const { kind, number, body, correctedBy } = paper;
  const address = page === null ? null : `${await publicAddress()}${page}`;
  const pdf = await onPaper("printAccount", [{ kind, number, body, address, correctedBy }, settings]);
  return pdfFile(pdf, `${paperName(kind, number).replaceAll(" ", "-").toLowerCase()}.pdf`);
}

export const GET = route("GET (shop)/papers/[id]/pdf", get);
