"use client";

import {
  BarElement,
  CategoryScale,
  Chart,
  type ChartDataset,
  type ChartOptions,
  Filler,
  Legend,
  LineElement,
  LinearScale,
  PointElement,
  ScatterController,
  Tooltip,
} from "chart.js";
import { Bar as RawBar, Line as RawLine, Scatter as RawScatter } from "react-chartjs-2";

import type { Limits } from "@/core/grade/limits";
import { figure, localeOfFigures } from "@/text/format";
import { percent } from "@/text/measures";
import { FAMILY } from "@/ui/theme";
import { say } from "@/words/charts";
import { type Colours, Frame, type XY, axis, flat, unnamed } from "./frame";

Chart.register(
  BarElement,
  CategoryScale,
  Filler,
  Legend,
  LinearScale,
  LineElement,
  PointElement,
  ScatterController,
  Tooltip,
);

Chart.defaults.font.family = FAMILY;

Chart.defaults.font.size = 12;

Chart.defaults.locale = localeOfFigures();

Chart.defaults.animation = false;

export const Bar = unnamed(RawBar);

export const Line = unnamed(RawLine);

export const Scatter = unnamed(RawScatter);

type EdgeProps = {
  profile: (number | null)[];
  before?: (number | null)[] | null;
  limits: Limits["stick"];
};

const edgePoints = (p: (number | null)[]) => p.map((r, k) => ({ x: k * 5 + 2.5, y: r ?? NaN }));
const SIDES: Record<number, string> = {
  0: say("right"),
  90: say("up"),
  180: say("left"),
  270: say("down"),
  360: say("right"),
};

/** The band of grade A, the limit of C, and the edge over the edge as it was. */
function edgeLines(c: Colours, { profile, before, limits }: EdgeProps): ChartDataset<"line", XY[]>[] {
  const line = { pointRadius: 0 };
  const old = { ...line, borderColor: c.text, borderWidth: 1.5, borderDash: [2, 3] };
  return [
    { ...line, data: flat(1 + limits.circularityError.A), borderWidth: 0 },
    {
      ...line,
      data: flat(limits.reachMin.A),
      borderColor: c.pass,
      borderWidth: 1,
      fill: "-1",
      backgroundColor: c.band,
    },
    { ...line, data: flat(limits.reachMin.C), borderColor: c.fail, borderDash: [4, 4], borderWidth: 1 },
    ...(before ? [{ ...old, data: edgePoints(before) }] : []),
    { ...line, data: edgePoints(profile), borderColor: c.signal, borderWidth: 2.5 },
  ];
}

/** The stick's edge unrolled over the angle, with the limits as a band. `before` is laid under it. */
export function EdgePlot(props: EdgeProps) {
  const covered = props.profile.filter((v) => v !== null);
  const low = Math.min(...covered);
  const high = Math.max(...covered);
  const bottom = Math.min(0.8, Math.floor(low * 10) / 10);
  const top = Math.max(1.2, Math.ceil(high * 10) / 10);
  return (
    <Frame
      label={say("edgeOfTheStickOverThe", {
        low: percent(low),
        high: percent(high),
        percent: percent(props.limits.reachMin.A),
      })}
    >
      {(c) => {
        const options: ChartOptions<"line"> = {
          maintainAspectRatio: false,
          plugins: { legend: { display: false }, tooltip: { enabled: false } },
          scales: {
            x: axis(c, say("angle"), 0, 360, (v) => SIDES[v] ?? "", 90),
            y: axis(c, say("reach"), bottom, top, (v) => `${Math.round(v * 100)} %`),
          },
        };
        return <Line data={{ datasets: edgeLines(c, props) }} options={options} />;
      }}
    </Frame>
  );
}

/** A log of a charge or of running down: current and voltage over the minutes, each on its own axis. */
export function LogPlot({
  rows,
}: {
  rows: readonly { minutes: number; volts: number | null; milliamps?: number }[];
}) {
  const longest = Math.max(1, ...rows.map((r) => r.minutes));
  const volts = rows.flatMap((r) => (r.volts === null ? [] : [{ x: r.minutes, y: r.volts }]));
  const current = rows.flatMap((r) => (r.milliamps === undefined ? [] : [{ x: r.minutes, y: r.milliamps }]));
  const high = Math.max(1, ...current.map((p) => p.y));
  const words = [
    current.length
      ? say("currentFromYToY2MA", { y: figure(current[0]!.y), y2: figure(current.at(-1)!.y) })
      : "",
    volts.length
      ? say("voltageFromYToY2V", { y: figure(volts[0]!.y, 2), y2: figure(volts.at(-1)!.y, 2) })
      : "",
  ];
  return (
    <Frame
      label={say("rowsRowsOverLongestMinutesWords", {
        rows: rows.length,
        longest: figure(longest),
        words: words.filter(Boolean).join(", "),
      })}
    >
      {(c) => (
        <Scatter
          data={{
            datasets: [
              {
                data: volts,
                showLine: true,
                borderColor: c.text,
                borderDash: [3, 3],
                borderWidth: 2,
                pointRadius: 0,
                yAxisID: "y",
              },
              {
                data: current,
                showLine: true,
                borderColor: c.signal,
                borderWidth: 2.5,
                pointRadius: 0,
                yAxisID: "y1",
              },
            ],
          }}
          options={{
            maintainAspectRatio: false,
            plugins: { legend: { display: false }, tooltip: { enabled: false } },
            scales: {
              x: axis(c, "minutes", 0, longest),
              y: {
                ...axis(
                  c,
                  say("voltsDotted"),
                  Math.floor(Math.min(...volts.map((p) => p.y), 4) * 2) / 2,
                  Math.ceil(Math.max(...volts.map((p) => p.y), 0.5) * 2) / 2,
                ),
              },
              ...(current.length
                ? {
                    y1: {
                      ...axis(c, "milliamperes", 0, Math.ceil(high / 50) * 50),
                      position: "right" as const,
                    },
                  }
                : {}),
            },
          }}
        />
      )}
    </Frame>
  );
}
