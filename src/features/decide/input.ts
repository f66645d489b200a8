import "server-only";

import type { Knex } from "knex";

import type { Settings } from "@/contract/deeds";
import { CASE_FORMAT, CASE_VERSION } from "@/core/casefile/format";
import { type CaseWhole, knownOfCase, USUALLY_BAD, withShelf } from "@/core/casefile/known";
import type { Advice } from "@/core/decide/advise";
import type { DecideInput, Rule } from "@/core/decide/build";
import { lackingTools } from "@/core/decide/house-rules";
import type { Condition } from "@/core/grade/condition";
import type { Grade } from "@/core/grade/grade";
import { addUp } from "@/core/money/money";
import { partOf } from "@/core/parts/catalogue";
import { partsThatFit } from "@/core/parts/fit";
import { listedAs } from "@/core/profile/half";
import { marketWithout, missingPieces } from "@/core/profile/missing";
import { type ModelProfile, controlsOf, functionsOf } from "@/core/profile/profile";
import { agreedOf, standingsOf } from "@/features/case/asked";
import { shopRecord } from "@/features/case/causes";
import { caseIn } from "@/features/case/credit";
import { answersBy, openSymptomsOf } from "@/features/case/facts";
import { moneyOfUnit } from "@/features/case/mates";
import { purchaseOf } from "@/features/case/purchase";
import { type StoredProfile, modelByKey } from "@/features/models/deeds";
import { conditionFor } from "@/features/prove/condition";
import { loadRoutes, routeRecord } from "@/features/routes/deeds";
import { loadTools } from "@/features/settings/settings";
import { loadCatalogue } from "@/features/stock/catalogue";
import { freeStock } from "@/features/stock/deeds";
import { rowsBy } from "@/platform/db/batched";
import { rowsOf } from "@/platform/db/joined";
import type { UnitRow } from "@/platform/db/tables";
import { together } from "@/platform/deed/base";
import { offThread } from "@/platform/work/pool";

/** What the advice is worked out from. */

type Loaded = { unit: UnitRow; profile: StoredProfile; settings: Settings };

