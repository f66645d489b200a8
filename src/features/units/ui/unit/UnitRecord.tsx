"use client";

import Box from "@mui/material/Box";

import type { Settings } from "@/contract/deeds";
import type { EventView } from "@/features/units/view";
import { dayAndTime } from "@/text/format";
import { eventWords, eventDetail } from "@/features/units/words/text";
import { say } from "@/words/frame";
import { Text, Words } from "@/ui/kit/layout";

/** Who did what when; only ever added to. */
export function UnitRecord({ events, shop }: { events: EventView[]; shop: Settings }) {
  return (
    <Box sx={{ maxWidth: 900 }}>
      <Text component="h2" variant="h2" after={1}>
        {say("whoDidWhat")}
      </Text>
      {events.map((e) => (
        <Box
          key={e.id}
          sx={{
            display: "grid",
            gridTemplateColumns: "130px 1fr",
            gap: 2,
            py: 0.7,
            borderTop: 1,
            borderColor: "divider",
          }}
        >
          <Words quiet>{dayAndTime(e.at, shop)}</Words>
          <Box sx={{ minWidth: 0, overflowWrap: "anywhere" }}>
            <b style={{ textTransform: "capitalize" }}>{e.by ?? say("theCustomer")}</b> {eventWords(e.kind)}
            <Words component="span" quiet>
              {" "}
              {eventDetail(e.kind, e.body)}
            </Words>
          </Box>
        </Box>
      ))}
    </Box>
  );
}
