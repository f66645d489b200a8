import "server-only";

import type { Knex } from "knex";

import { judgeReading, type JudgeContext, subjectOf } from "@/core/bench/judge";
import type { Reading } from "@/core/bench/readings";
import { compareWith, type Compared, numbersOf, TRAVEL_FLOOR } from "@/core/bench/reference";
import type { BenchResult } from "@/core/bench/result";
import { median } from "@/core/math/quantile";
import type { Plots } from "@/core/plots/plots";
import { changeLimits } from "@/core/grade/limits";
import { functionsOf, type ModelProfile } from "@/core/profile/profile";
import type { StepMethod } from "@/core/protocol/protocol";
import type { Analysis } from "@/core/analyse/analyse";
import { benchResultText } from "@/features/test/words/text";
import { nothing, Refused, stamp, touched } from "@/platform/deed/base";
import { loadFacts } from "@/features/case/facts";
import { blocksOf, proofOf } from "@/core/record/standing";
import { modelById } from "@/features/models/deeds";
import { loadSettings } from "@/features/settings/settings";
import { deed, namedUnit } from "@/platform/deed/declare";
import type { UnitRow } from "@/platform/db/tables";
import { one } from "@/core/base/one";
import { asked, rowsOf } from "@/platform/db/joined";
import { say } from "@/features/test/words/words";
import type { Id } from "@/core/base/ids";

/** Readings at the bench, and the reference units that they are held against. */

export type ReadingView = {
  id: string;
  kind: Reading["kind"];
  subject: string;
  reading: Reading;
  result: BenchResult;
  instrument: string;
  by: string;
  at: string;
};

function mustBeOf(profile: ModelProfile, revision: string | null, reading: Reading): void {
  const unknown = (what: string) => new Refused({ code: "not-found", what });
  if ("functionId" in reading && !functionsOf(profile, revision).some((f) => f.id === reading.functionId))
    throw unknown("function");
  if ("controlId" in reading && !profile.controls.some((c) => c.id === reading.controlId))
    throw unknown("control");
  if ("supply" in reading && !profile.power.some((p) => (p.half ?? "main") === reading.supply))
    throw unknown("supply");
}

/**
 * The figures of reference units of the model for the same kind and subject: the latest reading of each unit.
 */
async function referenceResults(
  db: Knex,
  unit: UnitRow,
  modelKey: string,
  kind: string,
  subject: string,
): Promise<BenchResult[]> {
  const rows = await rowsOf(
    db("bench_reading as b")
      .join("unit as u", "u.id", "b.unit_id")
      .join("model_profile as m", "m.id", "u.profile_id")
      .where({ "m.key": modelKey, "b.kind": kind, "b.subject": subject })
      .whereNotNull("u.reference_since")
      .whereNot("u.id", unit.id)
      .distinctOn("b.unit_id")
      .orderBy([{ column: "b.unit_id" }, { column: "b.at", order: "desc" }]),
    { b: "bench_reading", m: "model_profile", u: "unit" },
    "b.result",
  );
  return rows.map((r) => r.result as BenchResult);
}

const figureOf = (results: readonly BenchResult[], name: string): number[] =>
  results.flatMap((r) =>
    r.figures.filter((f) => f.name === name).flatMap((f) => (f.value === null ? [] : [f.value])),
  );

async function contextOf(
  db: Knex,
  unit: UnitRow,
  profile: ModelProfile,
  key: string,
  reading: Reading,
): Promise<JudgeContext> {
  const { settings } = await loadSettings(db);
  const references = await referenceResults(db, unit, key, reading.kind, subjectOf(reading));
  const supply =
    "supply" in reading ? (profile.power.find((p) => (p.half ?? "main") === reading.supply) ?? null) : null;
  return {
    supply,
    limits: changeLimits(settings.limits, profile.limits),
    reference: (name) => {
      const values = figureOf(references, name);
      return values.length ? median(values) : null;
    },
  };
}

