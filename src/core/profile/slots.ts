import { z } from "zod";

/** Places in a model that take a part, as far as deciding needs them. */

export const PART_KINDS = [
  "stick-module",
  "contact-sensor",
  "magnetic-module",
  "stick-box",
  "dome",
  "membrane",
  "switch",
  "trigger-sensor",
  "cell",
  "port",
  "flex",
  "board",
  "antenna",
  "motor",
  "speaker",
  "microphone",
  "jack",
  "cord",
  "latch",
] as const;
export type PartKind = (typeof PART_KINDS)[number];

export const MAKES = ["original", "dear-copy", "cheap-copy"] as const;
export type Make = (typeof MAKES)[number];

const slug = z
  .string()
  .regex(/^[a-z0-9]+([.-][a-z0-9]+)*$/)
  .max(60);
const minor = z.int().min(0).max(1_000_000);

export const slotSchema = z.strictObject({
  id: slug,
  kind: z.enum(PART_KINDS),
  name: z.string().trim().min(1).max(60),
  side: z.enum(["left", "right", "centre"]),
  /** the controls and functions that work again when this part is good */
  serves: z.array(slug).min(1).max(40),
  /** the like slot on the other side, which wears alike */
  twin: slug.optional(),
  /** from closed to this part and back, in minutes; what is deeper passes what is less deep */
  stripMinutes: z.int().min(0).max(240),
  /** what the part brings, taken from a unit that is stripped */
  resaleMinor: minor,
  offers: z.array(z.strictObject({ make: z.enum(MAKES), priceMinor: minor, leadDays: z.int().min(0).max(120) })).max(6),
});
export type Slot = z.infer<typeof slotSchema>;

/** What a unit of this model goes for: new, mended by grade, and as found with a fault. */
export const marketSchema = z.strictObject({ newMinor: minor, aMinor: minor, bMinor: minor, cMinor: minor, asFoundMinor: minor });
export type Market = z.infer<typeof marketSchema>;
