import type { SolderJob } from "../profile/guide";

/** Solder work: the setting of an operation under its board's ceiling, heat cycles of a chip, and the checks of holes and joints. */

export type HeatEntry = {
  job: string;
  celsius: number;
  /** chips that took the heat, named by the technician */
  chips: readonly string[];
};

/** Why a setting is refused; null when it may be used. */
export function settingProblem(job: SolderJob, celsius: number, exception: string): string | null {
  if (celsius > job.ceiling && exception.trim() === "")
    return `the ${job.board} board bears ${job.ceiling} °C: set it lower, or write down why this once`;
  return null;
}

/** Reflow cycles that a chip is rated for by common practice; beyond them it is more likely hurt than helped. */
export const HEAT_CYCLES = 3;

export type ChipHeat = { chip: string; cycles: number; state: "good" | "last" | "beyond" };
export function heatCycles(entries: readonly HeatEntry[]): ChipHeat[] {
  const count = new Map<string, number>();
  for (const e of entries) for (const c of new Set(e.chips)) count.set(c, (count.get(c) ?? 0) + 1);
  return [...count].map(([chip, cycles]) => ({
    chip,
    cycles,
    state: cycles > HEAT_CYCLES ? "beyond" : cycles === HEAT_CYCLES ? "last" : "good",
  }));
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

export type RemovalMethod = { id: string; name: string; minutes: number; needs: string; why: string };
/** Ways to take a part off by the tools that there are, quickest first. Minutes for a joint, plus a start. */
export function removalMethods(job: SolderJob, owned: ReadonlySet<string>): RemovalMethod[] {
  const slow = 1 + job.grounded / Math.max(1, job.joints);
  const per = (start: number, each: number) => Math.round((start + each * job.joints * slow) * 2) / 2;
  const all: RemovalMethod[] = [
    { id: "sucker", name: "powered sucker", minutes: per(2, 0.35), needs: "sucker", why: "clears each hole in one go" },
    {
      id: "heat-plate",
      name: "heat-spreader plate",
      minutes: per(3, 0.25),
      needs: "heat-plate",
      why: "all joints at once; the plastic goes with it",
    },
    {
      id: "hot-air",
      name: "hot air from beneath",
      minutes: per(4, 0.3),
      needs: "hot-air",
      why: "all joints at once; shield what is close",
    },
    {
      id: "hand-pump",
      name: "hand pump and fresh solder",
      minutes: per(2, 0.8),
      needs: "hand-pump",
      why: "needs two goes for grounded pins",
    },
    { id: "wick", name: "wick", minutes: per(2, 0.9), needs: "wick", why: "gentle; never press it on the ring" },
    {
      id: "break",
      name: "break the old part off, pins one by one",
      minutes: per(3, 0.5),
      needs: "iron-fine",
      why: "least force on the rings; the old part is lost",
    },
  ];
  return all.filter((m) => owned.has(m.needs)).sort((a, b) => a.minutes - b.minutes);
}
