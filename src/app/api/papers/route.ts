import { spreadsheetCsv } from "@/core/export/spreadsheet";
import { paperBook } from "@/features/papers/view";
import { paperRow, PAPER_COLUMNS } from "@/features/papers/book";
import { loadSettings } from "@/features/settings/settings";
import { database } from "@/platform/db/connection";
import { csvFile, reader, route } from "@/platform/http/http";
import { figuresAsIn } from "@/text/format";

/** Every bill, receipt and offer for whoever keeps the books, oldest first. */
async function get(): Promise<Response> {
  const who = await reader();
  if ("response" in who) return who.response;
  const { settings } = await loadSettings(database());
  figuresAsIn(settings.locale, settings.currency);
  const papers = (await paperBook(database())).reverse();
  return csvFile(spreadsheetCsv(PAPER_COLUMNS, papers.map(paperRow)), "papers.csv");
}

export const GET = route("GET papers", get);
