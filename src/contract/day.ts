import { found } from "@/core/base/finding";
import { idOf, z } from "@/core/base/schema";
import { day, line, moment, version } from "./fields";
import { type Deeds, LEADS, WORKERS } from "./roles";

/** What the deeds about the day take: due days, hours, pins. */

const minuteOfDay = z.int().min(0).max(1440);

/** For each day of the week, Monday first, the hours as minutes of the day. */
export const hoursSchema = z
  .array(
    z.array(z.tuple([minuteOfDay, minuteOfDay]).refine(([a, b]) => a < b, found({ rule: "from-to" }))).max(4),
  )
  .length(7);

export type Hours = z.infer<typeof hoursSchema>;

export const DAY_DEEDS = {
  "unit.set-due": {
    roles: WORKERS,
    input: z.strictObject({ unitId: idOf("unit"), version: version, dueOn: day.nullable() }),
  },
  "person.set-hours": {
    roles: LEADS,
    input: z.strictObject({ personId: idOf("person"), skill: z.int().min(1).max(4), hours: hoursSchema }),
  },
  "plan.pin": {
    roles: WORKERS,
    input: z.strictObject({ task: line(160), personId: idOf("person"), startAt: moment }),
  },
  "plan.unpin": { roles: WORKERS, input: z.strictObject({ task: line(160) }) },
} as const satisfies Deeds;
