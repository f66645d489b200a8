"use client";

import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import MenuItem from "@mui/material/MenuItem";
import TextField from "@mui/material/TextField";
import Typography from "@mui/material/Typography";
import type { GridColDef, GridRowParams } from "@mui/x-data-grid";
import Link from "next/link";
import { useRouter } from "next/navigation";
import { useEffect, useState } from "react";

import type { Settings } from "@/contract/deeds";
import type { UnitFilter, UnitLine, UnitPage } from "@/features/units/list";
import { UNIT_PAGE_SIZES } from "@/contract/unit-pages";
import { day, count } from "@/text/format";
import { ENDING_NAMES, NEXT_WORDS, SOURCE_NAMES, STAGE_NAMES } from "@/features/case/words/text";
import { RowGrid } from "@/ui/fields/RowGrid";
import { say } from "@/features/intake/words/words";
import { Row } from "@/ui/kit/layout";
import { UnitPager } from "./UnitPager";

type Props = {
  units: UnitLine[];
  /** of all that the filter leaves, on whatever page */
  total: number;
  page: UnitPage;
  models: { key: string; name: string }[];
  filter: UnitFilter;
  shop: Settings;
};

const STAGES = [
  "open",
  "intake",
  "test",
  "find",
  "decide",
  "mend",
  "prove",
  "release",
  "closed",
  "quarantine",
  "reference",
];

/** What UnitList knows and does; the components below only show it. */
function useUnitList({ units, total, page, models, filter, shop }: Props) {
  const router = useRouter();
  const [looked, setLooked] = useState<string | null>(null);
  const addressOf = (to: UnitFilter, at: UnitPage) => {
    const next = Object.entries({
      ...to,
      page: at.page > 0 ? String(at.page + 1) : undefined,
      size: at.size === 25 ? undefined : String(at.size),
      sort:
        at.sort.by === "tag" && at.sort.down ? undefined : `${at.sort.by}.${at.sort.down ? "desc" : "asc"}`,
    }).filter(([, v]) => v);
    return `/units?${new URLSearchParams(next as [string, string][])}`;
  };
  const go = (to: UnitFilter, at: UnitPage) => router.push(addressOf(to, at));
  // another filter begins at its first page
  const set = (change: UnitFilter) => go({ ...filter, ...change }, { ...page, page: 0 });
  const columns: GridColDef<UnitLine>[] = [
    { field: "tag", headerName: say("tag"), width: 95 },
    { field: "model", headerName: say("model"), width: 115 },
    { field: "stage", headerName: say("station"), width: 105, valueFormatter: (v: string) => STAGE_NAMES[v] },
    {
      field: "nextAction",
      sortable: false,
      headerName: say("next"),
      width: 170,
      valueGetter: (_v, u) => (u.ending ? ENDING_NAMES[u.ending] : NEXT_WORDS[u.nextAction]),
    },
    { field: "tray", headerName: say("tray"), width: 65, valueFormatter: (v: number | null) => v ?? "" },
    {
      field: "source",
      headerName: say("source"),
      width: 125,
      valueFormatter: (v: string) => SOURCE_NAMES[v],
    },
    {
      field: "receivedAt",
      headerName: say("received"),
      width: 125,
      valueFormatter: (v: string) => day(v, shop),
    },
    { field: "claim", sortable: false, headerName: say("claim"), flex: 1, minWidth: 160 },
  ];
  const panel = units.find((u) => u.id === looked);
  return { units, total, page, models, filter, shop, router, setLooked, addressOf, go, set, columns, panel };
}
type UnitListState = ReturnType<typeof useUnitList>;

