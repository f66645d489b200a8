/**
 * What the record calls an item of a guide, or a step of an order: its kind and its own id,
 * "fastener:r.rail", "clean:back". They are made and taken apart here only.
 */

export const REF_KINDS = [
  "fastener",
  "clip",
  "cable",
  "piece",
  "extra",
  "apart",
  "back",
  "clean",
  "look",
  "mend",
  "calibrate",
  "gate",
] as const;
export type RefKind = (typeof REF_KINDS)[number];

export const refTo = <K extends RefKind>(kind: K, id: string | number): `${K}:${string}` => `${kind}:${id}`;

/** Null for what is none. */
export function refOf(text: string): { kind: RefKind; id: string } | null {
  const at = text.indexOf(":");
  const kind = REF_KINDS.find((k) => k === text.slice(0, at));
  return at > 0 && kind !== undefined ? { kind, id: text.slice(at + 1) } : null;
}

export const isRefTo = (kind: RefKind, text: string): boolean => text.startsWith(`${kind}:`);
