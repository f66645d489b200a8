import type { JWK } from "jose";

import { DEEDS } from "@/contract/deeds";
import type { Reply } from "@/contract/refusals";
import { calibrationTableSchema } from "@/contract/mend";
import { z } from "@/core/base/schema";
import { type BenchFigure, type BenchResult, FIGURE_UNITS } from "@/core/bench/result";
import { DISPOSITIONS } from "@/core/decide/ends";
import type { Forecast, KeptAdvice } from "@/core/decide/kept";
import type { Difference, HalvingStep } from "@/core/diagnosis/halving";
import { MEASURES } from "@/core/grade/measures";
import { GRADES } from "@/core/grade/grade";
import type { OrderBody, Target } from "@/core/mend/order";
import { EXTRAS, FATES, type WorkEvent } from "@/core/mend/work";
import type { PieceFinding } from "@/core/parts/inspection";
import type { Scored } from "@/core/practice/score";
import type { QuickControl } from "@/core/quicklook/quick-look";
import type { Analysis } from "@/core/analyse/analyse";
import { HALVES } from "@/core/signal/dead-halves";
import { DIRECTIONS } from "@/core/signal/outer";

/**
 * The shapes of what our own code computes and stores as JSON. What comes from outside has its schema where
 * it enters (contract, core). What an earlier version kept beside them stays: a column is read to be shown,
 * written to an archive, and signed.
 */
const shape = z.looseObject;

const number = z.number();
const text = z.string();
const texts = z.array(text);
const maybe = number.nullable();

const partFigureSchema = shape({ name: text, value: number, unit: text });
export type PartFigure = z.infer<typeof partFigureSchema>;

const benchFigureSchema = shape({
  name: text,
  value: maybe,
  unit: z.enum(FIGURE_UNITS),
  low: maybe.optional(),
  high: maybe.optional(),
  smallest: number.optional(),
  limit: shape({ side: z.enum(["most", "least"]), value: number }).optional(),
  keeps: z.boolean().nullable(),
}) satisfies z.ZodType<BenchFigure, unknown>;

const targetSchema = shape({
  key: number,
  faultId: text.nullable(),
  number: maybe,
  what: text,
  slot: text.nullable(),
  route: text.nullable(),
  minutes: number,
  waitMinutes: number,
  tools: texts,
  movesOver: texts,
}) satisfies z.ZodType<Target, unknown>;

const kind = <const K extends string, S extends z.ZodRawShape>(name: K, fields: S) =>
  shape({ kind: z.literal(name), ...fields });
const code = <const C extends string, S extends z.ZodRawShape>(name: C, fields: S) =>
  shape({ code: z.literal(name), ...fields });

const point = z.tuple([number, number]);
const verdict = {
  grade: z.enum(GRADES),
  reasons: z.array(
    shape({
      measure: z.enum(MEASURES),
      value: z.union([number, text, texts, z.boolean()]).nullable(),
      limit: z.union([number, text]).nullable(),
      grade: z.enum(GRADES),
      note: text,
    }),
  ),
  smallestSeen: z.partialRecord(z.enum(MEASURES), shape({ value: number, bound: number })).default({}),
};
/** What analyses of version 1 did not measure reads as not measured. */
const idle = shape({ count: number, worst: number, at: z.array(number), confirmed: z.boolean() })
  .nullable()
  .default(null);
