import { gzipSync } from "node:zlib";

import type { Page } from "@playwright/test";
import type { Knex } from "knex";

import { one } from "@/core/base/one";
import type { MappedControl } from "@/core/input/input";
import { controlsOf, type ModelProfile } from "@/core/profile/profile";
import { writeRecordingCsv } from "@/core/recording/csv";
import type { ControllerFaults } from "@/core/simulate/faults";
import { FRESH_PROOF } from "@/core/guide/plan";
import { simulateFullTest } from "@/core/simulate/run";
import { deed, expect, newUnit } from "./shop";

/** Units that a test makes for itself, as far on their way as it needs them. */

export type Made = { tag: string; unitId: string };

/** Does a deed that must not be refused. */
export async function done(page: Page, name: string, input: unknown): Promise<Record<string, string>> {
  const { body } = await deed(page, name, input);
  expect(body.problem, name).toBeUndefined();
  return body.value!;
}

const profiles = new Map<string, ModelProfile>();
async function profileOf(page: Page, model: string): Promise<ModelProfile> {
  if (!profiles.has(model))
    profiles.set(model, (await (await page.request.get(`/api/profiles/${model}`)).json()) as ModelProfile);
  return profiles.get(model)!;
}

type TestOf = {
  faults?: ControllerFaults;
  revision?: string | null;
  seed?: number;
  purpose?: "full" | "quick";
};

/** A full test of a unit by the made-up controller, as a bench sends it. */
export async function fullTest(
  page: Page,
  model: string,
  unitId: string,
  { faults = {}, revision = null, seed = 7, purpose = "full" }: TestOf = {},
): Promise<string> {
  const controls = controlsOf(await profileOf(page, model), revision) as MappedControl[];
  const recording = simulateFullTest(controls, { seed, rateHz: 100, bits: 8, faults }, { aim: FRESH_PROOF });
  const id = crypto.randomUUID();
  const head = {
    id,
    unitId,
    purpose,
    source: "simulated",
    tester: { label: "made up", host: "" },
    startedAgoMs: 0,
  };
  const origin = new URL(page.url()).origin;
  const sent = await page.request.post("/api/recordings", {
    headers: { Origin: origin, "x-recording": encodeURIComponent(JSON.stringify(head)) },
    data: gzipSync([...writeRecordingCsv(recording)].join("")),
  });
  expect(sent.status(), await sent.text()).toBe(200);
  return id;
}

/** Every function and every line of the proof sheet passed. */
export async function answerAll(page: Page, model: string, { tag, unitId }: Made): Promise<void> {
  for (const f of (await profileOf(page, model)).functions)
    await done(page, "function.check", { unitId, functionId: f.id, result: "pass", note: "" });
  await page.goto(`/units/${tag}/prove`);
  const lines = await page
    .locator("[data-proof]")
    .evaluateAll((rows) => rows.map((r) => (r as HTMLElement).dataset.proof!));
  for (const key of lines)
    await done(page, "proof.answer", { unitId, key, result: "pass", value: key === "storage" ? 0.5 : null });
}

export const MODULE_BAD: ControllerFaults = { sticks: { "stick.left": { offset: [0.24, 0.05] } } };

type Way = {
  model?: string;
  take?: object;
  /** the fault of the first test, its mend by this route, and the test after it */
  mended?: { faults: ControllerFaults; place: string; route: string; partMinor: number } | null;
  /** what the last test still shows */
  faults?: ControllerFaults;
  /** what is done to it before the last test */
  before?: (unitId: string) => Promise<void>;
};

/** A left stick that rests off centre, as a fault to name. */
export const stickFault = (unitId: string) => ({
  unitId,
  place: "stick.left",
  kind: "rests off centre",
  words: "",
  foundWhen: "test",
  measure: "restOffset",
  recordingId: null,
});

/** Names a fault at a place, as a test shows it. */
export async function nameFault(
  page: Page,
  unitId: string,
  place: string,
  kind: string,
  measure: string | null,
): Promise<string> {
  const fault = { ...stickFault(unitId), place, kind, measure, claimed: false };
  return (await done(page, "fault.add", fault)).id!;
}

/** A unit that nothing blocks but what its last test shows: tested, mended where wished, proven and answered. */
export async function readyUnit(
  page: Page,
  { model = "knot", take = {}, mended = null, faults = {}, before }: Way = {},
): Promise<Made> {
  const unit = await newUnit(page, model, { claim: "", ...take });
  if (mended) {
    await fullTest(page, model, unit.unitId, { faults: mended.faults, seed: 5 });
    const fault = await done(page, "fault.add", { ...stickFault(unit.unitId), place: mended.place });
    await done(page, "mend.add", {
      unitId: unit.unitId,
      faultId: fault.id,
      what: "Replaced it",
      part: "a new one",
      minutes: 30,
      remark: "",
      opened: true,
      settlesFault: true,
      route: mended.route,
      partMinor: mended.partMinor,
      cause: "wear",
    });
  }
  await before?.(unit.unitId);
  await fullTest(page, model, unit.unitId, { faults });
  await answerAll(page, model, unit);
  return unit;
}

export const MODULE_MEND = {
  faults: MODULE_BAD,
  place: "stick.left",
  route: "module-dear",
  partMinor: 520,
};

const OPEN = "u.ending is null and u.reference_since is null and not u.swollen";
const TESTED = "exists (select from recording r where r.unit_id = u.id and r.purpose = 'full')";
const FAULTY = "exists (select from fault f where f.unit_id = u.id and f.status = 'open')";
/** Units of the demonstration by what they are, for tests that only look at pages. */
const WHO = {
  proven: `${OPEN} and p.key = 'dunlin' and (select count(*) from recording r where r.unit_id = u.id and r.purpose = 'full') > 1
    and exists (select from mend m where m.unit_id = u.id)`,
  measured: `${OPEN} and p.key = 'dunlin' and ${TESTED} and ${FAULTY} and exists (select from bench_reading d where d.unit_id = u.id)`,
  faulty: `${OPEN} and p.key <> 'dunlin' and ${TESTED} and ${FAULTY}`,
  asked: `${OPEN} and exists (select from question q where q.unit_id = u.id)`,
  mended: `${OPEN} and p.key <> 'dunlin' and exists (select from mend m where m.unit_id = u.id)`,
  released: "u.ending = 'released' and p.key = 'dunlin'",
  donor: `u.ending = 'donor' and ${TESTED}`,
  working: "exists (select from work_order w where w.unit_id = u.id and w.status = 'open')",
} as const;

/** An address with `{what}` in the place of a tag, for a unit of the demonstration that is so. */
export async function addressOf(db: Knex, path: string): Promise<string> {
  const what = /\{(\w+)\}/.exec(path)?.[1] as keyof typeof WHO | undefined;
  if (!what) return path;
  const { rows } = await db.raw(
    `select u.tag from unit u join model_profile p on p.id = u.profile_id
     where ${WHO[what]}
     order by u.tag limit 1`,
  );
  return path.replace(`{${what}}`, one((rows as { tag: string }[])[0]).tag);
}
