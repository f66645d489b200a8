import "server-only";

import type { Knex } from "knex";

import { usualPartDays } from "@/core/prove/cover";
import type { ProveRules } from "@/core/prove/proof";
import { baselineOf, blocksOf, firmOf, proofOf } from "@/core/record/standing";
import { lotMatesOf, lotOf, respread, type Worths, worthsOfLot } from "@/features/buying/lots";
import { type Actor, nothing, Refused, stamp, touched } from "@/platform/deed/base";
import { partsIn, stateCertificate } from "@/features/certificate/view";
import { mustKeepToBill } from "@/features/case/bill";
import { keepCredits } from "@/features/case/credit";
import { loadFacts } from "@/features/case/facts";
import { modelById } from "@/features/models/deeds";
import { recordingById } from "@/features/test/recordings";
import { loadSettings } from "@/features/settings/settings";
import { signContent } from "@/features/certificate/signing";
import { endWaits } from "@/features/waits/deeds";
import { deed, namedUnit, type Work } from "@/platform/deed/declare";
import type { UnitRow } from "@/platform/db/tables";
import { one } from "@/core/base/one";
import type { Ending } from "@/core/record/standing";
import { say } from "@/features/release/words/words";
import { codeWords } from "@/words/codes";
import { mustGoWithMate } from "@/features/case/mates";
import type { Id } from "@/core/base/ids";

/** The end of a unit's way: released with its signed certificate, ended otherwise, opened again. */

/**
 * Releases a unit. The unit is locked first and everything that blocks is worked out again from the record,
 * so that neither a page that is out of date nor a second person at the same moment gets round a gate.
 */
export const release = deed(
  "unit.release",
  { unit: namedUnit, seen: "unit", workable: true },
  async (work, input) => {
    const { db, actor, unit } = work;
    const profile = await modelById(db, unit.profile_id);
    const { settings } = await loadSettings(db);
    if (settings.shopName === "") throw new Refused({ code: "shop-unnamed" });
    await mustKeepToBill(db, unit, input.priceMinor);
    await mustGoWithMate(db, unit, profile.body);
    const facts = await loadFacts(db, unit, profile.body, settings.floor);
    const blocks = blocksOf(facts);
    const proofTest = mustHaveProof(blocks, proofOf(facts));
    if (blocks.length > 0) mustBeLimited(blocks.length, input, actor);
    const proof = (await recordingById(db, proofTest.id))!;
    const first = baselineOf(facts);
    await coverParts(db, unit.id, input.partDays, settings.prove);
    const before = first && first.id !== proofTest.id ? await recordingById(db, first.id) : null;
    const body = await stateCertificate(db, {
      at: actor.at ?? new Date(),
      unit,
      profile,
      settings,
      facts,
      proof,
      before,
      input,
    });
    const ending = one(
      (
        await db("ending")
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
          .returning("id")
      )[0],
    );
    const { token, jws } = await signContent(db, body);
    const made = one(
      (
        await db("certificate")
          .insert({
            unit_id: unit.id,
            ending_id: ending.id,
            token,
            body: JSON.stringify(body),
            jws,
            ...stamp(db, actor),
          })
          .returning("id")
      )[0],
    );
    // an older one of this unit says which took its place
    await db("certificate")
      .where({ unit_id: unit.id, superseded_by: null })
      .whereNot({ id: made.id })
      .update({ superseded_by: made.id });
    await close(
      work,
      unit,
      "released",
      { grade: body.grade, limit: input.limit, reason: input.reason, blocks },
      new Map(),
    );
    return { token };
  },
);

/** Some blocks no limit lifts, and nothing leaves without its proof. */
function mustHaveProof<T>(blocks: ReturnType<typeof blocksOf>, proof: T | null): T {
  const firm = firmOf(blocks)[0];
  if (firm !== undefined && firm !== "no-proof") throw new Refused({ code: "firm-block", block: firm });
  if (firm === "no-proof" || proof === null) throw new Refused({ code: "no-proof-to-release" });
  return proof;
}

