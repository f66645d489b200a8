import "server-only";

import { randomBytes } from "node:crypto";

import type { Knex } from "knex";

import {
  type CertificateBody,
  certificateSchema,
  type Disclosure,
  type SignatureState,
} from "@/contract/certificate";
import type { DeedParsed, Settings } from "@/contract/deeds";
import { type Family, familyOf } from "@/core/decide/families";
import { replay, type WorkEvent } from "@/core/mend/work";
import { thin } from "@/core/plots/plots";
import { guideOf } from "@/core/profile/guide";
import { controlsOf, functionsOf, placeName, rulesOf } from "@/core/profile/profile";
import { careFor } from "@/core/prove/care";
import { type UnitFacts, unitGrade } from "@/core/record/standing";
import { figuresOf } from "@/text/measures";
import { placeWords } from "@/text/names";
import { conditionFor } from "@/features/prove/condition";
import { damageOf } from "@/features/prove/damage";
import { loadRoutes } from "@/features/routes/deeds";
import { modelById, type StoredProfile } from "@/features/models/deeds";
import { onceIn } from "@/platform/deed/base";
import { proofChecksOf } from "@/features/case/proving";
import { caseIn } from "@/features/case/credit";
import { symptomsOf } from "@/features/case/symptoms";
import type { StoredRecording } from "@/features/test/recordings";
import { checkContent } from "./signing";
import { loadCatalogue } from "@/features/stock/catalogue";
import { nameOf } from "@/features/mend/order";
import type { CertificateRow, UnitRow } from "@/platform/db/tables";
import { dayOf, daysLater, startOf } from "@/core/days/days";
import { computed, type Narrow, rowsOf } from "@/platform/db/joined";
import { disclosuresOf } from "@/core/prove/disclosures";
import { say } from "@/features/release/words/words";
import type { Id } from "@/core/base/ids";

/**
 * What a certificate states, worked out from the record on the day of release; and how a stated one is read
 * again.
 */

type FittedPart = {
  id: string;
  place: string;
  name: string;
  make: "original" | "dear-copy" | "cheap-copy" | null;
  used: boolean;
  /** how long the shop stands behind it from the handover; null until it was released */
  coverDays: number | null;
};

/** Parts in the unit that this shop fitted. */
export async function partsIn(db: Knex, unitId: Id<"unit">): Promise<FittedPart[]> {
  const rows: {
    id: string;
    slot: string;
    part: string;
    condition: string;
    from_unit_id: string | null;
    source: string | null;
    cover_days: number | null;
  }[] = await onceIn(db, `fitted ${unitId}`, ["fitted", "batch"], () =>
    rowsOf(
      db("fitted as f")
        .leftJoin("batch as b", "b.id", "f.batch_id")
        .where({ "f.unit_id": unitId, "f.removed_at": null })
        .orderBy("f.at"),
      { f: "fitted", b: "batch?" },
      "f.id",
      "f.slot",
      "f.part",
      "f.condition",
      "f.from_unit_id",
      "f.cover_days",
      "b.source",
    ),
  );
  if (rows.length === 0) return [];
  const { value: catalogue } = await loadCatalogue(db);
  return rows.map((r) => {
    const part = catalogue.parts.find((p) => p.code === r.part);
    return {
      id: r.id,
      place: placeWords(r.slot),
      name: part?.name ?? r.part,
      make: part?.make ?? null,
      used: r.from_unit_id !== null || r.source === "donor" || r.condition !== "new",
      coverDays: r.cover_days,
    };
  });
}

/** What a buyer is told, by what the record holds. */
export async function disclosuresFor(
  db: Knex,
  unit: UnitRow,
  profile: StoredProfile,
  facts: UnitFacts,
): Promise<Disclosure[]> {
  const parts = await partsIn(db, unit.id);
  const mends = await rowsOf(
    db("mend as m").where("m.unit_id", unit.id).orderBy("m.number"),
    { m: "mend" },
    "m.what",
    "m.part",
    "m.remark",
    "m.route",
    "m.review_on",
    computed<{ listed: boolean }>(db.raw("exists (select 1 from fitted f where f.mend_id = m.id) as listed")),
  );
  const { value: routes } = await loadRoutes(db);
  const events: { body: WorkEvent; profile_id: string; revision: string | null; order: string }[] =
    await rowsOf(
      db("work_event as e")
        .join("work_order as o", "o.id", "e.work_order_id")
        .where({ "o.unit_id": unit.id, "e.undone": false })
        .whereRaw("o.status <> 'dropped'")
        .orderBy("e.id"),
      { e: "work_event", o: "work_order" },
      "e.body",
      "o.profile_id",
      "o.revision",
      "o.id as order",
    );
  const lost: string[] = [];
  for (const order of new Set(events.map((e) => e.order))) {
    const mine = events.filter((e) => e.order === order);
    const stored = (await modelById(db, mine[0]!.profile_id)).body.guide;
    if (!stored) continue;
    const guide = guideOf(stored, mine[0]!.revision);
    const state = replay(
      guide,
      mine.map((e) => e.body),
    );
    for (const item of state.items.values())
      if (item.state === "explained" && item.fate !== "replaced") lost.push(nameOf(guide, state, item.id));
  }
  const damages = (await damageOf(db, unit.id)).filter((d) => d.madeGood === "");
  const faults = await db("fault")
    .where({ unit_id: unit.id, status: "accepted" })
    .orderBy("number")
    .select("id", "place", "kind");
  const symptoms = await symptomsOf(db, unit.id);
  // a limit is told whole: with everything that the cause shows itself by
  const limits = faults.flatMap((f) => [f, ...symptoms.filter((s) => s.faultId === f.id)]);
  const answered = (id: string) => facts.checks.find((c) => c.functionId === id)?.result ?? "";
  return disclosuresOf({
    parts,
    mends: mends.map((m) => ({ ...m, provisional: m.review_on !== null })),
    routes: routes.filter((r) => mends.some((m) => m.route === r.id)),
    marks: unit.intake.marks.filter((m) => m.gone === null).map((m) => m.kind),
    lost,
    damages,
    missing: profile.body.accessories
      .filter((a) => !unit.intake.accessories.includes(a.id))
      .map((a) => a.name),
    without: functionsOf(profile.body, unit.revision)
      .filter((f) => ["fail", "not-fitted"].includes(answered(f.id)))
      .map((f) => f.name),
    readings: facts.readings,
    broken: facts.broken,
    accepted: limits.map((f) => `${placeWords(f.place)}: ${f.kind}`),
  });
}

