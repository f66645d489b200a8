import { z } from "../base/schema";

import { ok, refuse, type Result } from "../base/result";
import { MAKES, PART_KINDS } from "../profile/slots";
import { FAMILIES } from "./families";

/** The catalogue of routes: what can be done about each family of fault, with stated odds until the shop's record has its own. */

export const ROUTES_FORMAT = "birdcage-routes";

/** The ways of thinking that technicians disagree about; each route belongs to one. */
export const SCHOOLS = ["calibrate", "clean", "adjust", "sensor", "replace", "upgrade", "rework"] as const;
export type School = (typeof SCHOOLS)[number];

const chance = z.number().min(0).max(1);
const stated = z.strictObject({ mean: chance, cases: z.number().min(1).max(200) });

export const routeSchema = z.strictObject({
  id: z
    .string()
    .regex(/^[a-z0-9]+(-[a-z0-9]+)*$/, "use small letters, digits and hyphens")
    .max(40),
  name: z.string().trim().min(2).max(60),
  school: z.enum(SCHOOLS),
  /** which families it treats, each with its stated chance of success */
  treats: z
    .array(z.strictObject({ family: z.enum(FAMILIES), success: stated }))
    .min(1)
    .max(FAMILIES.length),
  /** only these models; all when left out */
  models: z.array(z.string().max(60)).max(60).optional(),
  /** only sticks with these sensors; any when left out */
  sensors: z
    .array(z.enum(["contact", "magnetic", "optical"]))
    .max(3)
    .optional(),
  part: z.strictObject({ kind: z.enum(PART_KINDS), make: z.enum(MAKES) }).nullable(),
  opens: z.boolean(),
  minutes: z.int().min(0).max(480),
  /** soaking, drying, curing: nobody works, the tray is taken */
  waitMinutes: z.int().min(0).max(10_000),
  skill: z.int().min(1).max(4),
  tools: z.array(z.string().trim().min(1).max(40)).max(12),
  /** chance that it comes back for this within the warranty, and that the attempt breaks something for good */
  comeback: stated,
  breaks: chance,
  /** the best grade that it leaves room for */
  grade: z.enum(["A", "B", "C"]),
  /** what a buyer is told */
  discloses: z.string().trim().max(160),
  /** routes that make no sense any more after this one */
  uses: z.array(z.string().max(40)).max(20),
  /** another character than it came with: some buyers do not want it */
  changesCharacter: z.boolean().default(false),
});
export type Route = z.infer<typeof routeSchema>;

export const routesSchema = z
  .array(routeSchema)
  .max(200)
  .superRefine((routes, ctx) => {
    const ids = new Set(routes.map((r) => r.id));
    if (ids.size !== routes.length) ctx.addIssue({ code: "custom", message: "each route needs an id of its own" });
    for (const r of routes)
      for (const u of r.uses)
        if (!ids.has(u)) ctx.addIssue({ code: "custom", message: `${r.id} uses up "${u}", which is not listed` });
    for (const r of routes)
      if (r.treats.some((t) => t.success.mean + r.breaks > 1))
        ctx.addIssue({ code: "custom", message: `${r.id}: success and breaking add up to more than 1` });
  });

const fileSchema = z.strictObject({ format: z.literal(ROUTES_FORMAT), version: z.literal(1), routes: routesSchema });

/** Reads a catalogue's file (docs/formats.md); refusals name the place. */
export function readRoutes(text: string): Result<Route[], { why: string }> {
  let json: unknown;
  try {
    json = JSON.parse(text);
  } catch {
    return refuse({ why: "this is no JSON: export the catalogue once and change that file" });
  }
  const parsed = fileSchema.safeParse(json);
  if (parsed.success) return ok(parsed.data.routes);
  const issue = parsed.error.issues[0]!;
  return refuse({ why: `${issue.path.join(".") || "the file"}: ${issue.message}` });
}

export const writeRoutes = (routes: readonly Route[]): string =>
  JSON.stringify({ format: ROUTES_FORMAT, version: 1, routes }, null, 2);

