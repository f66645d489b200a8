import house from "../../../catalogue/tools.json" with { type: "json" };
import { z } from "../base/schema";
import type { GuideStep, MendGuide } from "../profile/guide";

/**
 * Tools of the trade in general words (catalogue/tools.json), what may stand in for each, and what that
 * risks.
 */

const toolSchema = z.strictObject({
  id: z.string().min(1).max(40),
  name: z.string().min(1).max(80),
  standIns: z.array(z.strictObject({ id: z.string().max(40), risk: z.string().max(200) })).max(5),
});
const fileSchema = z.strictObject({
  format: z.literal("birdcage-tools"),
  version: z.literal(1),
  tools: z.array(toolSchema),
});
export const TOOLS = fileSchema.parse(house).tools;

/** "fine iron" in a route is the tool "iron-fine" here. */
const BY_NAME = new Map(TOOLS.map((t) => [t.name, t.id]));
export const toolId = (nameOrId: string): string => BY_NAME.get(nameOrId) ?? nameOrId.replaceAll(" ", "-");

export const bitId = (drive: string, size: string): string => `bit-${drive}-${size}`;

export type NeededTool = {
  id: string;
  /** steps that want it */
  steps: string[];
  state: "owned" | "stand-in" | "missing";
  standIn: { id: string; risk: string } | null;
};

/** One list of tools and bits for some steps and tools by name, held against what the shop owns. */
export function toolsFor(
  guide: MendGuide,
  steps: readonly GuideStep[],
  others: readonly { tool: string; for: string }[],
  owned: ReadonlySet<string>,
): NeededTool[] {
  const wanted = new Map<string, Set<string>>();
  const want = (id: string, step: string) => wanted.set(id, (wanted.get(id) ?? new Set()).add(step));
  for (const s of steps) {
    for (const t of s.tools) want(t, s.title);
    for (const id of s.frees.fasteners) {
      const f = guide.fasteners.find((x) => x.id === id)!;
      want(bitId(f.drive, f.size), s.title);
      if ((f.shaftMm ?? 0) > 25) want("shaft-long", s.title);
    }
  }
  for (const o of others) want(toolId(o.tool), o.for);
  return [...wanted]
    .map(([id, by]): NeededTool => {
      const known = TOOLS.find((t) => t.id === id);
      const standIn = known?.standIns.find((s) => owned.has(s.id));
      const stateOf = () => {
        if (owned.has(id)) return "owned";
        if (standIn) return "stand-in";
        return "missing";
      };
      const state = stateOf();
      return {
        id,
        steps: [...by],
        state,
        standIn: state === "stand-in" ? standIn! : null,
      };
    })
    .sort((a, b) => STATES.indexOf(a.state) - STATES.indexOf(b.state) || a.id.localeCompare(b.id));
}
const STATES = ["missing", "stand-in", "owned"];

/** The drive and size of a bit by its id; null for any other tool. */
export function bitOf(id: string): { drive: string; size: string } | null {
  const [, drive, size] = /^bit-(.+)-([^-]+)$/.exec(id) ?? [];
  return drive !== undefined && size !== undefined ? { drive, size } : null;
}

/** What the house owns until a lead says otherwise. */
export const HOUSE_TOOLS: string[] = [
  ...TOOLS.map((t) => t.id).filter((t) => t !== "sucker" && t !== "heat-plate" && t !== "gauge-pins"),
  bitId("cross-small", "0"),
  bitId("cross-small", "00"),
  bitId("cross", "1"),
  bitId("six-lobe", "5"),
  bitId("six-lobe", "6"),
  bitId("six-lobe", "8"),
  bitId("three-point", "1"),
  bitId("slot", "3"),
];
