import { type Finding, found, type Listed } from "../base/finding";
import { z } from "../base/schema";

/**
 * How a model comes apart and goes back: part of the model profile. Places in millimetres on the plan, origin
 * top left of the front, x right, y down; a place on the back is given as seen through from the front.
 */

const slug = z
  .string()
  .regex(/^[a-z0-9]+([.-][a-z0-9]+)*$/, found({ rule: "letters", of: "small" }))
  .max(60);
const words = (max: number) => z.string().trim().min(1).max(max);
const at = z.strictObject({ x: z.number().min(-20).max(600), y: z.number().min(-20).max(600) });
const revisions = z.array(slug).min(1).optional();

export const GUIDE_FACES = ["front", "back", "inside"] as const;
export const DRIVES = ["cross-small", "cross", "six-lobe", "three-point", "slot"] as const;
export const CATCHES = [
  "pull-tab",
  "flip",
  "slide",
  "push-fit",
  "board-to-board",
  "plug",
  "soldered",
] as const;
/** Which way something lets go, on the plan: straight up from what it sits on, or along it. */
export const WAYS = ["up", "to-left", "to-right", "to-upper", "to-lower"] as const;
export type Way = (typeof WAYS)[number];
export const PIECE_KINDS = [
  "shell",
  "board",
  "button",
  "key",
  "cap",
  "rubber",
  "post",
  "trim",
  "label",
  "door",
  "cell",
  "jack",
  "motor",
  "boot",
  "bracket",
  "spring",
  "gear",
  "magnet",
  "flex",
  "sound",
] as const;
export const HAZARDS = [
  "powered",
  "cell",
  "spring",
  "blade",
  "iron",
  "hot-air",
  "fumes",
  "solvent",
  "glue",
  "static",
  "dust",
  "force",
] as const;
export type Hazard = (typeof HAZARDS)[number];

/** What is looked at when something goes back. */
export const BACK_CHECKS = [
  "facing",
  "seated",
  "marker-line",
  "catch-down",
  "tug",
  "cable-free",
  "threaded",
  "low-force",
  "same-thread",
  "returns",
  "keyed",
  "flush",
  "hidden-one",
  "contacts-to-board",
  "teeth-meet",
  "soft-bend",
] as const;
export type BackCheck = (typeof BACK_CHECKS)[number];

