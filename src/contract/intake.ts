import type { History } from "@/core/claim/history";
import { idOf, z } from "@/core/base/schema";
import { day, line, minor, text, version } from "./fields";
import { type Deeds, WORKERS } from "./roles";

/** What is written down at the door: the shape of unit.intake and of the intake form, and the deeds there. */

export const MARK_KINDS = [
  "scratch",
  "scuff",
  "crack",
  "chewed",
  "sticky",
  "stain",
  "label-glue",
  "missing-piece",
] as const;

export const GRADES_OF_CONDITION = ["none", "slight", "strong"] as const;

/** Heard when it is shaken, or seen through a gap with a light; "unsure" is heard and not told apart. */
export const RATTLES = ["none", "metal", "plastic", "unsure", "metal-seen", "plastic-seen"] as const;

/** What earlier hands left behind that shows from outside. */
export const HANDS_LEFT = [
  "stripped-fastener",
  "missing-fastener",
  "pried-edge",
  "broken-clip",
  "glued",
  "cut-label",
] as const;

/** Where its cells or pack are: taken out ones go back before it leaves. */
export const CELLS = ["not-noted", "inside", "taken-out", "came-without"] as const;

/** The maker's cover: while it runs, opening the unit voids it. */
export const COVERS = ["not-asked", "runs", "over"] as const;

export const PARCELS = ["not-noted", "sound", "poor", "damaged"] as const;

export const USES = ["unknown", "play", "precise", "own-testing"] as const;

/** What is told of how a unit came to be as it is; liquid and earlier opening have fields of their own. */
export const TOLD = [
  "fall",
  "teeth",
  "smoke",
  "child",
  "repaired",
  "first-day",
  "slow",
  "sudden",
] as const satisfies readonly (History | "child")[];

/** Which side of the unit a mark is on; what is on the cord has no place of the plan. */
export const MARK_FACES = ["front", "back", "cord"] as const;
export type MarkFace = (typeof MARK_FACES)[number];

export const markSchema = z.strictObject({
  kind: z.enum(MARK_KINDS),
  /** a place of the plan as it is seen from the front, on whichever side it is */
  x: z.number().min(-20).max(600),
  y: z.number().min(-20).max(600),
  face: z.enum(MARK_FACES).default("front"),
  words: text(120).default(""),
  /**
   * why it is not there any more: replaced, cleaned, polished; it stays in the record as how the unit came
   */
  gone: text(120).nullable().default(null),
});

export const MATE_STATES = ["not-known", "works", "faulty", "lost"] as const;

/** The unit that it belongs with: the other half, or another of its set. */
export const mateSchema = z.strictObject({
  /** its tag where it is here: what it is like is read from its own record then */
  tag: text(12).default(""),
  /** what is told of one that is not here */
  state: z.enum(MATE_STATES).default("not-known"),
  /** the place of this unit that is like the one that failed there */
  failedAt: z.string().max(60).default(""),
  /** the last day of its maker's cover */
  coverUntil: day.nullable().default(null),
  /** what was mended on it and when */
  mended: text(200).default(""),
});
export type Mate = z.infer<typeof mateSchema>;

export const intakeSchema = z.strictObject({
  v: z.literal(1).default(1),
  smell: z.enum(GRADES_OF_CONDITION).default("none"),
  grime: z.enum(GRADES_OF_CONDITION).default("none"),
  rattle: z.enum(RATTLES).default("none"),
  /** what it asks of whoever holds it: nothing, gloves, or gloves, mask and a wipe before anything else */
  hygiene: z.enum(GRADES_OF_CONDITION).default("none"),
  openedBefore: z.boolean().default(false),
  handsLeft: z.array(z.enum(HANDS_LEFT)).max(HANDS_LEFT.length).default([]),
  cells: z.enum(CELLS).default("not-noted"),
  /** where they lie while they are out */
  cellsAt: text(60).default(""),
  makersCover: z.enum(COVERS).default("not-asked"),
  /** its last day, where it is known */
  coverUntil: day.nullable().default(null),
  /** who agreed that opening may void it; nobody yet where it is empty */
  coverGiven: text(120).default(""),
  mate: mateSchema.nullable().default(null),
  told: z.array(z.enum(TOLD)).max(TOLD.length).default([]),
  history: text(1000).default(""),
  remark: text(1000).default(""),
  marks: z.array(markSchema).max(60).default([]),
  /** ids of the profile's accessories that came with it */
  accessories: z.array(z.string().max(60)).max(40).default([]),
  /** how the parcel came, and whether it holds what was promised, while a claim is still possible */
  parcel: z.enum(PARCELS).default("not-noted"),
  differs: text(400).default(""),
  /** a customer's: what they will pay at most, and what they use it for */
  costLimitMinor: z.int().min(0).max(100_000_000).nullable().default(null),
  use: z.enum(USES).default("unknown"),
});

