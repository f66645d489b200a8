"use client";

import { useEffect } from "react";

/**
 * Marks the document once the page listens to hands: until then it is drawn, but what is typed or clicked may
 * go nowhere. Whoever drives a page by program waits for it.
 */
export function Listening() {
  useEffect(() => {
    document.documentElement.dataset.listening = "yes";
  }, []);
  return null;
}
