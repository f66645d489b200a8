"use client";

import Box from "@mui/material/Box";
import Typography from "@mui/material/Typography";
import Link from "next/link";

import type { Settings } from "@/contract/deeds";
import { REPORTS } from "@/contract/reports";
import type { ResultsView } from "@/features/results/results";
import { day, hoursText, money } from "@/text/format";
import { REPORT_WORDS } from "@/features/results/words/text";
import { ENDING_NAMES } from "@/features/case/words/text";
import { Terms } from "@/features/decide/ui/Terms";
import { Figure, Table } from "@/ui/kit/Table";
import { BigFigure } from "@/features/units/ui/unit/Station";
import { ReportBar } from "./ReportBar";
import { ResultTabs } from "./ResultTabs";
import { say } from "@/features/results/words/words";

type ResultsProps = {
  view: ResultsView;
  models: { key: string; name: string }[];
  shop: Settings;
};

/** What the parts of it are drawn from. */
function resultsOf({ view, models, shop }: ResultsProps) {
  const { totals, latest } = view;
  return { view, models, shop, totals, latest };
}
type ResultsState = ReturnType<typeof resultsOf>;

/** What came of it at a glance, the questions that the reports answer, and the latest units term by term. */
export function Results(props: ResultsProps) {
  const s = resultsOf(props);
  const { view, models, shop } = s;

  return (
    <Box sx={{ display: "grid", gap: 2.5, gridTemplateColumns: "minmax(0,1fr)" }}>
      <Box>
        <ResultTabs current="" />
        <ReportBar from={view.from} to={view.to} models={models} shop={shop} />
      </Box>
      <Totals {...s} />
      <Box
        sx={{
          display: "grid",
          gridTemplateColumns: { xs: "minmax(0,1fr)", md: "minmax(0,1fr) minmax(0,1fr)" },
          gap: 3,
        }}
      >
        <section aria-label={say("questions")}>
          <Typography component="h2" variant="h2">
            {say("whatToAsk")}
          </Typography>
          {REPORTS.map((id) => (
            <Box key={id} sx={{ py: 0.5, borderTop: 1, borderColor: "divider" }}>
              <Link href={`/results/${id}`}>{REPORT_WORDS[id].question}</Link>
            </Box>
          ))}
        </section>
        <LearningTable {...s} />
      </Box>
      <LatestUnits {...s} />
    </Box>
  );
}

function Totals({ totals, shop }: ResultsState) {
  return totals.units === 0 ? (
    <Typography color="text.secondary">{say("noUnitWasClosedInThese")}</Typography>
  ) : (
    <Box sx={{ display: "flex", gap: 5, flexWrap: "wrap", alignItems: "flex-end" }}>
      <BigFigure
        value={money(totals.marginMinor, shop)}
        label={say("marginOfUnitsClosedUnits", { units: totals.units })}
        detail={say("marginMinorAUnit", {
          marginMinor: money(Math.round(totals.marginMinor / totals.units), shop),
        })}
      />
      <BigFigure
        value={
          totals.minutes ? money(Math.round((totals.marginMinor / totals.minutes) * 60), shop) : say("none")
        }
        label={say("anHour")}
        detail={say("minutesAtTheBenchPaidIn", { minutes: hoursText(totals.minutes) })}
      />
      <BigFigure
        value={totals.offMinor === null ? say("none") : money(Math.round(totals.offMinor), shop)}
        label={say("againstForecastAUnit")}
        detail={
          totals.forecast
            ? say("forecastHadAForecast", { forecast: totals.forecast })
            : say("decideBeforeMendingAndThere")
        }
      />
    </Box>
  );
}

function LearningTable({ view }: ResultsState) {
  return (
    <section aria-label={say("learning")}>
      <Typography component="h2" variant="h2">
        {say("firstJobsAgainstLaterOnes")}
      </Typography>
      <Table
        label={say("firstJobsAgainstLaterOnes")}
        heads={[say("model"), say("firstThree"), say("later")]}
        minWidth={300}
      >
        {view.learning.map((l) => (
          <tr key={l.model}>
            <td>{l.model}</td>
            <td>
              <Figure>
                {l.first === null
                  ? say("none")
                  : say("firstMinFirstJobs", { first: Math.round(l.first), firstJobs: l.firstJobs })}
              </Figure>
            </td>
            <td>
              <Figure>
                {l.later === null
                  ? say("noneYet")
                  : say("laterMinLaterJobs", { later: Math.round(l.later), laterJobs: l.laterJobs })}
              </Figure>
            </td>
          </tr>
        ))}
      </Table>
    </section>
  );
}

function LatestUnits({ latest, totals, shop }: ResultsState) {
  return (
    latest.length > 0 && (
      <section aria-label={say("closedUnits")}>
        <Typography component="h2" variant="h2">
          {latest.length < totals.units
            ? say("theLatestLatestOfThem", { latest: latest.length })
            : say("closedUnits")}
        </Typography>
        <Table
          label={say("marginTermByTerm")}
          heads={[say("unit"), say("model"), say("ended"), say("margin"), say("forecast"), say("minutes")]}
        >
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
                <Terms
                  terms={u.terms}
                  total={u.marginMinor}
                  shop={shop}
                  label={say("marginOfTag", { tag: u.tag })}
                />
              </td>
              <td>
                <Figure>{u.forecast ? money(u.forecast.margin, shop) : say("none")}</Figure>
              </td>
              <td>
                <Figure>{u.minutes}</Figure>
              </td>
            </tr>
          ))}
        </Table>
      </section>
    )
  );
}
