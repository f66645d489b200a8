"use client";

import { useEffect, useRef, useState, useSyncExternalStore } from "react";

import { useKeys, useScanTaker } from "@/ui/kit/keys";
import { say } from "@/features/mend/words/words";

/**
 * What a person can do at a step without touching the screen: by key, pedal, scanned code, or a button of
 * another controller.
 */

export const ACTS = ["done", "next", "back", "problem", "tick", "picture", "aloud", "undo"] as const;
export type Act = (typeof ACTS)[number];
export const ACT_WORDS: Record<Act, string> = {
  done: say("done3"),
  next: say("lookAtTheNext"),
  back: say("lookBack"),
  problem: "problem",
  tick: say("tickThePiece"),
  picture: "picture",
  aloud: say("readAloud"),
  undo: say("undoTheLast"),
};

/** Codes for the scanner; they stand on the printed tray mat. */
export const SCAN_CODES: Record<string, Act> = {
  "GO-DONE": "done",
  "GO-NEXT": "next",
  "GO-BACK": "back",
  "GO-PROBLEM": "problem",
  "GO-TICK": "tick",
  "GO-PICTURE": "picture",
};

const USUAL: Record<Act, string> = {
  done: "Enter",
  next: "ArrowRight",
  back: "ArrowLeft",
  problem: "x",
  tick: " ",
  picture: "c",
  aloud: "v",
  undo: "u",
};
const STORE = "birdcage-step-keys";
type Bound = { keys: Record<Act, string>; pad: Partial<Record<Act, number>> };
const NONE: Bound = { keys: USUAL, pad: {} };

const subscribe = (listener: () => void) => {
  window.addEventListener(STORE, listener);
  return () => window.removeEventListener(STORE, listener);
};
let cache: { text: string | null; bound: Bound } = { text: null, bound: NONE };
function read(): Bound {
  const text = localStorage.getItem(STORE);
  if (text !== cache.text) {
    try {
      const stored = text === null ? NONE : (JSON.parse(text) as Bound);
      cache = { text, bound: { keys: { ...USUAL, ...stored.keys }, pad: stored.pad } };
    } catch {
      cache = { text, bound: NONE };
    }
  }
  return cache.bound;
}
const write = (bound: Bound) => {
  localStorage.setItem(STORE, JSON.stringify(bound));
  window.dispatchEvent(new Event(STORE));
};

export function useBindings(): Bound {
  return useSyncExternalStore(subscribe, read, () => NONE);
}

export const keyName = (key: string): string => (key === " " ? say("space") : key.replace("Arrow", "arrow "));

/** Runs the acts for every way of asking. While one is being bound the next key or button is taken for it. */
export function useActs(run: (act: Act) => void): {
  bound: Bound;
  binding: Act | null;
  bind: (act: Act | null) => void;
  reset: () => void;
} {
  const bound = useBindings();
  const [binding, setBinding] = useState<Act | null>(null);
  const latest = useRef({ run, bound, binding });
  useEffect(() => {
    latest.current = { run, bound, binding };
  });
  const act = (a: Act) => {
    if (latest.current.binding === null) latest.current.run(a);
  };
  useKeys(Object.fromEntries(ACTS.map((a) => [bound.keys[a], () => act(a)])));
  useScanTaker((text) => {
    const found = SCAN_CODES[text.toUpperCase()];
    if (found) act(found);
    return found !== undefined;
  });
  useEffect(() => {
    if (binding === null) return;
    const onKey = (e: KeyboardEvent) => {
      if (["Tab", "Shift", "Control", "Alt", "Meta"].includes(e.key)) return;
      e.preventDefault();
      e.stopImmediatePropagation();
      if (e.key !== "Escape")
        write({ ...latest.current.bound, keys: { ...latest.current.bound.keys, [binding]: e.key } });
      setBinding(null);
    };
    window.addEventListener("keydown", onKey, true);
    return () => window.removeEventListener("keydown", onKey, true);
  }, [binding]);
  useEffect(() => {
    const pressed = new Set<string>();
    const timer = setInterval(() => {
      for (const pad of navigator.getGamepads?.() ?? [])
        pad?.buttons.forEach((b, i) => {
          const id = `${pad.index} ${i}`;
          if (!b.pressed) return void pressed.delete(id);
          if (pressed.has(id)) return;
          pressed.add(id);
          const { binding: asked, bound: now } = latest.current;
          if (asked !== null) {
            write({ ...now, pad: { ...now.pad, [asked]: i } });
            setBinding(null);
          } else for (const a of ACTS) if (now.pad[a] === i) latest.current.run(a);
        });
    }, 50);
    return () => clearInterval(timer);
  }, []);
  return { bound, binding, bind: setBinding, reset: () => write(NONE) };
}
