import { z } from "../base/schema";
import type { ReadingKind } from "../bench/readings";
import { HISTORIES } from "../claim/history";
import { GRADES } from "../grade/grade";
import { OUTCOMES } from "../diagnosis/priors";
import { TREATMENTS } from "./treatments";

/**
 * One unit, one case: dated facts of every origin with one type, added to and never edited. The order is by `at`,
 * then by position. A place is the id of a control, a function, a part of the wiring, a slot or a place on the shell.
 */

export const TELLERS = ["listing", "seller", "customer", "return"] as const;
/** Readings at the bench by their names in a case. */
export const READ = [
  "supply",
  "charge-log",
  "run-down",
  "feel",
  "free-play",
  "click",
  "drag",
  "level",
  "tugs",
  "radio",
  "resistance",
  "point",
] as const;
export type Read = (typeof READ)[number];
/** How the bench's own readings are called in a case. */
export const READ_AS: Record<ReadingKind, Read> = {
  supply: "supply",
  "charge-log": "charge-log",
  "discharge-log": "run-down",
  "link-watch": "radio",
  motor: "level",
  microphone: "level",
  tone: "level",
  latch: "tugs",
  feel: "feel",
  "trigger-drag": "drag",
  "contact-sensor": "resistance",
};
export const FOUND_AT = [
  "sound",
  "worn",
  "dirty",
  "corroded",
  "cracked",
  "bridged",
  "torn",
  "bent",
  "loose",
  "missing-tooth",
  "eaten",
  "residue",
] as const;
export type FoundAt = (typeof FOUND_AT)[number];

const place = z.string().min(1).max(60);
const words = z.string().max(2000);
const zeroToThree = z.int().min(0).max(3);
const common = {
  /** where it stands in the record, such as "try 3"; unique in a case */
  id: z.string().max(200),
  at: z.iso.datetime(),
  who: z.string().max(80).nullable().default(null),
  /** from when on it is over by itself: settled, made good */
  settled: z.iso.datetime().optional(),
};
const pattern = z.enum(OUTCOMES);

export const factSchema = z.discriminatedUnion("kind", [
  z.strictObject({ ...common, kind: z.literal("told"), by: z.enum(TELLERS), words }),
  z.strictObject({
    ...common,
    kind: z.literal("history"),
    what: z.enum(HISTORIES),
    doubt: z.number().min(0).max(1),
  }),
  /** the like place of the unit that it belongs with failed there */
  z.strictObject({ ...common, kind: z.literal("mate"), place, tag: z.string().max(20), words }),
  z.strictObject({
    ...common,
    kind: z.literal("intake"),
    rattle: z.enum(["none", "metal", "plastic"]),
    /** what rattles was seen through a gap, and not only heard */
    seen: z.boolean().optional(),
    /** what earlier hands left behind that shows from outside */
    hands: z.array(z.string().max(40)).max(12).optional(),
    smell: zeroToThree,
    grime: zeroToThree,
    missing: z.array(place).max(40),
    marks: z.array(z.strictObject({ place, mark: z.string().max(40) })).max(60),
  }),
  z.strictObject({
    ...common,
    kind: z.literal("measure"),
    place,
    measure: z.string().max(60),
    value: z.number().nullable(),
    grade: z.enum(GRADES),
    axis: z.enum(["x", "y"]).optional(),
    direction: z.enum(["right", "up", "left", "down"]).optional(),
    /** of what rests off its centre: whether it stands still there, with little noise and scatter */
    steady: z.boolean().optional(),
    test: z.enum(["first", "proof", "spot"]),
    /** the recording that it was read from, what that shows at this place as a whole, and how hard it was pressed */
    recording: z.string().max(60),
    pattern: pattern.nullable(),
    force: z.enum(["light", "normal", "hard"]),
  }),
  z.strictObject({
    ...common,
    kind: z.literal("works"),
    place,
    recording: z.string().max(60).nullable(),
    force: z.enum(["light", "normal", "hard"]),
  }),
  z.strictObject({
    ...common,
    kind: z.literal("function"),
    place,
    outcome: z.enum(["pass", "fail", "intermittent", "not-tested"]),
    /** how it fails, where a hand named that; `hand`: seen by a person and not asked for by a test */
    pattern: pattern.nullable(),
    hand: z.enum(["seen", "named"]).nullable(),
    words: z.string().max(700).default(""),
  }),
  z.strictObject({
    ...common,
    kind: z.literal("reading"),
    reading: z.enum(READ),
    place,
    /** an axis or a half of it, so far as it was at one */
    side: z.string().max(60).nullable(),
    verdict: z.enum(["pass", "fail", "doubtful"]),
    values: z.record(z.string(), z.number()),
  }),
  z.strictObject({
    ...common,
    kind: z.literal("observed"),
    place,
    finding: z.enum(FOUND_AT),
    severity: zeroToThree,
    magnified: z.boolean(),
    /** the finding by the shop's own finer list */
    code: z.string().max(60),
  }),
  z.strictObject({
    ...common,
    kind: z.literal("piece"),
    number: z.int(),
    material: z.string().max(200),
    fits: z.string().max(60),
  }),
  z.strictObject({
    ...common,
    kind: z.literal("tried"),
    /** a check of the library, a way of treating a part, or the end of a search by halves */
    act: z.string().max(120),
    places: z.array(place).max(40),
    retest: z.enum(["pass", "fail", "none"]),
    number: z.int().nullable(),
    outcome: z.string().max(60).nullable(),
    undone: z.enum(["came-back", "stayed-away"]).nullable(),
    /** of a cure: which share of it this act has earned */
    share: z.number().min(0).max(1).nullable(),
  }),
  z.strictObject({
    ...common,
    kind: z.literal("mended"),
    route: z.string().max(40).nullable(),
    places: z.array(place).max(80),
    fitted: z
      .strictObject({ make: z.string(), batch: z.string().nullable(), donor: z.string().nullable() })
      .nullable(),
    /** the control or function that it was for; null where it was for the whole unit */
    place: place.nullable(),
    how: z.enum([...TREATMENTS, "calibrated", "opened", "unknown"]),
    number: z.int().nullable(),
    words: z.string().max(400),
  }),
  z.strictObject({
    ...common,
    kind: z.literal("answered"),
    place,
    option: z.string().max(60),
    yes: z.boolean(),
    priceMinor: z.int().nullable(),
  }),
  z.strictObject({
    ...common,
    kind: z.literal("decided"),
    act: z.string().max(60),
    why: z.string().max(600),
  }),
]);
export type Fact = z.infer<typeof factSchema>;
/** Whether something was found out at a control or function: not what a recording was too short to tell. */
export const isTested = (f: Fact): boolean =>
  (f.kind === "measure" && f.grade !== "untested") ||
  f.kind === "works" ||
  (f.kind === "function" && f.hand === null);
export type FactKind = Fact["kind"];
export type FactOf<K extends FactKind> = Extract<Fact, { kind: K }>;
export const FACT_KINDS = factSchema.options.map((o) => o.shape.kind.value);

/** In the order of the case: by `at`, then as they stand. */
export const inOrder = (facts: readonly Fact[]): Fact[] =>
  facts
    .map((f, i) => ({ f, i }))
    .sort((a, b) => Number(a.f.at > b.f.at) - Number(a.f.at < b.f.at) || a.i - b.i)
    .map(({ f }) => f);
