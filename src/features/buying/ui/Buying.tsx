"use client";

import Box from "@mui/material/Box";
import Tab from "@mui/material/Tab";
import Tabs from "@mui/material/Tabs";
import Typography from "@mui/material/Typography";
import { useState } from "react";

import type { Settings } from "@/contract/deeds";
import type { BuyingView } from "@/features/buying/view";
import { Bid } from "./Bid";
import { Listings } from "./Listings";
import { Claims, Sellers } from "./Sellers";
import { LotOffer } from "./LotOffer";
import { Lots } from "./Lots";
import { say } from "@/features/buying/words/words";
import type { BaseOf } from "./base";
import { Row } from "@/ui/kit/layout";

type Props = {
  view: BuyingView;
  modelKey: string;
  base: BaseOf;
  shop: Settings;
  canWork: boolean;
  wish: { margin: number; loss: number };
};

const TABS = [say("oneUnit"), say("aLot"), say("lotsInHouse"), say("sellers")] as const;

/** What to bid, what a lot is worth, how its price is spread, and who sold what. */
export function Buying(props: Props) {
  const [tab, setTab] = useState(props.view.lotAsked ? 2 : 0);
  return (
    <Box>
      <Row gap={3} after={1.5} at="center">
        <Typography component="h1" variant="h1">
          {say("buying")}
        </Typography>
        <Tabs
          value={tab}
          onChange={(_e, v: number) => setTab(v)}
          variant="scrollable"
          aria-label={say("buying")}
        >
          {TABS.map((t, i) => (
            <Tab
              key={t}
              label={t}
              id={`buying-${i}`}
              aria-controls={`buying-panel-${i}`}
              sx={{ textTransform: "none", fontWeight: 700 }}
            />
          ))}
        </Tabs>
      </Row>
      <Box role="tabpanel" id={`buying-panel-${tab}`} aria-labelledby={`buying-${tab}`}>
        {tab === 0 && (
          <>
            <Bid {...props} />
            <Listings {...props} />
            <Claims {...props} />
          </>
        )}
        {tab === 1 && <LotOffer {...props} />}
        {tab === 2 && <Lots {...props} />}
        {tab === 3 && <Sellers {...props} />}
      </Box>
    </Box>
  );
}
