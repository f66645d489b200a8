import type { History } from "../claim/history";
import type { Family } from "../decide/families";

/** What a buyer or owner can do so that it lasts, fitted to why it failed and to what it has. */

export const CARES = [
  "plug-straight",
  "no-food",
  "stick-light",
  "dry-away",
  "soft-landing",
  "store-half-full",
  "strap-and-latch",
  "cord-no-bend",
  "loose-cells-out",
  "out-of-reach-of-teeth",
] as const;
export type Care = (typeof CARES)[number];

const BY_FAMILY: Partial<Record<Family, Care>> = {
  port: "plug-straight",
  power: "plug-straight",
  cord: "cord-no-bend",
  latch: "strap-and-latch",
  "stick-drift": "stick-light",
  "stick-worn": "stick-light",
  "button-dome": "no-food",
  "button-membrane": "no-food",
  "button-switch": "no-food",
};
const BY_HISTORY: Partial<Record<History, Care>> = {
  liquid: "dry-away",
  fall: "soft-landing",
  teeth: "out-of-reach-of-teeth",
};
const BY_CAUSE: Record<string, Care | undefined> = {
  liquid: "dry-away",
  dirt: "no-food",
  drop: "soft-landing",
};

/** The advice of the causes first, then of what it went through, then of the families, then of the power that it runs on; each once. */
export function careFor(unit: {
  causes: readonly string[];
  /** what it is known to have gone through */
  histories: readonly History[];
  families: readonly Family[];
  power: readonly ("built-in" | "loose" | "cord")[];
}): Care[] {
  const out = [
    ...unit.causes.map((c) => BY_CAUSE[c]),
    ...unit.histories.map((h) => BY_HISTORY[h]),
    ...unit.families.map((f) => BY_FAMILY[f]),
    ...unit.power.map((p): Care => {
      if (p === "built-in") return "store-half-full";
      if (p === "loose") return "loose-cells-out";
      return "cord-no-bend";
    }),
  ];
  return [...new Set(out.filter((c): c is Care => c !== undefined))];
}
