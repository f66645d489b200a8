import { idOf, z } from "@/core/base/schema";

import { LEVELS } from "@/core/practice/hidden";

/**
 * What the practice bench is asked: begin with a unit of a level or after a hard case of the shop, end and
 * score, go on, or leave.
 */
export const practiceSchema = z.discriminatedUnion("do", [
  z.strictObject({
    do: z.literal("begin"),
    level: z.union(LEVELS.map((l) => z.literal(l))),
    model: z.string().max(60),
    /** the tag of a real case whose faults are hidden again */
    after: z.string().max(20).nullable().default(null),
  }),
  z.strictObject({ do: z.literal("end"), exerciseId: idOf("exercise") }),
  /** a check on a unit of the practice bench, answered by what is hidden in it */
  z.strictObject({
    do: z.literal("look"),
    unitId: idOf("unit"),
    check: z.string().regex(/^[a-z0-9.-]{1,80}$/),
  }),
  z.strictObject({ do: z.literal("go-on") }),
  z.strictObject({ do: z.literal("leave") }),
]);
