import { found } from "../base/finding";
import { z } from "../base/schema";

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
  "cap",
  "spring",
  "gear",
  "cell-contact",
] as const;
export type PartKind = (typeof PART_KINDS)[number];

export const MAKES = ["original", "dear-copy", "cheap-copy"] as const;
export type Make = (typeof MAKES)[number];

const slug = z
  .string()
  .regex(/^[a-z0-9]+([.-][a-z0-9]+)*$/)
  .max(60);
const minor = z.int().min(0).max(1_000_000);

const range = z
  .tuple([z.number().min(0).max(500), z.number().min(0).max(500)])
  .refine(([lo, hi]) => lo <= hi, found({ rule: "low-high" }));

/**
 * What a slot asks of a part, mechanical and electrical apart; a trait that is left out does not matter
 * there.
 */
const mechanicalNeed = z.strictObject({
  /** mirrored: the part must be of the slot's own side */
  mirrored: z.literal(true).optional(),
  base: slug.optional(),
  heightMm: range.optional(),
  thicknessMm: range.optional(),
  clip: slug.optional(),
});
const electricalNeed = z.strictObject({
  sensor: z.enum(["contact", "magnetic", "optical"]).optional(),
  supplyLeg: slug.optional(),
  generation: z.array(slug).min(1).max(8).optional(),
  connector: slug.optional(),
});
export type MechanicalNeed = z.infer<typeof mechanicalNeed>;
export type ElectricalNeed = z.infer<typeof electricalNeed>;

export const slotFitSchema = z.strictObject({
  /** what sits where, as one finds it with the shell open */
  sits: z.string().trim().min(1).max(120),
  /** pieces that the slot takes */
  count: z.int().min(1).max(12),
  /** what a new one comes without and is moved over from the old one */
  newLacks: z.array(z.string().trim().min(1).max(60)).max(8),
  mechanical: mechanicalNeed,
  electrical: electricalNeed,
  /** revisions that ask something else under the same shell */
  byRevision: z
    .record(
      slug,
      z.strictObject({ mechanical: mechanicalNeed.optional(), electrical: electricalNeed.optional() }),
    )
    .optional(),
});

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
  offers: z
    .array(z.strictObject({ make: z.enum(MAKES), priceMinor: minor, leadDays: z.int().min(0).max(120) }))
    .max(6),
  /** what fits here; a profile without it says nothing about fit */
  fit: slotFitSchema.optional(),
});
export type Slot = z.infer<typeof slotSchema>;

/** What a unit of this model goes for: new, mended by grade, and as found with a fault. */
export const marketSchema = z.strictObject({
  newMinor: minor,
  aMinor: minor,
  bMinor: minor,
  cMinor: minor,
  asFoundMinor: minor,
});
export type Market = z.infer<typeof marketSchema>;
