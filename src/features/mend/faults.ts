import "server-only";

import type { Knex } from "knex";

import type { DeedParsed } from "@/contract/deeds";
import type { Id } from "@/core/base/ids";
import { one } from "@/core/base/one";
import { belongsTo, isWorse } from "@/core/case/faults";
import { claimNames } from "@/core/claim/lexicon";
import { thingsOf } from "@/core/profile/profile";
import { nextNumber } from "@/features/case/workable";
import { say } from "@/features/mend/words/words";
import { modelById } from "@/features/models/deeds";
import { loadLexicon } from "@/features/settings/lexicon";
import { symptomsOf } from "@/features/case/symptoms";
import type { FaultRow, UnitRow } from "@/platform/db/tables";
import { nothing, overtaken, Refused, stamp } from "@/platform/deed/base";
import { deed, namedUnit, unitOf, type Work } from "@/platform/deed/declare";

/** Faults of a unit: causes, each with its symptoms under it. */

type Named = Pick<DeedParsed<"fault.add">, "place" | "kind" | "words" | "measure" | "recordingId">;

async function insertFault(
  { db, actor }: Work,
  unitId: Id<"unit">,
  s: Named & { foundWhen: FaultRow["found_when"]; claimed: boolean },
): Promise<{ id: string; number: number }> {
  const number = await nextNumber(db, "fault", unitId);
  const rows = await db("fault")
    .insert({
      unit_id: unitId,
      number,
      place: s.place,
      kind: s.kind,
      words: s.words,
      found_when: s.foundWhen,
      claimed: s.claimed,
      measure: s.measure,
      recording_id: s.recordingId,
      ...stamp(db, actor),
    })
    .onConflict(db.raw("(unit_id, place, measure) where measure is not null and status = 'open'"))
    .ignore()
    .returning("id");
  if (rows.length !== 1) throw new Refused({ code: "already", what: "fault" });
  return { id: one(rows[0]).id, number };
}

/** Puts a symptom under a fault; the worst of them speaks for it. */
async function addSymptom({ db, actor }: Work, fault: FaultRow, s: Named, claimed: boolean): Promise<void> {
  const worse = isWorse(s, fault);
  const below = worse
    ? {
        place: fault.place,
        kind: fault.kind,
        words: fault.words,
        measure: fault.measure,
        recording_id: fault.recording_id,
        by: fault.by,
        at: fault.at,
      }
    : {
        place: s.place,
        kind: s.kind,
        words: s.words,
        measure: s.measure,
        recording_id: s.recordingId,
        ...stamp(db, actor),
      };
  await db("symptom").insert({ unit_id: fault.unit_id, fault_id: fault.id, ...below });
  await db("fault")
    .where({ id: fault.id })
    .update({
      ...(worse
        ? { place: s.place, kind: s.kind, words: s.words, measure: s.measure, recording_id: s.recordingId }
        : {}),
      claimed: fault.claimed || claimed,
      version: fault.version + 1,
    });
}

/** Whether the claim, in any of its versions, complains of the place. */
async function claimSaid(db: Knex, unit: UnitRow, place: string): Promise<boolean> {
  const [profile, { lexicon }] = [await modelById(db, unit.profile_id), await loadLexicon(db)];
  const earlier: { claim: string | null }[] = await db("event")
    .where({ unit_id: unit.id, kind: "intake-changed" })
    .select(db.raw("body->'was'->>'claim' as claim"));
  return [unit, ...earlier].some(({ claim }) =>
    claimNames(claim ?? "", place, thingsOf(profile.body, unit.revision), lexicon),
  );
}

/** The open faults of a unit with what is under each, the oldest first. */
async function openFaults(db: Knex, unitId: Id<"unit">) {
  const faults = await db("fault").where({ unit_id: unitId, status: "open" }).orderBy("number");
  const symptoms = await symptomsOf(db, unitId);
  return faults.map((f) => ({ ...f, symptoms: symptoms.filter((s) => s.faultId === f.id) }));
}