/** With blocks a unit leaves only under a limit that a lead states, with the reason. */
function mustBeLimited(count: number, input: { limit: string; reason: string }, actor: Actor): void {
  if (input.limit === "") throw new Refused({ code: "blocked", count });
  if (actor.role !== "lead") throw new Refused({ code: "lead-only-limit" });
  if (input.reason === "") throw new Refused({ code: "limit-needs-reason" });
}

/** How long the shop stands behind each fitted part: what was said at the release, else the house's days. */
async function coverParts(
  db: Knex,
  unitId: Id<"unit">,
  said: Readonly<Record<string, number>>,
  rules: ProveRules,
): Promise<void> {
  const parts = await partsIn(db, unitId);
  if (Object.keys(said).some((id) => !parts.some((p) => p.id === id)))
    throw new Refused({ code: "not-found", what: say("fittedPart") });
  for (const p of parts)
    await db("fitted")
      .where({ id: p.id })
      .update({ cover_days: said[p.id] ?? usualPartDays(p.used, rules) });
}

async function close(work: Work, unit: UnitRow, kind: Ending, body: object, worths: Worths): Promise<void> {
  const { db, actor, note } = work;
  await db("unit")
    .where({ id: unit.id })
    .update({ ending: kind, tray: null, closed_at: actor.at ?? db.fn.now(), ...touched(db, actor) });
  // another role, another share of its lot
  if (unit.lot_id && kind !== "released")
    await respread(work, unit.lot_id, say("tagIsKind", { tag: unit.tag, kind: codeWords(kind) }), worths);
  await endWaits(work, unit.id);
  await keepCredits(db, unit);
  note("unit-ended", unit.id, { kind, ...body });
}

/** What the lot of a unit needs for its spread, where nobody worked it out yet. */
const worthsOfMates = async ({ unitId }: { unitId: Id<"unit"> }, db: Knex): Promise<Worths> =>
  worthsOfLot(db, await lotOf(db, unitId), false);
const LEAVES = { unit: namedUnit, units: lotMatesOf, seen: "unit", prepare: worthsOfMates } as const;

export const endUnit = deed("unit.end", LEAVES, async (work, input) => {
  const { db, actor, unit, prepared } = work;
  if (unit.ending !== null) throw new Refused({ code: "closed" });
  await mustKeepToBill(db, unit, input.priceMinor);
  // a swollen cell leaves by the local rules only, never by sale
  if (unit.swollen && input.kind !== "scrap") throw new Refused({ code: "quarantined" });
  await db("ending").insert({
    unit_id: unit.id,
    kind: input.kind,
    known: input.known,
    price_minor: input.priceMinor,
    ...stamp(db, actor),
  });
  await close(work, unit, input.kind, { known: input.known }, prepared);
  return nothing;
});

export const reopen = deed("unit.reopen", LEAVES, async (work, { unitId, why }) => {
  const { db, actor, note, unit, prepared } = work;
  if (unit.ending === null) throw new Refused({ code: "already", what: "open" });
  await db("unit")
    .where({ id: unitId })
    .update({ ending: null, closed_at: null, handed_on: null, ...touched(db, actor) });
  await db("certificate")
    .where({ unit_id: unitId, revoked_at: null })
    .update({ revoked_at: db.fn.now(), revoked_why: say("theUnitWasOpenedAgainWhy", { why }) });
  if (unit.lot_id) await respread(work, unit.lot_id, say("tagWasOpenedAgain", { tag: unit.tag }), prepared);
  note("unit-reopened", unitId, { was: unit.ending, why });
  return nothing;
});

export const revokeCertificate = deed(
  "certificate.revoke",
  {},
  async ({ db, note }, { certificateId, why }) => {
    const rows = await db("certificate")
      .where({ id: certificateId, revoked_at: null })
      .update({ revoked_at: db.fn.now(), revoked_why: why })
      .returning("unit_id");
    if (rows.length !== 1) throw new Refused({ code: "not-found", what: "certificate" });
    note("certificate-revoked", one(rows[0]).unit_id, { why });
    return nothing;
  },
);

/** The changes of this file, for the list of all (features/deeds.ts). */
export const deeds = [endUnit, release, reopen, revokeCertificate] as const;
