import "server-only";

import type { Knex } from "knex";

import type { Id } from "@/core/base/ids";
import type { BenchResult } from "@/core/bench/result";
import { type Fact, READ_AS } from "@/core/case/facts";
import { readVerdict, takenAt } from "@/core/diagnosis/readings";
import { sidesOf } from "@/core/diagnosis/sides";
import { outcomeOf } from "@/core/diagnosis/symptoms";
import { type ModelProfile } from "@/core/profile/profile";
import { rowsOf } from "@/platform/db/joined";

/** What was measured and answered: recordings, functions, readings at the bench. */

export const readRecordings = (db: Knex, unitId: Id<"unit">) =>
  rowsOf(
    db("recording as r")
      .join("person as p", "p.id", "r.by")
      .where("r.unit_id", unitId)
      .whereNot("r.purpose", "quick")
      .orderBy(["r.started_at", "r.id"]),
    { r: "recording", p: "person" },
    "r.id",
    "r.purpose",
    "r.spot",
    "r.started_at",
    "r.analysis",
    "p.name as who",
  );

export function recordingFacts(
  rows: Awaited<ReturnType<typeof readRecordings>>,
  controls: readonly string[],
  lastMend: string,
): Fact[] {
  return rows.flatMap((t) => {
    const at = t.started_at.toISOString();
    const force = t.spot?.force ?? "normal";
    const testOf = () => {
      if (t.purpose === "spot") return "spot";
      return lastMend !== "" && at > lastMend ? "proof" : "first";
    };
    return controls.flatMap((place): Fact[] => {
      const r = t.analysis.controls[place];
      if (!r || (t.spot && !t.spot.controls.includes(place))) return [];
      const common = { at, who: t.who, recording: t.id, place, force } as const;
      const shown = outcomeOf(r);
      const works: Fact[] =
        shown === "works" ? [{ ...common, id: `test ${t.id} ${place}`, kind: "works" }] : [];
      const measures = r.reasons
        // what it could not tell is told where the verdict on the whole control hangs on it
        .filter((x) => x.grade !== "A" && (x.grade !== "untested" || r.grade === "untested"))
        .map((x): Fact => ({
          ...common,
          id: `test ${t.id} ${place} ${x.measure}`,
          kind: "measure",
          measure: x.measure,
          value: typeof x.value === "number" ? x.value : null,
          grade: x.grade,
          ...sidesOf(r, x.measure),
          test: testOf(),
          pattern: x.grade === "fail" ? shown : null,
        }));
      return [...works, ...measures];
    });
  });
}

export const readAnswers = (db: Knex, unitId: Id<"unit">) =>
  rowsOf(
    db("function_check as c")
      .join("person as p", "p.id", "c.by")
      .where("c.unit_id", unitId)
      .whereIn("c.result", ["pass", "fail", "not-tested"])
      .orderBy("c.id"),
    { c: "function_check", p: "person" },
    "c.id",
    "c.function_id",
    "c.result",
    "c.at",
    "p.name as who",
  );

export const readBench = (db: Knex, unitId: Id<"unit">) =>
  rowsOf(
    db("bench_reading as b")
      .join("person as p", "p.id", "b.by")
      .where("b.unit_id", unitId)
      .orderBy(["b.at", "b.id"]),
    { b: "bench_reading", p: "person" },
    "b.id",
    "b.kind",
    "b.subject",
    "b.result",
    "b.at",
    "p.name as who",
  );

const figuresOf = (result: BenchResult): Record<string, number> =>
  Object.fromEntries(result.figures.flatMap((f) => (f.value === null ? [] : [[f.name, f.value]])));

/** Of every reading that tells something; what was broken off tells nothing. */
export const benchFacts = (
  rows: Awaited<ReturnType<typeof readBench>>,
  controls: ModelProfile["controls"],
): Fact[] =>
  rows.flatMap((r): Fact[] => {
    const verdict = readVerdict(r.result);
    if (verdict === null) return [];
    const { places, side } = takenAt(r, controls);
    return [
      {
        id: `reading ${r.id}`,
        at: r.at.toISOString(),
        who: r.who,
        kind: "reading",
        reading: READ_AS[r.kind],
        place: places.length === 1 ? places[0]! : r.subject,
        side,
        verdict,
        values: figuresOf(r.result),
      },
    ];
  });
