import "server-only";

import type { Knex } from "knex";

import type { Settings } from "@/contract/deeds";
import { answeredChecks } from "@/core/case/answered";
import type { Advice } from "@/core/decide/advise";
import type { DecideInput, Rule } from "@/core/decide/build";
import { chanceOfAnyFailing, chanceOfFailing, knownOf } from "@/core/decide/causes";
import { rankChecks, USUAL_ADVICE } from "@/core/diagnosis/advise";
import type { Check } from "@/core/diagnosis/checks";
import type { Condition } from "@/core/grade/condition";
import type { Grade } from "@/core/grade/grade";
import { partOf } from "@/core/parts/catalogue";
import { partsThatFit } from "@/core/parts/fit";
import { type ModelProfile, controlsOf, functionsOf, placeName } from "@/core/profile/profile";
import type { Slot } from "@/core/profile/slots";
import { standingsOf } from "@/features/case/asked";
import { beliefOfUnit } from "@/features/case/belief";
import { answersBy, openSymptomsOf } from "@/features/case/facts";
import { purchaseOf } from "@/features/case/purchase";
import { type StoredProfile, modelByKey } from "@/features/models/deeds";
import { conditionFor } from "@/features/prove/condition";
import { loadModelMoney, loadRoutes, routeRecord } from "@/features/routes/deeds";
import { loadCatalogue } from "@/features/stock/catalogue";
import { freeStock } from "@/features/stock/deeds";
import { rowsBy } from "@/platform/db/batched";
import { rowsOf } from "@/platform/db/joined";
import type { UnitRow } from "@/platform/db/tables";
import { together } from "@/platform/deed/base";
import { offThread } from "@/platform/work/pool";

/** What the advice is worked out from. */

type Loaded = { unit: UnitRow; profile: StoredProfile; settings: Settings };

/**
 * The model's part slots, with what lies on the shelf: a part that is there has no lead time and costs what
 * it cost.
 */
async function slotsWithShelf(db: Knex, profile: ModelProfile, revision: string | null): Promise<Slot[]> {
  const [stock, { value: catalogue }] = await together(
    db,
    () => freeStock(db),
    () => loadCatalogue(db),
  );
  if (stock.length === 0) return profile.slots ?? [];
  return (profile.slots ?? []).map((slot) => {
    const fits = partsThatFit(catalogue, { model: profile.id, revision, slot });
    return {
      ...slot,
      offers: slot.offers.map((offer) => {
        const there = stock.filter(
          (s) =>
            s.count >= (slot.fit?.count ?? 1) &&
            fits.some((f) => f.part === s.part && partOf(catalogue, s.part)?.make === offer.make),
        );
        if (there.length === 0) return offer;
        const cheapest = Math.min(...there.map((s) => s.worth)) * (slot.fit?.count ?? 1);
        return { ...offer, leadDays: 0, priceMinor: cheapest };
      }),
    };
  });
}

type OpenFault = { id: string; number: number; place: string; measure: string | null };

const mendsBy = rowsBy((db, unitIds) =>
  rowsOf(
    db("mend as m")
      .leftJoin("fault as f", "f.id", "m.fault_id")
      .whereIn("m.unit_id", unitIds)
      .orderBy("m.number"),
    { m: "mend", f: "fault?" },
    "m.route",
    "m.outcome",
    "m.minutes",
    "m.part_minor",
    "m.opened",
    "m.at",
    "m.unit_id as of",
    "f.place",
  ),
);

const lastFullTestBy = rowsBy((db, unitIds) =>
  rowsOf(
    db("recording as r")
      .distinctOn("r.unit_id")
      .whereIn("r.unit_id", unitIds)
      .where("r.purpose", "full")
      .orderBy([{ column: "r.unit_id" }, { column: "r.started_at", order: "desc" }]),
    { r: "recording" },
    "r.id",
    "r.started_at",
    "r.grades",
    "r.unit_id as of",
  ),
);

/**
 * Everything that the advice on one unit needs, as plain data that also a page's worker can take.
 * @param by `families`: where many units are reckoned with at once, by how each fails alone, without all their facts
 */
export async function decideInput(
  db: Knex,
  { unit, profile, settings }: Loaded,
  by: "facts" | "families" = "facts",
): Promise<DecideInput> {
  const newest = (await modelByKey(db, profile.key)) ?? profile;
  const slots = await slotsWithShelf(db, newest.body, unit.revision);
  const [{ value: routes }, { value: money }, record, faults, mends, [full], standings] = await together(
    db,
    () => loadRoutes(db),
    () => loadModelMoney(db, newest.body),
    () => routeRecord(db),
    () => openSymptomsOf(db, unit.id),
    () => mendsBy(db, unit.id),
    () => lastFullTestBy(db, unit.id),
    () => standingsOf(db, unit.id),
  );
  const open = new Set(faults.map((f) => f.place));
  const standing = by === "facts" ? await beliefOfUnit(db, unit) : null;
  const tried = mends.flatMap((m) =>
    m.route && m.place && (m.outcome === "failed" || open.has(m.place))
      ? [{ place: m.place, route: m.route }]
      : [],
  );
  const sinceProof = mends.filter((m) => m.opened && (!full || m.at > full.started_at));
  const reach = (place: string | null) =>
    Math.min(...slots.filter((s) => place && s.serves.includes(place)).map((s) => s.stripMinutes), Infinity);
  const depths = sinceProof.map((m) => reach(m.place)).filter(Number.isFinite);
  return {
    profile: { id: newest.body.id, controls: newest.body.controls, functions: newest.body.functions, slots },
    revision: unit.revision,
    market: money.market,
    rates: settings.rates,
    routes,
    record,
    rules: money.rules.map(({ family, also, route }): Rule => ({ family, also, route })),
    faults: faults.map(({ id, number, place, measure }) => ({ id, number, place, measure })),
    tried,
    openMinutes: sinceProof.length ? Math.max(0, ...depths) : 0,
    spent: {
      purchase: purchaseOf(unit),
      parts: mends.reduce((s, m) => s + m.part_minor, 0),
      minutes: mends.reduce((s, m) => s + m.minutes, 0),
    },
    customer:
      unit.source === "customer"
        ? { limit: unit.intake.costLimitMinor, precise: unit.intake.use === "precise" }
        : null,
    withheld: standings.filter((s) => s.state === "no").map((s) => s.faultId),
    ...(await testedOf(db, unit, newest.body, { faults, mends, full }, standing)),
    ...(standing ? known(standing, [...open], newest.body, settings.rates.skill) : {}),
  };
}

