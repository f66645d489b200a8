import house from "../../../catalogue/removal.json" with { type: "json" };
import { z } from "../base/schema";
import type { SolderJob } from "../profile/guide";

/**
 * Solder work: the setting of an operation under its board's ceiling, heat cycles of a chip, and the checks
 * of holes and joints.
 */

export type HeatEntry = {
  job: string;
  celsius: number;
  /** chips that took the heat, named by the technician */
  chips: readonly string[];
};

/** Whether a setting is hotter than its board bears and nobody wrote down why this once. */
export const isTooHot = (job: SolderJob, celsius: number, exception: string): boolean =>
  celsius > job.ceiling && exception.trim() === "";

/**
 * Reflow cycles that a chip is rated for by common practice; beyond them it is more likely hurt than helped.
 */
export const HEAT_CYCLES = 3;

export type ChipHeat = { chip: string; cycles: number; state: "good" | "last" | "beyond" };
export function heatCycles(entries: readonly HeatEntry[]): ChipHeat[] {
  const count = new Map<string, number>();
  for (const e of entries) for (const c of new Set(e.chips)) count.set(c, (count.get(c) ?? 0) + 1);
  return [...count].map(([chip, cycles]) => {
    const stateOf = () => {
      if (cycles > HEAT_CYCLES) return "beyond";
      if (cycles === HEAT_CYCLES) return "last";
      return "good";
    };
    return {
      chip,
      cycles,
      state: stateOf(),
    };
  });
}

/** A leg of this size must pass with play; a hole a tenth narrower than it was drilled still holds solder. */
const PLAY_MM = 0.1;
export type HoleCheck = { hole: number; gaugeMm: number; ringIntact: boolean };
/** Holes that are not ready for the new part. */
export function holesNotReady(
  job: SolderJob,
  checks: readonly HoleCheck[],
): { hole: number; why: "not-checked" | "solder-in-it" | "ring-torn" }[] {
  const out: { hole: number; why: "not-checked" | "solder-in-it" | "ring-torn" }[] = [];
  for (let hole = 1; hole <= job.holes; hole++) {
    const c = checks.findLast((x) => x.hole === hole);
    if (!c) out.push({ hole, why: "not-checked" });
    else if (!c.ringIntact) out.push({ hole, why: "ring-torn" });
    else if (c.gaugeMm < job.holeMm - PLAY_MM) out.push({ hole, why: "solder-in-it" });
  }
  return out;
}

export const JOINT_CHECKS = ["filled", "shiny", "no-bridge", "legs-cut", "flux-off", "both-sides"] as const;

const methodSchema = z.strictObject({
  id: z.string().min(1).max(40),
  name: z.string().min(1).max(80),
  startMinutes: z.number().min(0).max(60),
  jointMinutes: z.number().min(0).max(10),
  /** the tool without which it cannot be done */
  needs: z.string().min(1).max(40),
  why: z.string().min(1).max(200),
});
const METHODS = z
  .strictObject({
    format: z.literal("birdcage-removal"),
    version: z.literal(1),
    methods: z.array(methodSchema),
  })
  .parse(house).methods;

export type RemovalMethod = { id: string; name: string; minutes: number; needs: string; why: string };
/**
 * Ways to take a part off (catalogue/removal.json) by the tools that there are, quickest first. Minutes for a
 * joint, plus a start.
 */
export function removalMethods(job: SolderJob, owned: ReadonlySet<string>): RemovalMethod[] {
  const slow = 1 + job.grounded / Math.max(1, job.joints);
  return METHODS.filter((m) => owned.has(m.needs))
    .map(({ startMinutes, jointMinutes, ...m }) => ({
      ...m,
      minutes: Math.round((startMinutes + jointMinutes * job.joints * slow) * 2) / 2,
    }))
    .sort((a, b) => a.minutes - b.minutes);
}
