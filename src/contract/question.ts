import { idOf, z } from "@/core/base/schema";
import { line, text } from "./fields";
import { type Deeds, WORKERS } from "./roles";

/** What a customer is asked about their unit, fault by fault, and what they answer. */

/** The like part on the other side, done while it is open: its price beside the option's, and what that saves. */
const likeSchema = z.strictObject({
  place: line(60),
  words: line(200),
  priceMinor: z.int().min(0).max(100_000_000),
  savesMinor: z.int().min(0).max(100_000_000),
  /** how it is done, where that is not the way of the option that it comes with */
  route: z.string().max(40).optional(),
  /** the very part, where more than one at its place is meant */
  slot: z.string().max(60).optional(),
});

export const questionBodySchema = z.strictObject({
  v: z.literal(1),
  findings: text(2000),
  /** photographs of the unit that the customer is shown */
  photos: z.array(idOf("photo")).max(6).default([]),
  /** everything that wears made new at once, where the work lays it all open: one choice with one price */
  refresh: z.array(likeSchema).max(20).default([]),
  faults: z
    .array(
      z.strictObject({
        faultId: idOf("fault"),
        number: z.int().min(1).max(10_000),
        found: line(300),
        options: z
          .array(
            z.strictObject({
              key: z.string().regex(/^[a-z0-9-]{1,40}$/),
              words: line(200),
              priceMinor: z.int().min(0).max(100_000_000),
              days: z.int().min(0).max(365),
              warrantyDays: z.int().min(0).max(3650),
              like: likeSchema.nullable().default(null),
            }),
          )
          .min(1)
          .max(6),
      }),
    )
    .min(1)
    .max(20),
});

export type LikePart = z.infer<typeof likeSchema>;
export type QuestionBody = z.infer<typeof questionBodySchema>;

/** "no" turns the work at this fault down; it is always offered. */
export const NO = "no";

export const answerSchema = z.strictObject({
  name: line(80),
  words: text(600),
  choices: z
    .array(
      z.strictObject({ faultId: idOf("fault"), choice: z.string().max(40), like: z.boolean().optional() }),
    )
    .min(1)
    .max(20),
  /** says that an earlier answer is meant to change */
  changes: z.boolean(),
  /** they want the full refresh too; it takes in the like parts */
  refresh: z.boolean().optional(),
  /** how they use it, where they say so: precise aiming wants better parts */
  use: z.enum(["play", "precise"]).optional(),
});

export type Answer = z.infer<typeof answerSchema>;

/**
 * How often a customer's page may change what was answered; after that they talk to the workshop, which can
 * record it.
 */
export const MOST_CHANGES = 3;

/** What the customer's page posts: confirmed, and with an id so that sending twice is one answer. */
export const postedAnswerSchema = z.strictObject({
  requestId: z.uuid(),
  confirmed: z.literal(true),
  answer: answerSchema,
});

export const QUESTION_DEEDS = {
  "question.send": {
    roles: WORKERS,
    input: z.strictObject({ unitId: idOf("unit"), body: questionBodySchema, days: z.int().min(1).max(90) }),
  },
  /** a mail that asks again was written to the customer */
  "question.remind": { roles: WORKERS, input: z.strictObject({ questionId: idOf("question") }) },
  "question.withdraw": { roles: WORKERS, input: z.strictObject({ questionId: idOf("question") }) },
  /** what a customer said by voice or letter, written down by us */
  "question.record": {
    roles: WORKERS,
    input: z.strictObject({ questionId: idOf("question"), answer: answerSchema }),
  },
} as const satisfies Deeds;
