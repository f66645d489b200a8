import { idOf, z } from "@/core/base/schema";
import { readingSchema } from "@/core/bench/readings";
import { line, text, version } from "./fields";
import { type Deeds, LEADS, WORKERS } from "./roles";

/** What the deeds of the Test station take. */

export const TEST_DEEDS = {
  /** a lead takes a recording that was not made here as the proof; the reason is printed */
  "recording.take-as-proof": {
    roles: LEADS,
    input: z.strictObject({ recordingId: idOf("recording"), why: line(300) }),
  },
  "function.check": {
    roles: WORKERS,
    input: z.strictObject({
      unitId: idOf("unit"),
      functionId: z.string().max(60),
      result: z.enum(["pass", "fail", "not-tested", "not-fitted"]),
      note: text(300),
      /** a radio that fails: the bond to its former host was cleared before */
      bondCleared: z.boolean().optional(),
      /** from the step's opening to its answer, for the shop's own minutes */
      tookMs: z.int().min(0).max(3_600_000).optional(),
    }),
  },
  "reading.take": {
    roles: WORKERS,
    input: z.strictObject({
      unitId: idOf("unit"),
      reading: readingSchema,
      /** typed, simulated, or what a real instrument calls itself */
      instrument: line(120),
      host: text(300),
      tookMs: z.int().min(0).max(36_000_000).nullable(),
    }),
  },
  "unit.set-reference": {
    roles: WORKERS,
    input: z.strictObject({ unitId: idOf("unit"), version, on: z.boolean() }),
  },
} as const satisfies Deeds;