type Short = Pick<Route, "id" | "name" | "school" | "part" | "minutes" | "skill" | "tools" | "grade"> & {
  treats: Partial<Record<Route["treats"][number]["family"], number>>;
  comeback: number;
  also?: Partial<Route>;
};
const STATED_CASES = 6;
const route = ({ treats, comeback, also, ...r }: Short): Route => ({
  opens: true,
  waitMinutes: 0,
  breaks: 0.01,
  discloses: "",
  uses: [],
  changesCharacter: false,
  ...r,
  treats: Object.entries(treats).map(([family, mean]) => ({
    family: family as Route["treats"][number]["family"],
    success: { mean, cases: STATED_CASES },
  })),
  comeback: { mean: comeback, cases: STATED_CASES },
  ...also,
});

const IRON = ["fine iron", "wick", "flux"];

/**
 * The house's starting catalogue. Stated odds are guesses of six cases each; a shop's own closed jobs move them. Another make of a
 * part is not tried where one failed: what is wrong is then hardly the part.
 */
export const HOUSE_ROUTES: Route[] = [
  route({
    id: "calibrate",
    name: "Calibrate only",
    school: "calibrate",
    part: null,
    minutes: 6,
    skill: 1,
    tools: [],
    grade: "B",
    treats: { "stick-drift": 0.35, "stick-range": 0.3, trigger: 0.25 },
    comeback: 0.28,
    also: { opens: false, breaks: 0, discloses: "calibrated, no part changed" },
  }),
  route({
    id: "clean-contacts",
    name: "Clean the contact surfaces",
    school: "clean",
    part: null,
    minutes: 16,
    skill: 1,
    tools: ["swabs", "contact cleaner"],
    grade: "B",
    treats: { "stick-drift": 0.58, "stick-worn": 0.25, "stick-range": 0.2 },
    comeback: 0.2,
    also: { sensors: ["contact"], waitMinutes: 15 },
  }),
  route({
    id: "clean-magnets",
    name: "Blow out and reseat the magnets",
    school: "clean",
    part: null,
    minutes: 14,
    skill: 2,
    tools: ["air", "plastic tweezers"],
    grade: "A",
    treats: { "stick-drift": 0.5, "stick-worn": 0.2, "stick-range": 0.35 },
    comeback: 0.08,
    also: { sensors: ["magnetic"] },
  }),
  route({
    id: "clean-bowl",
    name: "Clean bowl and wheels",
    school: "clean",
    part: null,
    minutes: 15,
    skill: 2,
    tools: ["swabs", "soft brush"],
    grade: "C",
    treats: { "stick-drift": 0.4, "stick-worn": 0.3, "stick-range": 0.35 },
    comeback: 0.3,
    also: { sensors: ["optical"] },
  }),
  route({
    id: "sensors-dear",
    name: "New sensors, dear copy",
    school: "sensor",
    part: { kind: "contact-sensor", make: "dear-copy" },
    minutes: 28,
    skill: 3,
    tools: IRON,
    grade: "A",
    treats: { "stick-drift": 0.82, "stick-worn": 0.78 },
    comeback: 0.07,
    also: { breaks: 0.02, uses: ["clean-contacts", "sensors-cheap"] },
  }),
  route({
    id: "sensors-cheap",
    name: "New sensors, cheap copy",
    school: "sensor",
    part: { kind: "contact-sensor", make: "cheap-copy" },
    minutes: 28,
    skill: 3,
    tools: IRON,
    grade: "B",
    treats: { "stick-drift": 0.68, "stick-worn": 0.64 },
    comeback: 0.13,
    also: { breaks: 0.02, uses: ["clean-contacts", "sensors-dear"] },
  }),
  route({
    id: "module-dear",
    name: "Whole module, dear copy",
    school: "replace",
    part: { kind: "stick-module", make: "dear-copy" },
    minutes: 34,
    skill: 3,
    tools: [...IRON, "hot air"],
    grade: "A",
    treats: { "stick-drift": 0.88, "stick-worn": 0.88, "stick-range": 0.8, "button-switch": 0.9 },
    comeback: 0.06,
    also: {
      breaks: 0.03,
      uses: ["clean-contacts", "sensors-dear", "sensors-cheap", "module-cheap", "module-original", "magnetic-upgrade"],
    },
  }),
  route({
    id: "module-cheap",
    name: "Whole module, cheap copy",
    school: "replace",
    part: { kind: "stick-module", make: "cheap-copy" },
    minutes: 34,
    skill: 3,
    tools: [...IRON, "hot air"],
    grade: "B",
    treats: { "stick-drift": 0.78, "stick-worn": 0.78, "stick-range": 0.66, "button-switch": 0.82 },
    comeback: 0.13,
    also: {
      breaks: 0.03,
      uses: ["clean-contacts", "sensors-dear", "sensors-cheap", "module-dear", "module-original", "magnetic-upgrade"],
    },
  }),
  route({
    id: "module-original",
    name: "Whole module, original",
    school: "replace",
    part: { kind: "stick-module", make: "original" },
    minutes: 34,
    skill: 3,
    tools: [...IRON, "hot air"],
    grade: "A",
    treats: { "stick-drift": 0.91, "stick-worn": 0.91, "stick-range": 0.87, "button-switch": 0.93 },
    comeback: 0.04,
    also: {
      breaks: 0.03,
      uses: ["clean-contacts", "sensors-dear", "sensors-cheap", "module-dear", "module-cheap", "magnetic-upgrade"],
    },
  }),
  route({
    id: "box-original",
    name: "New stick box, original",
    school: "replace",
    part: { kind: "stick-box", make: "original" },
    minutes: 14,
    skill: 2,
    tools: [],
    grade: "A",
    treats: { "stick-drift": 0.92, "stick-worn": 0.93, "stick-range": 0.9 },
    comeback: 0.06,
    also: { uses: ["clean-bowl", "box-cheap"] },
  }),
  route({
    id: "box-cheap",
    name: "New stick box, cheap copy",
    school: "replace",
    part: { kind: "stick-box", make: "cheap-copy" },
    minutes: 14,
    skill: 2,
    tools: [],
    grade: "B",
    treats: { "stick-drift": 0.78, "stick-worn": 0.8, "stick-range": 0.7 },
    comeback: 0.18,
    also: { uses: ["clean-bowl", "box-original"] },
  }),
  route({
    id: "magnetic-upgrade",
    name: "Change to a magnetic module",
    school: "upgrade",
    part: { kind: "magnetic-module", make: "dear-copy" },
    minutes: 42,
    skill: 4,
    tools: [...IRON, "hot air"],
    grade: "A",
    treats: { "stick-drift": 0.86, "stick-worn": 0.86, "stick-range": 0.7, "button-switch": 0.85 },
    comeback: 0.03,
    also: {
      sensors: ["contact"],
      breaks: 0.04,
      changesCharacter: true,
      discloses: "magnetic sticks fitted",
      uses: ["clean-contacts", "sensors-dear", "sensors-cheap", "module-dear", "module-cheap", "module-original"],
    },
  }),
  route({
    id: "magnetic-dear",
    name: "New magnetic module, dear copy",
    school: "replace",
    part: { kind: "magnetic-module", make: "dear-copy" },
    minutes: 36,
    skill: 3,
    tools: IRON,
    grade: "A",
    treats: { "stick-drift": 0.85, "stick-worn": 0.85, "stick-range": 0.75, "button-switch": 0.85 },
    comeback: 0.05,
    also: { sensors: ["magnetic"], breaks: 0.03, uses: ["clean-magnets", "magnetic-original"] },
  }),
  route({
    id: "magnetic-original",
    name: "New magnetic module, original",
    school: "replace",
    part: { kind: "magnetic-module", make: "original" },
    minutes: 36,
    skill: 3,
    tools: IRON,
    grade: "A",
    treats: { "stick-drift": 0.9, "stick-worn": 0.9, "stick-range": 0.85, "button-switch": 0.9 },
    comeback: 0.03,
    also: { sensors: ["magnetic"], breaks: 0.03, uses: ["clean-magnets", "magnetic-dear"] },
  }),
  route({
    id: "clean-pads",
    name: "Clean pads and contacts",
    school: "clean",
    part: null,
    minutes: 10,
    skill: 1,
    tools: ["swabs"],
    grade: "A",
    treats: { "button-dome": 0.55, "button-membrane": 0.5, "button-switch": 0.3 },
    comeback: 0.12,
  }),
  route({
    id: "pad-behind",
    name: "Pad it from behind",
    school: "adjust",
    part: null,
    minutes: 8,
    skill: 1,
    tools: ["thin foil"],
    grade: "C",
    treats: { "button-dome": 0.6, "button-membrane": 0.6 },
    comeback: 0.22,
    also: { discloses: "a pad behind one button" },
  }),
  route({
    id: "dome-dear",
    name: "New dome sheet, dear copy",
    school: "replace",
    part: { kind: "dome", make: "dear-copy" },
    minutes: 8,
    skill: 1,
    tools: [],
    grade: "A",
    treats: { "button-dome": 0.9 },
    comeback: 0.03,
    also: { uses: ["clean-pads", "pad-behind", "dome-cheap"] },
  }),
  route({
    id: "dome-cheap",
    name: "New dome sheet, cheap copy",
    school: "replace",
    part: { kind: "dome", make: "cheap-copy" },
    minutes: 8,
    skill: 1,
    tools: [],
    grade: "B",
    treats: { "button-dome": 0.78 },
    comeback: 0.1,
    also: { uses: ["clean-pads", "pad-behind", "dome-dear"] },
  }),
  route({
    id: "membrane-dear",
    name: "New membrane, dear copy",
    school: "replace",
    part: { kind: "membrane", make: "dear-copy" },
    minutes: 10,
    skill: 1,
    tools: [],
    grade: "A",
    treats: { "button-membrane": 0.88 },
    comeback: 0.04,
    also: { uses: ["clean-pads", "pad-behind"] },
  }),
  route({
    id: "switch-new",
    name: "New switch, original",
    school: "replace",
    part: { kind: "switch", make: "original" },
    minutes: 16,
    skill: 3,
    tools: IRON,
    grade: "A",
    treats: { "button-switch": 0.92 },
    comeback: 0.03,
    also: { breaks: 0.02, uses: ["clean-pads"] },
  }),
  route({
    id: "trigger-reseat",
    name: "Reseat and shim the sensor",
    school: "adjust",
    part: null,
    minutes: 15,
    skill: 2,
    tools: ["shim"],
    grade: "A",
    treats: { trigger: 0.55 },
    comeback: 0.1,
  }),
  route({
    id: "trigger-sensor",
    name: "New trigger sensor, dear copy",
    school: "replace",
    part: { kind: "trigger-sensor", make: "dear-copy" },
    minutes: 20,
    skill: 3,
    tools: IRON,
    grade: "A",
    treats: { trigger: 0.84 },
    comeback: 0.05,
    also: { breaks: 0.02, uses: ["trigger-reseat", "trigger-original"] },
  }),
  route({
    id: "trigger-original",
    name: "New trigger sensor, original",
    school: "replace",
    part: { kind: "trigger-sensor", make: "original" },
    minutes: 20,
    skill: 3,
    tools: IRON,
    grade: "A",
    treats: { trigger: 0.9 },
    comeback: 0.03,
    also: { breaks: 0.02, uses: ["trigger-reseat", "trigger-sensor"] },
  }),
  route({
    id: "clean-power",
    name: "Clean contacts, reseat the plug",
    school: "clean",
    part: null,
    minutes: 12,
    skill: 1,
    tools: ["swabs", "meter"],
    grade: "A",
    treats: { power: 0.4, port: 0.45, radio: 0.25, sound: 0.35, motor: 0.3, "board-part": 0.3, latch: 0.4 },
    comeback: 0.1,
  }),
  route({
    id: "cell-new",
    name: "New cell, dear copy",
    school: "replace",
    part: { kind: "cell", make: "dear-copy" },
    minutes: 8,
    skill: 2,
    tools: ["meter"],
    grade: "A",
    treats: { power: 0.6 },
    comeback: 0.04,
  }),
  route({
    id: "port-new",
    name: "New port",
    school: "replace",
    part: { kind: "port", make: "dear-copy" },
    minutes: 32,
    skill: 4,
    tools: [...IRON, "hot air"],
    grade: "A",
    treats: { port: 0.82, power: 0.3 },
    comeback: 0.05,
    also: { breaks: 0.05, uses: ["clean-power"] },
  }),
  route({
    id: "antenna-new",
    name: "New antenna lead",
    school: "replace",
    part: { kind: "antenna", make: "dear-copy" },
    minutes: 10,
    skill: 2,
    tools: [],
    grade: "A",
    treats: { radio: 0.55 },
    comeback: 0.04,
  }),
  route({
    id: "motor-new",
    name: "New motor, original",
    school: "replace",
    part: { kind: "motor", make: "original" },
    minutes: 12,
    skill: 2,
    tools: ["iron"],
    grade: "A",
    treats: { motor: 0.93 },
    comeback: 0.02,
    also: { uses: ["clean-power"] },
  }),
  route({
    id: "jack-new",
    name: "New jack",
    school: "replace",
    part: { kind: "jack", make: "dear-copy" },
    minutes: 18,
    skill: 3,
    tools: IRON,
    grade: "A",
    treats: { sound: 0.86 },
    comeback: 0.04,
    also: { uses: ["clean-power"] },
  }),
  route({
    id: "microphone-new",
    name: "New microphone",
    school: "replace",
    part: { kind: "microphone", make: "dear-copy" },
    minutes: 16,
    skill: 3,
    tools: IRON,
    grade: "A",
    treats: { sound: 0.85 },
    comeback: 0.04,
    also: { uses: ["clean-power"] },
  }),
  route({
    id: "speaker-new",
    name: "New speaker",
    school: "replace",
    part: { kind: "speaker", make: "dear-copy" },
    minutes: 10,
    skill: 2,
    tools: ["iron"],
    grade: "A",
    treats: { sound: 0.9 },
    comeback: 0.02,
    also: { uses: ["clean-power"] },
  }),
  route({
    id: "flex-new",
    name: "New flex",
    school: "replace",
    part: { kind: "flex", make: "original" },
    minutes: 12,
    skill: 2,
    tools: [],
    grade: "A",
    treats: { "board-part": 0.75 },
    comeback: 0.03,
    also: { uses: ["clean-power", "flex-copy"] },
  }),
  route({
    id: "flex-copy",
    name: "New flex, dear copy",
    school: "replace",
    part: { kind: "flex", make: "dear-copy" },
    minutes: 12,
    skill: 2,
    tools: [],
    grade: "A",
    treats: { "board-part": 0.7 },
    comeback: 0.05,
    also: { uses: ["clean-power", "flex-new"] },
  }),
  route({
    id: "latch-new",
    name: "New latch, original",
    school: "replace",
    part: { kind: "latch", make: "original" },
    minutes: 9,
    skill: 2,
    tools: [],
    grade: "A",
    treats: { latch: 0.92 },
    comeback: 0.03,
  }),
  route({
    id: "cord-sleeve",
    name: "Sleeve the cord",
    school: "adjust",
    part: null,
    minutes: 14,
    skill: 2,
    tools: ["iron", "sleeve"],
    grade: "C",
    treats: { cord: 0.75 },
    comeback: 0.12,
    also: { discloses: "the cord is mended, not new" },
  }),
  route({
    id: "cord-new",
    name: "New cord",
    school: "replace",
    part: { kind: "cord", make: "dear-copy" },
    minutes: 12,
    skill: 2,
    tools: ["iron"],
    grade: "A",
    treats: { cord: 0.94 },
    comeback: 0.02,
    also: { uses: ["cord-sleeve"] },
  }),
  route({
    id: "rework-joints",
    name: "Rework the joints",
    school: "rework",
    part: null,
    minutes: 18,
    skill: 3,
    tools: IRON,
    grade: "A",
    treats: { power: 0.3, radio: 0.3, sound: 0.25, "board-part": 0.35, "stick-worn": 0.2, port: 0.35 },
    comeback: 0.12,
    also: { breaks: 0.03 },
  }),
  route({
    id: "reheat-chip",
    name: "Reheat the big chip",
    school: "rework",
    part: null,
    minutes: 14,
    skill: 4,
    tools: ["hot air"],
    grade: "C",
    treats: { power: 0.18, radio: 0.15, "board-part": 0.15 },
    comeback: 0.45,
    also: { breaks: 0.15, discloses: "a chip was reheated" },
  }),
  route({
    id: "board-original",
    name: "Main board from the maker",
    school: "replace",
    part: { kind: "board", make: "original" },
    minutes: 26,
    skill: 3,
    tools: IRON,
    grade: "A",
    treats: { power: 0.88, radio: 0.92, "board-part": 0.85, sound: 0.7 },
    comeback: 0.02,
    also: { breaks: 0.01 },
  }),
];
