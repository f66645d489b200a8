"use client";

import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Typography from "@mui/material/Typography";
import dynamic from "next/dynamic";
import { useSearchParams } from "next/navigation";

import type { Settings } from "@/contract/deeds";
import type { Report } from "@/contract/reports";
import { cellText, REPORT_WORDS } from "@/features/results/words/text";
import { FIGURES } from "@/ui/figures";
import { Table } from "@/ui/kit/Table";
import { ReportBar } from "./ReportBar";
import { ResultTabs } from "./ResultTabs";
import { say } from "@/features/results/words/words";
import { Block, Text } from "@/ui/kit/layout";

const ReportPlot = dynamic(() => import("@/ui/charts/report").then((m) => m.ReportPlot), { ssr: false });

/** One report: its question, the filters, the chart, and the same as a table and as a file. */
export function ReportView({
  report,
  models,
  shop,
}: {
  report: Report;
  models: { key: string; name: string }[];
  shop: Settings;
}) {
  const { name, question } = REPORT_WORDS[report.id];
  const query = useSearchParams();
  const empty = report.rows.length === 0;
  return (
    <Box sx={{ display: "grid", gridTemplateColumns: "minmax(0,1fr)" }}>
      <ResultTabs current={report.id} />
      <ReportBar
        from={report.from}
        to={report.to}
        models={models}
        shop={shop}
        groups={report.id === "margin"}
      >
        <Button
          component="a"
          href={`/api/reports/${report.id}?${query.toString()}`}
          variant="outlined"
          sx={{ ml: "auto" }}
        >
          {say("asCSV")}
        </Button>
      </ReportBar>
      <Text component="h2" size="head" after={1} strong>
        {question}
      </Text>
      {empty ? (
        <Typography color="text.secondary">{say("nothingOfThisKindInThese")}</Typography>
      ) : (
        <>
          {report.chart && (
            <ReportPlot
              chart={report.chart}
              question={question}
              format={(v, kind) => cellText(v, kind, shop)}
            />
          )}
          <Block before={2}>
            <Table label={name} heads={report.columns.map((c) => c.label)}>
              {report.rows.map((row, i) => (
                <tr key={i}>
                  {report.columns.map((c) => (
                    <Box
                      key={c.key}
                      component="td"
                      sx={c.kind === "text" ? undefined : { fontFamily: FIGURES, whiteSpace: "nowrap" }}
                    >
                      {cellText(row[c.key] ?? null, c.kind, shop)}
                    </Box>
                  ))}
                </tr>
              ))}
            </Table>
          </Block>
        </>
      )}
      {report.notes.map((n) => (
        <Text key={n} color="text.secondary" size="small" before={1}>
          {n}
        </Text>
      ))}
    </Box>
  );
}