/** Stores a reading with the result that the server works out; the function it is about gets that answer. */
export const takeReading = deed(
  "reading.take",
  { unit: namedUnit, workable: true },
  async ({ db, actor, note, unit }, { unitId, reading, instrument, host, tookMs }) => {
    if (unit.liquid && !unit.liquid_cleared) throw new Refused({ code: "wet" });
    const profile = await modelById(db, unit.profile_id);
    mustBeOf(profile.body, unit.revision, reading);
    const result = judgeReading(reading, await contextOf(db, unit, profile.body, profile.key, reading));
    const row = one(
      (
        await db("bench_reading")
          .insert({
            unit_id: unitId,
            kind: reading.kind,
            subject: subjectOf(reading),
            reading: JSON.stringify(reading),
            result: JSON.stringify(result),
            verdict: result.verdict,
            instrument,
            host,
            took_ms: tookMs,
            ...stamp(db, actor),
          })
          .returning("id")
      )[0],
    );
    if ("functionId" in reading)
      await db("function_check").insert({
        unit_id: unitId,
        function_id: reading.functionId,
        result: result.verdict,
        note: benchResultText(result).slice(0, 300),
        reading_id: row.id,
        took_ms: tookMs,
        ...stamp(db, actor),
      });
    note("reading-taken", unitId, {
      kind: reading.kind,
      subject: subjectOf(reading),
      verdict: result.verdict,
    });
    return { id: row.id, verdict: result.verdict };
  },
);

/** Makes a healthy unit a reference, or an ordinary unit again. */
export const setReference = deed(
  "unit.set-reference",
  { unit: namedUnit, seen: "unit", workable: true },
  async ({ db, actor, note, unit }, { unitId, on }) => {
    if (on) {
      const profile = await modelById(db, unit.profile_id);
      const { settings } = await loadSettings(db);
      const facts = await loadFacts(db, unit, profile.body, settings.floor);
      const proof = proofOf(facts);
      if (!proof) throw new Refused({ code: "not-healthy", why: say("itHasNoFullTestAfter") });
      // what only a unit that leaves needs is not asked of one that stays
      const bad = blocksOf(facts).filter(
        (b) =>
          ["swollen", "liquid", "control", "open-fault", "fragment", "reading", "recall", "apart"].includes(
            b.code,
          ) ||
          (b.code === "function" && b.result === "fail"),
      );
      if (bad.length) throw new Refused({ code: "not-healthy", why: say("itsFullTestOrItsFaults") });
    }
    await db("unit")
      .where({ id: unitId })
      .update({ reference_since: on ? (actor.at ?? db.fn.now()) : null, ...touched(db, actor) });
    note(on ? "made-reference" : "reference-ended", unitId, {});
    return nothing;
  },
);

/** The latest reading of each kind and subject of a unit, newest first. */
export async function readingsOf(db: Knex, unitId: Id<"unit">): Promise<ReadingView[]> {
  const rows = await rowsOf(
    db("bench_reading as b")
      .join("person", "person.id", "b.by")
      .where({ unit_id: unitId })
      .distinctOn("kind", "subject")
      .orderBy([{ column: "kind" }, { column: "subject" }, { column: "b.at", order: "desc" }]),
    { b: "bench_reading", person: "person" },
    "b.id",
    "b.kind",
    "b.subject",
    "b.reading",
    "b.result",
    "b.instrument",
    "person.name as person",
    "b.at",
  );
  return rows.map((r) => ({
    id: r.id,
    kind: r.kind,
    subject: r.subject,
    reading: r.reading,
    result: r.result,
    instrument: r.instrument,
    by: r.person,
    at: r.at.toISOString(),
  }));
}

/** The shop's own minutes for each way of doing a step: the median over the last tests of this model. */
export async function learntMinutes(
  db: Knex,
  modelKey: string,
): Promise<Partial<Record<StepMethod, { median: number; cases: number }>>> {
  const rows = await asked<{ method: StepMethod; minutes: number; cases: number }>(
    db,
    `select method, percentile_cont(0.5) within group (order by ms) / 60000.0 as minutes, count(*)::int as cases from (
         select b.kind as method, b.took_ms as ms from bench_reading b join unit u on u.id = b.unit_id
           join model_profile m on m.id = u.profile_id where m.key = :key and b.took_ms is not null
         union all
         select 'prompt', c.took_ms from function_check c join unit u on u.id = c.unit_id
           join model_profile m on m.id = u.profile_id where m.key = :key and c.took_ms is not null and c.reading_id is null
         union all
         select case r.purpose when 'quick' then 'quick' else 'guided' end, r.duration_ms from recording r
           join unit u on u.id = r.unit_id join model_profile m on m.id = u.profile_id
           where m.key = :key and r.purpose in ('quick', 'full') and r.source <> 'import') as t group by method`,
    { key: modelKey },
  );
  return Object.fromEntries(rows.map((r) => [r.method, { median: Number(r.minutes), cases: r.cases }]));
}

