import { type Finding, found, type Listed, type Place, placesOf } from "../base/finding";
import { z } from "../base/schema";

import { ok, refuse, type Result } from "../base/result";
import { MAKES, PART_KINDS } from "../profile/slots";

/**
 * The shop's catalogue: what parts there are, what each is like, where it may go, and who sells it.
 * docs/formats.md.
 */

export const CATALOGUE_FORMAT = "birdcage-catalogue";

/** Parts go into units; the rest is used up, kept at hand, or comes apart into other things. */
export const PART_CLASSES = ["part", "consumable", "odds", "kit", "assembly", "tool"] as const;
export type PartClass = (typeof PART_CLASSES)[number];

/**
 * Up to which use a part may be fitted: for somebody who aims precisely, for sale, for play among friends,
 * for own use, never.
 */
export const PART_USES = ["precise", "sale", "casual", "own", "never"] as const;
export type Use = (typeof PART_USES)[number];

export const TELL_KINDS = ["inner-colour", "moulded-code", "alignment", "thickness", "feel"] as const;
export type TellKind = (typeof TELL_KINDS)[number];

const code = z
  .string()
  .trim()
  .regex(/^[A-Z0-9]+(-[A-Z0-9]+)*$/, found({ rule: "letters", of: "capitals" }))
  .max(24);
const slug = z
  .string()
  .trim()
  .regex(/^[a-z0-9]+([.-][a-z0-9]+)*$/, found({ rule: "letters", of: "small" }))
  .max(60);
const words = (max: number) => z.string().trim().min(1).max(max);
const minor = z.int().min(0).max(10_000_000);
const millimetres = z.number().positive().max(500);

/** What matters for fit. A trait that is not written down is not known, which is not the same as fitting. */
export const traitsSchema = z.strictObject({
  side: z.enum(["left", "right", "either"]).optional(),
  base: slug.optional(),
  heightMm: millimetres.optional(),
  thicknessMm: millimetres.optional(),
  clip: slug.optional(),
  sensor: z.enum(["contact", "magnetic", "optical"]).optional(),
  supplyLeg: slug.optional(),
  generation: slug.optional(),
  connector: slug.optional(),
  colour: words(30).optional(),
});
export type Traits = z.infer<typeof traitsSchema>;

/**
 * How a piece of an incoming batch is judged. `feel` is a mark of 1 to 5; tell-tales are looked at one by
 * one.
 */
export const checkSchema = z.strictObject({
  imbalanceMax: z.number().min(0.001).max(1).optional(),
  thicknessMm: z.tuple([millimetres, millimetres]).optional(),
  feelMin: z.int().min(1).max(5).optional(),
  tells: z.boolean().default(false),
  /** bench minutes that one piece takes */
  minutes: z.number().min(0.1).max(30),
});
export type PieceCheck = z.infer<typeof checkSchema>;

export const partSchema = z.strictObject({
  code,
  class: z.enum(PART_CLASSES),
  kind: z.enum(PART_KINDS).nullable(),
  name: words(80),
  make: z.enum(MAKES).nullable(),
  traits: traitsSchema,
  /** how a genuine one is told from a copy */
  tells: z.array(z.strictObject({ kind: z.enum(TELL_KINDS), genuine: words(120), copy: words(120) })).max(8),
  /** what it comes without, against the original */
  lacks: z.array(words(60)).max(8),
  use: z.enum(PART_USES),
  check: checkSchema.nullable(),
  /**
   * what a kit or an assembly comes apart into; `weight` spreads the cost, a tool already owned is taken out
   * of the price
   */
  contents: z
    .array(
      z.strictObject({ part: code, count: z.int().min(1).max(500), weight: z.number().min(0).max(1000) }),
    )
    .max(30),
  /** what it is counted in */
  unit: z.enum(["piece", "ml", "g", "m"]),
  /** below this it is running out */
  low: z.number().min(0).max(100_000),
  /** odds and ends: what it is good for */
  uses: z.string().trim().max(160),
  disposal: z.string().trim().max(160),
});
export type Part = z.infer<typeof partSchema>;

const sideOfRule = z.strictObject({ fits: z.boolean(), why: words(160) });
export const ruleSchema = z.strictObject({
  part: code,
  model: slug,
  revision: slug.nullable(),
  slot: slug,
  /** what was found, where it is known better than from traits */
  mechanical: sideOfRule.nullable(),
  electrical: sideOfRule.nullable(),
  /** it fits and looks or feels other than what it replaces */
  deviation: z.string().trim().max(160),
});
export type FitRule = z.infer<typeof ruleSchema>;

export const substituteSchema = z.strictObject({
  part: code,
  /** what may be used instead */
  instead: code,
  /** whether what stands in for `instead` may stand in here too */
  onward: z.boolean(),
  why: words(160),
  deviation: z.string().trim().max(160),
});
export type Substitute = z.infer<typeof substituteSchema>;

