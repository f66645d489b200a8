import type { MappedControl } from "../input/input";
import type { QuickControl } from "./quick-look";

/** Of the measures that a full test needs for a verdict, those that a quick look can see fail. */
const LOOKED_AT: Record<MappedControl["kind"], { seen: number; required: number }> = {
  stick: { seen: 3, required: 8 }, // rest offset, jumps, dead halves; not noise, dead zone, reach, edge error, leaps at rest
  trigger: { seen: 2, required: 4 }, // rest value, full pull; not backtrack, largest step
  button: { seen: 1, required: 2 }, // pressed at rest; a missed press cannot be seen without a cue
};

export type TriageConfidence = { looked: number; required: number; share: number };

/**
 * How much of a full test's evidence a quick look holds: a share of required measures, never a chance of
 * being good.
 */
export function triageConfidence(
  controls: readonly { id: string; kind: MappedControl["kind"] }[],
  quick: readonly QuickControl[],
): TriageConfidence {
  let looked = 0;
  let required = 0;
  for (const c of controls) {
    const moved = Math.min(1, quick.find((q) => q.id === c.id)?.seen ?? 0);
    looked += LOOKED_AT[c.kind].seen * moved;
    required += LOOKED_AT[c.kind].required;
  }
  return { looked, required, share: required ? looked / required : 0 };
}