type Statement = {
  at: Date;
  unit: UnitRow;
  profile: StoredProfile;
  settings: Settings;
  facts: UnitFacts;
  proof: StoredRecording;
  before: StoredRecording | null;
  input: DeedParsed<"unit.release">;
};

/** A stick's edge over the angle in degrees, or a trigger's first slow pull over milliseconds. */
function pointsOf(r: StoredRecording | null, id: string): [number, number][] {
  const result = r?.analysis.controls[id];
  if (result?.kind === "stick")
    return (result.profile ?? []).flatMap((v, k): [number, number][] =>
      v === null ? [] : [[k * 5 + 2.5, Math.round(v * 1e4) / 1e4]],
    );
  return thin(r?.plots.triggers[id]?.[0] ?? [], 60);
}

/** Each function as it was answered last, by hand and eye or by an instrument. */
async function functionsStated(db: Knex, { unit, profile }: Statement) {
  const checks = await rowsOf(
    db("function_check as c")
      .join("person as p", "p.id", "c.by")
      .leftJoin("bench_reading as b", "b.id", "c.reading_id")
      .distinctOn("c.function_id")
      .where({ "c.unit_id": unit.id })
      .orderBy([{ column: "c.function_id" }, { column: "c.id", order: "desc" }]),
    { c: "function_check", b: "bench_reading?", p: "person" },
    "c.function_id",
    "c.result",
    "c.note",
    "c.at",
    "p.name as person",
    "b.instrument",
  );
  return functionsOf(profile.body, unit.revision).map((f) => {
    const c = checks.find((x) => x.function_id === f.id);
    if (!c)
      return {
        id: f.id,
        name: f.name,
        result: "not-tested" as const,
        measured: "",
        with: "",
        by: "",
        at: null,
      };
    return {
      id: f.id,
      name: f.name,
      result: c.result,
      measured: c.note,
      with: c.instrument ?? say("byHandAndEye"),
      by: c.person,
      at: c.at.toISOString(),
    };
  });
}

/** Each control with its figures beside those before the mend, and its curve beside the limit. */
function controlsStated({ unit, profile, settings, proof, before }: Statement) {
  const rules = rulesOf(profile.body, settings.limits);
  return controlsOf(profile.body, unit.revision).map((c) => {
    const limits = rules.limitsFor(c.id);
    const result = proof.analysis.controls[c.id];
    const earlier = before?.analysis.controls[c.id];
    const was = earlier ? figuresOf(earlier, limits) : [];
    const figures = result ? figuresOf(result, limits) : [];
    const now = pointsOf(proof, c.id);
    const limit = c.kind === "trigger" ? limits.trigger.fullPull.A : limits.stick.reachMin.A;
    return {
      id: c.id,
      name: placeName(c),
      grade: result?.grade ?? ("untested" as const),
      figures: figures.map((f) => ({
        measure: f.measure,
        value: f.value,
        limit: f.limit,
        seen: f.seen,
        before: was.find((w) => w.measure === f.measure)?.value ?? null,
      })),
      curve: now.length ? { now, before: pointsOf(before, c.id), limit } : null,
    };
  });
}

/** How to treat it, by why its faults came, what was mended and what it runs on. */
async function careStated(db: Knex, { unit, profile }: Statement) {
  const faults = await db("fault")
    .where({ unit_id: unit.id, status: "mended" })
    .select("place", "measure", "cause");
  const families = faults.map((f) => familyOf(profile.body, f.place, f.measure));
  const { facts } = await caseIn(db, unit);
  return careFor({
    causes: faults.map((f) => f.cause),
    // what somebody said it went through, so far as it is not to be doubted more than believed
    histories: facts.flatMap((f) => (f.kind === "history" && f.doubt <= 0.5 ? [f.what] : [])),
    families: families.filter((f): f is Family => f !== null),
    power: profile.body.power.map((p) => p.kind),
  });
}

