import "server-only";

import type { Knex } from "knex";

import type { Disclosure } from "@/contract/certificate";
import { comebackChance } from "@/core/decide/route-chance";
import { costOf, missingPieces } from "@/core/profile/missing";
import { priceFloor, suggestPrice, type Suggestion } from "@/core/decide/price";
import type { Grade } from "@/core/grade/grade";
import type { Bill } from "@/core/prove/bill";
import { type ConditionVerdict } from "@/core/grade/condition";
import { labourOf, type Rates } from "@/core/money/rates";
import { returnChance as returnsBy } from "@/core/prove/return-chance";
import { proofOf, type UnitFacts, unitGrade } from "@/core/record/standing";
import { type ReturnView, returnsOf } from "@/features/after/view";
import { type Standing, standingAfter } from "@/features/after/deeds";
import { certificatesOf, disclosuresFor, partsIn } from "@/features/certificate/view";
import { conditionFor } from "@/features/prove/condition";
import { loadRoutes, routeRecord } from "@/features/routes/deeds";
import { marketToAsk, moneyOfUnit, type UnitMoney } from "@/features/case/mates";
import { billFor } from "@/features/case/bill";
import { purchaseOf } from "@/features/case/purchase";
import { loadFacts, unitById } from "@/features/case/facts";
import { modelById } from "@/features/models/deeds";
import { type PaperView, papersOf } from "@/features/papers/view";
import { loadSettings } from "@/features/settings/settings";
import type { CertificateBody } from "@/contract/certificate";
import { figuresOf } from "@/platform/db/joined";
import type { Id } from "@/core/base/ids";

/**
 * What the Release station shows: the grades with their rules, a price with its floor, what a buyer is told,
 * and what came after.
 */

const SALES_DAYS = 365;

export type ReleaseView = {
  /** over controls and functions; null without a proof */
  grade: Grade | null;
  condition: ConditionVerdict;
  disclosures: Disclosure[];
  price: Suggestion & { floorMinor: number; costsMinor: number };
  parts: { id: string; name: string; place: string; used: boolean }[];
  /** what a customer owes, by what they agreed to; null for a unit of the shop's own */
  bill: Bill | null;
  after: Standing | null;
  papers: PaperView[];
  /** of one half: how it may be sold, and with which unit */
  half: Pick<NonNullable<UnitMoney["half"]>, "sold" | "mate"> | null;
  returns: ReturnView[];
  /** the content of the certificate that stands, for the listing's text */
  stated: CertificateBody | null;
};

/**
 * Chance that it comes back within the warranty: the base of any unit, each mend that stands by its route's record, and
 * what its proof left open.
 */
async function returnChanceOf(
  db: Knex,
  { unitId, model, rates, facts }: { unitId: Id<"unit">; model: string; rates: Rates; facts: UnitFacts },
): Promise<number> {
  const done = await db("mend")
    .where({ unit_id: unitId, outcome: "worked" })
    .whereNotNull("route")
    .distinct("route")
    .pluck("route");
  const [{ value: routes }, record] = await Promise.all([loadRoutes(db), routeRecord(db)]);
  return returnsBy({
    base: rates.returnBase,
    mends: routes
      .filter((r) => done.includes(r.id))
      .map((r) => comebackChance({ record, profile: { id: model } }, r).mean),
    risks: [facts.proving.risk.middle, facts.proving.risk.rim],
    unproven: facts.proving.unsure.length,
    broken: facts.broken.length,
  });
}

export async function releaseView(db: Knex, unitId: Id<"unit">): Promise<ReleaseView> {
  const unit = await unitById(db, unitId);
  const profile = await modelById(db, unit.profile_id);
  const { settings } = await loadSettings(db);
  const facts = await loadFacts(db, unit, profile.body, settings.floor);
  const proof = proofOf(facts);
  const grade: Grade = proof
    ? unitGrade(
        facts.controls.map((c) => proof.controls[c] ?? "untested"),
        facts.functions.map((id) => facts.checks.find((c) => c.functionId === id)?.result ?? "not-tested"),
      )
    : "untested";
  const [money, condition, disclosures, parts, bill, after, returns, certificates, papers] =
    await Promise.all([
      moneyOfUnit(db, unit, profile.body),
      conditionFor(db, unit),
      disclosuresFor(db, unit, profile, facts),
      partsIn(db, unitId),
      billFor(db, unit),
      standingAfter(db, unitId),
      returnsOf(db, unitId),
      certificatesOf(db, unitId),
      papersOf(db, unit),
    ]);
  const sales: number[] = await db("outcome")
    .where({ model: profile.key, grade, ending: "released" })
    .whereNot({ source: "customer" })
    .where("price_minor", ">", 0)
    .whereRaw("closed_at > now() - make_interval(days => ?)", [SALES_DAYS])
    .orderBy("closed_at", "desc")
    .limit(60)
    .pluck("price_minor");
  const spent = await figuresOf<{ minutes: number; parts: number }>(
    db("mend").where({ unit_id: unitId }),
    db.raw(
      "coalesce(sum(minutes), 0)::int as minutes, coalesce(sum(part_minor) filter (where part_gift = ''), 0)::int as parts",
    ),
  );
  const returnChance = await returnChanceOf(db, {
    unitId,
    model: profile.key,
    rates: settings.rates,
    facts,
  });
  const costs = purchaseOf(unit) + spent.parts + labourOf(spent.minutes, settings.rates);
  return {
    grade: proof ? grade : null,
    condition,
    disclosures,
    price: {
      ...suggestPrice(
        sales,
        marketToAsk(money),
        grade,
        costOf(missingPieces(profile.body, unit.intake.accessories)),
      ),
      costsMinor: costs,
      floorMinor: priceFloor(costs, { purchase: purchaseOf(unit), returnChance }, settings.rates),
    },
    parts,
    bill,
    after,
    papers,
    half: money.half && { sold: money.half.sold, mate: money.half.mate },
    returns,
    stated: certificates.find((c) => c.revokedAt === null)?.body ?? null,
  };
}
