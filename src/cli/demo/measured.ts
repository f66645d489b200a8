import { randomUUID } from "node:crypto";

import { seeded } from "@/core/math/random";
import { protocolOf, USUAL_MINUTES } from "@/core/protocol/protocol";
import { SimulatedController } from "@/core/simulate/controller";
import { BENCH_PRESETS, simulatedReading } from "@/core/simulate/instruments";
import type { ControllerFaults } from "@/core/simulate/faults";
import { FRESH_PROOF } from "@/core/guide/plan";
import { simulateFullTest } from "@/core/simulate/run";
import type { MappedControl } from "@/core/input/input";
import { controlsOf, functionsOf, profileMap, rulesOf } from "@/core/profile/profile";
import { QuickLook } from "@/core/quicklook/quick-look";
import { writeRecordingCsv } from "@/core/recording/csv";
import type { StoredProfile } from "@/features/models/deeds";
import { storeRecording } from "@/features/test/recordings";
import type { DemoUnit } from "./units";
import { one } from "@/core/base/one";
import type { Id } from "@/core/base/ids";

import type { Workshop } from "./workshop";

/** What the bench measures of a unit of the demonstration, by the made-up instruments. */

export async function test(
  shop: Workshop,
  u: DemoUnit,
  profile: StoredProfile,
  unitId: Id<"unit">,
  purpose: "quick" | "full",
  ago: number,
  faults: ControllerFaults,
  seed: number,
): Promise<void> {
  const revision = u.revision ?? null;
  const controls = controlsOf(profile.body, revision) as (MappedControl & { rim?: boolean })[];
  const settings = { seed, rateHz: 100, bits: 8, faults };
  let recording;
  if (purpose === "full") recording = simulateFullTest(controls, settings, { aim: FRESH_PROOF });
  else {
    const source = new SimulatedController(controls, settings);
    const look = new QuickLook(profileMap(profile.body, revision), rulesOf(profile.body), source.channels);
    source.obey({ kind: "prompt", step: "free", control: "*" });
    for (let t = 100; t < 90_000 && !look.state().done; t += 100) look.add(source.readUntil(t));
    recording = look.recording();
  }
  const lasted = recording.t[recording.length - 1]!;
  const head = {
    id: randomUUID(),
    unitId,
    purpose,
    source: "simulated" as const,
    // which machine it was is not written down, so a proof on any other is not another tester
    tester: { label: `simulated, bench 1, seed ${seed}`, host: "" },
    startedAgoMs: lasted,
  };
  await storeRecording(
    shop.db,
    shop.as(u.by, ago),
    head,
    Buffer.from([...writeRecordingCsv(recording)].join("")),
  );
}

export async function functions(
  shop: Workshop,
  u: DemoUnit,
  unitId: Id<"unit">,
  profile: StoredProfile,
  ago: number,
  failing: string[],
  leave = 0,
): Promise<void> {
  const all = functionsOf(profile.body, u.revision ?? null);
  for (const f of all.slice(0, all.length - leave))
    await shop.deed(u.by, ago, "function.check", {
      unitId,
      functionId: f.id,
      result: failing.includes(f.id) ? "fail" : "pass",
      note: "",
      ...(f.kind === "radio" && failing.includes(f.id) ? { bondCleared: true } : {}),
    });
}

/** The rest of the proof: every line of the sheet answered, and the charge read. */
export async function proofSheet(
  shop: Workshop,
  u: DemoUnit,
  tag: string,
  unitId: Id<"unit">,
  ago: number,
): Promise<void> {
  const { proofSheet } = await shop.unitFor(u.by, tag, ago);
  for (const [i, line] of proofSheet.entries())
    if (!u.unproven?.includes(line.key))
      await shop.deed(u.by, ago - i * 0.01, "proof.answer", {
        unitId,
        key: line.key,
        result: "pass",
        value: line.key === "storage" ? 0.48 : null,
      });
}

/** The trail toward the cause: points read, places looked at, tries and loose pieces. */
export async function traced(shop: Workshop, u: DemoUnit, unitId: Id<"unit">, ago: number): Promise<void> {
  for (const [target, value] of Object.entries(u.points ?? {}))
    await shop.deed(u.by, ago, "find.observe", {
      unitId,
      kind: "point",
      target,
      outcome: "read",
      value,
      note: "",
    });
  for (const [target, outcome] of u.seen ?? [])
    await shop.deed(u.by, ago, "find.observe", {
      unitId,
      kind: "place",
      target,
      outcome,
      value: null,
      note: "",
    });
  for (const [what, foundAt] of u.loose ?? [])
    await shop.deed(u.by, ago, "fragment.add", { unitId, what, foundAt });
  for (const [suspect, action, expects, outcome] of u.tried ?? []) {
    await shop.deed(u.by, ago, "try.add", {
      unitId,
      suspect,
      action,
      expects,
      what: `${action} the ${suspect}`,
    });
    const row = one(
      await shop.db("attempt").where({ unit_id: unitId }).orderBy("number", "desc").first("id"),
    );
    if (outcome)
      await shop.deed(u.by, ago, "try.settle", { tryId: row.id, version: 1, outcome, undone: null });
  }
}

/** What the bench measures of it, by the made-up instruments, in the order of the protocol. */
export async function readings(
  shop: Workshop,
  u: DemoUnit,
  unitId: Id<"unit">,
  profile: StoredProfile,
  ago: number,
  seed: number,
): Promise<void> {
  const chance = seeded(seed);
  const functions = functionsOf(profile.body, u.revision ?? null);
  for (const step of protocolOf(profile.body, u.revision ?? null, "full")) {
    if (u.benchOnly && !u.benchOnly.includes(step.method)) continue;
    const supply = profile.body.power.find((p) => (p.half ?? "main") === step.subject) ?? null;
    const functionKind = functions.find((f) => f.id === step.functionId)?.kind;
    const reading = simulatedReading(
      { ...step, functionKind },
      supply,
      seed * 31 + step.id.length,
      BENCH_PRESETS[u.bench!]!,
    );
    if (!reading) continue;
    await shop.deed(u.by, ago, "reading.take", {
      unitId,
      reading,
      instrument: `simulated, ${u.bench}`,
      host: "demo data",
      tookMs: Math.round(60_000 * USUAL_MINUTES[step.method] * chance.between(0.7, 1.6)),
    });
  }
}
