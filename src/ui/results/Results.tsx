"use client";

import Box from "@mui/material/Box";
import Typography from "@mui/material/Typography";
import Link from "next/link";

import type { Settings } from "@/contract/deeds";
import { REPORTS } from "@/contract/reports";
import type { ResultsView } from "@/service/results";
import { day, hoursText, money } from "@/text/format";
import { REPORT_WORDS } from "@/text/reports";
import { ENDING_NAMES } from "@/text/words";
import { Terms } from "@/ui/decide/Terms";
import { Figure, Table } from "@/ui/parts/Table";
import { BigFigure } from "@/ui/unit/Station";
import { ReportBar } from "./ReportBar";
import { ResultTabs } from "./ResultTabs";

/** What came of it at a glance, the questions that the reports answer, and the latest units term by term. */
export function Results({ view, models, shop }: { view: ResultsView; models: { key: string; name: string }[]; shop: Settings }) {
  const { totals, latest } = view;
  return (
    <Box sx={{ display: "grid", gap: 2.5, gridTemplateColumns: "minmax(0,1fr)" }}>
      <Box>
        <ResultTabs current="" />
        <ReportBar from={view.from} to={view.to} models={models} shop={shop} />
      </Box>
      {totals.units === 0 ? (
        <Typography color="text.secondary">No unit was closed in these days. Results begin with the first one.</Typography>
      ) : (
        <Box sx={{ display: "flex", gap: 5, flexWrap: "wrap", alignItems: "flex-end" }}>
          <BigFigure
            value={money(totals.marginMinor, shop)}
            label={`margin of ${totals.units} closed units`}
            detail={`${money(Math.round(totals.marginMinor / totals.units), shop)} a unit`}
          />
          <BigFigure
            value={totals.minutes ? money(Math.round((totals.marginMinor / totals.minutes) * 60), shop) : "none"}
            label="an hour"
            detail={`${hoursText(totals.minutes)} at the bench, paid in the margin`}
          />
          <BigFigure
            value={totals.offMinor === null ? "none" : money(Math.round(totals.offMinor), shop)}
            label="against forecast, a unit"
            detail={totals.forecast ? `${totals.forecast} had a forecast` : "decide before mending and there is one"}
          />
        </Box>
      )}
      <Box sx={{ display: "grid", gridTemplateColumns: { xs: "minmax(0,1fr)", md: "minmax(0,1fr) minmax(0,1fr)" }, gap: 3 }}>
        <section aria-label="Questions">
          <Typography component="h2" variant="h2">
            What to ask
          </Typography>
          {REPORTS.map((id) => (
            <Box key={id} sx={{ py: 0.5, borderTop: 1, borderColor: "divider" }}>
              <Link href={`/results/${id}`}>{REPORT_WORDS[id].question}</Link>
            </Box>
          ))}
        </section>
        <section aria-label="Learning">
          <Typography component="h2" variant="h2">
            First jobs against later ones
          </Typography>
          <Table label="First jobs against later ones" heads={["Model", "First three", "Later"]} minWidth={300}>
            {view.learning.map((l) => (
              <tr key={l.model}>
                <td>{l.model}</td>
                <td>
                  <Figure>{l.first === null ? "none" : `${Math.round(l.first)} min (${l.firstJobs})`}</Figure>
                </td>
                <td>
                  <Figure>{l.later === null ? "none yet" : `${Math.round(l.later)} min (${l.laterJobs})`}</Figure>
                </td>
              </tr>
            ))}
          </Table>
        </section>
      </Box>
      {latest.length > 0 && (
        <section aria-label="Closed units">
          <Typography component="h2" variant="h2">
            {latest.length < totals.units ? `The latest ${latest.length} of them` : "Closed units"}
          </Typography>
          <Table label="Margin, term by term" heads={["Unit", "Model", "Ended", "Margin", "Forecast", "Minutes"]}>
            {latest.map((u) => (
              <tr key={u.unitId}>
                <td>
                  <Link href={`/units/${u.tag}`}>{u.tag}</Link>
                </td>
                <td>{u.model}</td>
                <td>
                  {ENDING_NAMES[u.ending]}, {day(u.closedAt, shop)}
                </td>
                <td>
                  <Terms terms={u.terms} total={u.marginMinor} shop={shop} label={`margin of ${u.tag}`} />
                </td>
                <td>
                  <Figure>{u.forecast ? money(u.forecast.margin, shop) : "none"}</Figure>
                </td>
                <td>
                  <Figure>{u.minutes}</Figure>
                </td>
              </tr>
            ))}
          </Table>
        </section>
      )}
    </Box>
  );
}
