import { idOf, z } from "@/core/base/schema";
import { PAPER_TAXES } from "@/core/money/paper-tax";
import { day, line, text } from "./fields";
import { type Deeds, WORKERS } from "./roles";

/**
 * Papers that a bookkeeper keeps: what was offered, billed and bought. Each has a number of its kind without a gap
 * and stays as it was written; a correction is another paper. Plain text and amounts: it must read the same in ten
 * years.
 */

export const PAPER_KINDS = ["offer", "bill", "receipt"] as const;
export type PaperKind = (typeof PAPER_KINDS)[number];

const amount = z.int().min(-100_000_000).max(100_000_000);

export const paperBodySchema = z.strictObject({
  v: z.literal(1),
  issuedOn: day,
  shop: z.strictObject({ name: z.string(), town: z.string() }),
  /** the customer, the buyer, or who sold it to the shop */
  other: z.strictObject({ name: z.string(), contact: z.string() }),
  tag: z.string(),
  model: z.string(),
  /** in the other's own words: what they complained of or promised */
  claim: z.string(),
  /** an offer's: what was found, and until when it holds */
  findings: z.string().default(""),
  until: day.nullable().default(null),
  /** an offer's lines are to be chosen from, and nothing is owed yet */
  lines: z.array(
    z.strictObject({
      words: z.string(),
      detail: z.string().default(""),
      /** the fault that it bills, so that nothing is billed twice */
      fault: z.int().nullable().default(null),
      /** null where a line only heads the choices below it */
      amountMinor: amount.nullable(),
    }),
  ),
  /** what the customer did not want done */
  refused: z.array(z.string()).default([]),
  done: z.array(z.strictObject({ what: z.string(), part: z.string() })).default([]),
  covers: z
    .array(z.strictObject({ name: z.string(), days: z.int().min(0), until: day.nullable() }))
    .default([]),
  sumMinor: amount,
  currency: z.string(),
  tax: z.strictObject({
    scheme: z.enum(PAPER_TAXES),
    rate: z.number().min(0).max(1),
    netMinor: amount,
    taxMinor: amount,
  }),
  /** for the shop's books, never printed: what it cost, and the tax that is owed of it */
  books: z.strictObject({ purchaseMinor: amount, owedMinor: amount }),
  corrects: z
    .strictObject({ number: z.int().min(1), sumMinor: amount, owedMinor: amount, why: z.string() })
    .nullable()
    .default(null),
});
export type PaperBody = z.infer<typeof paperBodySchema>;

export const PAPER_DEEDS = {
  "paper.issue": {
    roles: WORKERS,
    input: z.strictObject({
      unitId: idOf("unit"),
      kind: z.enum(PAPER_KINDS),
      /** the question that is offered on paper */
      questionId: idOf("question").nullable().default(null),
      /** how to reach the other, where the record does not say it */
      contact: text(200).default(""),
    }),
  },
  /** another paper of its kind in its place, from what the record says now */
  "paper.correct": {
    roles: WORKERS,
    input: z.strictObject({
      unitId: idOf("unit"),
      paperId: idOf("paper"),
      why: line(300),
      /** nothing is owed by it any more, whatever the record says */
      takeBack: z.boolean().default(false),
      contact: text(200).default(""),
    }),
  },
} as const satisfies Deeds;
