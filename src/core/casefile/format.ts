import { z } from "../base/schema";
import { factSchema } from "../case/facts";
import { lexiconSchema } from "../claim/lexicon";
import { FAMILIES } from "../decide/families";
import { houseRulesSchema } from "../decide/house-rules";
import { routesSchema } from "../decide/routes";
import { CONDITIONS } from "../grade/condition";
import { ratesSchema } from "../money/rates";
import { profileSchema } from "../profile/profile";
import { MAKES, marketSchema } from "../profile/slots";
import { NODE_KINDS } from "../profile/wiring";

/**
 * The open format of a case (docs/formats.md): a unit's model, what the shop reckons with, and its dated facts. Only
 * the profile and the facts are required; all else has the house's default.
 */

export const CASE_FORMAT = "birdcage-case";
export const CASE_VERSION = 1;

const place = z.string().min(1).max(60);
const minor = z.int().min(0).max(1_000_000);
const count = z.number().min(0).max(1_000_000);

// a file need not say what the application can work out: who, in which recording, in which finer words
const [
  told,
  history,
  mate,
  intake,
  measure,
  works,
  answer,
  reading,
  observed,
  piece,
  tried,
  mended,
  agreed,
  decided,
] = factSchema.options;
const given = { id: true, who: true } as const;
export const caseFactSchema = z.discriminatedUnion("kind", [
  told.partial(given),
  history.partial({ ...given, doubt: true }),
  mate.partial({ ...given, tag: true, words: true }),
  intake.partial({ ...given, rattle: true, smell: true, grime: true, missing: true, marks: true }),
  measure.partial({ ...given, value: true, test: true, recording: true, pattern: true, force: true }),
  works.partial({ ...given, recording: true, force: true }),
  answer.partial({ ...given, pattern: true, hand: true, words: true }),
  reading.partial({ ...given, side: true, values: true }),
  observed.partial({ ...given, severity: true, magnified: true, code: true }),
  piece.partial({ ...given, number: true, material: true }),
  tried.partial({ ...given, retest: true, number: true, outcome: true, undone: true, share: true }),
  mended.partial({ ...given, route: true, fitted: true, place: true, how: true, number: true, words: true }),
  agreed.partial({ ...given, priceMinor: true }),
  decided.partial({ ...given, why: true }),
]);
export type CaseFact = z.infer<typeof caseFactSchema>;

const tally = z.strictObject({ faults: count, parts: count });
const showed = z.strictObject({ shown: count, hidden: count });
const partRecord = z.strictObject({
  own: tally,
  others: z.array(tally).max(500).readonly(),
  showed: z.strictObject({ own: showed, others: z.array(showed).max(500).readonly() }).optional(),
});
const recordSchema = z.strictObject({
  /** of each route on each model: retests after it, and units that came back for it */
  routes: z
    .array(
      z.strictObject({
        route: z.string().max(40),
        model: z.string().max(60),
        worked: count,
        failed: count,
        cameBack: count,
        stayed: count,
      }),
    )
    .max(5000)
    .default([]),
  /** of each kind of part: how often it was at fault in closed cases, and whether that showed */
  parts: z.partialRecord(z.enum(NODE_KINDS), partRecord).default({}),
});

