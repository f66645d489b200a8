import { idOf, z } from "@/core/base/schema";
import { RECORDING_SOURCES, TEST_PURPOSES } from "@/core/record/standing";
import { FORCES } from "@/core/simulate/controller";

const MAX_AGE_MS = 10 * 365 * 24 * 3600_000; // a file may be older than the shop

/**
 * Who measured: the tester and its version, the machine and browser it ran on, the slot and link of the unit.
 */
export const testerSchema = z.strictObject({
  label: z.string().max(200),
  host: z.string().max(300),
  version: z.string().max(40).optional(),
  slot: z.int().min(0).max(15).optional(),
  link: z.enum(["cable", "radio", "unknown"]).optional(),
});
export type Tester = z.infer<typeof testerSchema>;

export const spotSchema = z.strictObject({
  controls: z.array(z.string().max(60)).min(1).max(64),
  force: z.enum(FORCES),
});

export type Spot = z.infer<typeof spotSchema>;

export const recordingHeadSchema = z.strictObject({
  id: idOf("recording"),
  unitId: idOf("unit"),
  purpose: z.enum(TEST_PURPOSES),
  source: z.enum(RECORDING_SOURCES),
  tester: testerSchema,
  /** which controls a spot test was about, and how hard they were pressed */
  spot: spotSchema.nullable().default(null),
  /** said when asked: it is of this unit although it does not look like one of its model */
  sure: z.boolean().default(false),
  /** how long ago it began, by the sender's own clock: the server's clock dates it */
  startedAgoMs: z.number().min(0).max(MAX_AGE_MS),
});
export type RecordingHead = z.input<typeof recordingHeadSchema>;
