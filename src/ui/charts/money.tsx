"use client";

import type { SurvivalStep } from "@/core/decide/survival";
import { type Colours, axis, Frame } from "./frame";
import { Line, Scatter } from "./charts";
import { say } from "@/words/charts";

type Format = (minor: number) => string;

type BidPoint = { bid: number; margin: number; loss: number };
type BidProps = { points: BidPoint[]; bid: number | null; format: Format };

function bidWords({ points, bid, format }: BidProps): string {
  const last = points.at(-1)!;
  const at = bid === null ? null : (points.find((p) => p.bid >= bid) ?? last);
  return say("marginFromMarginAtABid", {
    margin: format(points[0]!.margin),
    margin2: format(last.margin),
    bid: format(last.bid),
    loss: Math.round(points[0]!.loss * 100),
    loss2: Math.round(last.loss * 100),
    at: at
      ? say("atTheHighestBidMarginAnd", { margin: format(at.margin), loss: Math.round(at.loss * 100) })
      : "",
  });
}

/** Margin and chance of a loss, and an upright line at the highest bid. */
function bidLines(c: Colours, { points, bid }: BidProps, low: number, high: number) {
  const upright = (x: number) => ({
    label: say("highestBid"),
    data: [
      { x, y: low },
      { x, y: high },
    ],
    borderColor: c.pass,
    borderWidth: 2,
    pointRadius: 0,
    yAxisID: "y",
  });
  return [
    {
      label: say("expectedMargin"),
      data: points.map((p) => ({ x: p.bid, y: p.margin })),
      borderColor: c.signal,
      pointRadius: 0,
      yAxisID: "y",
    },
    {
      label: say("chanceOfALoss"),
      data: points.map((p) => ({ x: p.bid, y: p.loss * 100 })),
      borderColor: c.fail,
      borderDash: [5, 4],
      pointRadius: 0,
      yAxisID: "loss",
    },
    ...(bid === null ? [] : [upright(bid)]),
  ];
}

/** Expected margin and chance of a loss along the bid, with the highest bid marked. */
export function BidPlot(props: BidProps) {
  const { points, format } = props;
  const last = points.at(-1)!;
  const low = Math.min(0, last.margin);
  const high = Math.max(0, points[0]!.margin);
  return (
    <Frame label={bidWords(props)} height={190}>
      {(c) => (
        <Line
          data={{ datasets: bidLines(c, props, low, high) }}
          options={{
            maintainAspectRatio: false,
            plugins: {
              legend: { display: true, labels: { color: c.text, boxWidth: 18, boxHeight: 2 } },
              tooltip: { enabled: false },
            },
            scales: {
              x: axis(c, "bid", 0, last.bid, format),
              y: axis(c, say("expectedMargin"), low, high, format),
              loss: {
                ...axis(c, say("chanceOfALoss2"), 0, 100),
                position: "right",
                grid: { display: false },
              },
            },
          }}
        />
      )}
    </Frame>
  );
}

/** Forecast against fact: on the line it came as expected, above it better. */
export function ForecastPlot({
  units,
  format,
}: {
  units: { tag: string; forecast: number; fact: number }[];
  format: Format;
}) {
  const all = units.flatMap((u) => [u.forecast, u.fact]);
  const low = Math.min(0, ...all) * 1.1;
  const high = Math.max(100, ...all) * 1.1;
  const better = units.filter((u) => u.fact >= u.forecast).length;
  return (
    <Frame
      label={say("forecastAgainstFactOfUnitsClosed", {
        units: units.length,
        better,
        units2: units.length - better,
      })}
      height={300}
    >
      {(c) => (
        <Scatter
          data={{
            datasets: [
              {
                label: "units",
                data: units.map((u) => ({ x: u.forecast, y: u.fact })),
                backgroundColor: c.signal,
                pointRadius: 5,
              },
              {
                label: say("asForecast"),
                data: [
                  { x: low, y: low },
                  { x: high, y: high },
                ],
                borderColor: c.pass,
                borderWidth: 1.5,
                pointRadius: 0,
                showLine: true,
              },
            ],
          }}
          options={{
            maintainAspectRatio: false,
            plugins: {
              legend: { display: false },
              tooltip: {
                callbacks: {
                  label: (i) =>
                    say("tagForecastCame", {
                      tag: units[i.dataIndex]?.tag ?? "",
                      forecast: format(i.parsed.x ?? 0),
                      came: format(i.parsed.y ?? 0),
                    }),
                },
              },
            },
            scales: {
              x: axis(c, say("forecastMargin"), low, high, format),
              y: axis(c, say("marginAsItCame"), low, high, format),
            },
          }}
        />
      )}
    </Frame>
  );
}

