import "server-only";

import type { Analysis } from "@/core/analyse/analyse";
import type { Id } from "@/core/base/ids";
import { isWorse } from "@/core/case/faults";
import type { Fact, FactOf } from "@/core/case/facts";
import { sharesOf } from "@/core/case/credit";
import { beliefOf, evidenceOfCase } from "@/core/case/evidence";
import { type CaseOf, partsAt, restsOnAny, standingOf } from "@/core/case/standing-facts";
import { routeChance } from "@/core/decide/route-chance";
import { causesAt } from "@/core/decide/causes";
import { familyOf } from "@/core/decide/families";
import type { Grade } from "@/core/grade/grade";
import { caseIn } from "@/features/case/credit";
import { symptomsOf } from "@/features/case/symptoms";
import { say } from "@/features/mend/words/words";
import { shopRecord } from "@/features/case/causes";
import { modelById } from "@/features/models/deeds";
import { loadRoutes } from "@/features/routes/deeds";
import type { UnitRow } from "@/platform/db/tables";
import type { Knex } from "knex";
import type { Work } from "@/platform/deed/declare";
import { allOf } from "@/text/lists";

/** What the test after a mend says of each fault: a cure settles all that it explains, what still fails stays open. */

export type Retest = { grades: Record<string, Grade>; analysis: Analysis };
type Symptom = Awaited<ReturnType<typeof symptomsOf>>[number];
type Open = {
  id: Id<"fault">;
  number: number;
  place: string;
  kind: string;
  measure: string | null;
  version: number;
};

/** Whether a place is good now: by the test's grade, or by an answer since the work; null where nobody knows. */
async function goodAt({ db }: Work, unitId: Id<"unit">, place: string, retest: Retest, since: Date) {
  const grade = retest.grades[place];
  if (grade !== undefined) return grade === "untested" ? null : grade !== "fail";
  const check = await db("function_check")
    .where({ unit_id: unitId, function_id: place })
    .orderBy("id", "desc")
    .first("result", "at");
  if (!check || check.at <= since) return null;
  if (check.result === "pass") return true;
  return check.result === "fail" ? false : null;
}

/** Whether one symptom is gone although its place still fails by another measure. */
const isGone = (
  s: { place: string; measure: string | null },
  good: boolean | null,
  retest: Retest,
): boolean => {
  if (good === true) return true;
  const result = retest.analysis.controls[s.place];
  if (good === null || s.measure === null || !result) return false;
  return result.reasons.every(
    (r) => r.measure !== s.measure || (r.grade !== "fail" && r.grade !== "untested"),
  );
};

/**
 * Settles the faults that a work order was for, and those that what it changed explains as well.
 * @param since the last work: only what was tested after it counts
 */
export async function settleByRetest(
  work: Work,
  unit: UnitRow,
  targets: readonly string[],
  retest: Retest,
  since: Date,
): Promise<void> {
  const { db } = work;
  const open = await db("fault")
    .where({ unit_id: unit.id, status: "open" })
    .orderBy("number")
    .select("id", "number", "place", "kind", "measure", "version", "at");
  if (open.length === 0) return;
  const symptoms = await symptomsOf(db, unit.id);
  const { of, facts } = await caseIn(db, unit);
  for (const fault of open) {
    const mine = symptoms.filter((s) => s.faultId === fault.id);
    const places = [...new Set([fault.place, ...mine.map((s) => s.place)])];
    const good = new Map<string, boolean | null>();
    for (const p of places) good.set(p, await goodAt(work, unit.id, p, retest, since));
    const all = [...good.values()];
    const isTarget = targets.includes(fault.id);
    if (isTarget && all.some((g) => g === false)) {
      await inVain(db, unit, fault, { of, facts });
      const others = open.filter((f) => f.id !== fault.id);
      await keepWhatFails(work, unit, fault, mine, { good, retest, others });
    }
    if (!all.every((g) => g === true)) continue; // not tested is never passed: the fault stays open
    // what a hand judged no test speaks of: that hand says that it is cured
    const measured = fault.measure !== null;
    const cure = isTarget || !measured ? null : explainedBy(facts, of, places, fault.at);
    if (!isTarget && !cure) continue;
    await db("fault")
      .where({ id: fault.id })
      .update({
        status: "mended",
        version: fault.version + 1,
        ...(cure ? { status_why: say("curedWithMend", { what: cure.words }) } : {}),
      });
    if (!isTarget) continue;
    await creditCure(work, unit, fault);
  }
}

/** The routes that were tried on a fault and are still to be judged did not help. */
async function inVain(
  db: Knex,
  unit: UnitRow,
  fault: { id: Id<"fault">; place: string; measure: string | null },
  known: { of: CaseOf; facts: readonly Fact[] },
): Promise<void> {
  const failed = await db("mend")
    .where({ unit_id: unit.id, fault_id: fault.id, outcome: null })
    .whereNotNull("route")
    .select("id", "route", "at");
  await db("mend")
    .whereIn(
      "id",
      failed.map((m) => m.id),
    )
    .update({ outcome: "failed" });
  await weighFailures(db, unit, fault, failed, known);
}

/** The same as soon as another route is put into the order: the test between the two has spoken. */
export async function failedBefore(db: Knex, unit: UnitRow, faultIds: readonly Id<"fault">[]): Promise<void> {
  if (faultIds.length === 0) return;
  const known = await caseIn(db, unit);
  const faults = await db("fault").whereIn("id", faultIds).select("id", "place", "measure");
  for (const fault of faults) await inVain(db, unit, fault, known);
}

