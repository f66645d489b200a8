import { found } from "@/core/base/finding";
import { idOf, z } from "@/core/base/schema";
import { catalogueSchema } from "@/core/parts/catalogue";
import { pieceReadingSchema } from "@/core/parts/inspection";
import { line, minor, part, slug, text, version, versionOrNone } from "./fields";
import { type Deeds, LEADS, WORKERS } from "./roles";

/** What the deeds about parts take: stock, batches, donors, orders and the plan. */

const pieces = z.int().min(1).max(100_000);

export const PART_STATES = ["good", "unknown", "worn", "bad", "gone"] as const;

export type PartState = (typeof PART_STATES)[number];

/** A tray, a box or a drawer; the same words everywhere, so that a label finds it. */
export const binSchema = z
  .string()
  .trim()
  .regex(/^[A-Za-z0-9][A-Za-z0-9 .-]{0,19}$/, found({ rule: "letters", of: "bin" }));

const planLineSchema = z.strictObject({
  unitId: idOf("unit"),
  slot: slug,
  part,
  count: z.int().min(1).max(100),
  /** from the shelf, or out of a donor; what is bought is reserved when it arrives */
  source: z.discriminatedUnion("kind", [
    z.strictObject({ kind: z.literal("stock") }),
    z.strictObject({ kind: z.literal("donor"), donorUnitId: idOf("unit"), donorSlot: slug }),
  ]),
});

export const CSV_KINDS = ["parts", "offers", "stock"] as const;

export type CsvKind = (typeof CSV_KINDS)[number];

export const PARTS_DEEDS = {
  "catalogue.save": {
    roles: LEADS,
    input: z.strictObject({ version: versionOrNone, catalogue: catalogueSchema }),
  },
  "stock.receive": {
    roles: WORKERS,
    input: z.strictObject({
      part,
      supplier: text(60),
      pieces,
      /** goods and their share of the carriage */
      costMinor: minor,
      bin: binSchema,
      source: z.enum(["bought", "found"]).default("bought"),
      orderLineId: idOf("order_line").nullable().default(null),
    }),
  },
  "stock.take": {
    roles: WORKERS,
    input: z.strictObject({
      batchId: idOf("batch"),
      count: pieces,
      for: z.discriminatedUnion("kind", [
        z.strictObject({
          kind: z.literal("fit"),
          unitId: idOf("unit"),
          slot: slug,
          mendId: idOf("mend").nullable(),
        }),
        z.strictObject({ kind: z.literal("use"), unitId: idOf("unit").nullable() }),
        z.strictObject({ kind: z.literal("loss") }),
      ]),
      why: text(200),
    }),
  },
  "stock.move": { roles: WORKERS, input: z.strictObject({ batchId: idOf("batch"), bin: binSchema }) },
  "stock.count": {
    roles: WORKERS,
    input: z.strictObject({
      batchId: idOf("batch"),
      version: version,
      counted: z.int().min(0).max(100_000),
      why: line(200),
    }),
  },
  "stock.split": {
    roles: WORKERS,
    input: z.strictObject({
      batchId: idOf("batch"),
      count: pieces,
      lines: z
        .array(z.strictObject({ part, good: z.int().min(0).max(100_000), bad: z.int().min(0).max(100_000) }))
        .min(1)
        .max(30),
      bin: binSchema,
      why: text(200),
    }),
  },
  /** takes the last taking apart back, as long as nothing that came out was touched */
  "stock.join": { roles: WORKERS, input: z.strictObject({ batchId: idOf("batch") }) },
  "stock.reserve": {
    roles: WORKERS,
    input: z.strictObject({
      unitId: idOf("unit"),
      slot: slug,
      batchId: idOf("batch"),
      count: z.int().min(1).max(100),
    }),
  },
  "stock.unreserve": { roles: WORKERS, input: z.strictObject({ reservationId: idOf("reservation") }) },
  "fitted.remove": {
    roles: WORKERS,
    input: z.strictObject({
      fittedId: idOf("fitted"),
      to: z.enum(["stock", "scrap"]),
      bin: binSchema.nullable(),
      why: line(200),
    }),
  },
  "fitted.feel": {
    roles: WORKERS,
    input: z.strictObject({ fittedId: idOf("fitted"), feel: z.int().min(1).max(5), words: text(160) }),
  },
  "batch.read": {
    roles: WORKERS,
    input: z.strictObject({
      batchId: idOf("batch"),
      /** which piece this is, from 1 on: two people never count one piece twice */
      number: z.int().min(1).max(100_000),
      reading: pieceReadingSchema,
      instrument: line(120),
      tookMs: z.int().min(0).max(3_600_000),
    }),
  },
  "batch.judge": {
    roles: WORKERS,
    input: z.strictObject({
      batchId: idOf("batch"),
      version: version,
      verdict: z.enum(["accept", "reject"]),
      why: text(300),
    }),
  },
  "batch.dispose": {
    roles: WORKERS,
    input: z.strictObject({ batchId: idOf("batch"), version: version, how: line(200) }),
  },
  "donor.judge": {
    roles: WORKERS,
    input: z.strictObject({ unitId: idOf("unit"), slot: slug, state: z.enum(PART_STATES), words: line(200) }),
  },
  "donor.take": {
    roles: WORKERS,
    input: z.strictObject({
      unitId: idOf("unit"),
      slot: slug,
      part,
      bin: binSchema,
      /** taken although nobody knows whether it is good */
      untestedWhy: text(200),
      forUnitId: idOf("unit").nullable(),
      forSlot: slug.nullable(),
    }),
  },
  "part.swap": {
    roles: WORKERS,
    input: z.strictObject({
      unitId: idOf("unit"),
      slot: slug,
      otherUnitId: idOf("unit"),
      otherSlot: slug,
      part,
      why: line(200),
    }),
  },
  "plan.apply": {
    roles: WORKERS,
    input: z.strictObject({
      lines: z.array(planLineSchema).max(2000),
      choices: z
        .array(z.strictObject({ unitId: idOf("unit"), choice: z.string().max(20), why: text(300) }))
        .max(2000),
      valueMinor: z.int().min(-100_000_000).max(100_000_000),
    }),
  },
  "order.place": {
    roles: WORKERS,
    input: z.strictObject({
      supplier: line(60),
      carriageMinor: minor,
      /** until it is expected */
      days: z.int().min(0).max(200),
      lines: z
        .array(z.strictObject({ part, pack: pieces, packs: z.int().min(1).max(1000), costMinor: minor }))
        .min(1)
        .max(60),
    }),
  },
  "order.cancel": { roles: WORKERS, input: z.strictObject({ orderId: idOf("purchase_order") }) },
  "stock.import": {
    roles: LEADS,
    input: z.strictObject({
      kind: z.enum(CSV_KINDS),
      text: z.string().max(2_000_000),
      version: versionOrNone,
    }),
  },
} as const satisfies Deeds;
