"use client";

import Alert from "@mui/material/Alert";
import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import TextField from "@mui/material/TextField";
import Typography from "@mui/material/Typography";
import type { GridColDef, GridRowParams } from "@mui/x-data-grid";
import { useState } from "react";

import type { RouteTally } from "@/core/decide/build";
import { readRoutes, type Route, writeRoutes } from "@/core/decide/routes";
import { FAMILY_WORDS, kindWords, MAKE_WORDS, SCHOOL_WORDS } from "@/features/decide/words/text";
import { Problem } from "@/ui/deed/Problem";
import { useDeed } from "@/ui/deed/useDeed";
import { Form } from "@/ui/fields/Form";
import { readFigure, readWhole } from "@/ui/fields/NumberField";
import { RowGrid } from "@/ui/fields/RowGrid";
import { say } from "@/features/decide/words/words";
import { foundWords } from "@/text/findings";
import { Row, Text } from "@/ui/kit/layout";

type Props = { routes: Route[]; version: number; record: RouteTally[]; canEdit: boolean };

const percentOf = (x: number) => `${Math.round(x * 100)} %`;

/** What RouteCatalogue knows and does; the components below only show it. */
function useRouteCatalogue({ routes, version, record, canEdit }: Props) {
  const save = useDeed("routes.save");
  const [looked, setLooked] = useState<string | null>(null);
  const [why, setWhy] = useState("");
  const seen = (id: string) =>
    record
      .filter((t) => t.route === id)
      .reduce((s, t) => ({ worked: s.worked + t.worked, all: s.all + t.worked + t.failed }), {
        worked: 0,
        all: 0,
      });
  const columns: GridColDef<Route>[] = [
    { field: "name", headerName: say("route"), flex: 1.2, minWidth: 190 },
    {
      field: "school",
      headerName: say("way"),
      width: 170,
      valueFormatter: (v: Route["school"]) => SCHOOL_WORDS[v],
    },
    {
      field: "treats",
      headerName: say("treatsStatedChance"),
      flex: 1.6,
      minWidth: 230,
      valueGetter: (_v, r) =>
        r.treats.map((t) => `${FAMILY_WORDS[t.family]} ${percentOf(t.success.mean)}`).join(", "),
    },
    {
      field: "seen",
      headerName: say("workedHere"),
      width: 115,
      valueGetter: (_v, r) =>
        seen(r.id).all
          ? say("workedOfAll", { worked: tenth(seen(r.id).worked), all: tenth(seen(r.id).all) })
          : say("noneYet"),
    },
    { field: "minutes", headerName: say("minutes"), width: 85 },
    {
      field: "part",
      headerName: say("part2"),
      width: 190,
      valueGetter: (_v, r) =>
        r.part ? `${kindWords(r.part.kind)}, ${MAKE_WORDS[r.part.make]}` : say("none"),
    },
    { field: "grade", headerName: say("best"), width: 65 },
    { field: "skill", headerName: say("skill"), width: 65 },
  ];
  const take = async (file: File | undefined) => {
    if (!file) return;
    const read = readRoutes(await file.text());
    setWhy(read.ok ? "" : foundWords(read.problem));
    if (read.ok) await save.run({ version, routes: read.value });
  };
  const exported = () => {
    const url = URL.createObjectURL(new Blob([writeRoutes(routes)], { type: "application/json" }));
    Object.assign(document.createElement("a"), { href: url, download: "routes.json" }).click();
    URL.revokeObjectURL(url);
  };
  const picked = routes.find((r) => r.id === looked);
  return { routes, version, canEdit, save, setLooked, why, columns, take, exported, picked };
}
type RouteCatalogueState = ReturnType<typeof useRouteCatalogue>;

/**
 * The catalogue of routes: what each treats, with stated odds beside what this shop saw. A lead changes,
 * imports and exports it.
 */
/** A cure that several mends share counts in part. */
const tenth = (n: number) => Math.round(n * 10) / 10;

export function RouteCatalogue(props: Props) {
  const s = useRouteCatalogue(props);
  const { routes, version, canEdit, save, setLooked, why, columns, picked } = s;

  return (
    <Box>
      <RouteHead {...s} />
      {why && <Alert severity="error">{say("nothingWasChangedWhy", { why })}</Alert>}
      <Problem problem={save.problem} />
      <Box
        sx={{
          display: "grid",
          gridTemplateColumns: { xs: "minmax(0,1fr)", md: picked ? "minmax(0,1fr) 300px" : "minmax(0,1fr)" },
          gap: 2,
        }}
      >
        <RowGrid
          rows={routes}
          columns={columns}
          onRowClick={({ row }: GridRowParams<Route>) => setLooked(row.id)}
          onCellKeyDown={({ row }, e) => {
            if (e.key === "Enter") setLooked((row as Route).id);
          }}
          initialState={{ pagination: { paginationModel: { pageSize: 25 } } }}
          pageSizeOptions={[25, 50, 100]}
          sx={{ height: 470 }}
        />
        {picked && (
          <Edit
            key={picked.id}
            route={picked}
            canEdit={canEdit}
            busy={save.running}
            onSave={(r) => save.run({ version, routes: routes.map((x) => (x.id === r.id ? r : x)) })}
          />
        )}
      </Box>
    </Box>
  );
}