const fastener = z.strictObject({
  id: slug,
  at,
  face: z.enum(GUIDE_FACES),
  drive: z.enum(DRIVES),
  /** size of the drive as it stands on the bit */
  size: words(8),
  lengthMm: z.number().positive().max(60),
  head: words(30),
  colour: words(20),
  /** depth that a fastener may have here; a longer one breaks through into what is named */
  deepestMm: z.number().positive().max(60),
  pierces: words(60).optional(),
  /** shaft that the driver needs for a deep well */
  shaftMm: z.number().positive().max(150).optional(),
  /** hidden under a label, a seal, a cap, the cell */
  under: words(60).optional(),
  revisions,
});
const clip = z.strictObject({
  id: slug,
  at,
  face: z.enum(GUIDE_FACES),
  name: words(60),
  /** where prying begins and which way */
  pry: words(120),
  way: z.enum(WAYS).optional(),
  glued: z.boolean().default(false),
  oftenBreaks: z.boolean().default(false),
  /** whether the shell still holds without it */
  matters: z.boolean().default(true),
  revisions,
});
const cable = z.strictObject({
  id: slug,
  at,
  name: words(60),
  catch: z.enum(CATCHES),
  /** which way the catch moves to let go */
  release: words(80),
  way: z.enum(WAYS).optional(),
  /** where the contacts or the printed side look */
  facing: words(60),
  marker: words(60).optional(),
  colour: words(30),
  /** how far the halves may part while it is still plugged in */
  opensMm: z.number().min(0).max(300).optional(),
  /** torn, it ends the unit */
  endsUnit: z.boolean().default(false),
  /** lead colours by pad, for soldered leads and plugs whose wires can be swapped */
  leads: z
    .array(z.tuple([words(30), words(20)]))
    .max(12)
    .optional(),
  revisions,
});
const piece = z.strictObject({
  id: slug,
  at,
  name: words(60),
  kind: z.enum(PIECE_KINDS),
  /** how it sits, and how it goes back */
  sits: words(160),
  /** comes loose by itself when the unit opens */
  falls: z.boolean().default(false),
  /** a picture is taken just before */
  picture: z.boolean().default(false),
  /** may go off to be washed */
  washes: z.boolean().default(false),
  revisions,
});
const step = z.strictObject({
  id: slug,
  title: words(60),
  does: words(400),
  /** of a model made of halves: which one it is about; both together where it names none */
  half: slug.optional(),
  /** blocking order: these must be done before this one can be reached */
  after: z.array(slug).max(12).default([]),
  frees: z.strictObject({
    fasteners: z.array(slug).max(40).default([]),
    clips: z.array(slug).max(40).default([]),
    cables: z.array(slug).max(20).default([]),
    pieces: z.array(slug).max(40).default([]),
  }),
  /** part slots that lie open after this step */
  reaches: z.array(slug).max(60).default([]),
  tools: z.array(slug).max(10).default([]),
  consumables: z.array(words(40)).max(8).default([]),
  minutes: z.number().min(0.5).max(120),
  difficulty: z.int().min(1).max(5),
  fragility: z.int().min(1).max(5),
  hazards: z.array(z.enum(HAZARDS)).max(6).default([]),
  /** what to look out for, said before the step */
  mind: z.string().trim().max(240).default(""),
  /** sounds that alarm and are normal */
  noises: z.string().trim().max(120).default(""),
  hands: z.union([z.literal(1), z.literal(2)]).default(1),
  light: z.boolean().default(false),
  back: z.strictObject({
    does: words(400),
    checks: z.array(z.enum(BACK_CHECKS)).max(8).default([]),
    minutes: z.number().min(0.5).max(120),
  }),
  revisions,
  /** other ways that technicians do this, each with its reason */
  otherWays: z
    .array(z.strictObject({ name: words(60), why: words(200) }))
    .max(4)
    .default([]),
});
export type GuideStep = z.infer<typeof step>;

export const MATERIALS = [
  "hard-plastic",
  "soft-skin",
  "print",
  "rubber",
  "metal-contact",
  "board",
  "sensor",
  "fabric",
] as const;
export const SPOTS = ["open", "groove", "raised", "well", "round-button"] as const;
export type Material = (typeof MATERIALS)[number];
const surface = z.strictObject({
  id: slug,
  name: words(60),
  material: z.enum(MATERIALS),
  /** the lowest cleaning level that covers it */
  level: z.int().min(1).max(4),
  /** reached closed, or after this step */
  after: slug.optional(),
  /** taken off for it */
  piece: slug.optional(),
  /** grooves, wells, raised print: asks for a tool of its own */
  spot: z.enum(SPOTS).default("open"),
});
const solderJob = z.strictObject({
  id: slug,
  name: words(60),
  slots: z.array(slug).max(60),
  board: words(40),
  celsius: z.int().min(150).max(480),
  ceiling: z.int().min(150).max(480),
  tip: words(30),
  alloy: words(30),
  flux: words(30),
  holes: z.int().min(0).max(60),
  /** bore of the holes, 0 where there are none */
  holeMm: z.number().min(0).max(5),
  joints: z.int().min(1).max(80),
  /** plastic or chips close to the heat */
  shield: z.array(words(60)).max(8).default([]),
  /** pins joined to the ground plane: slow to heat */
  grounded: z.int().min(0).max(40).default(0),
  /** the load is taken by the joints every day */
  strong: z.boolean().default(false),
});
export type SolderJob = z.infer<typeof solderJob>;

const calibration = z.strictObject({
  /** the slots after whose change it is due */
  dueAfter: z.array(slug).max(20),
  /** made ready before, in order */
  before: z.array(words(160)).max(8),
  sticks: z.array(slug).min(1).max(4),
  /** places in the unit's memory that keep a figure; finer figures are rounded to it */
  stepsPerUnit: z.int().min(16).max(65536),
});

const list = <T extends z.ZodType>(item: T, most: number) => z.array(item).max(most);
const ids = (items: readonly { id: string }[]) => new Set(items.map((i) => i.id));

/** What the steps free, and what one of each is. */
const FREED = [
  ["fasteners", "fastener"],
  ["clips", "clip"],
  ["cables", "cable"],
  ["pieces", "piece"],
] as const;