const wald = z.enum(["good", "bad", "continue"]);
const presses = {
  cues: number,
  registered: number,
  missed: number,
  missRateUpper95: number,
  decision: wald,
  releaseRisk: number.default(1),
};
const stickSchema = shape({
  kind: z.literal("stick"),
  restOffset: maybe,
  restCentre: point.nullable(),
  restNoise: maybe,
  restSpikes: maybe,
  releases: maybe,
  octants: maybe.default(null),
  returnWorst: maybe,
  returnSpread: maybe,
  stuckReleases: maybe,
  safeDeadZone: maybe,
  reach: z.record(z.enum(DIRECTIONS), maybe).nullable(),
  reachMin: maybe,
  circularityError: maybe,
  coverage: maybe,
  profile: z.array(maybe).nullable(),
  deadHalves: z.array(z.enum(HALVES)).nullable(),
  noAnswer: z.boolean().nullable(),
  jumps: shape({
    count: maybe,
    worst: number,
    at: z.array(point),
    axis: z.array(z.enum(["x", "y"])).default([]),
    smallestSeen: number,
  }).nullable(),
  crossTalkDeg: shape({ x: maybe, y: maybe }).nullable(),
  calibration: shape({
    centre: point,
    low: point,
    high: point,
    after: shape({ restOffset: number, reachMin: maybe, circularityError: maybe }),
  }).nullable(),
  idle,
  ...verdict,
});
const triggerSchema = shape({
  kind: z.literal("trigger"),
  restValue: maybe,
  fullPull: maybe,
  fullPullMedian: maybe.default(null),
  pulls: maybe,
  backtrack: maybe,
  holdSag: maybe.default(null),
  largestStep: maybe,
  noAnswer: z.boolean().nullable(),
  idle,
  ...verdict,
});
const buttonSchema = shape({
  kind: z.literal("button"),
  cues: maybe,
  registered: maybe,
  missed: maybe,
  extra: maybe,
  chatter: maybe,
  firesWith: texts.nullable(),
  stuckAtRest: z.boolean().nullable(),
  missRateUpper95: maybe,
  decision: wald.nullable(),
  releaseRisk: maybe.default(null),
  rim: shape(presses).nullable(),
  idle,
  ...verdict,
});

const likeShape = shape({
  place: text,
  words: text,
  priceMinor: number,
  savesMinor: number,
  route: text.optional(),
  slot: text.optional(),
});

