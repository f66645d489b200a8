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
import type { Plots } from "@/core/plots/plots";
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

/** Where the stick rests and settles, with the limit of the dead zone as circles. */
export function ReleasePlot({
  plot,
  before,
  limits,
}: {
  plot: Plots["sticks"][string];
  before?: Plots["sticks"][string] | null;
  limits: Limits["stick"];
}) {
  const ring = (r: number) =>
    Array.from({ length: 61 }, (_, i) => ({
      x: r * Math.cos((i * Math.PI) / 30),
      y: r * Math.sin((i * Math.PI) / 30),
    }));
  const xy = (ps: [number, number][]) => ps.map(([x, y]) => ({ x, y: -y }));
  const far = Math.max(
    limits.safeDeadZone.C,
    ...plot.settled.map(([x, y]) => Math.hypot(x, y)),
    ...plot.rest.map(([x, y]) => Math.hypot(x, y)),
    ...(before?.settled ?? []).map(([x, y]) => Math.hypot(x, y)),
  );
  const span = Math.min(1, Math.ceil(far * 1.1 * 20) / 20);
  return (
    <Frame
      label={say("settledReleasesSettledTheFarthest", {
        settled: plot.settled.length,
        max: percent(Math.max(0, ...plot.settled.map(([x, y]) => Math.hypot(x, y)))),
        percent: percent(limits.safeDeadZone.A),
      })}
    >
      {(c) => (
        <Scatter
          data={{
            datasets: [
              { data: xy(plot.rest), backgroundColor: `${c.text}66`, pointRadius: 1.5 },
              ...(before
                ? [
                    {
                      data: xy(before.settled),
                      backgroundColor: "transparent",
                      borderColor: c.text,
                      pointRadius: 4,
                      borderWidth: 1.5,
                    },
                  ]
                : []),
              { data: xy(plot.settled), backgroundColor: c.signal, pointRadius: 4 },
              {
                data: ring(limits.safeDeadZone.A),
                showLine: true,
                borderColor: c.pass,
                borderWidth: 1.5,
                pointRadius: 0,
              },
              {
                data: ring(limits.safeDeadZone.C),
                showLine: true,
                borderColor: c.fail,
                borderDash: [4, 4],
                borderWidth: 1.5,
                pointRadius: 0,
              },
            ],
          }}
          options={{
            maintainAspectRatio: true,
            aspectRatio: 1.15,
            plugins: { legend: { display: false }, tooltip: { enabled: false } },
            scales: {
              x: axis(c, say("settledLeftToRight"), -span, span, (v) => `${Math.round(v * 100)} %`),
              y: axis(c, "", -span, span, (v) => `${Math.round(v * 100)} %`),
            },
          }}
        />
      )}
    </Frame>
  );
}

/** The trigger's travel over time, pull by pull. */
export function TriggerPlot({
  pulls,
  before,
  limits,
}: {
  pulls: Plots["triggers"][string];
  before?: Plots["triggers"][string] | null;
  limits: Limits["trigger"];
}) {
  const longest = Math.max(100, ...(before ?? []).flat().map(([t]) => t), ...pulls.flat().map(([t]) => t));
  const top = Math.max(0, ...pulls.flat().map(([, v]) => v));
  return (
    <Frame
      label={say("pullsPullsTheHighestValueTop", {
        pulls: pulls.length,
        top: percent(top),
        percent: percent(limits.fullPull.A),
      })}
    >
      {(c) => (
        <Scatter
          data={{
            datasets: [
              ...(before ?? []).map((p) => ({
                data: p.map(([x, y]) => ({ x, y })),
                showLine: true,
                borderColor: c.text,
                borderDash: [2, 3],
                borderWidth: 1.5,
                pointRadius: 0,
              })),
              ...pulls.map((p, i) => ({
                data: p.map(([x, y]) => ({ x, y })),
                showLine: true,
                borderColor: i === 0 ? c.signal : `${c.signal}77`,
                borderWidth: 2,
                pointRadius: 0,
              })),
              {
                data: flat(limits.fullPull.A, longest),
                showLine: true,
                borderColor: c.pass,
                borderWidth: 1,
                pointRadius: 0,
              },
              {
                data: flat(limits.fullPull.C, longest),
                showLine: true,
                borderColor: c.fail,
                borderDash: [4, 4],
                borderWidth: 1,
                pointRadius: 0,
              },
            ],
          }}
          options={{
            maintainAspectRatio: false,
            plugins: { legend: { display: false }, tooltip: { enabled: false } },
            scales: {
              x: axis(c, say("msFromTheStartOfThe"), 0, longest),
              y: axis(c, say("travel"), 0, 1.05, (v) => `${Math.round(v * 100)} %`),
            },
          }}
        />
      )}
    </Frame>
  );
}

/** For each cue, how long the press took to come; a miss stands as a full red bar. */
export function PressPlot({ presses }: { presses: Plots["buttons"][string] }) {
  const missed = presses.filter((p) => p === null).length;
  return (
    <Frame label={say("pressesCuesMissedWithoutAPress", { presses: presses.length, missed })} height={170}>
      {(c) => (
        <Bar
          data={{
            labels: presses.map((_, i) => i + 1),
            datasets: [
              {
                data: presses.map((p) => (p ? p[0] : 450)),
                backgroundColor: presses.map((p) => (p ? c.signal : c.fail)),
                barPercentage: 0.7,
              },
            ],
          }}
          options={{
            maintainAspectRatio: false,
            plugins: { legend: { display: false }, tooltip: { enabled: false } },
            scales: {
              x: {
                title: { display: true, text: missed ? say("cueAFullBarIsA") : say("cue"), color: c.text },
                ticks: { color: c.text },
                grid: { display: false },
              },
              y: axis(c, say("msToThePress"), -150, 450),
            },
          }}
        />
      )}
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