export const guideSchema = z
  .strictObject({
    fasteners: list(fastener, 60),
    clips: list(clip, 60),
    cables: list(cable, 40),
    pieces: list(piece, 80),
    steps: list(step, 80).min(1),
    surfaces: list(surface, 60),
    solder: list(solderJob, 30),
    calibration: calibration.nullable(),
    /** how far off the last fasteners the unit can be tested: said at the gate */
    enoughToTest: words(240),
  })
  .superRefine((g, ctx) => {
    const problem = (finding: Finding) => ctx.addIssue({ code: "custom", message: found(finding) });
    const lost = (by: string, what: Listed, name: string) => problem({ rule: "not-listed", by, what, name });
    for (const [of, items] of [
      ["step", g.steps] as const,
      ...FREED.map(([kind, of]) => [of, g[kind]] as const),
    ])
      if (ids(items).size !== items.length) problem({ rule: "own-id", of });
    const steps = ids(g.steps);
    for (const s of g.steps) for (const a of s.after) if (!steps.has(a)) lost(s.id, "step", a);
    if (hasCircle(g.steps)) problem({ rule: "circle", of: "guide" });
    for (const [kind, what] of FREED) {
      const known = ids(g[kind]);
      const freed = new Map<string, string>();
      for (const s of g.steps)
        for (const id of s.frees[kind]) {
          if (!known.has(id)) lost(s.id, what, id);
          if (freed.has(id)) problem({ rule: "freed-twice", id, first: freed.get(id)!, second: s.id });
          freed.set(id, s.id);
        }
      for (const id of known) if (!freed.has(id)) problem({ rule: "never-freed", id, what });
    }
    for (const s of g.surfaces) {
      if (s.after !== undefined && !steps.has(s.after)) lost(s.id, "step", s.after);
      if (s.piece !== undefined && !ids(g.pieces).has(s.piece)) lost(s.id, "piece", s.piece);
    }
    for (const j of g.solder) if (j.celsius > j.ceiling) problem({ rule: "too-hot", id: j.id });
    for (const f of g.fasteners) if (f.lengthMm > f.deepestMm) problem({ rule: "too-deep", id: f.id });
  });

export type MendGuide = z.infer<typeof guideSchema>;
export type Cable = MendGuide["cables"][number];

function hasCircle(steps: readonly { id: string; after: readonly string[] }[]): boolean {
  const left = new Map(steps.map((s) => [s.id, s.after]));
  for (let moved = true; moved;) {
    moved = false;
    for (const [id, after] of left)
      if (!after.some((a) => left.has(a))) {
        left.delete(id);
        moved = true;
      }
  }
  return left.size > 0;
}

/**
 * The guide as it holds for a revision; with an unknown one, everything that some revision has. Blocking
 * order skips what is not there.
 */
export function guideOf(guide: MendGuide, revision: string | null): MendGuide {
  const here = <T extends { revisions?: string[] | undefined }>(items: readonly T[]): T[] =>
    items.filter((i) => !i.revisions || revision === null || i.revisions.includes(revision));
  const steps = here(guide.steps);
  const kept = ids(steps);
  const byId = new Map(guide.steps.map((s) => [s.id, s]));
  /** what a left-out step came after, in its place */
  const through = (id: string): string[] =>
    kept.has(id) ? [id] : (byId.get(id)?.after ?? []).flatMap(through);
  const known = {
    fasteners: here(guide.fasteners),
    clips: here(guide.clips),
    cables: here(guide.cables),
    pieces: here(guide.pieces),
  };
  const only = (list: readonly string[], items: readonly { id: string }[]) =>
    list.filter((id) => ids(items).has(id));
  return {
    ...guide,
    ...known,
    steps: steps.map((s) => ({
      ...s,
      after: [...new Set(s.after.flatMap(through))],
      frees: {
        fasteners: only(s.frees.fasteners, known.fasteners),
        clips: only(s.frees.clips, known.clips),
        cables: only(s.frees.cables, known.cables),
        pieces: only(s.frees.pieces, known.pieces),
      },
    })),
    surfaces: guide.surfaces.filter((s) => s.after === undefined || kept.has(s.after)),
  };
}
