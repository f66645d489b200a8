import { labourOf, returnCost, saleTerms, taxTerms, type Term, totalOf } from "../money/rates";
import type { Minor } from "../money/money";
import { breaksOnTheWay, unbuyable } from "./on-the-way";
import { listedAs } from "../profile/half";
import { type ModelProfile, placeName } from "../profile/profile";
import type { Slot } from "../profile/slots";
import type { ChanceView } from "../math/chances";
import type { DecideInput, LadderPlace, RouteTally, Rule } from "./asked";
import type { DecideCheck } from "./causes";
import { checksOf, explainedBy, worksOf } from "./explained";
import { type Family, familyOf, worstOf } from "./families";
import type { Cap, LadderAttempt, LadderProblem } from "../policy/problem";
import { type RuledOut, ruledOut } from "./house-rules";
import { comebackChance, reachedAt, type RouteChance, routeChance } from "./route-chance";
import type { Route } from "./routes";

/**
 * From a unit, its faults and the catalogue to a problem that the ladder solves, every figure with its terms.
 */

export type { DecideInput, LadderPlace, RouteTally, Rule };

export type Option = {
  route: Route;
  slot: Slot | null;
  places: string[];
  chance: RouteChance;
  comeback: ChanceView;
  terms: Term[];
  leadDays: number;
  twin: boolean;
  /** chance that it breaks something for good, and what on its way nobody sells */
  breaks: number;
  unbuyable: string[];
};
export type Skipped = {
  route: string;
  place: string;
  why: "tried" | "used-up" | "no-part" | "skill" | "grade" | "not-agreed" | RuledOut;
};
export type Built = {
  problem: LadderProblem;
  options: Option[];
  places: LadderPlace[];
  skipped: Skipped[];
  ends: { strip: Term[]; asFound: Term[] | null; scrap: Term[] };
};

/**
 * What share of the price is left when a unit is sold with this fault and says so; families not named here
 * are not sold so.
 */
export const LEAVE_SHARE: Partial<Record<Family, number>> = {
  radio: 0.55,
  motor: 0.8,
  sound: 0.75,
  "board-part": 0.72,
  latch: 0.7,
};
/**
 * The proof finds most of what nobody tested before it is sold: to mend or tell that costs about a fifth of what a
 * return does. A house guess.
 */
const HIDDEN_COSTS = 0.2;
const LEAVE_COMEBACK = 0.03;
const STRIP_WHEN_UNKNOWN = 12; // minutes to open a model whose profile has no slot for the place
const CAPS: Record<Route["grade"], Cap> = { A: 0, B: 1, C: 2 };
const BROKEN_YIELD = 0.8;

function sensorOf(input: DecideInput, place: string): string | null {
  const stick = input.profile.controls.find((c) => c.id === place);
  if (stick?.kind !== "stick") return null;
  return (input.revision && stick.sensorByRevision?.[input.revision]) || stick.sensor;
}

/** The faults as the ladder sees them: one a place, and the twin of what is worn. */
function placesOf(input: DecideInput): LadderPlace[] {
  const name = (id: string) =>
    placeName([...input.profile.controls, ...input.profile.functions].find((x) => x.id === id) ?? { id });
  const faulty = new Map<string, { families: Family[]; numbers: number[] }>();
  for (const f of input.faults) {
    const family = familyOf(input.profile as ModelProfile, f.place, f.measure);
    if (!family || input.withheld.includes(f.id)) continue;
    const at = faulty.get(f.place) ?? { families: [], numbers: [] };
    at.families.push(family);
    if (!at.numbers.includes(f.number)) at.numbers.push(f.number);
    faulty.set(f.place, at);
  }
  const places: LadderPlace[] = [...faulty].map(([place, { families, numbers }]) => {
    const family = worstOf(families);
    return {
      place,
      name: name(place),
      family,
      numbers,
      twin: false,
      leaveShare: LEAVE_SHARE[family] ?? null,
    };
  });
  if (input.customer === null)
    for (const p of [...places]) {
      if (!p.family.startsWith("stick")) continue;
      const slot = (input.profile.slots ?? []).find((s) => s.serves[0] === p.place && s.twin);
      const twin = (input.profile.slots ?? []).find((s) => s.id === slot?.twin)?.serves[0];
      if (twin && !places.some((x) => x.place === twin))
        places.push({
          place: twin,
          name: name(twin),
          family: p.family,
          numbers: [],
          twin: true,
          leaveShare: 1,
        });
    }
  return places;
}

/** Slots that serve a place and take the route's part from somebody who offers it. */
const slotsFor = (
  input: DecideInput,
  place: string,
  route: Route,
): { slot: Slot; priceMinor: Minor; leadDays: number }[] =>
  (input.profile.slots ?? []).flatMap((slot) => {
    if (!slot.serves.includes(place) || slot.kind !== route.part?.kind) return [];
    const offer = slot.offers.find((o) => o.make === route.part?.make);
    return offer ? [{ slot, priceMinor: offer.priceMinor, leadDays: offer.leadDays }] : [];
  });

