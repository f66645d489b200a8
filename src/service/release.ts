import "server-only";

import { randomBytes } from "node:crypto";

import type { Knex } from "knex";

import { type CertificateBody, certificateSchema } from "@/contract/certificate";
import type { Settings } from "@/contract/deeds";
import { controlsOf, functionsOf, placeName, rulesOf } from "@/core/profile/profile";
import { baselineOf, blocksOf, firmOf, proofOf, type RecordedCheck, unitGrade } from "@/core/record/standing";
import { figuresOf } from "@/text/measures";
import { respread } from "./buying";
import { type Actor, type Deed, note, nothing, Refused, stamp } from "./base";
import { loadFacts, lockUnit, mustBeWorkable, refreshStanding, touched, type UnitRow } from "./facts";
import { modelById, type StoredProfile } from "./models";
import { recordingById, type StoredRecording } from "./recordings";
import { loadSettings } from "./settings";

const TOKEN_BYTES = 20; // 160 random bits
const DAY_MS = 24 * 3600_000;

const certificateToken = () => randomBytes(TOKEN_BYTES).toString("base64url");

type Statement = {
  at: Date;
  unit: UnitRow;
  profile: StoredProfile;
  settings: Settings;
  proof: StoredRecording;
  before: StoredRecording | null;
  checks: readonly RecordedCheck[];
  work: { what: string; part: string }[];
  input: { limit: string; reason: string; known: string; warrantyDays: number };
};

/** What the certificate says, fixed on the day of release. */
function stateCertificate(s: Statement): CertificateBody {
  const rules = rulesOf(s.profile.body, s.settings.limits);
  const resultOf = (id: string) => s.checks.find((c) => c.functionId === id)?.result ?? "not-tested";
  const functions = functionsOf(s.profile.body, s.unit.revision).map((f) => ({ id: f.id, name: f.name, result: resultOf(f.id) }));
  const controls = controlsOf(s.profile.body, s.unit.revision).map((c) => {
    const result = s.proof.analysis.controls[c.id];
    const earlier = s.before?.analysis.controls[c.id];
    const was = earlier ? figuresOf(earlier, rules.limitsFor(c.id)) : [];
    const figures = result ? figuresOf(result, rules.limitsFor(c.id)) : [];
    return {
      id: c.id,
      name: placeName(c),
      grade: result?.grade ?? ("untested" as const),
      figures: figures.map((f) => ({
        measure: f.measure,
        value: f.value,
        limit: f.limit,
        before: was.find((w) => w.measure === f.measure)?.value ?? null,
      })),
    };
  });
  return certificateSchema.parse({
    v: 1,
    shop: { name: s.settings.shopName, town: s.settings.town },
    tag: s.unit.tag,
    model: `${s.profile.body.maker} ${s.profile.body.name}`,
    revision: s.profile.body.revisions.find((r) => r.id === s.unit.revision)?.name ?? null,
    grade: unitGrade(
      controls.map((c) => c.grade),
      functions.map((f) => f.result),
    ),
    releasedAt: s.at.toISOString(),
    warrantyUntil: s.input.warrantyDays > 0 ? new Date(s.at.getTime() + s.input.warrantyDays * DAY_MS).toISOString() : null,
    limit: s.input.limit,
    limitReason: s.input.reason,
    tester: {
      person: s.proof.by,
      label: s.proof.tester.label,
      host: s.proof.tester.host,
      source: s.proof.source,
      at: s.proof.startedAt.toISOString(),
    },
    controls,
    functions,
    work: s.work,
    known: s.input.known,
  });
}

/** Blocks that no limit can lift: what can hurt someone, and a unit without any full test. */

