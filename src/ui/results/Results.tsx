"use client";

import Box from "@mui/material/Box";
import MenuItem from "@mui/material/MenuItem";
import TextField from "@mui/material/TextField";
import Typography from "@mui/material/Typography";
import Link from "next/link";
import { type ReactNode, useState } from "react";

import type { Settings } from "@/contract/deeds";
import type { School } from "@/core/decide/routes";
import type { ClosedUnit, ResultsView } from "@/service/results";
import { FAMILY_WORDS, MAKE_WORDS, SCHOOL_WORDS } from "@/text/decide";
import { day, money } from "@/text/format";
import { ENDING_NAMES } from "@/text/words";
import { ForecastPlot, HoldingPlot } from "@/ui/charts/money";
import { Terms } from "@/ui/decide/Terms";
import { FIGURES } from "@/ui/figures";
import { BigFigure } from "@/ui/unit/Station";

const BY = ["model", "fault", "route", "way", "seller", "make"] as const;
type By = (typeof BY)[number];

/** What came of it: forecast against fact, the shop's own record of each route, and how long mends hold. */
export function Results({ view, shop }: { view: ResultsView; shop: Settings }) {
  const [by, setBy] = useState<By>("model");
  const { units } = view;
  const margin = units.reduce((s, u) => s + u.marginMinor, 0);
  const minutes = units.reduce((s, u) => s + u.minutes, 0);
  const forecast = units.filter((u) => u.forecast !== null);
  const off = forecast.length ? forecast.reduce((s, u) => s + u.marginMinor - u.forecast!.margin, 0) / forecast.length : 0;
  if (units.length === 0)
    return (
      <>
        <Typography component="h1" variant="h1">
          Results
        </Typography>
        <Typography color="text.secondary">No unit is closed yet. Results begin with the first one.</Typography>
      </>
    );
  return (
    <Box sx={{ display: "grid", gap: 3, gridTemplateColumns: "minmax(0,1fr)" }}>
      <Box sx={{ display: "flex", gap: 5, flexWrap: "wrap", alignItems: "flex-end" }}>
        <Typography component="h1" variant="h1">
          Results
        </Typography>
        <BigFigure
          value={money(margin, shop)}
          label={`margin of ${units.length} closed units`}
          detail={`${money(Math.round(margin / units.length), shop)} a unit`}
        />
        <BigFigure
          value={minutes ? money(Math.round((margin / minutes) * 60), shop) : "none"}
          label="an hour"
          detail={`${minutes} minutes at the bench, paid in the margin`}
        />
        <BigFigure
          value={forecast.length ? money(Math.round(off), shop) : "none"}
          label="against forecast, a unit"
          detail={forecast.length ? `${forecast.length} had a forecast` : "decide before mending and there is one"}
        />
      </Box>
      <Box sx={{ display: "grid", gridTemplateColumns: { xs: "minmax(0,1fr)", md: "minmax(0,1fr) minmax(0,1fr)" }, gap: 3 }}>
        <section aria-label="Forecast against fact">
          <Typography component="h2" variant="h2">
            Forecast against fact
          </Typography>
          {forecast.length ? (
            <ForecastPlot
              units={forecast.map((u) => ({ tag: u.tag, forecast: u.forecast!.margin, fact: u.marginMinor }))}
              format={(x) => money(Math.round(x), shop)}
            />
          ) : (
            <Typography color="text.secondary">No closed unit had a decision with a forecast.</Typography>
          )}
        </section>
        <section aria-label="Grouped">
          <Box sx={{ display: "flex", gap: 2, alignItems: "center", mb: 0.5 }}>
            <Typography component="h2" variant="h2">
              By
            </Typography>
            <TextField
              select
              value={by}
              onChange={(e) => setBy(e.target.value as By)}
              sx={{ width: 150 }}
              slotProps={{ htmlInput: { "aria-label": "Group by" } }}
            >
              {BY.map((b) => (
                <MenuItem key={b} value={b}>
                  {b === "make" ? "part make" : b}
                </MenuItem>
              ))}
            </TextField>
          </Box>
          <Grouped view={view} by={by} shop={shop} />
        </section>
      </Box>
      <Routes view={view} shop={shop} />
      <Box sx={{ display: "grid", gridTemplateColumns: { xs: "minmax(0,1fr)", md: "minmax(0,1fr) minmax(0,1fr)" }, gap: 3 }}>
        <section aria-label="Learning">
          <Typography component="h2" variant="h2">
            First jobs against later ones
          </Typography>
          <Table head={["Model", "First three", "Later"]}>
            {view.learning.map((l) => (
              <tr key={l.model}>
                <td>{l.model}</td>
                <Num>{l.firstJobs ? `${l.first} min (${l.firstJobs})` : "none"}</Num>
                <Num>{l.laterJobs ? `${l.later} min (${l.laterJobs})` : "none yet"}</Num>
              </tr>
            ))}
          </Table>
        </section>
        <section aria-label="Common faults">
          <Typography component="h2" variant="h2">
            Most common faults
          </Typography>
          <Table head={["Model", "Fault", "Units"]}>
            {view.common.map((c) => (
              <tr key={`${c.model} ${c.family}`}>
                <td>{c.model}</td>
                <td>{FAMILY_WORDS[c.family]}</td>
                <Num>{`${c.units} of ${c.of}`}</Num>
              </tr>
            ))}
          </Table>
        </section>
      </Box>
      <section aria-label="Closed units">
        <Typography component="h2" variant="h2">
          Closed units
        </Typography>
        <Table head={["Unit", "Model", "Ended", "Margin", "Forecast", "Minutes"]}>
          {[...units].reverse().map((u) => (
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
              <Num>{u.forecast ? money(u.forecast.margin, shop) : "none"}</Num>
              <Num>{String(u.minutes)}</Num>
            </tr>
          ))}
        </Table>
      </section>
    </Box>
  );
}