const stripOf = (input: DecideInput, place: string): number => {
  const serving = (input.profile.slots ?? []).filter((s) => s.serves.includes(place));
  return serving.length ? Math.min(...serving.map((s) => s.stripMinutes)) : STRIP_WHEN_UNKNOWN;
};

const wasTried = (input: DecideInput, { place, route }: { place: string; route: string }): boolean =>
  input.tried.some((t) => t.place === place && t.route === route);

function optionsOf(
  input: DecideInput,
  places: LadderPlace[],
): { options: (Option & { strip: number; mean: number })[]; skipped: Skipped[] } {
  const options: (Option & { strip: number; mean: number })[] = [];
  const skipped: Skipped[] = [];
  const { rates } = input;
  const faulty = input.faults.map((f) => f.place);
  for (const at of places)
    for (const route of input.routes) {
      const chance = routeChance(input, route, at);
      if (!chance || (route.models && !route.models.includes(listedAs(input.profile)))) continue;
      const skip = (why: Skipped["why"]) =>
        void (at.twin || skipped.push({ route: route.id, place: at.place, why }));
      const sensor = sensorOf(input, at.place);
      if (at.twin && (!route.part || route.changesCharacter)) continue;
      if (route.sensors && !(sensor && (route.sensors as string[]).includes(sensor))) continue;
      if (wasTried(input, { place: at.place, route: route.id })) {
        skip("tried");
        continue;
      }
      const usedUp = (t: { place: string; route: string }) =>
        t.place === at.place && input.routes.find((r) => r.id === t.route)?.uses.includes(route.id);
      if (input.tried.some(usedUp)) {
        skip("used-up");
        continue;
      }
      const agreed = (input.agreed ?? []).find((a) => a.place === at.place);
      // once what was agreed did not help, what else could be asked for is reckoned with again
      if (agreed && agreed.route !== route.id && !wasTried(input, agreed)) {
        skip("not-agreed");
        continue;
      }
      if (route.skill > rates.skill) {
        skip("skill");
        continue;
      }
      const ruled = ruledOut(route, at.place, {
        house: input.house,
        lacking: input.lacking,
        forSale: input.customer === null,
        faulty,
        causes: input.causes?.[at.place] ?? [],
      });
      if (ruled) {
        skip(ruled);
        continue;
      }
      if (input.customer?.precise && route.grade !== "A") {
        skip("grade");
        continue;
      }
      const found = route.part ? slotsFor(input, at.place, route)[0] : null;
      if (route.part && !found) {
        skip("no-part");
        continue;
      }
      // one remedy may cure what the same part serves elsewhere, and what hangs on it: that is one option, listed once
      const serves = (p: LadderPlace) => found !== null && found!.slot.serves.includes(p.place);
      const reached = reachedAt(input, route, at);
      const covers = places.filter(
        (p) =>
          p.place === at.place ||
          (p.twin === at.twin &&
            routeChance(input, route, p) !== null &&
            (serves(p) || (reached !== null && reachedAt(input, route, p) === reached))),
      );
      // a part goes in where it belongs, whatever else hangs on it
      if (covers.find((p) => !found || serves(p))!.place !== at.place) continue;
      const means = covers.map((p) => routeChance(input, route, p)!);
      const least = means.reduce((a, b) => (b.mean < a.mean ? b : a));
      const comeback = comebackChance(input, route);
      const minutes = route.minutes + rates.retestMinutes;
      const strip = route.opens ? (found?.slot.stripMinutes ?? stripOf(input, at.place)) : 0;
      const passed = [input.profile.slots ?? [], strip, covers.map((p) => p.place)] as const;
      const breaks = route.opens ? breaksOnTheWay(route.breaks, ...passed) : route.breaks;
      const leadDays = found?.leadDays ?? 0;
      options.push({
        route,
        slot: found?.slot ?? null,
        places: covers.map((p) => p.place),
        chance: least,
        comeback,
        leadDays,
        twin: at.twin,
        strip,
        breaks,
        unbuyable: route.opens ? unbuyable(...passed).map((s) => s.name) : [],
        mean: Math.min(least.mean, 1 - breaks),
        terms: [
          { code: "labour", minor: -labourOf(minutes, rates), note: `${minutes} min` },
          ...(found ? [{ code: "part" as const, minor: -found.priceMinor }] : []),
          ...(route.costMinor > 0 ? [{ code: "specialist" as const, minor: -route.costMinor }] : []),
          ...(leadDays
            ? [{ code: "shelf" as const, minor: -leadDays * rates.shelfPerDay, note: `${leadDays} days` }]
            : []),
        ],
      });
    }
  const isCovered = (x: Skipped) => options.some((o) => o.route.id === x.route && o.places.includes(x.place));
  return { options, skipped: skipped.filter((x) => !isCovered(x)) };
}

/**
 * What stripping brings: the good parts' value as far as it is really got, less the time that is still to go.
 */
