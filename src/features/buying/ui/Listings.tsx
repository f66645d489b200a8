"use client";

import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Typography from "@mui/material/Typography";
import Link from "next/link";

import type { Settings } from "@/contract/deeds";
import type { BuyingView, ListingView } from "@/features/buying/view";
import { RISK_WORDS } from "@/features/decide/words/text";
import { day, money } from "@/text/format";
import { Problem } from "@/ui/deed/Problem";
import { useDeed } from "@/ui/deed/useDeed";
import { say } from "@/features/buying/words/words";
import { Block, Words } from "@/ui/kit/layout";

/** Listings that were kept: what is on its way, watched, and let pass. */
export function Listings({ view, shop, canWork }: { view: BuyingView; shop: Settings; canWork: boolean }) {
  if (view.listings.length === 0) return null;
  return (
    <Block component="section" aria-label={say("listings")} before={4}>
      <Typography component="h2" variant="h2">
        {say("listings")}
      </Typography>
      {view.listings.slice(0, 15).map((l) => (
        <Line key={l.id} listing={l} shop={shop} canWork={canWork} />
      ))}
    </Block>
  );
}

const STATUS: Record<ListingView["status"], string> = {
  watched: say("watched"),
  bought: say("onItsWay"),
  passed: say("letPass"),
  arrived: say("arrived"),
};

function Line({ listing: l, shop, canWork }: { listing: ListingView; shop: Settings; canWork: boolean }) {
  const settle = useDeed("listing.settle");
  const to = (status: "watched" | "bought" | "passed") =>
    settle.run({ listingId: l.id, version: l.version, status });
  return (
    <Box
      sx={{
        py: 0.8,
        borderTop: 1,
        borderColor: "divider",
        display: "flex",
        gap: 2,
        flexWrap: "wrap",
        alignItems: "center",
      }}
    >
      <Box sx={{ flex: 1, minWidth: 240 }}>
        <b>{l.model}</b>, {STATUS[l.status]}: “{l.words}”
        <Words size="small" quiet>
          {say("sellerAtPriceMinorAndCarriageMinor", {
            seller: l.seller && `${l.seller}, `,
            at: day(l.at, shop),
            priceMinor: money(l.priceMinor, shop),
            carriageMinor: money(l.carriageMinor, shop),
            worthMinor: money(l.worthMinor, shop),
            highestMinor:
              l.highestMinor === null
                ? say("noBidAdvised")
                : say("bidAtMostHighestMinor", { highestMinor: money(l.highestMinor, shop) }),
            risk: RISK_WORDS[l.risk as keyof typeof RISK_WORDS],
          })}
        </Words>
      </Box>
      {canWork && l.status === "watched" && (
        <>
          <Button size="small" onClick={() => to("bought")} disabled={settle.running}>
            {say("bought")}
          </Button>
          <Button size="small" color="inherit" onClick={() => to("passed")} disabled={settle.running}>
            {say("letItPass")}
          </Button>
        </>
      )}
      {canWork && l.status === "bought" && (
        <Button size="small" variant="outlined" component={Link} href={`/units/new?listing=${l.id}`}>
          {say("itArrivedTakeIn")}
        </Button>
      )}
      <Problem problem={settle.problem} />
    </Box>
  );
}
