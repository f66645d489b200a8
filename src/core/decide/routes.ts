import house from "../../../catalogue/routes.json" with { type: "json" };
import { found, type Place, placesOf } from "../base/finding";
import { z } from "../base/schema";

import { ok, refuse, type Result } from "../base/result";
import { MAKES, PART_KINDS } from "../profile/slots";
import { CAUSE_FAMILIES, FAMILIES } from "./families";

/**
 * The catalogue of routes: what can be done about each family of fault, with stated odds until the shop's
 * record has its own.
 */

export const ROUTES_FORMAT = "birdcage-routes";

/** The ways of thinking that technicians disagree about; each route belongs to one. */
export const SCHOOLS = ["calibrate", "clean", "adjust", "sensor", "replace", "upgrade", "rework"] as const;
export type School = (typeof SCHOOLS)[number];

const TREATED = [...FAMILIES, ...CAUSE_FAMILIES] as const;
const chance = z.number().min(0).max(1);
const stated = z.strictObject({ mean: chance, cases: z.number().min(1).max(200) });

export const routeSchema = z.strictObject({
  id: z
    .string()
    .regex(/^[a-z0-9]+(-[a-z0-9]+)*$/, found({ rule: "letters", of: "small-hyphens" }))
    .max(40),
  name: z.string().trim().min(2).max(60),
  school: z.enum(SCHOOLS),
  /**
   * which families of faults and of causes it treats, each with its stated chance of being done well where that is
   * what is wrong
   */
  treats: z
    .array(z.strictObject({ family: z.enum(TREATED), success: stated }))
    .min(1)
    .max(TREATED.length),
  /** only these models; all when left out */
  models: z.array(z.string().max(60)).max(60).optional(),
  /** only sticks with these sensors; any when left out */
  sensors: z
    .array(z.enum(["contact", "magnetic", "optical"]))
    .max(3)
    .optional(),
  part: z.strictObject({ kind: z.enum(PART_KINDS), make: z.enum(MAKES) }).nullable(),
  /** what others ask for doing it, carriage included; nothing when left out */
  costMinor: z.int().min(0).max(1_000_000).default(0),
  opens: z.boolean(),
  minutes: z.int().min(0).max(480),
  /** soaking, drying, curing: nobody works, the tray is taken */
  waitMinutes: z.int().min(0).max(10_000),
  skill: z.int().min(1).max(4),
  tools: z.array(z.string().trim().min(1).max(40)).max(12),
  /**
   * chance that it comes back for this within the warranty, and that the attempt breaks something for good
   */
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
    if (ids.size !== routes.length)
      ctx.addIssue({ code: "custom", message: found({ rule: "own-id", of: "route" }) });
    for (const r of routes)
      for (const u of r.uses)
        if (!ids.has(u))
          ctx.addIssue({
            code: "custom",
            message: found({ rule: "not-listed", by: r.id, what: "route", name: u }),
          });
    for (const r of routes)
      if (r.treats.some((t) => t.success.mean + r.breaks > 1))
        ctx.addIssue({ code: "custom", message: found({ rule: "odds-over-one", route: r.id }) });
  });

const fileSchema = z.strictObject({
  format: z.literal(ROUTES_FORMAT),
  version: z.literal(1),
  routes: routesSchema,
});

/** Reads a catalogue's file (docs/formats.md); refusals name the place. */
export function readRoutes(text: string): Result<Route[], Place> {
  let json: unknown;
  try {
    json = JSON.parse(text);
  } catch {
    return refuse({ path: "", message: found({ rule: "no-json" }) });
  }
  const parsed = fileSchema.safeParse(json);
  if (parsed.success) return ok(parsed.data.routes);
  return refuse(placesOf(parsed.error, 1)[0]!);
}

export const writeRoutes = (routes: readonly Route[]): string =>
  JSON.stringify({ format: ROUTES_FORMAT, version: 1, routes }, null, 2);

/**
 * The house's starting catalogue (catalogue/routes.json). Stated odds are guesses of six cases each; a shop's
 * own closed jobs move them. Another make of a part is not tried where one failed: what is wrong is then
 * hardly the part.
 */
export const HOUSE_ROUTES: Route[] = fileSchema.parse(house).routes;