/** What the certificate says, fixed on the day of release. */
export async function stateCertificate(db: Knex, s: Statement): Promise<CertificateBody> {
  const { unit, profile, facts, proof, input } = s;
  const functions = await functionsStated(db, s);
  const controls = controlsStated(s);
  const condition = await conditionFor(db, unit);
  const zone = s.settings.timeZone;
  const lastDay = daysLater(dayOf(s.at, zone), input.warrantyDays);
  const parts = await partsIn(db, unit.id);
  const asked = (await proofChecksOf(db, unit.id)).filter((c) =>
    facts.proving.sheet.some((i) => i.key === c.key),
  );
  return certificateSchema.parse({
    v: 2,
    nonce: randomBytes(12).toString("base64url"),
    shop: { name: s.settings.shopName, town: s.settings.town },
    tag: unit.tag,
    model: `${profile.body.maker} ${profile.body.name}`,
    revision: profile.body.revisions.find((r) => r.id === unit.revision)?.name ?? null,
    grade: unitGrade(
      controls.map((c) => c.grade),
      functions.map((f) => f.result),
    ),
    condition: { grade: condition.condition, reasons: condition.reasons },
    releasedAt: s.at.toISOString(),
    warrantyUntil: input.warrantyDays > 0 ? startOf(lastDay, zone).toISOString() : null,
    warrantyDays: input.warrantyDays,
    partWarrantyDays: Math.max(0, ...parts.map((p) => p.coverDays ?? 0)),
    seal: input.seal,
    limit: input.limit,
    limitReason: input.reason,
    proofTaken: proof.taken,
    tester: {
      person: proof.by,
      label: proof.tester.label,
      host: proof.tester.host,
      source: proof.source,
      at: proof.startedAt.toISOString(),
    },
    controls,
    functions,
    proof: asked.map(({ key, result, value, by, at }) => ({ key, result, value, by, at })),
    work: await db("mend").where({ unit_id: unit.id }).orderBy("number").select("what", "part"),
    parts: parts.map(({ place, name, make, used, coverDays }) => ({
      place,
      name,
      make,
      used,
      warrantyDays: coverDays,
    })),
    disclosures: await disclosuresFor(db, unit, profile, facts),
    care: await careStated(db, s),
    known: input.known,
  });
}

export type Certificate = {
  id: string;
  unitId: Id<"unit">;
  endingId: Id<"ending">;
  token: string;
  body: CertificateBody;
  jws: string;
  revokedAt: Date | null;
  revokedWhy: string;
  /** the address of the one that took its place */
  supersededBy: string | null;
};

const read = (
  row: Omit<CertificateRow, "body"> & { body: unknown } & { next: string | null },
): Certificate => ({
  id: row.id,
  unitId: row.unit_id,
  endingId: row.ending_id,
  token: row.token,
  body: certificateSchema.parse(row.body),
  jws: row.jws,
  revokedAt: row.revoked_at,
  revokedWhy: row.revoked_why,
  supersededBy: row.next,
});

const certificates = (db: Knex, narrow: Narrow) =>
  rowsOf(
    narrow(db("certificate as c").leftJoin("certificate as n", "n.id", "c.superseded_by")),
    { c: "certificate", n: "certificate?" },
    "c.*",
    "n.token as next",
  );

export async function certificatesOf(db: Knex, unitId: Id<"unit">): Promise<Certificate[]> {
  return (await certificates(db, (q) => q.where({ "c.unit_id": unitId }).orderBy("c.at", "desc"))).map(read);
}

/**
 * What the public page shows: the content, whether it is what was signed, whether it stands, and until when
 * cover runs.
 */
export type PublicCertificate = Certificate & { signature: SignatureState; handedOn: string | null };

/**
 * A certificate by its address. A content that was changed so that it cannot even be read any more is told as
 * tampered with; the signed content, which travels inside the signature, is shown in its place.
 */
export async function certificateByToken(db: Knex, token: string): Promise<PublicCertificate | null> {
  if (!/^[A-Za-z0-9_-]{20,60}$/.test(token)) return null;
  const [row] = await certificates(db, (q) => q.where("c.token", token));
  if (!row) return null;
  const signature = await checkContent(db, row.body, row.jws);
  const readable = certificateSchema.safeParse(row.body).success;
  const handover = await db("handover")
    .where({ ending_id: row.ending_id })
    .orderBy("at", "desc")
    .first("handed_on");
  return {
    ...read(readable ? row : { ...row, body: signedContent(row.jws) }),
    signature,
    handedOn: handover?.handed_on ?? null,
  };
}

const signedContent = (jws: string): unknown =>
  JSON.parse(Buffer.from(jws.split(".")[1] ?? "", "base64url").toString("utf8"));