/** Share of mends still holding over the days since the sale, a step line a route. */
export function HoldingPlot({
  routes,
}: {
  routes: { name: string; steps: SurvivalStep[]; until: number }[];
}) {
  const until = Math.max(14, ...routes.map((r) => r.until));
  const label = say("stillHoldingByDaysSinceThe", {
    routes: routes
      .map((r) =>
        say("nameHoldingAtDayUntil", {
          name: r.name,
          holding: Math.round((r.steps.at(-1)?.holding ?? 1) * 100),
          until: r.until,
        }),
      )
      .join("; "),
  });
  const dashes = [[], [7, 4], [2, 3], [10, 3, 2, 3]];
  return (
    <Frame label={label} height={260}>
      {(c) => (
        <Line
          data={{
            datasets: routes.map((r, i) => ({
              label: r.name,
              data: [
                { x: 0, y: 100 },
                ...r.steps.map((s) => ({ x: s.days, y: s.holding * 100 })),
                { x: r.until, y: (r.steps.at(-1)?.holding ?? 1) * 100 },
              ],
              stepped: true,
              borderColor: [c.signal, c.pass, c.caution, c.fail][i % 4],
              borderDash: dashes[Math.floor(i / 4) % dashes.length],
              pointRadius: 0,
            })),
          }}
          options={{
            maintainAspectRatio: false,
            plugins: {
              legend: { display: true, labels: { color: c.text, boxWidth: 18, boxHeight: 2 } },
              tooltip: { enabled: false },
            },
            scales: {
              x: axis(c, say("daysSinceTheSale"), 0, until),
              y: axis(c, say("stillHolding"), 0, 100),
            },
          }}
        />
      )}
    </Frame>
  );
}

/** A sampling plan's operating curve, with what was seen of the batch as a band. */
export function OperatingPlot({
  points,
  seen,
}: {
  points: readonly { share: number; taken: number }[];
  seen: { share: number; low: number; high: number } | null;
}) {
  const at = (share: number) =>
    points.reduce((a, p) => (Math.abs(p.share - share) < Math.abs(a.share - share) ? p : a));
  const label = say("chanceThatTheBatchIsTaken", {
    taken: Math.round(100 * at(0.05).taken),
    taken2: Math.round(100 * at(0.25).taken),
    seen: seen
      ? say("seenHereShareBadBetweenLow", {
          share: Math.round(100 * seen.share),
          low: Math.round(100 * seen.low),
          high: Math.round(100 * seen.high),
        })
      : "",
  });
  return (
    <Frame label={label} height={210}>
      {(c) => (
        <Line
          data={{
            datasets: [
              {
                label: "taken",
                data: points
                  .filter((p) => p.share <= 0.6)
                  .map((p) => ({ x: p.share * 100, y: p.taken * 100 })),
                borderColor: c.signal,
                pointRadius: 0,
                tension: 0.2,
              },
              ...(seen
                ? [
                    {
                      label: say("thisBatchNineTimesOfTen"),
                      data: [
                        { x: seen.low * 100, y: 3 },
                        { x: Math.min(60, seen.high * 100), y: 3 },
                      ],
                      borderColor: c.fail,
                      borderWidth: 5,
                      pointRadius: 0,
                    },
                  ]
                : []),
            ],
          }}
          options={{
            maintainAspectRatio: false,
            plugins: {
              legend: { display: true, labels: { color: c.text, boxWidth: 18, boxHeight: 2 } },
              tooltip: { enabled: false },
            },
            scales: {
              x: axis(c, say("badPieces"), 0, 60),
              y: axis(c, say("taken"), 0, 100),
            },
          }}
        />
      )}
    </Frame>
  );
}
