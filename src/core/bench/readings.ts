import { found } from "../base/finding";
import { z } from "../base/schema";

/**
 * What is measured at the bench beside a recording: one shape per kind of reading, as evidence and never as a
 * verdict. Volts, amperes, ohms, metres, grams and milliseconds as their names say; levels are linear root
 * mean squares (1 is full scale).
 */

const id = z.string().max(60);
const volts = z.number().min(0).max(60);
const ms = z.int().min(0).max(1_800_000);
const level = z.array(z.number().min(0).max(2)).max(4000);
const rising = (rows: readonly { minutes: number }[]) =>
  rows.every((r, i) => i === 0 || r.minutes >= rows[i - 1]!.minutes);
const ORDER = found({ rule: "times-fall" });

const chargeRow = z.strictObject({
  minutes: z.number().min(0).max(6000),
  milliamps: z.number().min(-100).max(10_000),
  volts: volts.nullable(),
});
const dischargeRow = z.strictObject({ minutes: z.number().min(0).max(60_000), volts });

export const FLEX_PLACES = ["plug", "first-third", "middle", "last-third", "shell"] as const;
export const PUSH_PLACES = ["up", "down", "left", "right"] as const;
export const STRENGTHS = ["none", "weak", "normal", "strong"] as const;
export const FREE_PLAY = ["none", "slight", "marked"] as const;
export const RETURNS = ["springs-back", "slow", "hangs"] as const;
export const FEELS = ["normal", "floppy", "sticky", "stiff"] as const;

export const READING_SCHEMAS = {
  supply: z.strictObject({
    kind: z.literal("supply"),
    supply: id,
    openVolts: volts,
    loadedVolts: volts.nullable(),
    loadAmps: z.number().positive().max(20).nullable(),
  }),
  "charge-log": z.strictObject({
    kind: z.literal("charge-log"),
    supply: id,
    rows: z.array(chargeRow).min(2).max(5000).refine(rising, ORDER),
    signShown: z.boolean().nullable(),
  }),
  "discharge-log": z.strictObject({
    kind: z.literal("discharge-log"),
    supply: id,
    rows: z.array(dischargeRow).min(4).max(5000).refine(rising, ORDER),
    /** 0 when it only lay there: then the log shows whether charge holds */
    loadMilliamps: z.number().min(0).max(10_000).nullable(),
  }),
  "link-watch": z.strictObject({
    kind: z.literal("link-watch"),
    what: z.enum(["radio", "cord", "port"]),
    functionId: id,
    /** when fresh data came, in ms since the start */
    times: z
      .array(ms)
      .min(2)
      .max(120_000)
      .refine((t) => t.every((v, i) => i === 0 || v >= t[i - 1]!), found({ rule: "times-fall" })),
    /** from when on which place was walked to, flexed or pushed */
    marks: z
      .array(
        z.strictObject({ t: ms, place: z.string().max(30), metres: z.number().min(0).max(500).optional() }),
      )
      .max(400),
    /** port only: whether the charging sign stayed on while the plug was pushed this way */
    chargingAt: z.partialRecord(z.enum(PUSH_PLACES), z.boolean()).default({}),
    plugHold: z.enum(["firm", "loose", "falls-out"]).nullable(),
  }),
  motor: z.strictObject({
    kind: z.literal("motor"),
    functionId: id,
    drivenBy: z.enum(["gamepad", "simulated", "host"]),
    strength: z.enum(STRENGTHS),
    rattle: z.boolean(),
  }),
  microphone: z.strictObject({
    kind: z.literal("microphone"),
    functionId: id,
    windowMs: z.int().min(5).max(500),
    quiet: level.min(8),
    phrase: level.min(8),
    rub: level.min(8),
  }),
  tone: z.strictObject({
    kind: z.literal("tone"),
    functionId: id,
    hz: z.number().min(50).max(20_000),
    heardBy: z.enum(["bench", "own"]),
    silent: level.min(4),
    sounding: level.min(4),
  }),
  latch: z
    .strictObject({
      kind: z.literal("latch"),
      functionId: id,
      tugs: z.int().min(1).max(500),
      held: z.int().min(0).max(500),
      releases: z.int().min(0).max(500),
      letGo: z.int().min(0).max(500),
    })
    .refine((r) => r.held <= r.tugs && r.letGo <= r.releases, found({ rule: "held-tried" })),
  feel: z.strictObject({
    kind: z.literal("feel"),
    controlId: id,
    freePlay: z.enum(FREE_PLAY),
    returns: z.enum(RETURNS),
    feel: z.enum(FEELS),
  }),
  "trigger-drag": z.strictObject({
    kind: z.literal("trigger-drag"),
    left: z.array(z.number().min(0).max(5000)).min(1).max(50),
    right: z.array(z.number().min(0).max(5000)).min(1).max(50),
    noise: z.enum(["none", "slight", "grinding"]),
  }),
  "contact-sensor": z.strictObject({
    kind: z.literal("contact-sensor"),
    controlId: id,
    axis: z.enum(["x", "y"]),
    nominalOhms: z.number().positive().max(1_000_000),
    /** from the wiper to each end; null for an open leg */
    readings: z
      .array(
        z.strictObject({
          a: z.number().min(0).max(1e8).nullable(),
          b: z.number().min(0).max(1e8).nullable(),
          finger: z.boolean(),
        }),
      )
      .min(1)
      .max(50),
  }),
} as const;

const R = READING_SCHEMAS;
export const readingSchema = z.discriminatedUnion("kind", [
  R.supply,
  R["charge-log"],
  R["discharge-log"],
  R["link-watch"],
  R.motor,
  R.microphone,
  R.tone,
  R.latch,
  R.feel,
  R["trigger-drag"],
  R["contact-sensor"],
]);
export type Reading = z.infer<typeof readingSchema>;
export type ReadingKind = Reading["kind"];
export type ReadingOf<K extends ReadingKind> = Extract<Reading, { kind: K }>;
