import { idOf, z } from "@/core/base/schema";
import { JOINT_CHECKS } from "@/core/mend/solder";
import { EXTRAS, FATES } from "@/core/mend/work";
import { day, line, minor, slug, text, version } from "./fields";
import { markKeySchema } from "./intake";
import { type Deeds, WORKERS } from "./roles";

/** What the deeds of the Mend station take: faults, mends, work orders, solder work, calibration, tips. */

/** Root causes of a fault. */
export const CAUSES = [
  "not-known",
  "wear",
  "dirt",
  "drop",
  "liquid",
  "wrong-use",
  "bad-part",
  "earlier-mend",
] as const;

export type Cause = (typeof CAUSES)[number];

export const TIP_KINDS = ["surprise", "better-idea", "tip", "missed", "step"] as const;

export type TipKind = (typeof TIP_KINDS)[number];

const target = z.strictObject({
  faultId: idOf("fault").nullable(),
  what: line(120),
  slot: slug.nullable(),
  route: z.string().max(40).nullable(),
  /** the routes that come after it where its retest fails, as they were advised when it was put in */
  then: z.array(z.string().max(40)).max(12).default([]),
});

const orderBody = {
  targets: z.array(target).max(12),
  cleaningLevel: z.int().min(0).max(4),
  calibrate: z.array(slug).max(4),
  /** checks that are answered before the first mend that is not done */
  checks: z
    .array(z.string().regex(/^[a-z0-9.-]{1,80}$/))
    .max(8)
    .default([]),
};

const item = z.string().regex(/^(fastener|clip|cable|piece|extra):[a-z0-9.-]{1,60}$/);

const task = z.string().regex(/^(mend|clean|calibrate):[a-z0-9.-]{1,60}$/);

const workEvent = z.discriminatedUnion("kind", [
  z.strictObject({ kind: z.literal("apart"), step: slug }),
  z.strictObject({ kind: z.literal("back"), step: slug }),
  z.strictObject({ kind: z.literal("in"), item }),
  z.strictObject({ kind: z.literal("out"), item }),
  z.strictObject({ kind: z.literal("explained"), item, fate: z.enum(FATES), why: line(200) }),
  z.strictObject({ kind: z.literal("away"), item, where: line(60) }),
  z.strictObject({ kind: z.literal("extra"), name: line(80), what: z.enum(EXTRAS) }),
  z.strictObject({ kind: z.literal("task"), task }),
  z.strictObject({ kind: z.literal("again"), task, why: line(200) }),
  z.strictObject({ kind: z.literal("gate"), gate: z.enum(["open", "closed"]), why: text(200) }),
]);

const point = z.tuple([z.number().min(-2).max(2), z.number().min(-2).max(2)]).readonly();

export const calibrationTableSchema = z.strictObject({ centre: point, low: point, high: point });

