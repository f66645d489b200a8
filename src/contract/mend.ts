import { found } from "@/core/base/finding";
import { idOf, z } from "@/core/base/schema";
import { day, moment, version, versionOrNone } from "./fields";

import { EXTRAS, FATES } from "@/core/mend/work";
import { JOINT_CHECKS } from "@/core/mend/solder";

/** What the deeds about mending take: work orders, damage, waits, solder work, calibration, tips, hours and pins. */

const line = (max: number) => z.string().trim().min(1).max(max);
const text = (max: number) => z.string().trim().max(max);
const slug = z.string().min(1).max(60);
const WORKERS = ["technician", "lead"] as const;
const LEADS = ["lead"] as const;

export const WAIT_KINDS = ["soak", "dry", "cure", "charge", "air", "other"] as const;
export type WaitKind = (typeof WAIT_KINDS)[number];
export const TIP_KINDS = ["surprise", "better-idea", "tip", "missed", "step"] as const;
export type TipKind = (typeof TIP_KINDS)[number];

const target = z.strictObject({
  faultId: idOf("fault").nullable(),
  what: line(120),
  slot: slug.nullable(),
  route: z.string().max(40).nullable(),
});
const orderBody = {
  targets: z.array(target).max(12),
  cleaningLevel: z.int().min(0).max(4),
  calibrate: z.array(slug).max(4),
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

const minuteOfDay = z.int().min(0).max(1440);
/** For each day of the week, Monday first, the hours as minutes of the day. */
export const hoursSchema = z
  .array(z.array(z.tuple([minuteOfDay, minuteOfDay]).refine(([a, b]) => a < b, found({ rule: "from-to" }))).max(4))
  .length(7);
export type Hours = z.infer<typeof hoursSchema>;

/** Tools that the shop owns, by id. */
export const toolsSchema = z.array(slug).max(200);

export const MEND_DEEDS = {
  "work.open": { roles: WORKERS, input: z.strictObject({ unitId: idOf("unit"), ...orderBody }) },
  "work.change": { roles: WORKERS, input: z.strictObject({ orderId: idOf("work_order"), version: version, ...orderBody }) },
  "work.undo": { roles: WORKERS, input: z.strictObject({ orderId: idOf("work_order") }) },
  "work.revision": { roles: WORKERS, input: z.strictObject({ orderId: idOf("work_order"), revision: slug }) },
  "work.drop": { roles: WORKERS, input: z.strictObject({ orderId: idOf("work_order"), version: version, why: line(200) }) },
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
  "damage.add": {
    roles: WORKERS,
    input: z.strictObject({
      unitId: idOf("unit"),
      place: line(60),
      what: line(200),
      clipLost: z.boolean(),
      stillFirm: z.boolean().nullable(),
    }),
  },
  "damage.make-good": { roles: WORKERS, input: z.strictObject({ damageId: idOf("damage"), version: version, how: line(200) }) },
  "wait.start": {
    roles: WORKERS,
    input: z.strictObject({
      unitId: idOf("unit").nullable(),
      kind: z.enum(WAIT_KINDS),
      what: line(80),
      minutes: z.number().min(0.05).max(20_160),
    }),
  },
  "wait.move": { roles: WORKERS, input: z.strictObject({ waitId: idOf("wait"), minutes: z.number().min(-20_160).max(20_160) }) },
  "wait.seen": { roles: WORKERS, input: z.strictObject({ waitId: idOf("wait"), outcome: text(200) }) },
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
        .array(z.strictObject({ hole: z.int().min(1).max(60), gaugeMm: z.number().min(0).max(6), ringIntact: z.boolean() }))
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
  "tools.save": { roles: LEADS, input: z.strictObject({ version: versionOrNone, tools: toolsSchema }) },
  "unit.set-due": {
    roles: WORKERS,
    input: z.strictObject({ unitId: idOf("unit"), version: version, dueOn: day.nullable() }),
  },
  "person.set-hours": {
    roles: LEADS,
    input: z.strictObject({ personId: idOf("person"), skill: z.int().min(1).max(4), hours: hoursSchema }),
  },
  "plan.pin": { roles: WORKERS, input: z.strictObject({ task: line(160), personId: idOf("person"), startAt: moment }) },
  "plan.unpin": { roles: WORKERS, input: z.strictObject({ task: line(160) }) },
} as const;
