import { leftTheHouse } from "@/core/parts/recall";
import { database } from "@/platform/db/connection";
import { publicAddress } from "@/platform/http/address";
import { pdfFile, reader, refusal, route, typed } from "@/platform/http/http";
import { batchView } from "@/features/stock/batch-view";
import { onPaper } from "@/platform/http/paper";
import { loadSettings } from "@/features/settings/settings";
import { loadCatalogue } from "@/features/stock/catalogue";
import { placeWords } from "@/text/names";
import { dayOf } from "@/core/days/days";
import { say } from "@/words/frame";

/** Letters to everybody who has a unit with a piece of a rejected batch. */
async function get(_request: Request, { params }: { params: Promise<{ code: string }> }): Promise<Response> {
  const who = await reader();
  if ("response" in who) return who.response;
  const view = await batchView(database(), typed((await params).code, 24));
  const gone = view?.holders.filter(leftTheHouse) ?? [];
  if (!view || !["rejected", "disposed"].includes(view.batch.status) || gone.length === 0)
    return refusal({ code: "not-found", what: say("letterToWrite") });
  const [{ value: catalogue }, { settings }, address] = await Promise.all([
    loadCatalogue(database()),
    loadSettings(database()),
    publicAddress(),
  ]);
  const part = catalogue.parts.find((p) => p.code === view.batch.part)?.name ?? view.batch.part;
  const pdf = await onPaper("printLetters", [
    gone.map((h) => ({
      to: h.owner || say("toWhoeverHasTag", { tag: h.tag }),
      contact: h.contact,
      tag: h.tag,
      model: h.model,
      soldOn: h.soldOn,
      place: placeWords(h.slot),
      address: h.certificate ? `${address}/c/${h.certificate}` : null,
    })),
    { code: view.batch.code, part, why: view.batch.status_why },
    settings,
    dayOf(new Date(), settings.timeZone),
  ]);
  return pdfFile(pdf, `letters-${view.batch.code}.pdf`);
}

export const GET = route("GET (shop)/parts/[code]/letters", get);
