import house from "../../../catalogue/cleaning.json" with { type: "json" };
import { z } from "../base/schema";
import { MATERIALS, type Material, type MendGuide, SPOTS } from "../profile/guide";

/**
 * Which agent is allowed on which material, with which tool, and how long it soaks and dries: house rules
 * (catalogue/cleaning.json); data sheets come first.
 */

export const AGENT_IDS = [
  "mild-wipe",
  "alcohol-contact",
  "alcohol-70",
  "soap-bath",
  "contact-cleaner",
  "protectant",
  "none",
] as const;
export type Agent = (typeof AGENT_IDS)[number];

const agentSchema = z.enum(AGENT_IDS);
const minutesSchema = z.int().min(0).max(2880);
const fileSchema = z.strictObject({
  format: z.literal("birdcage-cleaning"),
  version: z.literal(1),
  agents: z.record(agentSchema, z.strictObject({ name: z.string().min(1).max(80), waters: z.boolean() })),
  materials: z.record(
    z.enum(MATERIALS),
    z.strictObject({
      allowed: z.array(agentSchema).min(1),
      use: agentSchema,
      never: z.string().min(1).max(200),
      soakMinutes: minutesSchema,
      dryMinutes: minutesSchema,
    }),
  ),
  spots: z.record(z.enum(SPOTS), z.string().min(1).max(80)),
});
const { agents, materials, spots } = fileSchema.parse(house);
export const AGENTS = agents;
export const RULES = materials;

/** A piece that goes off in one go: a soak reaches plastic pieces too. */
const SOAKED_PIECES = { soakMinutes: 15, dryMinutes: 45 };

/** What a surface asks besides its agent. */
export type CleaningNote = "blow-out" | "board-under" | "residue-first" | "lint";
/** Why intake suggests a level. */
export type SoilingWhy =
  "liquid" | "strong-smell" | "strong-grime" | "hygiene" | "contact-fault" | "slight" | "clean";

export type CleaningJob = {
  surface: string;
  name: string;
  material: Material;
  agent: Agent;
  tool: string;
  never: string;
  also: CleaningNote[];
  soakMinutes: number;
  dryMinutes: number;
  /** what a person does, without the waits */
  minutes: number;
  piece: string | null;
  /** reached after this step; closed when null */
  after: string | null;
};

export type Soiling = {
  smell: "none" | "slight" | "strong";
  grime: "none" | "slight" | "strong";
  hygiene: "none" | "slight" | "strong";
  liquid: boolean;
};

/**
 * The level that intake suggests, with why: 0 none, 1 outside, 2 buttons and rubber, 3 wells and sensors, 4
 * boards.
 */
export function suggestedLevel(s: Soiling, contactFault: boolean): { level: number; why: SoilingWhy[] } {
  const reasons: [number, SoilingWhy][] = [];
  if (s.liquid) reasons.push([4, "liquid"]);
  if (s.smell === "strong") reasons.push([3, "strong-smell"]);
  if (s.grime === "strong") reasons.push([3, "strong-grime"]);
  if (s.hygiene === "strong") reasons.push([3, "hygiene"]);
  if (contactFault) reasons.push([2, "contact-fault"]);
  if ([s.smell, s.grime, s.hygiene].includes("slight")) reasons.push([2, "slight"]);
  if (reasons.length === 0) return { level: 1, why: ["clean"] };
  const level = Math.max(...reasons.map(([l]) => l));
  return { level, why: reasons.filter(([l]) => l === level).map(([, w]) => w) };
}

export const surfacesFor = (guide: MendGuide, level: number) =>
  guide.surfaces.filter((s) => s.level <= level);

const WORK_MINUTES: Record<Material, number> = {
  "hard-plastic": 3,
  "soft-skin": 3,
  print: 1,
  rubber: 2,
  "metal-contact": 2,
  board: 5,
  sensor: 4,
  fabric: 2,
};

/** The jobs of a level: what soaks longest first, so that the waiting time is filled with the rest. */
export function cleaningPlan(guide: MendGuide, level: number): CleaningJob[] {
  const jobs = surfacesFor(guide, level).map((s): CleaningJob => {
    const rule = RULES[s.material];
    const soaks = s.piece !== undefined && rule.soakMinutes === 0 && rule.allowed.includes("soap-bath");
    const wait = soaks ? SOAKED_PIECES : rule;
    const also: CleaningNote[] = [];
    if (s.material === "sensor") also.push("blow-out");
    if (s.material === "rubber") also.push("board-under");
    if (s.material === "board") also.push("residue-first");
    if (s.spot === "well" || s.material === "sensor" || s.material === "board") also.push("lint");
    return {
      surface: s.id,
      name: s.name,
      material: s.material,
      agent: soaks ? "soap-bath" : rule.use,
      tool: spots[s.spot],
      never: rule.never,
      also,
      soakMinutes: wait.soakMinutes,
      dryMinutes: wait.dryMinutes,
      minutes: WORK_MINUTES[s.material],
      piece: s.piece ?? null,
      after: s.after ?? null,
    };
  });
  return jobs.sort((a, b) => b.soakMinutes + b.dryMinutes - (a.soakMinutes + a.dryMinutes));
}

/** Whether an agent may be used on a material. */
export const mayUse = (material: Material, agent: Agent): boolean => RULES[material].allowed.includes(agent);