export const MEND_DEEDS = {
  "fault.add": {
    roles: WORKERS,
    input: z.strictObject({
      unitId: idOf("unit"),
      place: line(60),
      kind: line(60),
      words: text(600),
      foundWhen: z.enum(["intake", "test", "opened", "proof"]),
      /** whether the claim named it; read from the claim when it is left out */
      claimed: z.boolean().optional(),
      measure: z.string().max(60).nullable(),
      recordingId: idOf("recording").nullable(),
      /**
       * the open fault whose symptom it is; "own" for a cause of its own. Left out, what was measured joins the open
       * fault at its place, and what a hand names is its own.
       */
      under: z.union([idOf("fault"), z.literal("own")]).optional(),
    }),
  },
  /** two faults that have one cause: all that is known of the one goes under the other */
  "fault.join": {
    roles: WORKERS,
    input: z.strictObject({ faultId: idOf("fault"), version, underId: idOf("fault") }),
  },
  /** a symptom that has another cause becomes a fault of its own */
  "symptom.part": { roles: WORKERS, input: z.strictObject({ symptomId: idOf("symptom") }) },
  "fault.settle": {
    roles: WORKERS,
    input: z.strictObject({
      faultId: idOf("fault"),
      version,
      status: z.enum(["open", "mended", "accepted", "withdrawn"]),
      why: text(300),
    }),
  },
  "mend.add": {
    roles: WORKERS,
    input: z.strictObject({
      unitId: idOf("unit"),
      faultId: idOf("fault").nullable(),
      what: line(400),
      part: text(120),
      minutes: z.int().min(0).max(2000),
      remark: text(600),
      opened: z.boolean(),
      settlesFault: z.boolean(),
      /** the route of the catalogue that it followed, and what the retest said of it */
      route: z.string().max(40).nullable().default(null),
      outcome: z.enum(["worked", "failed"]).nullable().default(null),
      partMinor: minor.default(0),
      /**
       * from whom, when the part was a gift or a sample: its replacement value counts for the job, and it
       * costs no cash
       */
      partGift: text(80).default(""),
      /** a piece taken from the shelf for this: its cost and name are the batch's */
      fromStock: z
        .strictObject({ batchId: idOf("batch"), slot: line(60) })
        .nullable()
        .default(null),
      /** marks outside that this took away, such as a cracked cap's with the cap */
      marksGone: z.array(markKeySchema).max(60).default([]),
      /** why the fault came, as far as it is known; wrong use is told to the owner */
      cause: z.enum(CAUSES).default("not-known"),
      /** good for now: which part it falls back on, and the day on which it is looked at again */
      provisional: z
        .strictObject({ fallback: line(120), reviewOn: day })
        .nullable()
        .default(null),
    }),
  },
  "mend.edit": {
    roles: WORKERS,
    input: z.strictObject({
      mendId: idOf("mend"),
      version,
      what: line(400),
      part: text(120),
      minutes: z.int().min(0).max(2000),
      remark: text(600),
    }),
  },
  "work.open": { roles: WORKERS, input: z.strictObject({ unitId: idOf("unit"), ...orderBody }) },
  "work.change": {
    roles: WORKERS,
    input: z.strictObject({ orderId: idOf("work_order"), version: version, ...orderBody }),
  },
  "work.undo": { roles: WORKERS, input: z.strictObject({ orderId: idOf("work_order") }) },
  "work.revision": { roles: WORKERS, input: z.strictObject({ orderId: idOf("work_order"), revision: slug }) },
  "work.drop": {
    roles: WORKERS,
    input: z.strictObject({ orderId: idOf("work_order"), version: version, why: line(200) }),
  },
  "work.do": {
    roles: WORKERS,
    input: z.strictObject({
      orderId: idOf("work_order"),
      event: workEvent,
      /** from the step's opening to its end, for the shop's own minutes */
      tookMs: z.int().min(0).max(14_400_000).nullable(),
      note: text(400).default(""),
      /** a piece taken from the shelf for a mend, else its name and cost */
      fromStock: z
        .strictObject({ batchId: idOf("batch"), slot: slug })
        .nullable()
        .default(null),
      part: text(120).default(""),
      partMinor: z.int().min(0).max(100_000_000).default(0),
    }),
  },
  "heat.add": {
    roles: WORKERS,
    input: z.strictObject({
      unitId: idOf("unit"),
      job: slug,
      celsius: z.int().min(100).max(500),
      exception: text(200),
      method: line(60),
      chips: z.array(line(60)).max(8),
      shielded: text(200),
      holes: z
        .array(
          z.strictObject({
            hole: z.int().min(1).max(60),
            gaugeMm: z.number().min(0).max(6),
            ringIntact: z.boolean(),
          }),
        )
        .max(60),
      joints: z.array(z.enum(JOINT_CHECKS)).max(JOINT_CHECKS.length),
    }),
  },
  "calibration.write": {
    roles: WORKERS,
    input: z.strictObject({
      unitId: idOf("unit"),
      stick: slug,
      part: z.enum(["centre", "range"]),
      recordingId: idOf("recording"),
      now: calibrationTableSchema,
      port: line(120),
    }),
  },
  "calibration.saved": {
    roles: WORKERS,
    input: z.strictObject({ calibrationId: idOf("calibration"), readBack: calibrationTableSchema }),
  },
  "tip.add": {
    roles: WORKERS,
    input: z.strictObject({
      model: slug,
      step: slug.nullable(),
      kind: z.enum(TIP_KINDS),
      words: line(400),
      source: text(80),
      unitId: idOf("unit").nullable(),
      /** a proposed step: after which it comes, and how long it takes */
      after: slug.nullable().default(null),
      minutes: z.number().min(0.5).max(120).nullable().default(null),
    }),
  },
  "tip.settle": {
    roles: WORKERS,
    input: z.strictObject({ tipId: idOf("tip"), state: z.enum(["open", "confirmed", "refuted", "adopted"]) }),
  },
} as const satisfies Deeds;