export const caseFileSchema = z.strictObject({
  $schema: z.string().max(300).optional(),
  format: z.literal(CASE_FORMAT),
  version: z.literal(CASE_VERSION),
  /** a model profile, or the path of its file from where the case lies */
  profile: z.union([z.string().min(1).max(500), profileSchema]),
  revision: z.string().max(60).nullable().default(null),
  currency: z
    .string()
    .regex(/^[A-Z]{3}$/)
    .default("EUR"),
  rates: ratesSchema.partial().default({}),
  market: marketSchema.partial().default({}),
  record: recordSchema.default({ routes: [], parts: {} }),
  /** the hardest route that is done here, 1 to 4 */
  skill: z.int().min(1).max(4).optional(),
  /** the tools that are there; left out: all that a route asks for */
  tools: z.array(z.string().trim().min(1).max(40)).max(200).optional(),
  /** rules of the shop that no odds outweigh; left out: none */
  house: houseRulesSchema.optional(),
  /** parts on the shelf: for which slot, of which make, and what one fitting of it cost */
  stock: z
    .array(z.strictObject({ slot: place, make: z.enum(MAKES), priceMinor: minor }))
    .max(2000)
    .default([]),
  customer: z
    .strictObject({ limitMinor: minor.nullable().default(null), precise: z.boolean().default(false) })
    .nullable()
    .default(null),
  facts: z.array(caseFactSchema).max(5000),
  /** the shop's own routes, rules and words; left out: the house's */
  routes: routesSchema.optional(),
  rules: z
    .array(
      z.strictObject({
        family: z.enum(FAMILIES),
        also: z.enum(FAMILIES).nullable(),
        route: z.string().max(40),
      }),
    )
    .max(200)
    .default([]),
  lexicon: lexiconSchema.optional(),
  /** the open faults as they were named; left out: everything that fails by the facts */
  faults: z
    .array(
      z.strictObject({
        id: z.string().max(60).optional(),
        number: z.int().min(1),
        place,
        measure: z.string().max(60).nullable(),
        refused: z.boolean().default(false),
      }),
    )
    .max(200)
    .optional(),
  /** functions that this unit was built without */
  absent: z.array(place).max(60).default([]),
  outside: z.enum(CONDITIONS).optional(),
  /** minutes of strip-down that are done already, and what is spent */
  openMinutes: z.number().min(0).max(1000).default(0),
  spent: z
    .strictObject({ purchase: z.int(), parts: z.int(), minutes: z.number().min(0) })
    .default({ purchase: 0, parts: 0, minutes: 0 }),
});
/** A case file as it is written. */
export type CaseFileIn = z.input<typeof caseFileSchema>;
/** A case file as it was read, its profile still perhaps a path. */
export type CaseFile = z.infer<typeof caseFileSchema>;

const chance = z.number().min(0).max(1);
const whySchema = z.union([
  z.strictObject({ cause: z.array(z.string()), probability: chance, works: chance }),
  z.strictObject({ outcome: z.string(), probability: chance }),
  z.strictObject({ term: z.string(), minor: z.number() }),
]);
const actSchema = z.strictObject({
  act: z.enum(["check", "attempt", "end"]),
  id: z.string(),
  place: z.string().nullable(),
  route: z.string().nullable(),
  /** of an attempt: chance that it works by all that is known now */
  works: chance.nullable(),
  /** what it gains over stopping now, if the best is done after it */
  valueMinor: z.number(),
  minutes: z.number(),
  why: z.array(whySchema),
});
/** The advice on a case, as the command prints it. */
export const adviceFileSchema = z.strictObject({
  format: z.literal("birdcage-advice"),
  version: z.literal(1),
  /** whole explanations, that add up to 1; without parts: something else */
  causes: z.array(z.strictObject({ parts: z.array(z.string()), probability: chance })),
  /** what nobody has tested, and how likely it is bad */
  untested: z.array(z.strictObject({ place: z.string(), probability: chance })),
  /** best first */
  acts: z.array(actSchema),
  next: actSchema.nullable(),
  disposition: z.string(),
  /** what is expected from now on, what was spent left out */
  expectedMinor: z.number(),
  lossChance: chance,
  bidAtMostMinor: z.int().min(0),
  blocks: z.array(z.strictObject({ code: z.string(), place: z.string().nullable(), what: z.string() })),
  disclosures: z.array(z.strictObject({ code: z.string(), what: z.string() })),
  grade: z.strictObject({ function: z.string(), outside: z.string() }),
});
export type AdviceFile = z.infer<typeof adviceFileSchema>;
export type ActFile = z.infer<typeof actSchema>;

export const caseJsonSchema = (): object => ({
  title: "Birdcage case, version 1",
  ...z.toJSONSchema(caseFileSchema, { io: "input" }),
});
export const adviceJsonSchema = (): object => ({
  title: "Birdcage advice on a case, version 1",
  ...z.toJSONSchema(adviceFileSchema),
});
