"use client";

import Box from "@mui/material/Box";
import Typography from "@mui/material/Typography";
import { DataGrid, type GridColDef } from "@mui/x-data-grid";
import Link from "next/link";

import type { Settings } from "@/contract/deeds";
import type { BuyingView, ClaimLine, SellerView } from "@/service/buying";
import { day, money } from "@/text/format";

/** Sellers by what their units brought, and how true their words were. */
export function Sellers({ view, shop }: { view: BuyingView; shop: Settings }) {
  const columns: GridColDef<SellerView>[] = [
    { field: "seller", headerName: "Seller", flex: 1, minWidth: 160 },
    { field: "units", headerName: "Units", width: 80 },
    { field: "closed", headerName: "Closed", width: 80 },
    {
      field: "marginMinor",
      headerName: "Margin a unit",
      width: 130,
      valueGetter: (_v, s) => (s.closed ? s.marginMinor / s.closed : null),
      valueFormatter: (v: number | null) => (v === null ? "none closed" : money(Math.round(v), shop)),
    },
    {
      field: "faultsClaimed",
      headerName: "Faults they had named",
      width: 180,
      valueGetter: (_v, s) => (s.faultsFound ? `${s.faultsClaimed} of ${s.faultsFound}` : "none found yet"),
    },
    { field: "poorParcels", headerName: "Poor parcels", width: 115 },
    { field: "differs", headerName: "Not as promised", width: 135 },
  ];
  return (
    <DataGrid
      rows={view.sellers}
      getRowId={(s) => s.seller}
      columns={columns}
      rowHeight={44}
      disableColumnMenu
      hideFooter={view.sellers.length <= 100}
      localeText={{ noRowsLabel: "Nobody has sold anything to the shop yet." }}
      sx={{ bgcolor: "background.paper", minHeight: 200 }}
    />
  );
}

const WHY: Record<ClaimLine["why"], string> = {
  differs: "is not what was promised",
  "more-faults": "has faults that were not named",
  "not-tested": "was not tested yet",
};

/** Units whose seller can still be asked to answer for them. */
export function Claims({ view, shop }: { view: BuyingView; shop: Settings }) {
  if (view.claims.length === 0) return null;
  return (
    <Box component="section" aria-label="Claims still possible" sx={{ mt: 3 }}>
      <Typography component="h2" variant="h2">
        A claim is still possible
      </Typography>
      {view.claims.slice(0, 8).map((c) => (
        <div key={c.tag}>
          <Link href={`/units/${c.tag}`}>{c.tag}</Link> from {c.seller || "an unnamed seller"} {WHY[c.why]}: until{" "}
          {day(c.until, shop)}
        </div>
      ))}
    </Box>
  );
}