export const STORED = {
  "allocation.body": DEEDS["plan.apply"].input.pick({ lines: true, choices: true }),
  "answer.wording": shape({
    words: text,
    found: text,
    like: likeShape.nullable().default(null),
    refresh: z.array(likeShape).default([]),
  }),
  "batch.figures": z.array(partFigureSchema),
  "bench_reading.result": shape({
    v: z.literal(1),
    verdict: z.enum(["pass", "fail", "not-tested"]),
    figures: z.array(benchFigureSchema),
    findings: z.array(shape({ code: text, facts: z.record(text, z.union([text, number])).optional() })),
  }) satisfies z.ZodType<BenchResult, unknown>,
  "calibration.read_back": calibrationTableSchema,
  "calibration.table_after": calibrationTableSchema,
  "calibration.table_before": calibrationTableSchema,
  "decision.advised": shape({
    best: z.enum(DISPOSITIONS),
    value: number,
    first: text.nullable(),
    policy: shape({ best: z.enum(DISPOSITIONS), value: number, first: text.nullable() }).nullable(),
    schools: z.array(shape({ school: text, value: number })),
  }) satisfies z.ZodType<KeptAdvice, unknown>,
  "decision.faults": z.array(z.int()),
  "decision.forecast": shape({
    value: number,
    margin: number,
    low: number,
    high: number,
    loss: number,
    minutes: number,
    tries: z.array(shape({ place: text, route: text, works: number, cause: text })).optional(),
  }).nullable() satisfies z.ZodType<Forecast | null, unknown>,
  "deed_receipt.reply": z.custom<Reply>((v) => typeof v === "object" && v !== null), // the deed's own answer, whatever it is
  "event.body": z.record(text, z.unknown()),
  "exercise.score": shape({
    found: texts,
    missed: texts,
    wrong: texts,
    minutes: number,
    bestMinutes: number,
    lostMinor: maybe,
    points: number,
    review: shape({
      best: z.enum(DISPOSITIONS),
      route: text,
      bestMinor: number,
      chosen: z.enum(DISPOSITIONS).nullable(),
      chosenRoute: text,
      chosenMinor: maybe,
      steps: z
        .array(
          shape({
            act: z.enum(["check", "attempt", "end"]),
            id: text,
            place: text.nullable(),
            valueMinor: maybe,
            best: shape({ act: z.enum(["check", "attempt", "end"]), id: text, place: text.nullable() }),
            bestMinor: number,
            lostMinor: number,
          }),
        )
        .optional(),
      held: z.array(shape({ part: text, name: text, share: number })).optional(),
    }),
  }) satisfies z.ZodType<Scored, unknown>,
  "fitted.figures": z.array(partFigureSchema),
  "halving.items": z.array(shape({ id: text, what: text, node: text.nullable() })) satisfies z.ZodType<
    Difference[],
    unknown
  >,
  "halving.steps": z.array(
    shape({ switched: texts, result: z.enum(["works", "fails"]) }),
  ) satisfies z.ZodType<HalvingStep[], unknown>,
  "heat.chips": texts,
  "heat.holes": DEEDS["heat.add"].input.shape.holes,
  "heat.joints": texts,
  "lot_spread.shares": z.array(shape({ unit: text, minor: z.int() })),
  "piece_reading.findings": z.array(
    z.discriminatedUnion("code", [
      code("imbalance", { value: number, limit: number }),
      code("leg-open", {}),
      code("thickness", { value: number, low: number, high: number }),
      code("feel", { value: number, limit: number }),
      code("tell", { kind: text }),
      code("missing", { what: z.enum(["ohms", "thickness", "feel", "tells"]) }),
    ]),
  ) satisfies z.ZodType<PieceFinding[], unknown>,
  "recording.analysis": shape({
    format: z.literal("birdcage-analysis"),
    version: z.union([z.literal(1), z.literal(2)]),
    sampling: shape({ samples: number, durationMs: number, medianIntervalMs: number, p99IntervalMs: number }),
    releaseRisk: maybe.default(null),
    rimRisk: maybe.default(null),
    controls: z.record(text, z.discriminatedUnion("kind", [stickSchema, triggerSchema, buttonSchema])),
  }) satisfies z.ZodType<Analysis, unknown>,
  "recording.grades": z.record(text, z.enum(GRADES)),
  "recording.quick": z.array(
    shape({
      id: text,
      seen: number,
      faults: z.array(
        z.discriminatedUnion("code", [
          code("rests-off", { value: number, limit: number }),
          code("dead-side", { side: text }),
          code("leaps", { count: number }),
          code("short-pull", { value: number, limit: number }),
          code("held-at-rest", {}),
          code("chatters", { count: number }),
          code("fires-with", { other: text }),
        ]),
      ),
    }),
  ) satisfies z.ZodType<QuickControl[], unknown>,
  "signing_key.public_jwk": z.custom<JWK>((v) => typeof v === "object" && v !== null && "kty" in v),
  "tip.body": shape({ after: text, minutes: number }),
  "unit.liquid_cleared": shape({ by: text, at: text }),
  "work_event.body": z.discriminatedUnion("kind", [
    kind("apart", { step: text }),
    kind("back", { step: text }),
    kind("in", { item: text }),
    kind("out", { item: text }),
    kind("explained", { item: text, fate: z.enum(FATES), why: text }),
    kind("away", { item: text, where: text }),
    kind("extra", { name: text, what: z.enum(EXTRAS) }),
    kind("task", { task: text }),
    kind("again", { task: text, why: text }),
    kind("gate", { gate: z.enum(["open", "closed"]), recordingId: text.nullable(), why: text }),
  ]) satisfies z.ZodType<WorkEvent, unknown>,
  "work_order.body": shape({
    targets: z.array(targetSchema),
    cleaningLevel: number,
    calibrate: texts,
    checks: texts.optional(),
  }) satisfies z.ZodType<OrderBody, unknown>,
} as const;