function stripTerms(input: DecideInput, places: readonly LadderPlace[], share = 1): Term[] {
  const bad = new Set(places.filter((p) => !p.twin).map((p) => p.place));
  const parts = (input.profile.slots ?? [])
    .filter(
      (s) => s.kind !== "contact-sensor" && !(s.kind === "magnetic-module" && s.id.startsWith("upgrade")),
    )
    .filter((s) => !s.serves.some((x) => bad.has(x)))
    .reduce((sum, s) => sum + s.resaleMinor, 0);
  const minutes = Math.max(0, Math.round(input.rates.stripHours * 60) - input.openMinutes);
  return [
    { code: "parts-value", minor: Math.round(parts * input.rates.partsYield * share) },
    { code: "strip-labour", minor: -labourOf(minutes, input.rates), note: `${minutes} min` },
  ];
}

export function buildProblem(input: DecideInput): Built {
  const { rates, market } = input;
  const places = placesOf(input);
  const { options, skipped } = optionsOf(input, places);
  // a look inside wants the unit as far open as the work at the least deep of what it asks about
  const openedFor = (c: DecideCheck) =>
    c.opens ? Math.max(input.openMinutes, Math.min(...c.places.map((p) => stripOf(input, p)))) : 0;
  const opened = (input.checks ?? []).map(openedFor);
  const levels = [...new Set([0, input.openMinutes, ...options.map((o) => o.strip), ...opened])].sort(
    (a, b) => a - b,
  );
  const depths = levels.map((minutes) => ({ minutes, cost: labourOf(minutes, rates) }));
  const index = new Map(places.map((p, i) => [p.place, i]));
  const ids = options.map((o) => `${o.route.id} ${o.places.join("+")}`);
  const works = worksOf(input, places, options);
  const meanOf = (o: { mean: number }, i: number) =>
    works ? works[i]!.reduce((sum, w, h) => sum + w * input.whole![h]!.probability, 0) : o.mean;
  const attempts = options.map((o, i): LadderAttempt => ({
    id: ids[i]!,
    cures: o.places.map((p) => index.get(p)!),
    cost: -totalOf(o.terms),
    minutes: o.route.minutes + rates.retestMinutes,
    depth: levels.indexOf(o.strip),
    success: meanOf(o, i),
    ...(works ? { works: works[i]! } : {}),
    breaks: o.breaks,
    cap: CAPS[o.route.grade],
    comeback: o.comeback.mean,
    spends: options.flatMap((other, k) =>
      k !== i && o.route.uses.includes(other.route.id) && other.places.some((p) => o.places.includes(p))
        ? [k]
        : [],
    ),
  }));
  const mine = input.customer !== null;
  // a customer pays for the repair what they said at most, or else what it adds to the unit's worth
  const worth =
    input.customer && places.length > 0
      ? (input.customer.limit ?? Math.max(0, market.bMinor - market.asFoundMinor))
      : 0;
  const tax = taxTerms(rates, input.spent.purchase);
  const strip = stripTerms(input, places);
  const asFound = mine ? null : saleTerms(market.asFoundMinor, input.spent.purchase, 0, rates);
  const stripAt = (minutes: number) =>
    totalOf(strip) +
    labourOf(Math.min(minutes, rates.stripHours * 60), rates) -
    labourOf(Math.min(input.openMinutes, rates.stripHours * 60), rates);
  const giveUp = levels.map((minutes) =>
    mine
      ? -rates.carriageOut
      : Math.max(0, asFound ? totalOf(asFound) : 0, stripAt(Math.max(minutes, input.openMinutes))),
  );
  return {
    options: options.map((o, i) => (works ? { ...o, chance: { ...o.chance, mean: meanOf(o, i) } } : o)),
    places,
    skipped,
    ends: { strip, asFound, scrap: [] },
    problem: {
      ...(works ? explainedBy(input, checksOf(input, { places, options, levels, stripAt: openedFor })) : {}),
      faults: places.map((p) => ({
        id: p.place,
        leave:
          p.leaveShare === null || mine
            ? null
            : { share: p.leaveShare, comeback: p.twin ? rates.twinReturn : LEAVE_COMEBACK },
      })),
      attempts,
      depths,
      openedTo: levels.indexOf(input.openMinutes),
      price: mine ? [worth, worth, worth] : [market.aMinor, market.bMinor, market.cMinor],
      cap: input.caps.reduce<Cap>((worst, c) => (c.cap > worst ? c.cap : worst), 0),
      sale: mine
        ? { feeShare: 0, fixed: rates.carriageOut, tax: { ...tax, above: 0 } }
        : { feeShare: rates.feeShare, fixed: rates.feeFixed + rates.carriageOut, tax },
      comebackCost: returnCost(rates),
      comeback: 1 - (1 - rates.returnBase) * (1 - HIDDEN_COSTS * input.hiddenBad),
      giveUp,
      // what breaks on the way was the customer's, and is made good at what it was worth as it came
      giveUpBroken: mine
        ? -rates.carriageOut - market.asFoundMinor
        : Math.min(...giveUp, Math.max(0, totalOf(stripTerms(input, places, BROKEN_YIELD)))),
    },
  };
}
