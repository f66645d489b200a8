"use client";

import { useEffect, useRef, useSyncExternalStore } from "react";

/** Single-key actions, and scans: a fast burst of characters ended by Enter is a scan, never typing. */

const SCAN_GAP_MS = 35;
const SCAN_LEAST = 4;
/** A scan begins after a pause: what goes on sooner is the rest of what was typed, or of a code that came with a gap. */
const BEFORE_SCAN_MS = 150;
/** The same in a field where a hand has just typed: it may look up and go on. */
const IN_FIELD_MS = 1000;
const SETTING = "birdcage-single-keys";

const subscribe = (listener: () => void) => {
  window.addEventListener("storage", listener);
  window.addEventListener(SETTING, listener);
  return () => {
    window.removeEventListener("storage", listener);
    window.removeEventListener(SETTING, listener);
  };
};

/** Whether single-key actions are on; a person can switch them off in the help. */
export function useSingleKeys(): [boolean, (on: boolean) => void] {
  const on = useSyncExternalStore(
    subscribe,
    () => localStorage.getItem(SETTING) !== "off",
    () => true,
  );
  return [
    on,
    (next) => {
      localStorage.setItem(SETTING, next ? "on" : "off");
      window.dispatchEvent(new Event(SETTING));
    },
  ];
}

const isField = (target: EventTarget | null): target is HTMLInputElement | HTMLTextAreaElement =>
  target instanceof HTMLElement &&
  (target.matches("input:not([type=checkbox]):not([type=radio]):not([type=button]), textarea, select") ||
    target.isContentEditable);

const inDialog = (target: EventTarget | null) =>
  target instanceof HTMLElement && target.closest("[role=dialog],[role=menu],[role=listbox]") !== null;

function restore(field: HTMLInputElement | HTMLTextAreaElement, value: string): void {
  const prototype =
    field instanceof HTMLTextAreaElement ? HTMLTextAreaElement.prototype : HTMLInputElement.prototype;
  Object.getOwnPropertyDescriptor(prototype, "value")!.set!.call(field, value);
  field.dispatchEvent(new Event("input", { bubbles: true }));
}

/** Single keys that wait whether a scan begins with them; a scan takes them all back, its last digit too. */
const waiting = new Set<ReturnType<typeof setTimeout>>();
/**
 * The key press that was seen last: one press reaches every binding, and only the next one takes back what
 * waits.
 */
let pressed = -1;
const takeBack = () => {
  for (const timer of waiting) clearTimeout(timer);
  waiting.clear();
};

type Burst = {
  text: string;
  /** whether it goes on from other keys: the tail of something is no scan */
  isTail: boolean;
  last: number;
  field: HTMLInputElement | HTMLTextAreaElement | null;
  value: string;
};

/**
 * Who takes a scan before the command field does: the page that stands open, the newest first. True when it
 * was for them.
 */
const takers: ((text: string) => boolean)[] = [];
export function useScanTaker(take: (text: string) => boolean): void {
  const latest = useRef(take);
  useEffect(() => {
    latest.current = take;
  });
  useEffect(() => {
    const mine = (text: string) => latest.current(text);
    takers.unshift(mine);
    return () => void takers.splice(takers.indexOf(mine), 1);
  }, []);
}

/**
 * Calls `scanned` for each scan, wherever the focus is; the characters of a scan are taken back out of a
 * field.
 */
export function useScanner(scanned: (text: string) => void): void {
  const latest = useRef(scanned);
  useEffect(() => {
    latest.current = scanned;
  });
  useEffect(() => {
    let burst: Burst | null = null;
    let lastKey = -Infinity;
    let lastField: Burst["field"] = null;
    const onKey = (e: KeyboardEvent) => {
      const now = e.timeStamp;
      if (e.key === "Enter") lastKey = -Infinity;
      if (
        e.key === "Enter" &&
        burst &&
        !burst.isTail &&
        burst.text.length >= SCAN_LEAST &&
        now - burst.last <= SCAN_GAP_MS
      ) {
        e.preventDefault();
        e.stopImmediatePropagation();
        takeBack();
        if (burst.field) restore(burst.field, burst.value);
        const text = burst.text;
        burst = null;
        if (!takers.some((take) => take(text))) latest.current(text);
        return;
      }
      if (e.key === "Tab" || e.key === "Enter") burst = null; // a scan never leaves its field
      if (e.key.length !== 1 || e.ctrlKey || e.metaKey || e.altKey) return;
      if (!burst || now - burst.last > SCAN_GAP_MS) {
        const field = isField(e.target) ? e.target : null;
        const goesOn = field !== null && field === lastField && field.value !== "";
        const isTail = now - lastKey <= (goesOn ? IN_FIELD_MS : BEFORE_SCAN_MS);
        lastField = field;
        burst = { text: "", isTail, last: now, field, value: field?.value ?? "" };
      }
      lastKey = now;
      burst.text += e.key;
      burst.last = now;
    };
    window.addEventListener("keydown", onKey, true);
    return () => window.removeEventListener("keydown", onKey, true);
  }, []);
}

/**
 * Binds single keys while no field has focus. A key waits a moment, so that the first letter of a scan is not
 * an action.
 */
export function useKeys(bindings: Record<string, () => void>): void {
  const latest = useRef(bindings);
  const [on] = useSingleKeys();
  useEffect(() => {
    latest.current = bindings;
  });
  useEffect(() => {
    const mine = new Set<ReturnType<typeof setTimeout>>();
    const onKey = (e: KeyboardEvent) => {
      if (e.timeStamp !== pressed) takeBack();
      pressed = e.timeStamp;
      const name = e.altKey ? `alt+${e.code.replace("Digit", "")}` : e.key;
      const always = e.altKey;
      if (e.ctrlKey || e.metaKey || (!always && (!on || isField(e.target) || inDialog(e.target)))) return;
      const action = latest.current[name];
      if (!action) return;
      if (
        (e.key === " " || e.key === "Enter") &&
        e.target instanceof HTMLElement &&
        e.target.matches("button, a, [role=button], input")
      )
        return;
      if (always || e.key === " " || e.key === "/") {
        e.preventDefault();
        action();
      } else {
        const timer = setTimeout(() => {
          waiting.delete(timer);
          mine.delete(timer);
          latest.current[name]?.();
        }, SCAN_GAP_MS + 10);
        waiting.add(timer);
        mine.add(timer);
      }
    };
    window.addEventListener("keydown", onKey);
    return () => {
      for (const timer of mine) clearTimeout(timer);
      window.removeEventListener("keydown", onKey);
    };
  }, [on]);
}