export const addFault = deed("fault.add", { unit: namedUnit, workable: true }, async (work, input) => {
  const { db, note, unit } = work;
  if (
    input.recordingId &&
    !(await db("recording").where({ id: input.recordingId, unit_id: unit.id }).first("id"))
  )
    throw new Refused({ code: "not-found", what: "recording" });
  const open = await openFaults(db, unit.id);
  const at = belongsTo(input, open, input.under);
  if (at === "named") throw new Refused({ code: "already", what: "fault" });
  if (at === "unknown") throw new Refused({ code: "not-found", what: "fault" });
  const claimed = input.claimed ?? (await claimSaid(db, unit, input.place));
  if (at !== null) {
    const { symptoms: _, ...fault } = one(open.find((f) => f.id === at.id));
    await addSymptom(work, fault, input, claimed);
    note("fault-named", unit.id, { number: fault.number, place: input.place, kind: input.kind, under: true });
    return { id: fault.id, number: fault.number };
  }
  const fault = await insertFault(work, unit.id, { ...input, claimed });
  note("fault-named", unit.id, { number: fault.number, place: input.place, kind: input.kind });
  return fault;
});

export const settleFault = deed(
  "fault.settle",
  { unit: unitOf("fault", (i) => i.faultId, "fault"), workable: true },
  async ({ db, actor, note }, { faultId, version, status, why }) => {
    const fault = await db("fault").where({ id: faultId }).first();
    if (!fault) throw new Refused({ code: "not-found", what: "fault" });
    if (status === "accepted" && actor.role !== "lead") throw new Refused({ code: "lead-only-limit" });
    if (status === "accepted" && why === "") throw new Refused({ code: "limit-needs-reason" });
    if (status === "mended" && why === "") throw new Refused({ code: "needs-why-cured" });
    if (status === "withdrawn" && why === "") throw new Refused({ code: "needs-why-gone" });
    const changed = await db("fault")
      .where({ id: faultId, version })
      .update({ status, status_why: why, version: version + 1 });
    if (changed !== 1) throw overtaken();
    note("fault-settled", fault.unit_id, { number: fault.number, from: fault.status, to: status, why });
    return nothing;
  },
);

/** Everything known of one fault goes under another: they have one cause, and one cure settles both. */
export const joinFaults = deed(
  "fault.join",
  { unit: unitOf("fault", (i) => i.faultId, "fault"), workable: true },
  async (work, { faultId, version, underId }) => {
    const { db, note, unit } = work;
    const open = await openFaults(db, unit.id);
    const from = open.find((f) => f.id === faultId);
    const into = open.find((f) => f.id === underId);
    if (!from || !into || from === into) throw new Refused({ code: "not-found", what: "fault" });
    const changed = await db("fault")
      .where({ id: faultId, version })
      .update({
        status: "withdrawn",
        status_why: say("oneCauseWithFault", { number: into.number }),
        version: version + 1,
      });
    if (changed !== 1) throw overtaken();
    const { symptoms: _, ...head } = into;
    await addSymptom(
      work,
      head,
      {
        place: from.place,
        kind: from.kind,
        words: from.words,
        measure: from.measure,
        recordingId: from.recording_id,
      },
      from.claimed,
    );
    await db("symptom").where({ fault_id: from.id }).update({ fault_id: into.id });
    note("faults-joined", unit.id, { number: into.number, from: from.number });
    return nothing;
  },
);

/** A symptom that turned out to have another cause. */
export const partSymptom = deed(
  "symptom.part",
  { unit: unitOf("symptom", (i) => i.symptomId, say("symptom")), workable: true },
  async (work, { symptomId }) => {
    const { db, note, unit } = work;
    const row = await db("symptom").where({ id: symptomId }).first();
    if (!row) throw new Refused({ code: "not-found", what: say("symptom") });
    const parent = one(await db("fault").where({ id: row.fault_id }).first());
    await db("symptom").where({ id: symptomId }).delete();
    const fault = await insertFault(work, unit.id, {
      place: row.place,
      kind: row.kind,
      words: row.words,
      measure: row.measure,
      recordingId: row.recording_id,
      foundWhen: parent.found_when,
      claimed: await claimSaid(db, unit, row.place),
    });
    note("symptom-parted", unit.id, { number: fault.number, from: parent.number });
    return fault;
  },
);

/** The changes of this file, for the list of all (features/deeds.ts). */
export const deeds = [addFault, joinFaults, partSymptom, settleFault] as const;
