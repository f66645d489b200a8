import { database } from "@/platform/db/connection";
import { csvFile, reader, refusal, route } from "@/platform/http/http";
import { offersCsv, partsCsv, stockCsv } from "@/core/parts/csv";
import { digitsOf } from "@/core/money/money";
import { loadSettings } from "@/features/settings/settings";
import { CSV_KINDS } from "@/contract/parts";
import { loadCatalogue } from "@/features/stock/catalogue";
import { stockRows } from "@/features/stock/deeds";
import { say } from "@/words/frame";

/** Catalogue, offers or stock as CSV. */
async function get(request: Request): Promise<Response> {
  const who = await reader();
  if ("response" in who) return who.response;
  const kind = CSV_KINDS.find((k) => k === new URL(request.url).searchParams.get("kind"));
  if (!kind) return refusal({ code: "not-found", what: say("list") });
  const { value: catalogue } = await loadCatalogue(database());
  const digits = digitsOf((await loadSettings(database())).settings.currency);
  const written = {
    parts: () => partsCsv(catalogue),
    offers: () => offersCsv(catalogue, digits),
    stock: async () => stockCsv(await stockRows(database()), digits),
  };
  return csvFile(await written[kind](), `${kind}.csv`);
}

export const GET = route("GET parts-csv", get);
