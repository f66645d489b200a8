import { spreadsheetCsv } from "@/core/export/spreadsheet";
import { database } from "@/platform/db/connection";
import { publicAddress } from "@/platform/http/address";
import { csvFile, reader, refusal, route } from "@/platform/http/http";
import { allSales, listings } from "@/features/after/view";
import { say } from "@/words/frame";
import { amountCell, figuresAsIn } from "@/text/format";
import { loadSettings } from "@/features/settings/settings";

/** Listings of what waits to be sold, and everything that was handed over, as CSV. */
async function get(request: Request): Promise<Response> {
  const who = await reader();
  if ("response" in who) return who.response;
  const list = new URL(request.url).searchParams.get("list");
  const address = await publicAddress();
  const { settings } = await loadSettings(database());
  figuresAsIn(settings.locale, settings.currency); // this process may have shown no page yet
  if (list === "listings")
    return csvFile(
      spreadsheetCsv(
        ["tag", "model", "grade", "condition", "price", "warranty_days", "text", "certificate"],
        (await listings(database())).map((l) => [
          l.tag,
          l.model,
          l.grade,
          l.condition,
          amountCell(l.priceMinor),
          l.warrantyDays,
          l.text,
          `${address}/c/${l.token}`,
        ]),
      ),
      "listings.csv",
    );
  if (list === "sales")
    return csvFile(
      spreadsheetCsv(
        [
          "tag",
          "model",
          "kind",
          "channel",
          "price",
          "fees",
          "handed_on",
          "grade",
          "warranty_until",
          "parts_warranty_until",
        ],
        (await allSales(database())).map((s) => [
          s.tag,
          s.model,
          s.kind,
          s.channel,
          amountCell(s.priceMinor),
          amountCell(s.feesMinor),
          s.handedOn,
          s.grade ?? "",
          s.coverUntil ?? "",
          s.partCoverUntil ?? "",
        ]),
      ),
      "sales.csv",
    );
  return refusal({ code: "not-found", what: say("list") });
}

export const GET = route("GET sales", get);
