import { randomUUID } from "node:crypto";

import type { Knex } from "knex";

import type { DeedInput, DeedName } from "@/contract/deeds";
import type { Reply } from "@/contract/refusals";
import { intakeSchema } from "@/contract/intake";
import type { MappedControl } from "@/core/input/input";
import { profileMap } from "@/core/profile/profile";
import { writeRecordingCsv } from "@/core/recording/csv";
import { FRESH_PROOF } from "@/core/guide/plan";
import { simulateFullTest } from "@/core/simulate/run";
import { connect } from "@/platform/db/connection";
import { migrate, rollBack } from "@/platform/db/migrate";
import type { Actor } from "@/platform/deed/base";
import { doDeed } from "@/features/deeds";
import { modelByKey } from "@/features/models/deeds";
import { refreshOutcomes } from "@/features/case/outcome";
import { insertPerson } from "@/features/people/deeds";
import { storeRecording } from "@/features/test/recordings";
import { loadSettings } from "@/features/settings/settings";
import { importShippedProfiles } from "@/features/models/shipped";
import { nextActionOf, stationFor } from "@/core/record/standing";
import { loadFacts } from "@/features/case/facts";
import { modelById } from "@/features/models/deeds";
import { unitView } from "@/features/units/view";

/** An empty workshop on the test's database, with a lead, a technician and the shipped models. */
export async function openShop(connections: number): Promise<{ db: Knex; lead: Actor; technician: Actor }> {
  const db = connect(process.env.DATABASE_URL!, connections);
  await migrate(db);
  const person = async (name: string, role: "lead" | "technician"): Promise<Actor> => ({
    id: await insertPerson(db, name, role, "a-long-password"),
    name,
    role,
  });
  const lead = await person("Lead", "lead");
  const technician = await person("Tech", "technician");
  const { settings, version } = await loadSettings(db);
  await doDeed(db, lead, "settings.save", randomUUID(), {
    version,
    settings: { ...settings, shopName: "Weir Lane Bench", town: "Oxmere" },
  });
  await importShippedProfiles(db, lead.id);
  return { db, lead, technician };
}

/**
 * What is kept beside the record (where each unit stands, what came of the closed ones) is what the record
 * says: every fact of every unit is read, where a deed reads no more than its answer needs.
 */
export async function mustFollowTheRecord(db: Knex): Promise<void> {
  const { settings } = await loadSettings(db);
  for (const unit of await db("unit").orderBy("id")) {
    const { body } = await modelById(db, unit.profile_id);
    const action = nextActionOf(await loadFacts(db, unit, body, settings.floor));
    const stage = action === "closed" || action === "quarantine" ? action : stationFor(action);
    expect({ tag: unit.tag, action: unit.next_action, stage: unit.stage }).toEqual({
      tag: unit.tag,
      action,
      stage,
    });
    expect(await db("stay").where({ unit_id: unit.id, left_at: null }).pluck("stage")).toEqual([stage]);
  }
  const outcomes = () => db("outcome").orderBy("unit_id");
  const before = await outcomes();
  await refreshOutcomes(db, await db("unit").pluck("id"));
  expect(before).toEqual(await outcomes());
}

export async function closeShop(db: Knex): Promise<void> {
  await rollBack(db);
  await db.destroy();
}

/** A bench in that workshop: deeds by name, and a known-good unit with a short way to every station. */
export function benchOf(shop: () => { db: Knex; technician: Actor }) {
  const act = <D extends DeedName>(
    deed: D,
    input: DeedInput<D>,
    by: Actor = shop().technician,
    requestId: string = randomUUID(),
  ) => doDeed(shop().db, by, deed, requestId, input);
  /** Nothing is missing, unless a test takes it. */
  const wholeIntake = async (key: string) => {
    const { accessories } = (await modelByKey(shop().db, key))!.body;
    return intakeSchema.parse({ accessories: accessories.map((a) => a.id) });
  };
  const takeIn = async (change: Partial<DeedInput<"unit.take-in">> = {}) =>
    (await valueOf(
      await act("unit.take-in", {
        profileKey: "knot",
        revision: "r1",
        origin: { source: "single", seller: "", priceMinor: 100, carriageMinor: 0 },
        claim: "",
        swollen: false,
        liquid: false,
        intake: await wholeIntake(change.profileKey ?? "knot"),
        toTray: false,
        ...change,
      }),
    )) as { tag: string; unitId: string };
  const csvs = new Map<string, Buffer>();
  const fullTest = async (
    unitId: string,
    change: { id?: string; host?: string; bad?: boolean; by?: Actor } = {},
  ) => {
    const { profile_id } = (await shop().db("unit").where({ id: unitId }).first("profile_id"))!;
    const profile = (await modelById(shop().db, profile_id)).body;
    const kind = `${profile.id} ${change.bad ? "bad" : "good"}`;
    if (!csvs.has(kind)) {
      const controls = profileMap(profile, "r1").controls as MappedControl[];
      const faults = change.bad ? { buttons: { "face.south": { missRate: 0.8 } } } : {};
      const r = simulateFullTest(controls, { seed: 4, rateHz: 60, bits: 8, faults }, { aim: FRESH_PROOF });
      csvs.set(kind, Buffer.from([...writeRecordingCsv(r)].join("")));
    }
    return storeRecording(
      shop().db,
      change.by ?? shop().technician,
      {
        id: change.id ?? randomUUID(),
        unitId,
        purpose: "full",
        source: "simulated",
        tester: { label: "t", host: change.host ?? "bench 1" },
        startedAgoMs: 0,
      },
      csvs.get(kind)!,
    );
  };
  const look = async (tag: string, by: Actor = shop().technician) => (await unitView(shop().db, tag, by))!;
  /** Every function and every line of the proof sheet passed. */
  const answerAll = async (tag: string) => {
    const view = await look(tag);
    for (const f of view.profile.functions)
      await valueOf(
        await act("function.check", { unitId: view.unit.id, functionId: f.id, result: "pass", note: "" }),
      );
    for (const l of view.proofSheet)
      await valueOf(
        await act("proof.answer", {
          unitId: view.unit.id,
          key: l.key,
          result: "pass",
          value: l.key === "storage" ? 0.5 : null,
        }),
      );
  };
  /** A unit that nothing blocks. */
  const ready = async (change: Partial<DeedInput<"unit.take-in">> = {}) => {
    const unit = await takeIn(change);
    await fullTest(unit.unitId);
    await answerAll(unit.tag);
    return unit;
  };
  const release = async (
    tag: string,
    by: Actor = shop().technician,
    change: Partial<DeedInput<"unit.release">> = {},
  ) => {
    const { unit } = await look(tag, by);
    return act(
      "unit.release",
      {
        unitId: unit.id,
        version: unit.version,
        priceMinor: 1500,
        warrantyDays: 30,
        known: "",
        limit: "",
        reason: "",
        ...change,
      },
      by,
    );
  };
  return { act, takeIn, fullTest, look, answerAll, ready, release };
}

export const valueOf = (reply: Reply) =>
  reply.ok ? (reply.value as Record<string, string>) : Promise.reject(new Error(JSON.stringify(reply)));
export const codeOf = (reply: Reply) => (reply.ok ? "done" : reply.problem.code);