export const release: Deed<"unit.release"> = async (db, actor, input) => {
  const unit = await lockUnit(db, input.unitId, input.version, actor);
  mustBeWorkable(unit);
  const profile = await modelById(db, unit.profile_id);
  const { settings } = await loadSettings(db);
  const facts = await loadFacts(db, unit, profile.body, settings.floor);
  const blocks = blocksOf(facts);
  const proofTest = proofOf(facts);
  const firm = firmOf(blocks)[0];
  if (firm !== undefined || proofTest === null)
    throw new Refused(
      firm === undefined || firm === "no-proof" ? { code: "no-proof-to-release" } : { code: "firm-block", block: firm },
    );
  if (blocks.length > 0) {
    if (input.limit === "") throw new Refused({ code: "blocked", count: blocks.length });
    if (actor.role !== "lead") throw new Refused({ code: "lead-only-limit" });
    if (input.reason === "") throw new Refused({ code: "limit-needs-reason" });
  }
  const proof = (await recordingById(db, proofTest.id))!;
  const first = baselineOf(facts);
  const before = first && first.id !== proofTest.id ? await recordingById(db, first.id) : null;
  const work = await db("mend").where({ unit_id: unit.id }).orderBy("number").select("what", "part");
  const body = stateCertificate({
    at: actor.at ?? new Date(),
    unit,
    profile,
    settings,
    proof,
    before,
    checks: facts.checks,
    work,
    input,
  });
  const [ending] = await db("ending")
    .insert({
      unit_id: unit.id,
      kind: "released",
      grade: body.grade,
      price_minor: input.priceMinor,
      warranty_days: input.warrantyDays,
      known: input.known,
      limit_text: input.limit,
      reason: input.reason,
      proof_id: proof.id,
      before_id: before?.id ?? null,
      ...stamp(db, actor),
    })
    .returning("id");
  const token = certificateToken();
  await db("certificate").insert({
    unit_id: unit.id,
    ending_id: ending.id,
    token,
    body: JSON.stringify(body),
    ...stamp(db, actor),
  });
  await close(db, actor, unit, "released", { grade: body.grade, limit: input.limit, reason: input.reason, blocks });
  return { token };
};

async function close(db: Knex, actor: Actor, unit: UnitRow, kind: string, body: object): Promise<void> {
  await db("unit")
    .where({ id: unit.id })
    .update({ ending: kind, tray: null, closed_at: actor.at ?? db.fn.now(), ...touched(db, actor) });
  // another role, another share of its lot
  if (unit.lot_id && kind !== "released") await respread(db, actor, unit.lot_id, `${unit.tag} is ${kind.replaceAll("-", " ")}`);
  await note(db, actor, "unit-ended", unit.id, { kind, ...body });
  await refreshStanding(db, unit.id);
}

export const endUnit: Deed<"unit.end"> = async (db, actor, input) => {
  const unit = await lockUnit(db, input.unitId, input.version, actor);
  if (unit.ending !== null) throw new Refused({ code: "closed" });
  // a swollen cell leaves by the local rules only, never by sale
  if (unit.swollen && input.kind !== "scrap") throw new Refused({ code: "quarantined" });
  await db("ending").insert({
    unit_id: unit.id,
    kind: input.kind,
    known: input.known,
    price_minor: input.priceMinor,
    ...stamp(db, actor),
  });
  await close(db, actor, unit, input.kind, { known: input.known });
  return nothing;
};

export const reopen: Deed<"unit.reopen"> = async (db, actor, { unitId, version, why }) => {
  const unit = await lockUnit(db, unitId, version, actor);
  if (unit.ending === null) throw new Refused({ code: "already", what: "open" });
  await db("unit")
    .where({ id: unitId })
    .update({ ending: null, closed_at: null, ...touched(db, actor) });
  await db("certificate")
    .where({ unit_id: unitId, revoked_at: null })
    .update({ revoked_at: db.fn.now(), revoked_why: `The unit was opened again: ${why}` });
  if (unit.lot_id) await respread(db, actor, unit.lot_id, `${unit.tag} was opened again`);
  await note(db, actor, "unit-reopened", unitId, { was: unit.ending, why });
  await refreshStanding(db, unitId);
  return nothing;
};

export const revokeCertificate: Deed<"certificate.revoke"> = async (db, actor, { certificateId, why }) => {
  const rows = await db("certificate")
    .where({ id: certificateId, revoked_at: null })
    .update({ revoked_at: db.fn.now(), revoked_why: why })
    .returning("unit_id");
  if (rows.length !== 1) throw new Refused({ code: "not-found", what: "certificate" });
  await note(db, actor, "certificate-revoked", rows[0].unit_id, { why });
  return nothing;
};

export type Certificate = { id: string; token: string; body: CertificateBody; revokedAt: Date | null; revokedWhy: string };

export async function certificateByToken(db: Knex, token: string): Promise<Certificate | null> {
  if (!/^[A-Za-z0-9_-]{20,60}$/.test(token)) return null;
  const row = await db("certificate").where({ token }).first();
  return row && readCertificate(row);
}

export async function certificatesOf(db: Knex, unitId: string): Promise<Certificate[]> {
  return (await db("certificate").where({ unit_id: unitId }).orderBy("at", "desc")).map(readCertificate);
}

const readCertificate = (row: {
  id: string;
  token: string;
  body: unknown;
  revoked_at: Date | null;
  revoked_why: string;
}): Certificate => ({
  id: row.id,
  token: row.token,
  body: certificateSchema.parse(row.body),
  revokedAt: row.revoked_at,
  revokedWhy: row.revoked_why,
});