/** The last thing done since that changed a part behind each of these places, if one did. */
function explainedBy(
  facts: readonly Fact[],
  of: CaseOf,
  places: readonly string[],
  since: Date,
): FactOf<"mended"> | null {
  const done = facts.filter((f): f is FactOf<"mended"> => f.kind === "mended" && new Date(f.at) > since);
  return done.filter((f) => places.every((p) => restsOnAny(of, p, partsAt(of, f.places)))).at(-1) ?? null;
}

type Failed = { id: Id<"mend">; route: string | null; at: Date };
/**
 * A route that did not help counts against its workmanship only as far as it had reached what is wrong: by the odds
 * before it, and by its having failed. A wrong diagnosis is no bad work.
 */
async function weighFailures(
  db: Knex,
  unit: UnitRow,
  fault: { place: string; measure: string | null },
  mends: readonly Failed[],
  { of, facts }: { of: CaseOf; facts: readonly Fact[] },
): Promise<void> {
  if (mends.length === 0 || of.graph.nodes.length === 0) return;
  const [{ body: profile }, { value: routes }, record] = [
    await modelById(db, unit.profile_id),
    await loadRoutes(db),
    await shopRecord(db, of.model),
  ];
  const family = familyOf(profile, fault.place, fault.measure);
  for (const m of mends) {
    const route = routes.find((r) => r.id === m.route);
    if (!route || !family) continue;
    // as it was known then: what was settled since was open
    const then = facts.flatMap((f): Fact[] => {
      if (new Date(f.at) >= m.at) return [];
      const { settled, ...open } = f;
      return settled && new Date(settled) >= m.at ? [open as Fact] : [f];
    });
    const standing = standingOf(then, of);
    const causes = {
      [fault.place]: causesAt(beliefOf(evidenceOfCase(standing, of), of, record), fault.place),
    };
    const chance = routeChance({ record: [], profile, causes }, route, { place: fault.place, family });
    const reached = chance ? (chance.reach - chance.mean) / (1 - chance.mean) : 0;
    await db("mend").where({ id: m.id }).update({ credit: reached });
  }
}

type Seen = { good: ReadonlyMap<string, boolean | null>; retest: Retest; others: readonly Open[] };
/** Of a fault that stays open what is cured goes, and the worst of what still fails speaks for it. */
async function keepWhatFails(
  { db, actor, note }: Work,
  unit: UnitRow,
  fault: Open,
  symptoms: readonly Symptom[],
  { good, retest, others }: Seen,
): Promise<void> {
  const gone = symptoms.filter((s) => isGone(s, good.get(s.place) ?? null, retest));
  const still = symptoms.filter((s) => !gone.includes(s));
  const headGone = fault.measure !== null && isGone(fault, good.get(fault.place) ?? null, retest);
  // what another open fault is named for already cannot speak for this one too
  const free = still.filter((s) => !others.some((o) => o.place === s.place && o.measure === s.measure));
  const [next] = [...free].sort((a, b) => Number(isWorse(b, a)) - Number(isWorse(a, b)));
  const cured = [...(headGone && next ? [fault.kind] : []), ...gone.map((s) => s.kind)];
  if (cured.length === 0) return;
  await db("symptom")
    .whereIn(
      "id",
      gone.map((s) => s.id),
    )
    .update({ cured_at: actor.at ?? new Date() });
  if (headGone && next) {
    await db("symptom").where({ id: next.id }).delete();
    await db("fault")
      .where({ id: fault.id })
      .update({
        place: next.place,
        kind: next.kind,
        words: next.words,
        measure: next.measure,
        recording_id: next.recordingId,
        version: fault.version + 1,
      });
  }
  note("fault-settled", unit.id, {
    number: fault.number,
    from: "open",
    to: "open",
    why: say("curedOfIt", { kinds: allOf(cured) }),
  });
}

/**
 * The mends of a fault that is cured: those since the last test that could tell of it have worked and share the cure
 * by their odds before the first of them; what a test lay behind did not cure it.
 */
export async function creditCure(
  { db }: Work,
  unit: UnitRow,
  fault: { id: Id<"fault">; place: string; measure: string | null },
): Promise<void> {
  const mends = await db("mend")
    .where({ unit_id: unit.id, fault_id: fault.id })
    .where((w) => w.whereNull("outcome").orWhere({ outcome: "worked" }))
    .orderBy("at")
    .select("id", "number", "at", "outcome", "route");
  const tests = await db("recording")
    .where({ unit_id: unit.id })
    .whereNot({ purpose: "quick" })
    .select("started_at", "spot");
  const telling = tests.filter((t) => t.spot === null || t.spot.controls.includes(fault.place));
  const spanOf = (at: Date) => telling.filter((t) => t.started_at <= at).length;
  const last = mends.at(-1);
  if (!last) return;
  const together = mends.filter((m) => spanOf(m.at) === spanOf(last.at));
  const setOutcome = (ids: readonly { id: string }[], outcome: "worked" | "failed") =>
    db("mend")
      .whereIn(
        "id",
        ids.map((m) => m.id),
      )
      .whereNull("outcome")
      .update({ outcome });
  await setOutcome(together, "worked");
  const before = mends.filter((m) => !together.includes(m));
  await setOutcome(before, "failed");
  const failed = before.filter((m) => m.outcome === null && m.route !== null);
  if (failed.length > 0) await weighFailures(db, unit, fault, failed, await caseIn(db, unit));
  const routed = together.filter((m) => m.route !== null);
  if (routed.length < 2) return;
  const { of, facts } = await caseIn(db, unit);
  const acts = facts.filter((f) => f.kind === "mended" && routed.some((m) => m.number === f.number));
  const shares = sharesOf(facts, acts, of, await shopRecord(db, of.model));
  for (const m of routed)
    await db("mend")
      .where({ id: m.id })
      .update({ credit: shares.get(`mend ${m.number}`) ?? 1 / routed.length });
}
