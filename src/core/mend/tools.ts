import type { MendGuide } from "../profile/guide";
import type { GuideStep } from "../profile/guide";

/** Tools of the trade in general words, what may stand in for each, and what that risks. */

export type Tool = { id: string; name: string; standIns: { id: string; risk: string }[] };

const tool = (id: string, name: string, ...standIns: [id: string, risk: string][]): Tool => ({
  id,
  name,
  standIns: standIns.map(([s, risk]) => ({ id: s, risk })),
});

export const TOOLS: readonly Tool[] = [
  tool("driver-magnetic", "driver, magnetic", ["driver-plain", "the fastener drops inside: a tray under it, and the tweezers"]),
  tool("driver-plain", "driver, plain", ["driver-magnetic", ""]),
  tool("shaft-long", "long shaft for deep wells"),
  tool("plastic-lever", "plastic lever", ["card", "a card bends: start at the clip, never pull"]),
  tool("card", "plastic card"),
  tool("wedge", "wedge", ["card", "the clips catch again sooner: put in two"]),
  tool("pick-blunt", "blunt pick", ["plastic-lever", "too wide for a slide catch: one end at a time"]),
  tool("tweezers-plastic", "plastic tweezers", ["plastic-lever", "lifts one side first: the pins bend"]),
  tool("tweezers-steel", "steel tweezers", ["tweezers-plastic", "slips off a spring: a finger over it"]),
  tool("pliers-flat", "flat pliers"),
  tool("iron-fine", "fine iron", ["iron-wide", "reaches the neighbour: shield it"]),
  tool("iron-wide", "wide iron"),
  tool("wick", "wick", ["sucker", "leaves some in the hole: heat again"]),
  tool(
    "sucker",
    "powered sucker",
    ["hand-pump", "slower, and a ring tears when it is pressed"],
    ["wick", "more heat on the ring"],
  ),
  tool("hand-pump", "hand pump"),
  tool("flux", "flux"),
  tool("hot-air", "hot air"),
  tool("heat-plate", "heat-spreader plate", ["hot-air", "heats the plastic beside it as well: shield"]),
  tool("gauge-pins", "gauge pins", ["leg-offcut", "says open or not, not the bore"]),
  tool("leg-offcut", "offcut of a leg"),
  tool("magnifier", "magnifier", ["phone-camera", "one hand is taken"]),
  tool("phone-camera", "phone camera"),
  tool("swabs", "swabs"),
  tool("contact-cleaner", "contact cleaner"),
  tool("clamp", "clamp", ["tape", "lets go when warm"]),
  tool("tape", "tape"),
];

/** "fine iron" in a route is the tool "iron-fine" here. */
const BY_NAME = new Map(TOOLS.map((t) => [t.name, t.id]));
export const toolId = (nameOrId: string): string => BY_NAME.get(nameOrId) ?? nameOrId.replaceAll(" ", "-");

export const bitId = (drive: string, size: string): string => `bit-${drive}-${size}`;

export type NeededTool = {
  id: string;
  name: string;
  /** steps that want it */
  steps: string[];
  state: "owned" | "stand-in" | "missing";
  standIn: { name: string; risk: string } | null;
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
      const state = owned.has(id) ? "owned" : standIn ? "stand-in" : "missing";
      return {
        id,
        name: toolName(id),
        steps: [...by],
        state,
        standIn: state === "stand-in" ? { name: toolName(standIn!.id), risk: standIn!.risk } : null,
      };
    })
    .sort((a, b) => STATES.indexOf(a.state) - STATES.indexOf(b.state) || a.name.localeCompare(b.name));
}
const STATES = ["missing", "stand-in", "owned"];

export const toolName = (id: string): string =>
  TOOLS.find((t) => t.id === id)?.name ??
  id
    .replace(/^bit-(.+)-([^-]+)$/, (_, drive: string, size: string) => `bit: ${drive.replaceAll("-", " ")} ${size}`)
    .replaceAll("-", " ");

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