/** What lies on the shelf for the slots of a model, of each make the cheapest. */
async function shelfOf(
  db: Knex,
  profile: ModelProfile,
  revision: string | null,
): Promise<CaseWhole["stock"]> {
  const [stock, { value: catalogue }] = await together(
    db,
    () => freeStock(db),
    () => loadCatalogue(db),
  );
  if (stock.length === 0) return [];
  return (profile.slots ?? []).flatMap((slot) => {
    const fits = partsThatFit(catalogue, { model: listedAs(profile), revision, slot });
    const count = slot.fit?.count ?? 1;
    return slot.offers.flatMap((offer) => {
      const there = stock.filter(
        (s) =>
          s.count >= count &&
          fits.some((f) => f.part === s.part && partOf(catalogue, s.part)?.make === offer.make),
      );
      if (there.length === 0) return [];
      return [
        { slot: slot.id, make: offer.make, priceMinor: Math.min(...there.map((s) => s.worth)) * count },
      ];
    });
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

/** What every reckoning of a unit needs, however much of its case is read. */
async function readUnit(db: Knex, { unit, profile, settings }: Loaded) {
  const newest = (await modelByKey(db, profile.key)) ?? profile;
  const stock = await shelfOf(db, newest.body, unit.revision);
  const [{ value: routes }, money, record, faults, mends, [full], standings, agreed, tools] = await together(
    db,
    () => loadRoutes(db),
    () => moneyOfUnit(db, unit, newest.body),
    () => routeRecord(db),
    () => openSymptomsOf(db, unit.id),
    () => mendsBy(db, unit.id),
    () => lastFullTestBy(db, unit.id),
    () => standingsOf(db, unit.id),
    () => agreedOf(db, unit.id),
    () => loadTools(db),
  );
  // once something was agreed its price is the ceiling, and no longer what they said at the door
  const ceiling =
    agreed.length > 0
      ? agreed.reduce((sum, a) => sum + a.priceMinor + addUp(a.extras.map((e) => e.priceMinor)), 0)
      : unit.intake.costLimitMinor;
  const sinceProof = mends.filter((m) => m.opened && (!full || m.at > full.started_at));
  const slots = newest.body.slots ?? [];
  const reach = (place: string | null) =>
    Math.min(...slots.filter((s) => place && s.serves.includes(place)).map((s) => s.stripMinutes), Infinity);
  const depths = sinceProof.map((m) => reach(m.place)).filter(Number.isFinite);
  return {
    lacking: lackingTools(routes, new Set(tools.value)),
    house: {
      ...settings.house,
      // what the shop keeps for itself takes what does for itself
      copiesForSale: settings.house.copiesForSale || unit.intake.use === "own-testing",
    },
    newest,
    stock,
    routes,
    money,
    record,
    faults,
    mends,
    full,
    ceiling,
    agreed: agreed.map(({ place, choice }) => ({ place, route: choice })),
    withheld: standings.flatMap((s) => (s.state === "no" ? [s.faultId] : [])),
    openMinutes: sinceProof.length ? Math.max(0, ...depths) : 0,
    spent: {
      purchase: purchaseOf(unit),
      parts: mends.reduce((s, m) => s + m.part_minor, 0),
      minutes: mends.reduce((s, m) => s + m.minutes, 0),
    },
  };
}

/** What the shop does not do and cannot, for the case's file; left out where nothing is ruled out. */
const ruledBy = ({ house, lacking, routes }: Awaited<ReturnType<typeof readUnit>>) => ({
  ...(house.copiesForSale && !house.sensorOnlyOnSound ? {} : { house }),
  ...(lacking.length === 0
    ? {}
    : { tools: [...new Set(routes.flatMap((r) => r.tools))].filter((t) => !lacking.includes(t)) }),
});

/** The case of a unit as a file: what the command reckons with and what the pages show are one. */
export async function caseFileOf(db: Knex, loaded: Loaded): Promise<CaseWhole> {
  const { unit, profile, settings } = loaded;
  const read = await readUnit(db, loaded);
  const { of, facts } = await caseIn(db, unit);
  const [answers, outside, { parts }] = await together(
    db,
    () => answersBy(db, unit.id),
    () => conditionFor(db, unit),
    async () => ({ parts: await shopRecord(db, of.model) }),
  );
  // the inside as this unit was read with, whatever the model has learned since
  const { wiring: _newer, ...outer } = read.newest.body;
  return {
    format: CASE_FORMAT,
    version: CASE_VERSION,
    profile: { ...outer, ...(profile.body.wiring ? { wiring: profile.body.wiring } : {}) },
    revision: unit.revision,
    currency: settings.currency,
    rates: settings.rates,
    ...ruledBy(read),
    market: read.money.market,
    record: { routes: read.record, parts },
    stock: read.stock,
    customer:
      unit.source === "customer"
        ? { limitMinor: unit.intake.costLimitMinor, precise: unit.intake.use === "precise" }
        : null,
    facts,
    routes: read.routes,
    rules: read.money.rules.map(({ family, also, route }): Rule => ({ family, also, route })),
    lexicon: of.lexicon,
    faults: read.faults.map(({ id, number, place, measure }) => ({
      id,
      number,
      place,
      measure,
      refused: read.withheld.includes(id),
    })),
    absent: answers.flatMap((a) => (a.result === "not-fitted" ? [a.function_id] : [])),
    outside: outside.condition,
    openMinutes: read.openMinutes,
    spent: read.spent,
  };
}

/**
 * Everything that the advice on one unit needs, as plain data that also a page's worker can take.
 * @param by `families`: where many units are reckoned with at once, by how each fails alone, without all their facts
 */
export async function decideInput(
  db: Knex,
  loaded: Loaded,
  by: "facts" | "families" = "facts",
): Promise<DecideInput> {
  if (by === "facts") return knownOfCase(await caseFileOf(db, loaded)).input;
  const { unit, settings } = loaded;
  const read = await readUnit(db, loaded);
  const { newest, faults, mends } = read;
  const open = new Set(faults.map((f) => f.place));
  return {
    profile: {
      id: newest.body.id,
      half: newest.body.half,
      controls: newest.body.controls,
      functions: newest.body.functions,
      slots: withShelf(newest.body.slots ?? [], read.stock),
    },
    revision: unit.revision,
    ...marketWithout(read.money.market, missingPieces(newest.body, unit.intake.accessories)),
    rates: settings.rates,
    house: read.house,
    lacking: read.lacking,
    routes: read.routes,
    record: read.record,
    rules: read.money.rules.map(({ family, also, route }): Rule => ({ family, also, route })),
    faults: faults.map(({ id, number, place, measure }) => ({ id, number, place, measure })),
    tried: mends.flatMap((m) =>
      m.route && m.place && (m.outcome === "failed" || open.has(m.place))
        ? [{ place: m.place, route: m.route }]
        : [],
    ),
    openMinutes: read.openMinutes,
    spent: read.spent,
    customer:
      unit.source === "customer" ? { limit: read.ceiling, precise: unit.intake.use === "precise" } : null,
    agreed: read.agreed,
    withheld: read.withheld,
    ...(await testedOf(db, unit, newest.body, read)),
  };
}

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
  return {
    untested: untested.map((place) => ({ place, bad: USUALLY_BAD })),
    hiddenBad: 1 - (1 - USUALLY_BAD) ** untested.length,
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
