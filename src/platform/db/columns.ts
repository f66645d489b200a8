import type { JWK } from "jose";
import type { Knex } from "knex";

import type { CertificateBody } from "@/contract/certificate";
import type { Cause } from "@/contract/mend";
import type { DeedParsed } from "@/contract/deeds";
import type { Reply } from "@/contract/refusals";
import type { EventKind } from "@/contract/events";
import { type Intake, intakeSchema } from "@/contract/intake";
import { type Hours, hoursSchema } from "@/contract/day";
import type { WaitKind } from "@/contract/waits";
import { type PaperBody, paperBodySchema } from "@/contract/papers";
import { type LikePart, type QuestionBody, questionBodySchema } from "@/contract/question";
import { spotSchema, type Spot, testerSchema, type Tester } from "@/contract/recording";
import { type Reading, readingSchema } from "@/core/bench/readings";
import type { BenchResult } from "@/core/bench/result";
import type { StickTable } from "@/core/calibrate/calibrate";
import type { Disposition } from "@/core/decide/ends";
import type { Forecast, KeptAdvice } from "@/core/decide/kept";
import type { Difference, HalvingStep, StatePair } from "@/core/diagnosis/halving";
import type { TryAction } from "@/core/diagnosis/tries";
import type { Grade } from "@/core/grade/grade";
import type { OrderBody } from "@/core/mend/order";
import type { WorkEvent } from "@/core/mend/work";
import { type PieceFinding, type PieceReading, pieceReadingSchema } from "@/core/parts/inspection";
import { type Plots, plotsSchema } from "@/core/plots/plots";
import { type Hidden, hiddenFaultsSchema } from "@/core/practice/hidden";
import type { Scored } from "@/core/practice/score";
import { type ModelProfile, profileSchema } from "@/core/profile/profile";
import type { QuickControl } from "@/core/quicklook/quick-look";
import type { Ending, NextAction, Station } from "@/core/record/standing";
import type { Analysis } from "@/core/analyse/analyse";
import { type PartFigure, STORED } from "./stored";

/**
 * What a column holds where the database itself says less: JSON, and names that no CHECK lists. tables.ts is
 * made with it.
 */

type JsonColumns = {
  "allocation.body": Pick<DeedParsed<"plan.apply">, "lines" | "choices">;
  "answer.wording": { words: string; found: string; like: LikePart | null; refresh: LikePart[] };
  "batch.figures": PartFigure[];
  "bench_reading.reading": Reading;
  "bench_reading.result": BenchResult;
  "calibration.read_back": StickTable;
  "calibration.table_after": StickTable;
  "calibration.table_before": StickTable;
  /**
   * read by its own door, which tells what was tampered with instead of refusing it (service/certificate.ts)
   */
  "certificate.body": CertificateBody;
  "decision.advised": KeptAdvice;
  "decision.faults": number[];
  /** null when the ending that was chosen has no figures */
  "decision.forecast": Forecast | null;
  "deed_receipt.reply": Reply;
  "event.body": Record<string, unknown>;
  "exercise.hidden": Hidden[];
  "exercise.score": Scored;
  "fitted.figures": PartFigure[];
  "halving.items": Difference[];
  "halving.steps": HalvingStep[];
  "heat.chips": string[];
  "heat.holes": DeedParsed<"heat.add">["holes"];
  "heat.joints": string[];
  "lot_spread.shares": { unit: string; minor: number }[];
  "model_profile.body": ModelProfile;
  "paper.body": PaperBody;
  "person.hours": Hours;
  "piece_reading.body": PieceReading;
  "piece_reading.findings": PieceFinding[];
  "question.body": QuestionBody;
  "recording.analysis": Analysis;
  "recording.grades": Record<string, Grade>;
  "recording.plots": Plots;
  "recording.quick": QuickControl[];
  "recording.spot": Spot;
  "recording.tester": Tester;
  "setting.value": unknown;
  "signing_key.public_jwk": JWK;
  "tip.body": { after: string; minutes: number };
  "unit.intake": Intake;
  "unit.liquid_cleared": { by: string; at: string };
  "work_event.body": WorkEvent;
  "work_order.body": OrderBody;
};
export type JsonColumn = keyof JsonColumns;
export type Json<C extends JsonColumn> = JsonColumns[C];

export type Narrowed = {
  "unit.stage": Station | "closed" | "quarantine";
  "unit.next_action": NextAction;
  "unit.ending": Ending;
  "outcome.ending": Ending;
  "event.kind": EventKind;
  "recording.grade": Grade;
  "ending.grade": Grade;
  "outcome.grade": Grade;
  "attempt.action": TryAction;
  "stay.stage": Station | "closed" | "quarantine";
  "bench_reading.kind": Reading["kind"];
  "decision.disposition": Disposition;
  "fault.cause": Cause;
  "halving.pair": StatePair;
  "wait.kind": WaitKind;
};

type OtherDoor = "certificate.body" | "setting.value";
/**
 * The door of stored JSON: what was stored by an earlier version is lifted to today's shape, and what is none
 * of them is an error and not a wrong figure. The driver opens it for every column of these names, whoever
 * asks (connection.ts); one without a schema does not compile. Two are not here: "certificate.body" and
 * "setting.value" have doors of their own (service/certificate.ts, service/settings.ts: a schema for each
 * key).
 */
export const DOORS: {
  readonly [C in Exclude<JsonColumn, OtherDoor>]: { parse(value: unknown): JsonColumns[C] };
} = {
  ...STORED,
  "bench_reading.reading": readingSchema,
  "exercise.hidden": hiddenFaultsSchema,
  "model_profile.body": profileSchema,
  "paper.body": paperBodySchema,
  "person.hours": hoursSchema,
  "piece_reading.body": pieceReadingSchema,
  "question.body": questionBodySchema,
  "recording.plots": plotsSchema,
  "recording.spot": spotSchema,
  "recording.tester": testerSchema,
  "unit.intake": intakeSchema,
};

/**
 * What may be written to a column: JSON lists as text, since the driver takes lists for lists of the
 * database.
 */
type Written<T> =
  | (T extends Date
      ? Date | string
      : T extends string | number | boolean | null | Buffer
        ? T
        : T extends unknown[]
          ? string
          : T | string)
  | Knex.Raw
  | Knex.QueryBuilder;
type Insert<Row, Given extends keyof Row> = { [K in Exclude<keyof Row, Given>]: Written<Row[K]> } & {
  [K in Given]?: Written<Row[K]> | undefined;
};
/** A table of the given row, whose `Given` columns the database fills when nobody does. */
export type Table<Row extends object, Given extends keyof Row> = Knex.CompositeTableType<
  Row,
  Insert<Row, Given>
>;