export const supplierSchema = z.strictObject({
  id: slug,
  name: words(60),
  carriageMinor: minor,
  /** goods of this much come without carriage */
  freeFromMinor: minor.nullable(),
});

export const offerSchema = z.strictObject({
  supplier: slug,
  part: code,
  /** pieces in a pack, and what a pack costs from so many packs on */
  pack: z.int().min(1).max(10_000),
  breaks: z
    .array(z.strictObject({ packs: z.int().min(1).max(1000), priceMinor: minor }))
    .min(1)
    .max(6),
  leadDays: z.int().min(0).max(200),
});
export type Offer = z.infer<typeof offerSchema>;

export const catalogueSchema = z
  .strictObject({
    parts: z.array(partSchema).max(3000),
    rules: z.array(ruleSchema).max(5000),
    substitutes: z.array(substituteSchema).max(2000),
    suppliers: z.array(supplierSchema).max(200),
    offers: z.array(offerSchema).max(6000),
  })
  .superRefine((c, ctx) => {
    const problem = (finding: Finding) => ctx.addIssue({ code: "custom", message: found(finding) });
    const lost = (by: string, what: Listed, name: string) => problem({ rule: "not-listed", by, what, name });
    const codes = new Set(c.parts.map((p) => p.code));
    const sellers = new Set(c.suppliers.map((s) => s.id));
    if (codes.size !== c.parts.length) problem({ rule: "own-id", of: "part" });
    if (sellers.size !== c.suppliers.length) problem({ rule: "own-id", of: "supplier" });
    const known = (part: string, by: string) => {
      if (!codes.has(part)) lost(by, "part", part);
    };
    for (const p of c.parts) {
      if (p.class === "part" && !p.kind) problem({ rule: "needs-kind", code: p.code });
      if (p.contents.length > 0 && p.class !== "kit" && p.class !== "assembly")
        problem({ rule: "has-contents", code: p.code });
      for (const x of p.contents) known(x.part, p.code);
      if (p.contents.some((x) => x.part === p.code)) problem({ rule: "holds-itself", code: p.code });
    }
    for (const r of c.rules) known(r.part, "rules");
    for (const s of c.substitutes) {
      known(s.part, "substitutes");
      known(s.instead, "substitutes");
    }
    for (const o of c.offers) {
      known(o.part, "offers");
      if (!sellers.has(o.supplier)) lost("offers", "supplier", o.supplier);
      if (o.breaks[0]!.packs !== 1) problem({ rule: "first-break", part: o.part, supplier: o.supplier });
      for (let i = 1; i < o.breaks.length; i++)
        if (o.breaks[i]!.packs <= o.breaks[i - 1]!.packs)
          problem({ rule: "breaks-rise", part: o.part, supplier: o.supplier });
    }
    if (new Set(c.offers.map((o) => `${o.supplier} ${o.part} ${o.pack}`)).size !== c.offers.length)
      problem({ rule: "own-id", of: "offer" });
  });
export type Catalogue = z.infer<typeof catalogueSchema>;

export const EMPTY_CATALOGUE: Catalogue = {
  parts: [],
  rules: [],
  substitutes: [],
  suppliers: [],
  offers: [],
};

const fileSchema = z.strictObject({
  format: z.literal(CATALOGUE_FORMAT),
  version: z.literal(1),
  catalogue: catalogueSchema,
});

/** Reads a whole catalogue's file; refusals name the place. */
export function readCatalogue(text: string): Result<Catalogue, Place> {
  let json: unknown;
  try {
    json = JSON.parse(text);
  } catch {
    return refuse({ path: "", message: found({ rule: "no-json" }) });
  }
  const parsed = fileSchema.safeParse(json);
  if (parsed.success) return ok(parsed.data.catalogue);
  return refuse(placesOf(parsed.error, 1)[0]!);
}

export const writeCatalogue = (catalogue: Catalogue): string =>
  JSON.stringify({ format: CATALOGUE_FORMAT, version: 1, catalogue }, null, 2);

export const partOf = (c: Pick<Catalogue, "parts">, wanted: string): Part | null =>
  c.parts.find((p) => p.code === wanted) ?? null;

/** Price of one pack when so many are bought together. */
export const packPrice = (offer: Offer, packs: number): number =>
  [...offer.breaks].reverse().find((b) => packs >= b.packs)?.priceMinor ?? offer.breaks[0]!.priceMinor;

/**
 * The cheapest way to get one piece of a part now: the price of a piece in one pack. Null when nobody offers
 * it.
 */
export function piecePrice(
  c: Pick<Catalogue, "offers">,
  wanted: string,
): { minor: number; leadDays: number } | null {
  const offers = c.offers.filter((o) => o.part === wanted);
  if (offers.length === 0) return null;
  const each = (o: Offer) => o.breaks[0]!.priceMinor / o.pack;
  const best = offers.reduce((a, b) => (each(b) < each(a) ? b : a));
  return { minor: Math.round(each(best)), leadDays: best.leadDays };
}
