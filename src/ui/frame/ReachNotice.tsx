"use client";

import { useRouter } from "next/navigation";
import { useEffect, useRef, useSyncExternalStore } from "react";

import { onReach, reachNow, startWorker } from "@/browser/reach";
import { say } from "@/words/frame";
import { Notice } from "@/ui/kit/layout";

/**
 * Says that the workshop is out of reach, keeps the page where it is meanwhile, and shows the new state when
 * it is back.
 */
export function ReachNotice() {
  const router = useRouter();
  const away = useSyncExternalStore(onReach, reachNow, () => "here" as const) === "away";
  const was = useRef(false);
  useEffect(startWorker, []);
  useEffect(() => {
    if (was.current && !away) router.refresh();
    was.current = away;
    if (!away) return;
    // to follow a link now would end at the browser's own error page, and what was typed would be gone
    const stay = (event: MouseEvent) => {
      const link = event.target instanceof Element ? event.target.closest("a[href]") : null;
      if (!link || link.getAttribute("target") === "_blank" || !link.getAttribute("href")!.startsWith("/"))
        return;
      event.preventDefault();
      event.stopPropagation();
    };
    document.addEventListener("click", stay, true);
    return () => document.removeEventListener("click", stay, true);
  }, [away, router]);
  if (!away) return null;
  return (
    <Notice severity="warning" role="status" after={2}>
      {say("theWorkshopIsOutOfReach2")}
    </Notice>
  );
}