export type Intake = z.infer<typeof intakeSchema>;

/** Which mark of a unit is meant: marks have no names of their own. */
export const markKeySchema = markSchema.pick({ kind: true, x: true, y: true, face: true });

export type MarkKey = z.infer<typeof markKeySchema>;

/** Whether two are one mark; without a side it is one of the front. */
export const isMark = (a: z.input<typeof markKeySchema>, b: z.input<typeof markKeySchema>): boolean =>
  a.kind === b.kind && a.x === b.x && a.y === b.y && (a.face ?? "front") === (b.face ?? "front");

export type Mark = z.infer<typeof markSchema>;

/** How many equal units of a lot one form may take in. */
export const MOST_AT_ONCE = 20;

const origin = z.discriminatedUnion("source", [
  z.strictObject({ source: z.literal("single"), seller: text(80), priceMinor: minor, carriageMinor: minor }),
  z.strictObject({
    source: z.literal("lot"),
    lotId: idOf("lot"),
    /** so many that are equal are taken in at once, each with a tag of its own */
    count: z.int().min(1).max(MOST_AT_ONCE).default(1),
  }),
  z.strictObject({ source: z.literal("customer"), customerId: idOf("customer") }),
]);

export type Origin = z.input<typeof origin>;

export const INTAKE_DEEDS = {
  "customer.add": { roles: WORKERS, input: z.strictObject({ name: line(80), contact: text(200) }) },
  "unit.take-in": {
    roles: WORKERS,
    input: z.strictObject({
      profileKey: z.string().max(60),
      revision: z.string().max(60).nullable(),
      origin,
      claim: text(2000),
      swollen: z.boolean(),
      liquid: z.boolean(),
      intake: intakeSchema,
      toTray: z.boolean(),
      /** the kept listing that this unit came from */
      listingId: idOf("listing").nullable().default(null),
    }),
  },
  "unit.edit-intake": {
    roles: WORKERS,
    input: z.strictObject({
      unitId: idOf("unit"),
      version,
      /** another model, as long as nothing was tested or worked on */
      profileKey: z.string().max(60).optional(),
      revision: z.string().max(60).nullable(),
      claim: text(2000),
      swollen: z.boolean(),
      liquid: z.boolean(),
      intake: intakeSchema,
    }),
  },
  /** a mark is not there any more, or is there after all */
  "mark.settle": {
    roles: WORKERS,
    input: z.strictObject({ unitId: idOf("unit"), mark: markKeySchema, gone: line(120).nullable() }),
  },
  /** somebody agreed that opening may void the maker's cover */
  "cover.give-up": {
    roles: WORKERS,
    input: z.strictObject({ unitId: idOf("unit"), by: line(120) }),
  },
  "unit.to-tray": {
    roles: WORKERS,
    input: z.strictObject({ unitId: idOf("unit"), tray: z.int().min(1).max(9).nullable() }),
  },
  "unit.clear-liquid": {
    roles: WORKERS,
    input: z.strictObject({
      unitId: idOf("unit"),
      version,
      opened: z.literal(true),
      unplugged: z.literal(true),
      inspected: z.literal(true),
      dry: z.literal(true),
    }),
  },
  "photo.remove": { roles: WORKERS, input: z.strictObject({ photoId: idOf("photo") }) },
} as const satisfies Deeds;