function RouteHead({ routes, exported, canEdit, take }: RouteCatalogueState) {
  return (
    <Row gap={1.5} after={1.5} at="center">
      <Typography component="h1" variant="h1" sx={{ mr: 1 }}>
        {say("routesRoutes", { routes: routes.length })}
      </Typography>
      <Button variant="outlined" onClick={exported}>
        {say("export")}
      </Button>
      {canEdit && (
        <Button variant="outlined" component="label">
          {say("import")}
          <input
            type="file"
            accept=".json,application/json"
            hidden
            aria-label={say("importRoutes")}
            onChange={(e) => void take(e.target.files?.[0])}
          />
        </Button>
      )}
      <Typography color="text.secondary">{say("statedOddsCountAsAFew")}</Typography>
    </Row>
  );
}

type EditProps = { route: Route; canEdit: boolean; busy: boolean; onSave: (r: Route) => unknown };

/** A share as it was typed in percent; null where it is none. */
const share = (typed: string): number | null => {
  const x = readFigure(typed);
  return x !== null && x >= 0 && x <= 100 ? x / 100 : null;
};

/** A route's figures as texts, and the route that they say; null while one of them is none. */
function useRouteFigures(route: Route) {
  const [odds, setOdds] = useState(route.treats.map((t) => String(Math.round(t.success.mean * 100))));
  const [back, setBack] = useState(String(Math.round(route.comeback.mean * 100)));
  const [breaks, setBreaks] = useState(String(Math.round(route.breaks * 100)));
  const [minutes, setMinutes] = useState(String(route.minutes));
  const said = (): Route | null => {
    const [whole, breaking, coming] = [readWhole(minutes, 0, 999), share(breaks), share(back)];
    const means = odds.map(share);
    if (whole === null || breaking === null || coming === null) return null;
    if (means.some((m) => m === null || m + breaking > 1)) return null;
    return {
      ...route,
      minutes: whole,
      breaks: breaking,
      comeback: { ...route.comeback, mean: coming },
      treats: route.treats.map((t, i) => ({ ...t, success: { ...t.success, mean: means[i]! } })),
    };
  };
  const setOddsOf = (i: number, v: string) => setOdds(odds.map((o, k) => (k === i ? v : o)));
  return { odds, setOddsOf, back, setBack, breaks, setBreaks, minutes, setMinutes, said: said() };
}

function Edit({ route, canEdit, busy, onSave }: EditProps) {
  const { odds, setOddsOf, back, setBack, breaks, setBreaks, minutes, setMinutes, said } =
    useRouteFigures(route);
  const field = (label: string, value: string, set: (v: string) => void) => (
    <TextField
      key={label}
      label={label}
      value={value}
      disabled={!canEdit}
      onChange={(e) => set(e.target.value)}
      slotProps={{ htmlInput: { inputMode: "numeric" } }}
    />
  );
  return (
    <Form
      aria-label={say("routeRoute", { route: route.name })}
      onSend={() => said && onSave(said)}
      sx={{
        display: "grid",
        gap: 1.2,
        alignContent: "start",
        bgcolor: "background.paper",
        border: 1,
        borderColor: "divider",
        borderRadius: 1,
        p: 2,
      }}
    >
      <Typography component="h2" variant="h2">
        {route.name}
      </Typography>
      {route.treats.map((t, i) =>
        field(say("familyWorks", { family: FAMILY_WORDS[t.family] }), odds[i]!, (v) => setOddsOf(i, v)),
      )}
      {field(say("comesBackWithinTheWarranty"), back, setBack)}
      {field(say("breaksSomething"), breaks, setBreaks)}
      {field("minutes", minutes, setMinutes)}
      <Text color="text.secondary" size="small">
        {route.tools.length ? say("needsTools", { tools: route.tools.join(", ") }) : ""}
        {route.discloses
          ? say("aBuyerIsToldDiscloses", { discloses: route.discloses })
          : say("nothingHasToBeTold")}
      </Text>
      {!said && <Alert severity="error">{say("wholePercentFrom0To100")}</Alert>}
      {canEdit && (
        <Button type="submit" variant="contained" disabled={!said || busy}>
          {say("save")}
        </Button>
      )}
    </Form>
  );
}
