import { REPORTS, reportFilterSchema } from "@/contract/reports";
import { spreadsheetCsv } from "@/core/export/spreadsheet";
import { database } from "@/platform/db/connection";
import { csvFile, reader, refusal, route } from "@/platform/http/http";
import { reportOf } from "@/features/results";
import { cellFigure } from "@/features/results/words/text";
import { loadSettings } from "@/features/settings/settings";
import { figuresAsIn } from "@/text/format";
import { say } from "@/words/frame";

/** A report's table as CSV, by the same filters as its page. */
async function get(request: Request, { params }: { params: Promise<{ report: string }> }): Promise<Response> {
  const who = await reader();
  if ("response" in who) return who.response;
  const { report: name } = await params;
  const id = REPORTS.find((r) => r === name);
  if (!id) return refusal({ code: "not-found", what: say("report") });
  const filter = reportFilterSchema.parse(Object.fromEntries(new URL(request.url).searchParams));
  const { settings } = await loadSettings(database());
  figuresAsIn(settings.locale, settings.currency); // this process may have shown no page yet
  const report = await reportOf(database(), id, filter);
  const csv = spreadsheetCsv(
    report.columns.map((c) => c.label),
    report.rows.map((row) => report.columns.map((c) => cellFigure(row[c.key] ?? null, c.kind))),
  );
  return csvFile(csv, `${id}-${report.from}-${report.to}.csv`);
}

export const GET = route("GET reports/[report]", get);
