import { idOf, z } from "@/core/base/schema";
import { STATE_PAIRS } from "@/core/diagnosis/halving";
import { TRY_ACTIONS, TRY_OUTCOMES } from "@/core/diagnosis/tries";
import { line, text, version } from "./fields";
import { type Deeds, WORKERS } from "./roles";

/** What the deeds of the Find station take: observations, tries, loose pieces, searches by halves. */

export const FIND_DEEDS = {
  "find.observe": {
    roles: WORKERS,
    input: z.strictObject({
      unitId: idOf("unit"),
      kind: z.enum(["function", "check", "place", "point"]),
      target: line(120),
      /** an outcome of the control, of the check, or what was seen at the place; worked out for a point */
      outcome: z.string().max(60),
      value: z.number().min(-1e6).max(1e9).nullable(),
      note: text(300),
    }),
  },
  "find.withdraw": { roles: WORKERS, input: z.strictObject({ observationId: idOf("observation") }) },
  "try.add": {
    roles: WORKERS,
    input: z.strictObject({
      unitId: idOf("unit"),
      suspect: line(60),
      action: z.enum(TRY_ACTIONS),
      expects: line(300),
      what: line(300),
    }),
  },
  "try.settle": {
    roles: WORKERS,
    input: z.strictObject({
      tryId: idOf("attempt"),
      version,
      outcome: z.enum(TRY_OUTCOMES),
      undone: z.enum(["came-back", "stayed-away"]).nullable(),
    }),
  },
  "fragment.add": {
    roles: WORKERS,
    input: z.strictObject({ unitId: idOf("unit"), foundAt: line(120), what: line(200) }),
  },
  "fragment.match": {
    roles: WORKERS,
    input: z.strictObject({
      fragmentId: idOf("fragment"),
      version,
      matchedTo: z.string().max(60).nullable(),
      explained: text(300),
    }),
  },
  "halving.start": {
    roles: WORKERS,
    input: z.strictObject({ unitId: idOf("unit"), pair: z.enum(STATE_PAIRS) }),
  },
  /** something that a hand moved or fitted as well: a lead, a screw, a shell half */
  "halving.add-item": {
    roles: WORKERS,
    input: z.strictObject({
      halvingId: idOf("halving"),
      version,
      what: line(80),
      /** the part of the wiring that it is, where it is one */
      node: z.string().max(60).nullable(),
    }),
  },
  "halving.step": {
    roles: WORKERS,
    input: z.strictObject({
      halvingId: idOf("halving"),
      version,
      result: z.enum(["works", "fails", "give-up"]),
    }),
  },
} as const satisfies Deeds;
