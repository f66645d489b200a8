import type { Material, MendGuide } from "../profile/guide";

/** Which agent is allowed on which material, with which tool, and how long it soaks and dries. House rules; data sheets come first. */

export const AGENTS = {
  "mild-wipe": { name: "damp cloth, a drop of mild soap", waters: true },
  "alcohol-contact": { name: "contact alcohol, 99 %", waters: false },
  "alcohol-70": { name: "alcohol, 70 %", waters: true },
  "soap-bath": { name: "lukewarm soap bath", waters: true },
  "contact-cleaner": { name: "contact cleaner, residue-free", waters: false },
  protectant: { name: "plastic protectant, last and thin", waters: false },
  none: { name: "dry only", waters: false },
} as const;
export type Agent = keyof typeof AGENTS;

type Rule = { allowed: readonly Agent[]; use: Agent; never: string; soakMinutes: number; dryMinutes: number };
export const RULES: Record<Material, Rule> = {
  "hard-plastic": {
    allowed: ["mild-wipe", "alcohol-70", "soap-bath", "protectant"],
    use: "mild-wipe",
    never: "strong solvents: they craze it",
    soakMinutes: 0,
    dryMinutes: 10,
  },
  "soft-skin": {
    allowed: ["mild-wipe"],
    use: "mild-wipe",
    never: "alcohol and polish: the matt skin turns shiny or sticky; try a small spot first",
    soakMinutes: 0,
    dryMinutes: 15,
  },
  print: {
    allowed: ["mild-wipe"],
    use: "mild-wipe",
    never: "alcohol and rubbing: print comes off",
    soakMinutes: 0,
    dryMinutes: 5,
  },
  rubber: {
    allowed: ["soap-bath", "mild-wipe"],
    use: "soap-bath",
    never: "alcohol and oil: it swells and hardens",
    soakMinutes: 15,
    dryMinutes: 60,
  },
  "metal-contact": {
    allowed: ["alcohol-contact", "contact-cleaner"],
    use: "alcohol-contact",
    never: "water left to stand",
    soakMinutes: 0,
    dryMinutes: 10,
  },
  board: {
    allowed: ["alcohol-contact", "contact-cleaner"],
    use: "alcohol-contact",
    never: "anything with water",
    soakMinutes: 0,
    dryMinutes: 20,
  },
  sensor: {
    allowed: ["contact-cleaner", "none"],
    use: "contact-cleaner",
    never: "liquid before the loose dust is blown out",
    soakMinutes: 0,
    dryMinutes: 20,
  },
  fabric: { allowed: ["soap-bath", "mild-wipe"], use: "soap-bath", never: "hot drying", soakMinutes: 30, dryMinutes: 240 },
};
/** A piece that goes off in one go: a soak reaches plastic pieces too. */
const SOAKED_PIECES = { soakMinutes: 15, dryMinutes: 45 };

const TOOL_BY_SPOT = {
  open: "soft cloth",
  groove: "blunt side of the pick under a cloth",
  raised: "soft brush, along the raised print",
  well: "swab, turned, once each",
  "round-button": "pulled cloth round it",
} as const;

export type CleaningJob = {
  surface: string;
  name: string;
  material: Material;
  agent: Agent;
  tool: string;
  never: string;
  /** blow out first; look for lint after; the board side along with rubber */
  also: string[];
  soakMinutes: number;
  dryMinutes: number;
  /** what a person does, without the waits */
  minutes: number;
  piece: string | null;
  /** reached after this step; closed when null */
  after: string | null;
};

export type Soiling = { smell: "none" | "slight" | "strong"; grime: "none" | "slight" | "strong"; liquid: boolean };

/** The level that intake suggests, with why: 0 none, 1 outside, 2 buttons and rubber, 3 wells and sensors, 4 boards. */
export function suggestedLevel(s: Soiling, contactFault: boolean): { level: number; why: string[] } {
  const reasons: [number, string][] = [];
  if (s.liquid) reasons.push([4, "it took liquid: both faces of every board"]);
  if (s.smell === "strong") reasons.push([3, "strong smell: wells too, and smelled again after a day closed up"]);
  if (s.grime === "strong") reasons.push([3, "strong grime"]);
  if (contactFault) reasons.push([2, "a contact fault: rubber and board contacts together"]);
  if (s.smell === "slight" || s.grime === "slight") reasons.push([2, "slight soiling"]);
  if (reasons.length === 0) return { level: 1, why: ["it looks clean: a wipe for sale"] };
  const level = Math.max(...reasons.map(([l]) => l));
  return { level, why: reasons.filter(([l]) => l === level).map(([, w]) => w) };
}

export const surfacesFor = (guide: MendGuide, level: number) => guide.surfaces.filter((s) => s.level <= level);

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
    const soaks = s.piece !== undefined && rule.soakMinutes === 0 && (rule.allowed as readonly Agent[]).includes("soap-bath");
    const wait = soaks ? SOAKED_PIECES : rule;
    const also: string[] = [];
    if (s.material === "sensor") also.push("blow the loose dust out before it is opened and before any liquid");
    if (s.material === "rubber") also.push("clean the board contacts under it as well");
    if (s.material === "board")
      also.push("flux and corrosion: mechanically first, brush with alcohol, both faces, look again under the residue");
    if (s.spot === "well" || s.material === "sensor" || s.material === "board")
      also.push("look for lint and hair that the swab left");
    return {
      surface: s.id,
      name: s.name,
      material: s.material,
      agent: soaks ? "soap-bath" : rule.use,
      tool: TOOL_BY_SPOT[s.spot],
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
