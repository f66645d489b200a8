"use client";

import Box from "@mui/material/Box";
import Link from "next/link";
import { usePathname } from "next/navigation";
import { useEffect, useRef, useState } from "react";

import type { TrayCard } from "@/features/bench/view";
import type { WaitView } from "@/features/waits/deeds";
import { NEXT_WORDS } from "@/features/case/words/text";
import { clockText, useCallOuts, useNow } from "./waits";
import { WaitsBar } from "./WaitsBar";
import { say } from "@/words/frame";
import { SIZE } from "@/ui/tokens";

const REFRESH_MS = 20_000;

type BenchStripProps = {
  initial: TrayCard[];
  waits: WaitView[];
  canWork: boolean;
};

/** What BenchStrip knows and does; the components below only show it. */
function useBenchStrip({ initial, waits: initialWaits, canWork }: BenchStripProps) {
  const path = usePathname();
  const [polled, setPolled] = useState<{ from: TrayCard[]; trays: TrayCard[]; waits: WaitView[] } | null>(
    null,
  );
  useEffect(() => {
    const look = async () => {
      // a wait calls out on a hidden page too, so the waits are asked for there as well
      const response = await fetch("/api/bench").catch(() => null);
      if (response?.ok)
        setPolled({
          from: initial,
          ...((await response.json()) as { value: { trays: TrayCard[]; waits: WaitView[] } }).value,
        });
    };
    const timer = setInterval(() => void look(), REFRESH_MS);
    return () => clearInterval(timer);
  }, [initial]);
  // what the page brought is newer than an old poll
  const cards = polled?.from === initial ? polled.trays : initial;
  const waits = polled?.from === initial ? polled.waits : initialWaits;
  const now = useNow(waits.length > 0);
  useCallOuts(waits, now);

  const edge = useRef<HTMLElement>(null);
  useEffect(() => {
    // what stands at the bottom of a page stands above the strip, however high its timers make it
    const watch = new ResizeObserver(([e]) =>
      document.documentElement.style.setProperty(
        "--bench-edge",
        `${Math.round(e!.borderBoxSize[0]!.blockSize)}px`,
      ),
    );
    if (edge.current) watch.observe(edge.current);
    return () => watch.disconnect();
  }, []);
  return { canWork, path, cards, waits, now, edge };
}
type BenchStripState = ReturnType<typeof useBenchStrip>;

/** The numbered trays of the bench, always in view at its near edge. */
export function BenchStrip(props: BenchStripProps) {
  const s = useBenchStrip(props);
  const { canWork, waits, now, edge } = s;

  return (
    <Box
      ref={edge}
      component="footer"
      aria-label={say("traysOnTheBench")}
      className="no-print"
      sx={{ position: "sticky", bottom: 0, zIndex: 5 }}
    >
      {waits.length > 0 && <WaitsBar waits={waits} now={now} canWork={canWork} />}
      <Trays {...s} />
    </Box>
  );
}

function Trays({ cards, waits, path, now }: BenchStripState) {
  return (
    <Box sx={STRIP}>
      {[1, 2, 3, 4, 5, 6, 7, 8, 9].map((n) => {
        const card = cards.find((c) => c.tray === n);
        if (!card)
          return (
            <div key={n}>
              <b>{n}</b>
              <span>{say("free")}</span>
            </div>
          );
        const waiting = waits.find((w) => w.unitId === card.unitId);
        return (
          <Link
            key={n}
            href={`/units/${card.tag}`}
            aria-label={say("trayNTagModelNextAction", {
              n,
              tag: card.tag,
              model: card.model,
              nextAction: NEXT_WORDS[card.nextAction],
            })}
            data-here={path.toLowerCase().startsWith(`/units/${card.tag.toLowerCase()}`) || undefined}
          >
            <b>{n}</b>
            <span>
              <strong>{card.tag}</strong>
              <small>
                {waiting ? `${clockText(waiting, now)} ${waiting.what}` : NEXT_WORDS[card.nextAction]}
              </small>
            </span>
          </Link>
        );
      })}
    </Box>
  );
}

// one rule for the whole strip, since every page draws it
const STRIP = {
  display: "flex",
  overflowX: "auto",
  bgcolor: "bench.edge",
  color: "#edece4",
  px: { xs: 1, md: 2.5 },
  gap: "2px",
  "& > *": {
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
    borderTop: "4px solid transparent",
  },
  "& > a:hover": { bgcolor: "rgba(255,255,255,.08)" },
  "& > [data-here]": { borderColor: "#bcaef2", bgcolor: "rgba(255,255,255,.1)" },
  "& b": { fontSize: SIZE.title, fontWeight: 800, lineHeight: 1 },
  "& > div > *": { opacity: 0.78, fontSize: SIZE.small },
  "& > div > b": { fontSize: SIZE.title },
  "& > a > span": { minWidth: 0, lineHeight: 1.25 },
  "& strong": { display: "block", fontWeight: 700, fontSize: SIZE.small, whiteSpace: "nowrap" },
  "& small": {
    display: "block",
    fontSize: SIZE.fine,
    lineHeight: 1.1,
    overflowWrap: "anywhere",
    opacity: 0.85,
  },
} as const;