/** All units, filtered, sorted and paged by the address, with a side panel for the row that is looked at. */
export function UnitList(props: Props) {
  const s = useUnitList(props);
  const { units, total, page, filter, router, setLooked, addressOf, go, columns, panel } = s;

  return (
    <Box
      sx={{
        display: "grid",
        gridTemplateColumns: { xs: "minmax(0,1fr)", md: panel ? "minmax(0,1fr) 300px" : "minmax(0,1fr)" },
        gap: 2,
      }}
    >
      <Box sx={{ minWidth: 0 }}>
        <UnitFilters {...s} />
        <RowGrid
          rows={units}
          columns={columns}
          onRowClick={({ row }: GridRowParams<UnitLine>) => setLooked(row.id)}
          onRowDoubleClick={({ row }: GridRowParams<UnitLine>) => router.push(`/units/${row.tag}`)}
          onCellKeyDown={({ row }, e) => {
            if (e.key === "Enter") router.push(`/units/${(row as UnitLine).tag}`);
          }}
          hideFooter
          sortingMode="server"
          sortModel={[{ field: page.sort.by, sort: page.sort.down ? "desc" : "asc" }]}
          onSortModelChange={([s]) => {
            const sort = {
              by: (s?.field ?? "tag") as UnitPage["sort"]["by"],
              down: s ? s.sort === "desc" : true,
            };
            // the grid also tells of what it was given: only another order begins at its first page
            if (sort.by !== page.sort.by || sort.down !== page.sort.down)
              go(filter, { ...page, page: 0, sort });
          }}
          localeText={{ noRowsLabel: say("noUnitMatchesWidenTheFilters") }}
          sx={{
            bgcolor: "background.paper",
            minHeight: 300,
            // its pages stand under it, above the strip of the bench
            height: { md: "calc(100vh - 250px - var(--bench-edge, 56px))" },
            "& .MuiDataGrid-cell:first-of-type": { fontWeight: 700 },
            "& .MuiDataGrid-row": { cursor: "pointer" },
          }}
        />
        <UnitPager
          page={page.page}
          size={page.size}
          sizes={UNIT_PAGE_SIZES}
          total={total}
          addressOf={(at) => addressOf(filter, { ...page, page: at })}
          onSize={(size) => go(filter, { ...page, page: 0, size })}
        />
      </Box>
      <UnitPanel {...s} />
    </Box>
  );
}

function UnitFilters({ total, filter, set, models }: UnitListState) {
  return (
    <Row gap={1.5} after={1.5} at="center">
      <Typography component="h1" variant="h1" sx={{ mr: 1 }}>
        {count(total)} {total === 1 ? say("unit") : say("units")}
      </Typography>
      <Choice
        label={say("station")}
        value={filter.stage}
        options={STAGES.map((s) => {
          const filterWords = () => {
            if (s === "open") return say("allOpen");
            if (s === "reference") return say("referenceUnits");
            return STAGE_NAMES[s]!;
          };
          return [s, filterWords()];
        })}
        onChange={(stage) => set({ stage })}
      />
      <Choice
        label={say("model")}
        value={filter.model}
        options={models.map((m) => [m.key, m.name])}
        onChange={(model) => set({ model })}
      />
      <Choice
        label={say("source")}
        value={filter.source}
        options={Object.entries(SOURCE_NAMES)}
        onChange={(source) => set({ source })}
      />
      <Words initial={filter.q ?? ""} onChange={(q) => set({ q })} />
    </Row>
  );
}

function UnitPanel({ panel, shop }: UnitListState) {
  return (
    panel && (
      <Box
        component="aside"
        aria-label={say("unitTag", { tag: panel.tag })}
        sx={{
          bgcolor: "background.paper",
          border: 1,
          borderColor: "divider",
          borderRadius: 1,
          p: 2,
          alignSelf: "start",
          display: "grid",
          gap: 1,
        }}
      >
        <Typography variant="h2">{panel.tag}</Typography>
        <div>{panel.model}</div>
        <Typography color="text.secondary">
          {panel.claim ? `“${panel.claim}”` : say("noClaimWasGiven")}
        </Typography>
        <div>
          {SOURCE_NAMES[panel.source]}, {day(panel.receivedAt, shop)}
        </div>
        <Button component={Link} href={`/units/${panel.tag}`} variant="contained" sx={{ mt: 1 }}>
          {panel.ending ? say("open") : NEXT_WORDS[panel.nextAction]}
        </Button>
      </Box>
    )
  );
}

function Choice({
  label,
  value,
  options,
  onChange,
}: {
  label: string;
  value: string | undefined;
  options: [string, string][];
  onChange: (v: string | undefined) => void;
}) {
  return (
    <TextField
      select
      label={label}
      value={value ?? ""}
      onChange={(e) => onChange(e.target.value || undefined)}
      sx={{ width: 150 }}
    >
      <MenuItem value="">{say("all")}</MenuItem>
      {options.map(([v, name]) => (
        <MenuItem key={v} value={v}>
          {name}
        </MenuItem>
      ))}
    </TextField>
  );
}

function Words({ initial, onChange }: { initial: string; onChange: (q: string) => void }) {
  const [q, setQ] = useState(initial);
  useEffect(() => {
    if (q.trim() === initial) return;
    const timer = setTimeout(() => onChange(q.trim()), 350);
    return () => clearTimeout(timer);
  });
  return (
    <TextField label={say("words")} value={q} onChange={(e) => setQ(e.target.value)} sx={{ width: 180 }} />
  );
}
