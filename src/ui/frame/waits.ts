"use client";

import { useEffect, useRef, useState } from "react";

import { callOut } from "@/browser/call-out";
import type { WaitView } from "@/features/waits/deeds";
import { say } from "@/words/frame";

/** The clock of the page, every second while something runs. Null until the page is alive. */
export function useNow(running: boolean): number | null {
  const [now, setNow] = useState<number | null>(null);
  useEffect(() => {
    if (!running) return;
    const tick = () => setNow(Date.now());
    const first = setTimeout(tick, 0);
    const timer = setInterval(tick, 1000);
    return () => {
      clearTimeout(first);
      clearInterval(timer);
    };
  }, [running]);
  return now;
}

export const isOver = (w: WaitView, now: number | null): boolean =>
  now !== null && Date.parse(w.endsAt) <= now;

/** "1:23:45", "4:05" or "over". */
export function clockText(w: WaitView, now: number | null): string {
  if (now === null) return "";
  const left = Math.ceil((Date.parse(w.endsAt) - now) / 1000);
  if (left <= 0) return "over:";
  const [h, m, s] = [Math.floor(left / 3600), Math.floor((left % 3600) / 60), left % 60];
  const two = (n: number) => String(n).padStart(2, "0");
  return h ? `${h}:${two(m)}:${two(s)}` : `${m}:${two(s)}`;
}

const AGAIN_MS = 60_000;

/**
 * Calls out what has run out, and again every minute until somebody has seen it; the page's title says so
 * meanwhile.
 */
export function useCallOuts(waits: readonly WaitView[], now: number | null): void {
  const called = useRef(new Map<string, number>());
  const over = waits.filter((w) => isOver(w, now));
  const title = over.length
    ? say("overOver", {
        over:
          over.length === 1
            ? `${over[0]!.what}${over[0]!.tag ? `, ${over[0]!.tag}` : ""}`
            : say("overWaits", { over: over.length }),
      })
    : "";
  useEffect(() => {
    if (now === null) return;
    for (const w of waits)
      if (isOver(w, now) && now - (called.current.get(w.id) ?? -Infinity) >= AGAIN_MS) {
        called.current.set(w.id, now);
        callOut(
          say("overWhat", { what: w.what }),
          w.tag ? `${w.tag}${w.tray ? say("trayTray", { tray: w.tray }) : ""}` : "",
        );
      }
  }, [waits, now]);
  useEffect(() => {
    if (!title) return;
    const was = document.title;
    document.title = title;
    return () => {
      document.title = was;
    };
  }, [title]);
}