/** A known-good unit of the model, drawn in grey behind what was measured; null where the shop keeps none. */
export type Healthy = { tag: string; analysis: Analysis; plots: Plots } | null;

export type ReferenceSheet = {
  units: { tag: string; at: string; tester: string }[];
  /** per control: each figure of a recording against the references */
  controls: Record<string, Compared[]>;
  /** per kind and subject of a bench reading */
  readings: Record<string, Compared[]>;
};

const NOT_COMPARED = new Set(["count", "s", "ms"]); // how long and how often one measured says nothing about the unit
const READING_FLOOR = 0.02; // two in a hundred of the middle: no instrument at a bench repeats better

/**
 * A recording and the latest readings of a unit beside the reference units of its model. Null when there is
 * none.
 */
export async function referenceSheet(
  db: Knex,
  unit: { id: string },
  modelKey: string,
  analysis: Analysis | null,
  readings: readonly ReadingView[],
): Promise<ReferenceSheet | null> {
  const recordings = await rowsOf(
    db("recording as r")
      .join("unit as u", "u.id", "r.unit_id")
      .join("model_profile as m", "m.id", "u.profile_id")
      .where({ "m.key": modelKey, "r.purpose": "full" })
      .whereNotNull("u.reference_since")
      .whereNot("u.id", unit.id)
      .distinctOn("u.id")
      .orderBy([{ column: "u.id" }, { column: "r.started_at", order: "desc" }]),
    { r: "recording", m: "model_profile", u: "unit" },
    "u.tag",
    "r.started_at",
    "r.tester",
    "r.analysis",
  );
  if (recordings.length === 0) return null;
  const sheets = recordings.map((r) => r.analysis);
  const controls = Object.fromEntries(
    Object.entries(analysis?.controls ?? {}).map(([id, result]) => [
      id,
      Object.entries(numbersOf(result)).map(([name, value]) =>
        compareWith(
          name,
          value,
          sheets.flatMap((s) => (s.controls[id] ? (numbersOf(s.controls[id])[name] ?? []) : [])),
          TRAVEL_FLOOR,
        ),
      ),
    ]),
  );
  const others = await rowsOf(
    db("bench_reading as b")
      .join("unit as u", "u.id", "b.unit_id")
      .join("model_profile as m", "m.id", "u.profile_id")
      .where({ "m.key": modelKey })
      .whereNotNull("u.reference_since")
      .whereNot("u.id", unit.id)
      .distinctOn("b.unit_id", "b.kind", "b.subject")
      .orderBy([
        { column: "b.unit_id" },
        { column: "b.kind" },
        { column: "b.subject" },
        { column: "b.at", order: "desc" },
      ]),
    { b: "bench_reading", m: "model_profile", u: "unit" },
    "b.kind",
    "b.subject",
    "b.result",
  );
  return {
    units: recordings.map((r) => ({ tag: r.tag, at: r.started_at.toISOString(), tester: r.tester.label })),
    controls,
    readings: Object.fromEntries(
      readings.map((reading) => {
        const same = others
          .filter((o) => o.kind === reading.kind && o.subject === reading.subject)
          .map((o) => o.result);
        return [
          `${reading.kind}.${reading.subject}`,
          reading.result.figures
            .filter((f) => f.value !== null && !NOT_COMPARED.has(f.unit))
            .map((f) => {
              const values = figureOf(same as BenchResult[], f.name);
              return compareWith(
                f.name,
                f.value,
                values,
                Math.abs(values.length ? median(values) : 0) * READING_FLOOR,
              );
            }),
        ];
      }),
    ),
  };
}

/**
 * The newest full test of a reference unit of a model, to be drawn in grey behind what another unit did; null where the shop
 * keeps none.
 */
export async function healthyRecording(db: Knex, unit: { id: string }, modelKey: string): Promise<Healthy> {
  const [newest] = await rowsOf(
    db("recording as r")
      .join("unit as u", "u.id", "r.unit_id")
      .join("model_profile as m", "m.id", "u.profile_id")
      .where({ "m.key": modelKey, "r.purpose": "full" })
      .whereNotNull("u.reference_since")
      .whereNot("u.id", unit.id)
      .orderBy("r.started_at", "desc")
      .limit(1),
    { r: "recording", m: "model_profile", u: "unit" },
    "u.tag",
    "r.analysis",
    "r.plots",
  );
  return newest ?? null;
}

/** The changes of this file, for the list of all (features/deeds.ts). */
export const deeds = [setReference, takeReading] as const;
