"use client";

import type { ChartDataset } from "chart.js";

import type { ColumnKind, ReportChart } from "@/contract/reports";
import { Bar, Line } from "./charts";
import { Frame } from "./frame";
import { ForecastPlot, HoldingPlot } from "./money";
import { say } from "@/words/charts";

/** The chart of a report; its table says the same in figures. */
type Format = (value: number, kind: ColumnKind) => string;
type Props = { chart: ReportChart; question: string; format: Format };

// Okabe and Ito's colours, told apart without red and green; each series also has its place in the stack and
// in the legend
const SERIES = ["#0072B2", "#E69F00", "#009E73", "#CC79A7", "#56B4E9", "#D55E00", "#B8A500", "#777777"];

export function ReportPlot({ chart, question, format }: Props) {
  switch (chart.kind) {
    case "scatter":
      return (
        <ForecastPlot
          units={chart.points.map((p) => ({ tag: p.name, forecast: p.x, fact: p.y }))}
          format={(v) => format(v, "money")}
        />
      );
    case "holding":
      return <HoldingPlot routes={chart.lines} />;
    case "stacked":
      return chart.x.length > 12 ? (
        <Areas chart={chart} question={question} />
      ) : (
        <Stacks chart={chart} question={question} />
      );
    case "bars":
      return <Bars chart={chart} question={question} format={format} />;
  }
}

type Stacked = Extract<ReportChart, { kind: "stacked" }>;
const stackedLabel = (chart: Stacked, question: string) =>
  say("questionSeriesAtTheEndAxis", {
    question,
    series: chart.series.map((s) => `${s.name}: ${Math.round(s.values.at(-1) ?? 0)}`).join(", "),
    axis: chart.axis,
  });

/** Counts over the days, one on the other. */
function Areas({ chart, question }: { chart: Stacked; question: string }) {
  return (
    <Frame label={stackedLabel(chart, question)} height={320}>
      {(c) => (
        <Line
          data={{
            labels: chart.x,
            datasets: chart.series.map((s, i): ChartDataset<"line", number[]> => ({
              label: s.name,
              data: s.values,
              fill: i === 0 ? "origin" : "-1", // down to the area below it, so that each keeps the colour of the legend
              backgroundColor: `${SERIES[i % SERIES.length]}BB`,
              borderColor: SERIES[i % SERIES.length]!,
              borderWidth: 1,
              pointRadius: 0,
            })),
          }}
          options={{
            maintainAspectRatio: false,
            interaction: { mode: "index", intersect: false },
            plugins: { legend: { labels: { color: c.text, boxWidth: 14 }, reverse: true } },
            scales: {
              x: { ticks: { color: c.text, maxTicksLimit: 8 }, grid: { color: c.line } },
              y: {
                stacked: true,
                beginAtZero: true,
                title: { display: true, text: chart.axis, color: c.text },
                ticks: { color: c.text },
                grid: { color: c.line },
              },
            },
          }}
        />
      )}
    </Frame>
  );
}

function Stacks({ chart, question }: { chart: Stacked; question: string }) {
  return (
    <Frame label={stackedLabel(chart, question)} height={280}>
      {(c) => (
        <Bar
          data={{
            labels: chart.x,
            datasets: chart.series.map((s, i) => ({
              label: s.name,
              data: s.values,
              backgroundColor: SERIES[i % SERIES.length]!,
            })),
          }}
          options={{
            maintainAspectRatio: false,
            plugins: { legend: { labels: { color: c.text, boxWidth: 14 } } },
            scales: {
              x: { stacked: true, ticks: { color: c.text }, grid: { display: false } },
              y: {
                stacked: true,
                title: { display: true, text: chart.axis, color: c.text },
                ticks: { color: c.text },
                grid: { color: c.line },
              },
            },
          }}
        />
      )}
    </Frame>
  );
}

type BarsChart = Extract<ReportChart, { kind: "bars" }>;

/** A value a bar, with its interval as a thin bar across its end. */
function Bars({ chart, question, format }: { chart: BarsChart; question: string; format: Format }) {
  const { bars, unit } = chart;
  const scaleOf = () => {
    if (unit === "money") return 100;
    if (unit === "share") return 0.01;
    return 1;
  };
  const scale = scaleOf();
  const low = Math.min(0, ...bars.map((b) => b.low ?? b.value)) / scale;
  const high = Math.max(...bars.map((b) => b.high ?? b.value), 0) / scale;
  const label = `${question} ${bars
    .slice(0, 6)
    .map((b) => `${b.name} ${format(b.value, unit)}`)
    .join("; ")}.`;
  const intervals = bars.some((b) => b.low !== null);
  return (
    <Frame label={label} height={Math.max(160, 60 + bars.length * 26)}>
      {(c) => (
        <Bar
          data={{
            labels: bars.map((b) => (b.name.length > 44 ? `${b.name.slice(0, 43)}…` : b.name)),
            datasets: [
              {
                label: "value",
                data: bars.map((b) => b.value / scale),
                backgroundColor: `${c.signal}88`,
                borderColor: c.signal,
                borderWidth: 1,
                barPercentage: 0.75,
                grouped: false,
                order: 2,
              } as ChartDataset<"bar", number[]>,
              ...(intervals
                ? [
                    {
                      label: "interval",
                      data: bars.map((b): [number, number] | null =>
                        b.low === null ? null : [b.low / scale, b.high! / scale],
                      ),
                      backgroundColor: c.text,
                      barPercentage: 0.16,
                      grouped: false,
                      order: 1,
                    } as unknown as ChartDataset<"bar", number[]>,
                  ]
                : []),
            ],
          }}
          options={{
            indexAxis: "y",
            maintainAspectRatio: false,
            plugins: { legend: { display: false }, tooltip: { enabled: false } },
            scales: {
              x: {
                suggestedMin: low,
                suggestedMax: high || 1,
                max: unit === "share" ? Math.max(100, high) : undefined,
                title: { display: true, text: chart.axis + (unit === "share" ? ", %" : ""), color: c.text },
                ticks: { color: c.text },
                grid: { color: c.line },
              },
              y: { ticks: { color: c.text, autoSkip: false }, grid: { display: false } },
            },
          }}
        />
      )}
    </Frame>
  );
}
