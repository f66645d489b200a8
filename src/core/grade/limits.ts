import { found } from "../base/finding";
import { z } from "../base/schema";

import { HOUSE_MISS_TEST } from "../signal/sprt";

/** The one place for limits: the house's defaults, and how a shop, a model or a control changes them. */

const ladder = z.strictObject({ A: z.number().finite(), B: z.number().finite(), C: z.number().finite() });
const atMost = ladder.refine((l) => l.A <= l.B && l.B <= l.C, found({ rule: "falls" }));
const atLeast = ladder.refine((l) => l.A >= l.B && l.B >= l.C, found({ rule: "rises" }));

const share = z.number().min(0).max(1);

/** Limits of what is measured at the bench beside a recording, each with its unit in its name. */
const benchLimitsSchema = z.strictObject({
  /**
   * the open voltage at the contacts, as a share of cells times nominal, below which nothing else is judged
   */
  startShareOfNominal: z.number().min(0.5).max(1.2),
  internalOhmsPerCell: z.number().positive().max(10),
  capacityShare: share,
  leakMillivoltsPerDay: z.number().positive().max(1000),
  dropoutMs: z.number().min(20).max(5000),
  radioMetres: z.number().positive().max(200),
  secondsPerPlace: z.number().min(0.5).max(60),
  latchSlipRate: share,
  phraseOverFloorDb: z.number().positive().max(80),
  rubOverFloorDb: z.number().positive().max(80),
  belowReferenceDb: z.number().positive().max(60),
  toneOverSilenceDb: z.number().positive().max(80),
  triggerDragGrams: z.number().min(0).max(2000),
  triggerDragDifference: share,
  /** axis offset that an imbalance of 1 would give */
  sensorGain: z.number().positive().max(10),
  /** how far the total of a contact sensor may lie from nominal before its track counts as broken */
  trackTolerance: share,
});
export type BenchLimits = z.infer<typeof benchLimitsSchema>;

const HOUSE_BENCH: BenchLimits = {
  startShareOfNominal: 0.92,
  internalOhmsPerCell: 0.5,
  capacityShare: 0.7,
  leakMillivoltsPerDay: 15,
  dropoutMs: 100,
  radioMetres: 6,
  secondsPerPlace: 2,
  latchSlipRate: 0.2,
  phraseOverFloorDb: 15,
  rubOverFloorDb: 10,
  belowReferenceDb: 6,
  toneOverSilenceDb: 12,
  triggerDragGrams: 40,
  triggerDragDifference: 0.2,
  sensorGain: 1.6,
  trackTolerance: 0.3,
};

/** The sequential test of presses; a shop may set it stricter than the house, never laxer. */
const missTestSchema = z
  .strictObject({
    goodRate: z.number().min(0.001).max(HOUSE_MISS_TEST.goodRate),
    badRate: z.number().min(0.01).max(HOUSE_MISS_TEST.badRate),
    error: z.number().min(0.0001).max(HOUSE_MISS_TEST.error),
  })
  .refine((m) => m.badRate >= 2 * m.goodRate, found({ rule: "bad-rate" }));

const HOUSE_HOLD_SAG = { A: 0.02, B: 0.04, C: 0.06 };

export const limitsSchema = z.strictObject({
  stick: z.strictObject({
    restOffset: atMost,
    restNoise: atMost,
    safeDeadZone: atMost,
    reachMin: atLeast,
    circularityError: atMost,
  }),
  trigger: z.strictObject({
    restValue: atMost,
    fullPull: atLeast,
    backtrack: atMost,
    // filled in for limits that were stored before it was measured
    holdSag: atMost.default(HOUSE_HOLD_SAG),
    largestStep: atMost,
  }),
  // filled in for limits that were stored before there were any
  button: missTestSchema.default(HOUSE_MISS_TEST),
  bench: benchLimitsSchema.default(HOUSE_BENCH),
});
export type Limits = z.infer<typeof limitsSchema>;
export type Ladder = z.infer<typeof ladder>;

export const limitChangesSchema = z.strictObject({
  stick: limitsSchema.shape.stick.partial().optional(),
  trigger: limitsSchema.shape.trigger.partial().optional(),
  bench: benchLimitsSchema.partial().optional(),
});
export type LimitChanges = z.infer<typeof limitChangesSchema>;

export const HOUSE_LIMITS: Limits = {
  stick: {
    restOffset: { A: 0.05, B: 0.08, C: 0.12 },
    restNoise: { A: 0.015, B: 0.025, C: 0.04 },
    safeDeadZone: { A: 0.08, B: 0.12, C: 0.16 },
    reachMin: { A: 0.97, B: 0.94, C: 0.9 },
    circularityError: { A: 0.09, B: 0.14, C: 0.2 },
  },
  trigger: {
    restValue: { A: 0.01, B: 0.02, C: 0.04 },
    fullPull: { A: 0.99, B: 0.97, C: 0.94 },
    backtrack: { A: 0.02, B: 0.04, C: 0.06 },
    holdSag: HOUSE_HOLD_SAG,
    largestStep: { A: 0.06, B: 0.1, C: 0.15 },
  },
  button: HOUSE_MISS_TEST,
  bench: HOUSE_BENCH,
};

const present = <T extends object>(changes: T | undefined): Partial<T> =>
  Object.fromEntries(Object.entries(changes ?? {}).filter(([, v]) => v !== undefined)) as Partial<T>;

/** Lays changes over limits; what a change does not name stays. */
export function changeLimits(limits: Limits, changes: LimitChanges | undefined): Limits {
  return {
    stick: { ...limits.stick, ...present(changes?.stick) } as Limits["stick"],
    trigger: { ...limits.trigger, ...present(changes?.trigger) } as Limits["trigger"],
    button: limits.button,
    bench: { ...limits.bench, ...present(changes?.bench) } as BenchLimits,
  };
}
