import { z } from "zod";

/** The one place for limits: the house's defaults, and how a shop, a model or a control changes them. */

const ladder = z.strictObject({ A: z.number().finite(), B: z.number().finite(), C: z.number().finite() });
const atMost = ladder.refine((l) => l.A <= l.B && l.B <= l.C, "limits must not fall from A to C");
const atLeast = ladder.refine((l) => l.A >= l.B && l.B >= l.C, "limits must not rise from A to C");

export const limitsSchema = z.strictObject({
  stick: z.strictObject({
    restOffset: atMost,
    restNoise: atMost,
    safeDeadZone: atMost,
    reachMin: atLeast,
    circularityError: atMost,
  }),
  trigger: z.strictObject({ restValue: atMost, fullPull: atLeast, backtrack: atMost, largestStep: atMost }),
});
export type Limits = z.infer<typeof limitsSchema>;
export type Ladder = z.infer<typeof ladder>;

export const limitChangesSchema = z.strictObject({
  stick: limitsSchema.shape.stick.partial().optional(),
  trigger: limitsSchema.shape.trigger.partial().optional(),
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
    largestStep: { A: 0.06, B: 0.1, C: 0.15 },
  },
};

const present = <T extends object>(changes: T | undefined): Partial<T> =>
  Object.fromEntries(Object.entries(changes ?? {}).filter(([, v]) => v !== undefined)) as Partial<T>;

/** Lays changes over limits; what a change does not name stays. */
export function changeLimits(limits: Limits, changes: LimitChanges | undefined): Limits {
  return {
    stick: { ...limits.stick, ...present(changes?.stick) } as Limits["stick"],
    trigger: { ...limits.trigger, ...present(changes?.trigger) } as Limits["trigger"],
  };
}
