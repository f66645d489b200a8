"use client";

import Typography from "@mui/material/Typography";
import type { GridColDef } from "@mui/x-data-grid";
import Link from "next/link";

import type { Settings } from "@/contract/deeds";
import type { BuyingView } from "@/features/buying/view";
import type { ClaimLine, SellerView } from "@/features/buying/sellers";
import { day, money } from "@/text/format";
import { RowGrid } from "@/ui/fields/RowGrid";
import { say } from "@/features/buying/words/words";
import { Block } from "@/ui/kit/layout";

/** Sellers by what their units brought, and how true their words were. */
export function Sellers({ view, shop }: { view: BuyingView; shop: Settings }) {
  const columns: GridColDef<SellerView>[] = [
    { field: "seller", headerName: say("seller"), flex: 1, minWidth: 160 },
    { field: "units", headerName: say("units"), width: 80 },
    { field: "closed", headerName: say("closed"), width: 80 },
    {
      field: "marginMinor",
      headerName: say("marginAUnit"),
      width: 130,
      valueGetter: (_v, s) => (s.closed ? s.marginMinor / s.closed : null),
      valueFormatter: (v: number | null) => (v === null ? say("noneClosed") : money(Math.round(v), shop)),
    },
    {
      field: "faultsClaimed",
      headerName: say("faultsTheyHadNamed"),
      width: 180,
      valueGetter: (_v, s) =>
        s.faultsFound
          ? say("faultsClaimedOfFaultsFound", { faultsClaimed: s.faultsClaimed, faultsFound: s.faultsFound })
          : say("noneFoundYet"),
    },
    { field: "poorParcels", headerName: say("poorParcels"), width: 115 },
    { field: "differs", headerName: say("notAsPromised"), width: 135 },
  ];
  return (
    <RowGrid
      rows={view.sellers}
      getRowId={(s) => s.seller}
      columns={columns}
      hideFooter={view.sellers.length <= 100}
      localeText={{ noRowsLabel: say("nobodyHasSoldAnythingToThe") }}
      sx={{ minHeight: 200 }}
    />
  );
}

const WHY: Record<ClaimLine["why"], string> = {
  differs: say("isNotWhatWasPromised"),
  "more-faults": say("hasFaultsThatWereNotNamed"),
  "not-tested": say("wasNotTestedYet"),
};

/** Units whose seller can still be asked to answer for them. */
export function Claims({ view, shop }: { view: BuyingView; shop: Settings }) {
  if (view.claims.length === 0) return null;
  return (
    <Block component="section" aria-label={say("claimsStillPossible")} before={3}>
      <Typography component="h2" variant="h2">
        {say("aClaimIsStillPossible")}
      </Typography>
      {view.claims.slice(0, 8).map((c) => (
        <div key={c.tag}>
          <Link href={`/units/${c.tag}`}>{c.tag}</Link>{" "}
          {say("fromSellerWhyUntilUntil", {
            seller: c.seller || say("anUnnamedSeller"),
            why: WHY[c.why],
            until: day(c.until, shop),
          })}
        </div>
      ))}
    </Block>
  );
}