function Table({ head, children }: { head: string[]; children: ReactNode }) {
  return (
    <Box sx={{ overflowX: "auto" }}>
      <Box
        component="table"
        sx={{
          borderCollapse: "collapse",
          width: "100%",
          "& td, & th": { py: 0.5, pr: 2, textAlign: "left", borderBottom: 1, borderColor: "divider", verticalAlign: "top" },
        }}
      >
        <thead>
          <tr>
            {head.map((h) => (
              <th key={h}>{h}</th>
            ))}
          </tr>
        </thead>
        <tbody>{children}</tbody>
      </Box>
    </Box>
  );
}
const Num = ({ children }: { children: ReactNode }) => (
  <Box component="td" sx={{ fontFamily: FIGURES }}>
    {children}
  </Box>
);

function Grouped({ view, by, shop }: { view: ResultsView; by: By; shop: Settings }) {
  const routeOf = new Map(view.routes.map((r) => [r.route, r]));
  const keys = (u: ClosedUnit): string[] => {
    if (by === "model") return [u.model];
    if (by === "seller") return [u.seller || (u.source === "customer" ? "customers" : "not named")];
    if (by === "fault") return u.families.length ? u.families.map((f) => FAMILY_WORDS[f]) : ["no fault named"];
    if (by === "route") return u.routes.length ? u.routes.map((r) => routeOf.get(r)?.name ?? r) : ["no route logged"];
    if (by === "way")
      return u.routes.length
        ? [...new Set(u.routes.map((r) => SCHOOL_WORDS[(routeOf.get(r)?.school ?? "adjust") as School]))]
        : ["no route logged"];
    const makes = u.routes.map((r) => routeOf.get(r)?.make).filter((m): m is string => Boolean(m));
    return makes.length ? [...new Set(makes.map((m) => MAKE_WORDS[m as keyof typeof MAKE_WORDS]))] : ["no part"];
  };
  const groups = new Map<string, ClosedUnit[]>();
  for (const u of view.units) for (const k of keys(u)) groups.set(k, [...(groups.get(k) ?? []), u]);
  const rows = [...groups].map(([name, list]) => {
    const margin = list.reduce((s, u) => s + u.marginMinor, 0);
    const minutes = list.reduce((s, u) => s + u.minutes, 0);
    const known = list.filter((u) => u.forecast);
    return {
      name,
      count: list.length,
      each: margin / list.length,
      hour: minutes ? (margin / minutes) * 60 : null,
      minutes: Math.round(minutes / list.length),
      off: known.length ? known.reduce((s, u) => s + u.marginMinor - u.forecast!.margin, 0) / known.length : null,
    };
  });
  return (
    <Table head={["", "Units", "Margin each", "Minutes each", "An hour", "Against forecast"]}>
      {rows
        .sort((a, b) => b.each - a.each)
        .map((r) => (
          <tr key={r.name}>
            <td>{r.name}</td>
            <Num>{r.count}</Num>
            <Num>{money(Math.round(r.each), shop)}</Num>
            <Num>{r.minutes}</Num>
            <Num>{r.hour === null ? "no minutes" : money(Math.round(r.hour), shop)}</Num>
            <Num>{r.off === null ? "none" : money(Math.round(r.off), shop)}</Num>
          </tr>
        ))}
    </Table>
  );
}

function Routes({ view, shop }: { view: ResultsView; shop: Settings }) {
  const held = view.routes.filter((r) => r.held > 0);
  return (
    <section aria-label="Routes">
      <Typography component="h2" variant="h2">
        Each route in this shop
      </Typography>
      {view.routes.length === 0 ? (
        <Typography color="text.secondary">No mend was logged by a route yet. Choose the route when you log a mend.</Typography>
      ) : (
        <Box sx={{ display: "grid", gridTemplateColumns: { xs: "minmax(0,1fr)", md: "minmax(0,1.3fr) minmax(0,1fr)" }, gap: 3 }}>
          <Table head={["Route", "Way", "Worked", "Minutes", "Part", "Came back"]}>
            {view.routes.map((r) => (
              <tr key={r.route}>
                <td>{r.name}</td>
                <td>{SCHOOL_WORDS[r.school as School]}</td>
                <Num>{`${r.worked} of ${r.worked + r.failed}`}</Num>
                <Num>{r.minutes}</Num>
                <Num>{money(r.partMinor, shop)}</Num>
                <Num>{r.held ? `${r.relapsed} of ${r.held} sold` : "none sold"}</Num>
              </tr>
            ))}
          </Table>
          <Box>
            {held.length > 0 && (
              <>
                <HoldingPlot
                  routes={held.slice(0, 6).map((r) => ({ name: r.name, steps: r.holding, until: r.holding.at(-1)?.days ?? 14 }))}
                />
                {held
                  .filter((r) => r.relapsed > 0)
                  .map((r) => {
                    const last = r.holding.at(-1)!;
                    return (
                      <Box key={r.route} sx={{ fontSize: "0.9rem" }}>
                        {r.name}: {Math.round(last.holding * 100)} % hold beyond day {last.days}, between{" "}
                        {Math.round(last.low * 100)} and {Math.round(last.high * 100)} % (90 %).
                      </Box>
                    );
                  })}
                <Typography color="text.secondary" sx={{ fontSize: "0.88rem" }}>
                  Units still holding today count for as long as they have held.
                </Typography>
              </>
            )}
          </Box>
        </Box>
      )}
    </section>
  );
}
