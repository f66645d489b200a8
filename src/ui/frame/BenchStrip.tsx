"use client";

import Box from "@mui/material/Box";
import Link from "next/link";
import { usePathname } from "next/navigation";
import { useEffect, useState } from "react";

import type { TrayCard } from "@/service/views";
import type { WaitView } from "@/service/waits";
import { NEXT_WORDS } from "@/text/words";
import { clockText, useCallOuts, useNow } from "./waits";
import { WaitsBar } from "./WaitsBar";

const REFRESH_MS = 20_000;

/** The numbered trays of the bench, always in view at its near edge. */
export function BenchStrip({
  initial,
  waits: initialWaits,
  canWork,
}: {
  initial: TrayCard[];
  waits: WaitView[];
  canWork: boolean;
}) {
  const path = usePathname();
  const [polled, setPolled] = useState<{ from: TrayCard[]; trays: TrayCard[]; waits: WaitView[] } | null>(null);
  useEffect(() => {
    const timer = setInterval(async () => {
      // a wait calls out on a hidden page too, so the waits are asked for there as well
      const response = await fetch("/api/bench").catch(() => null);
      if (response?.ok)
        setPolled({ from: initial, ...((await response.json()) as { value: { trays: TrayCard[]; waits: WaitView[] } }).value });
    }, REFRESH_MS);
    return () => clearInterval(timer);
  }, [initial]);
  // what the page brought is newer than an old poll
  const cards = polled?.from === initial ? polled.trays : initial;
  const waits = polled?.from === initial ? polled.waits : initialWaits;
  const now = useNow(waits.length > 0);
  useCallOuts(waits, now);

  return (
    <Box
      component="footer"
      aria-label="Trays on the bench"
      className="no-print"
      sx={{ position: "sticky", bottom: 0, zIndex: 5 }}
    >
      {waits.length > 0 && <WaitsBar waits={waits} now={now} canWork={canWork} />}
      <Box
        sx={{
          display: "flex",
          overflowX: "auto",
          bgcolor: "bench.edge",
          color: "#edece4",
          px: { xs: 1, md: 2.5 },
          gap: "2px",
        }}
      >
        {[1, 2, 3, 4, 5, 6, 7, 8, 9].map((n) => {
          const card = cards.find((c) => c.tray === n);
          const here = card !== undefined && path.toLowerCase().startsWith(`/units/${card.tag.toLowerCase()}`);
          const waiting = card && waits.find((w) => w.unitId === card.unitId);
          const inner = (
            <>
              <Box component="span" sx={{ fontSize: "1.35rem", fontWeight: 800, lineHeight: 1, opacity: card ? 1 : 0.75 }}>
                {n}
              </Box>
              <Box component="span" sx={{ minWidth: 0, lineHeight: 1.25 }}>
                <Box component="span" sx={{ display: "block", fontWeight: 700, fontSize: "0.9rem", whiteSpace: "nowrap" }}>
                  {card ? (
                    card.tag
                  ) : (
                    <Box component="span" sx={{ opacity: 0.8, fontWeight: 400 }}>
                      free
                    </Box>
                  )}
                </Box>
                {card && (
                  <Box
                    component="span"
                    sx={{
                      display: "block",
                      fontSize: "0.78rem",
                      whiteSpace: "nowrap",
                      overflow: "hidden",
                      textOverflow: "ellipsis",
                      opacity: 0.85,
                    }}
                  >
                    {waiting ? `${clockText(waiting, now)} ${waiting.what}` : NEXT_WORDS[card.nextAction]}
                  </Box>
                )}
              </Box>
            </>
          );
          const style = {
            flex: "1 1 0",
            minWidth: 92,
            display: "flex",
            alignItems: "center",
            gap: 0.9,
            px: 1,
            py: 0.8,
            minHeight: 52,
            color: "inherit",
            textDecoration: "none",
            borderTop: "4px solid",
            borderColor: here ? "#bcaef2" : "transparent",
            bgcolor: here ? "rgba(255,255,255,.1)" : "transparent",
            "&:hover": card ? { bgcolor: "rgba(255,255,255,.08)" } : {},
          } as const;
          return card ? (
            <Box
              key={n}
              component={Link}
              href={`/units/${card.tag}`}
              aria-label={`Tray ${n}: ${card.tag}, ${card.model}, ${NEXT_WORDS[card.nextAction]}`}
              sx={style}
            >
              {inner}
            </Box>
          ) : (
            <Box key={n} sx={style}>
              {inner}
            </Box>
          );
        })}
      </Box>
    </Box>
  );
}
