import type { NodeKind, Wiring } from "../profile/wiring";

/**
 * It works in one state and fails in the other: what differs, and a search that halves it with one result a
 * step.
 */

export const STATE_PAIRS = ["open-closed", "cable-radio", "cold-warm"] as const;
export type StatePair = (typeof STATE_PAIRS)[number];
/** What always differs, whatever the model. */
export const ALWAYS_DIFFERS = ["fasteners", "shell-halves", "host-and-slot", "warmth"] as const;
export type AlwaysDiffers = (typeof ALWAYS_DIFFERS)[number];
/** `what`: the part by its own name; empty for what always differs, which its id says. */
export type Difference = { id: string; what: string; node: string | null };

const KINDS: Record<StatePair, readonly NodeKind[]> = {
  "open-closed": [
    "flex",
    "lead",
    "antenna",
    "connector",
    "plug",
    "socket",
    "cell-contact",
    "frame",
    "shell",
    "transducer",
    "port",
  ],
  "cable-radio": ["cell", "cell-contact", "antenna", "connector", "plug", "fuse"],
  "cold-warm": ["joint", "chip", "cell", "cell-contact", "supply", "connector", "plug", "socket"],
};
const ALWAYS: Record<StatePair, readonly AlwaysDiffers[]> = {
  "open-closed": ["fasteners", "shell-halves"],
  "cable-radio": ["host-and-slot"],
  "cold-warm": ["warmth"],
};

/**
 * What differs between the two states: from the wiring, from what was touched on the way, and what always
 * does.
 */
export function differencesOf(
  wiring: Wiring | undefined,
  pair: StatePair,
  relevant: ReadonlySet<string>,
  touched: readonly string[],
): Difference[] {
  const parts = (wiring?.nodes ?? []).filter(
    (n) =>
      (KINDS[pair].includes(n.kind) || (pair === "cable-radio" && /radio/.test(n.id))) &&
      (relevant.size === 0 || relevant.has(n.id)),
  );
  const handled = (wiring?.nodes ?? []).filter((n) => touched.includes(n.id) && !parts.includes(n));
  return [
    ...[...handled, ...parts].map((n) => ({ id: n.id, what: n.name, node: n.id })),
    ...ALWAYS[pair].map((id) => ({ id, what: "", node: null })),
  ];
}

export type HalvingStep = { switched: readonly string[]; result: "works" | "fails" };
export type Halving =
  | { state: "ask"; left: readonly string[]; switch: readonly string[]; stepsLeft: number }
  | { state: "found"; item: string }
  | { state: "contradiction" };

/**
 * Starting from the state that works: bring half of what is left into the other state and test. It fails: the
 * cause is among those switched; it works: among the rest. What was switched before stays as it was. About
 * log2 of the list in steps.
 */
export function halvingNext(items: readonly string[], steps: readonly HalvingStep[]): Halving {
  let left = [...items];
  for (const s of steps) left = left.filter((x) => s.switched.includes(x) === (s.result === "fails"));
  if (left.length === 0) return { state: "contradiction" };
  if (left.length === 1) return { state: "found", item: left[0]! };
  return {
    state: "ask",
    left,
    switch: left.slice(0, Math.ceil(left.length / 2)),
    stepsLeft: Math.ceil(Math.log2(left.length)),
  };
}