/** How many checks are weighed beside the attempts: those that tell most a minute. */
const MOST_CHECKS = 8;
/** What may be behind the faults, and what could be looked at first, by all the facts of the unit. */
function known(
  { of, standing, belief }: NonNullable<Awaited<ReturnType<typeof beliefOfUnit>>>,
  places: readonly string[],
  profile: ModelProfile,
  skill: number,
): Pick<DecideInput, "causes" | "whole" | "checks"> {
  if (places.length === 0) return { causes: {} };
  const done = answeredChecks(standing, of);
  const isOpen = standing.some(({ fact }) => fact.kind === "observed" || fact.kind === "mended");
  const library = of.library.filter((c) => c.skill <= skill);
  const ranked = rankChecks(belief, library, { ...USUAL_ADVICE, isOpen, done }).map((p) => p.check);
  const about = new Set(places.flatMap((p) => belief.graph.restsOn.get(p) ?? []));
  // what fails needs no second test to be believed
  const asks = (c: Check) => c.kind !== "test" || !places.includes(c.target);
  const checks = ranked.filter((c) => asks(c) && c.about.some((i) => about.has(i))).slice(0, MOST_CHECKS);
  const { nodes = [], points = [] } = profile.wiring ?? {};
  const things = [...profile.controls, ...profile.functions];
  const nameOf = (target: string) => {
    const thing = things.find((t) => t.id === target);
    return [...nodes, ...points].find((x) => x.id === target)?.name ?? (thing ? placeName(thing) : target);
  };
  return knownOf(belief, places, checks, nameOf);
}

/** Odds that one thing which nobody tested is bad, where nothing is known of what it rests on. A house guess. */
const USUALLY_BAD = 0.01;
const CAP_OF_GRADE: Partial<Record<Grade, 1 | 2>> = { B: 1, C: 2 };

const CAP_OF_OUTSIDE: Record<Condition, 0 | 1 | 2> = { fine: 0, light: 0, marked: 1, worn: 2 };

type Read = {
  faults: readonly OpenFault[];
  mends: Awaited<ReturnType<typeof mendsBy>>;
  full: Awaited<ReturnType<typeof lastFullTestBy>>[number] | undefined;
};

/**
 * What nobody tested, and what holds the price down whatever is mended: grades measured elsewhere, and the
 * outside.
 */
async function testedOf(
  db: Knex,
  unit: UnitRow,
  profile: ModelProfile,
  { faults: open, mends, full: test }: Read,
  standing: Awaited<ReturnType<typeof beliefOfUnit>>,
): Promise<Pick<DecideInput, "untested" | "hiddenBad" | "caps">> {
  const [checks, outside] = await together(
    db,
    () => answersBy(db, unit.id),
    () => conditionFor(db, unit),
  );
  const grades = test?.grades ?? {};
  const isFaulty = (id: string) => open.some((f) => f.place === id);
  // what was mended after the test is not what was measured
  const isStale = (id: string) =>
    mends.some((m) => m.place === id && test !== undefined && m.at > test.started_at);
  const controls = controlsOf(profile, unit.revision).map((c) => c.id);
  const functions = functionsOf(profile, unit.revision).map((f) => f.id);
  const untested = [
    ...controls.filter((id) => (grades[id] ?? "untested") === "untested" && !isFaulty(id)),
    ...functions.filter(
      (id) =>
        (checks.find((c) => c.function_id === id)?.result ?? "not-tested") === "not-tested" && !isFaulty(id),
    ),
  ];
  const { belief } = standing ?? {};
  const named = [...new Set(open.map((f) => f.place))];
  return {
    untested: untested.map((place) => ({
      place,
      bad: belief ? chanceOfFailing(belief, place, named) : USUALLY_BAD,
    })),
    hiddenBad: belief
      ? chanceOfAnyFailing(belief, untested, named)
      : 1 - (1 - USUALLY_BAD) ** untested.length,
    caps: [
      ...controls.flatMap((id) => {
        const cap = CAP_OF_GRADE[grades[id] ?? "untested"];
        return cap && !isFaulty(id) && !isStale(id) ? [{ cap, what: id }] : [];
      }),
      ...(CAP_OF_OUTSIDE[outside.condition] > 0
        ? [{ cap: CAP_OF_OUTSIDE[outside.condition], what: "outside" }]
        : []),
    ],
  };
}

export const solve = (input: DecideInput): Promise<Advice> => offThread("advise", input, MOST_SECONDS);

const MOST_SECONDS = 30;
