import { answeredChecks } from "../case/answered";
import { withCredit } from "../case/credit";
import { beliefOf, evidenceOfCase } from "../case/evidence";
import type { Fact, FactOf } from "../case/facts";
import { type CaseOf, type Standing, standingOf } from "../case/standing-facts";
import { HOUSE_LEXICON } from "../claim/lexicon";
import type { DecideInput, OpenFault } from "../decide/asked";
import { chanceOfAnyFailing, chanceOfFailing, knownOf } from "../decide/causes";
import { HOUSE_ROUTES, type Route } from "../decide/routes";
import { rankChecks, USUAL_ADVICE } from "../diagnosis/advise";
import type { Belief } from "../diagnosis/belief";
import { type Check, checkLibrary } from "../diagnosis/checks";
import { graphOf } from "../diagnosis/graph";
import { type Condition, conditionOf } from "../grade/condition";
import { type Grade, worstGrade } from "../grade/grade";
import { HOUSE_RATES } from "../money/rates";
import { marketWithout, piecesOf } from "../profile/missing";
import { controlsOf, functionsOf, type ModelProfile, placeName, thingsOf } from "../profile/profile";
import type { Market, Slot } from "../profile/slots";
import { completeFacts } from "./complete";
import type { CaseFile } from "./format";

/** From a case file to what deciding is asked with: every figure a function of the facts that still stand. */

export type CaseWhole = Omit<CaseFile, "profile"> & { profile: ModelProfile };
export type KnownCase = {
  of: CaseOf;
  /** null where the model tells nothing of its inside */
  belief: Belief | null;
  facts: Fact[];
  standing: Standing[];
  input: DecideInput;
  /** by control and function, as it is now; what nobody tested since is "untested" */
  grades: Readonly<Record<string, Grade>>;
  outside: Condition;
  routes: readonly Route[];
};

const NO_WIRING = { boards: [], nodes: [], serves: {}, points: [] };
const NO_MARKET: Market = { newMinor: 0, aMinor: 0, bMinor: 0, cMinor: 0, asFoundMinor: 0 };

/** What facts are read against: the model's inside, its checks, what people call its controls. */
export function readAgainst(
  profile: ModelProfile,
  revision: string | null,
  lexicon: CaseOf["lexicon"] = HOUSE_LEXICON,
): CaseOf {
  const wiring = profile.wiring ?? NO_WIRING;
  const graph = graphOf(wiring, revision);
  return {
    graph,
    library: checkLibrary(graph, wiring),
    things: thingsOf(profile, revision),
    model: profile.id,
    power: profile.functions.filter((f) => f.kind === "power-on" || f.kind === "charging").map((f) => f.id),
    lexicon,
  };
}

/** Slots as the shelf leaves them: what lies there has no lead time and costs what it cost. */
export const withShelf = (slots: readonly Slot[], stock: CaseFile["stock"]): Slot[] =>
  slots.map((slot) => ({
    ...slot,
    offers: slot.offers.map((offer) => {
      const there = stock.filter((s) => s.slot === slot.id && s.make === offer.make);
      if (there.length === 0) return offer;
      return { ...offer, leadDays: 0, priceMinor: Math.min(...there.map((s) => s.priceMinor)) };
    }),
  }));

const OF_ANSWER: Record<FactOf<"function">["outcome"], Grade> = {
  pass: "A",
  fail: "fail",
  intermittent: "fail",
  "not-tested": "untested",
};

/** The grade of one control or function by what still stands of its tests. */
function gradeAt(standing: readonly Standing[], place: string): Grade {
  const facts = standing.flatMap(({ fact, ended }) => (ended ? [] : [fact]));
  const answers = facts.flatMap((f) =>
    f.kind === "function" && f.place === place && f.outcome !== "not-tested" ? [OF_ANSWER[f.outcome]] : [],
  );
  const tested = facts.filter(
    (f): f is FactOf<"measure"> | FactOf<"works"> =>
      (f.kind === "measure" || f.kind === "works") && f.place === place,
  );
  const last = tested.at(-1)?.recording;
  const own = tested.filter((f) => f.recording === last);
  const measured = own.flatMap((f) => (f.kind === "measure" ? [f.grade] : []));
  if (own.length === 0 && answers.length === 0) return "untested";
  return worstGrade([...answers, ...measured]);
}

/** What fails by the facts, where nobody named the faults: one line a place and measure. */
function failingNow(standing: readonly Standing[], of: CaseOf): OpenFault[] {
  const numbers = new Map<string, number>();
  return standing.flatMap(({ fact: f, ended }): OpenFault[] => {
    if (ended) return [];
    const failed =
      (f.kind === "measure" && f.grade === "fail") ||
      (f.kind === "function" && (f.outcome === "fail" || f.outcome === "intermittent")) ||
      (f.kind === "reading" && f.verdict === "fail" && of.things.some((t) => t.id === f.place));
    if (!failed) return [];
    if (!numbers.has(f.place)) numbers.set(f.place, numbers.size + 1);
    const number = numbers.get(f.place)!;
    return [
      { id: `fault ${number}`, number, place: f.place, measure: f.kind === "measure" ? f.measure : null },
    ];
  });
}

/** Whether the customer's latest answer about a place was no. */
const refusedAt = (standing: readonly Standing[], place: string): boolean =>
  standing
    .flatMap(({ fact }) => (fact.kind === "answered" && fact.place === place ? [fact.yes] : []))
    .at(-1) === false;

/** What the customer's latest answer about each place agreed to, where it was a yes. */
const agreedBy = (standing: readonly Standing[]): FactOf<"answered">[] => {
  const latest = new Map<string, FactOf<"answered">>();
  for (const { fact } of standing) if (fact.kind === "answered") latest.set(fact.place, fact);
  return [...latest.values()].filter((f) => f.yes);
};

/** A customer's unit: how much they pay at most, which is the price of what was agreed once something was. */
function customerBy(file: CaseWhole, agreed: readonly FactOf<"answered">[]): DecideInput["customer"] {
  if (!file.customer) return null;
  const priced = agreed.flatMap((f) => (f.priceMinor === null ? [] : [f.priceMinor]));
  const sum = priced.reduce((s, p) => s + p, 0);
  return { limit: priced.length > 0 ? sum : file.customer.limitMinor, precise: file.customer.precise };
}

function faultsOf(file: CaseWhole, standing: readonly Standing[], of: CaseOf) {
  if (!file.faults) {
    const faults = failingNow(standing, of);
    const refused = faults.filter((f) => refusedAt(standing, f.place));
    return { faults, withheld: [...new Set(refused.map((f) => f.id))] };
  }
  const named = file.faults.map((f) => ({ ...f, id: f.id ?? `fault ${f.number}` }));
  return {
    faults: named.map(({ id, number, place, measure }) => ({ id, number, place, measure })),
    withheld: [...new Set(named.flatMap((f) => (f.refused ? [f.id] : [])))],
  };
}

/** What it goes for without the pieces that it came without. */
function marketBy(
  { profile, market }: CaseWhole,
  standing: readonly Standing[],
): Pick<DecideInput, "market" | "missing"> {
  const ids = standing.flatMap(({ fact, ended }) => (fact.kind === "intake" && !ended ? fact.missing : []));
  return marketWithout({ ...NO_MARKET, ...profile.market, ...market }, piecesOf(profile, ids));
}

const SMELLS = ["none", "slight", "slight", "strong"] as const;
/** The outside by the marks that are still there. */
function outsideBy(standing: readonly Standing[]): Condition {
  const seen = standing.flatMap(({ fact, ended }) => (fact.kind === "intake" && !ended ? [fact] : []));
  const marks = seen.flatMap((f) => f.marks.map((m) => ({ kind: m.mark })));
  const smell = Math.max(0, ...seen.map((f) => f.smell));
  return conditionOf({ marks, smell: SMELLS[smell]!, cleaned: false, damages: 0 }).condition;
}

const CAP_OF_GRADE: Partial<Record<Grade, 1 | 2>> = { B: 1, C: 2 };
const CAP_OF_OUTSIDE: Record<Condition, 0 | 1 | 2> = { fine: 0, light: 0, marked: 1, worn: 2 };
/** Odds that one thing which nobody tested is bad, where nothing is known of what it rests on. A house guess. */
export const USUALLY_BAD = 0.01;

type Tested = Pick<DecideInput, "untested" | "hiddenBad" | "caps">;

/** What nobody tested, and what holds the price down whatever is mended. */
function testedBy(
  file: CaseWhole,
  grades: KnownCase["grades"],
  belief: Belief | null,
  faults: readonly OpenFault[],
  outside: Condition,
): Tested {
  const named = [...new Set(faults.map((f) => f.place))];
  const here = Object.keys(grades).filter((id) => !named.includes(id));
  const untested = here.filter((id) => grades[id] === "untested");
  const controls = new Set(controlsOf(file.profile, file.revision).map((c) => c.id));
  return {
    untested: untested.map((place) => ({
      place,
      bad: belief ? chanceOfFailing(belief, place, named) : USUALLY_BAD,
    })),
    hiddenBad: belief
      ? chanceOfAnyFailing(belief, untested, named)
      : 1 - (1 - USUALLY_BAD) ** untested.length,
    caps: [
      ...here.flatMap((id) => {
        const cap = controls.has(id) ? CAP_OF_GRADE[grades[id]!] : undefined;
        return cap ? [{ cap, what: id }] : [];
      }),
      ...(CAP_OF_OUTSIDE[outside] > 0 ? [{ cap: CAP_OF_OUTSIDE[outside], what: "outside" }] : []),
    ],
  };
}

/** How many checks are weighed beside the attempts: those that tell most a minute. */
const MOST_CHECKS = 8;

const BROKEN: readonly string[] = ["torn", "eaten", "missing-tooth"];
/** Parts that were seen broken, or of which a piece was found loose. */
const brokenIn = (standing: readonly Standing[]): Set<string> =>
  new Set(
    standing.flatMap(({ fact: f, ended }) => {
      if (ended) return [];
      if (f.kind === "piece") return [f.fits];
      return f.kind === "observed" && BROKEN.includes(f.finding) && f.severity >= SEEN_PLAINLY
        ? [f.place]
        : [];
    }),
  );
const SEEN_PLAINLY = 2;

/** What may be behind the faults, and what could be looked at first. */
function causesOf(
  belief: Belief,
  standing: readonly Standing[],
  of: CaseOf,
  { places, profile, skill }: { places: readonly string[]; profile: ModelProfile; skill: number },
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
  return knownOf(belief, places, checks, { nameOf, broken: brokenIn(standing) });
}

/** Everything that is known of a case, and what deciding is asked with. Pure; the heavy part is the belief. */
export function knownOfCase(file: CaseWhole): KnownCase {
  const { profile, revision } = file;
  const of = readAgainst(profile, revision, file.lexicon);
  const all = file.routes ?? HOUSE_ROUTES;
  const lacking = file.tools
    ? [...new Set(all.flatMap((r) => r.tools))].filter((t) => !file.tools!.includes(t))
    : [];
  const facts = completeFacts(file.facts, { of, profile, routes: all });
  const rates = { ...HOUSE_RATES, ...file.rates, ...(file.skill ? { skill: file.skill } : {}) };
  const wired = of.graph.nodes.length > 0;
  const standing = standingOf(wired ? withCredit(facts, of, file.record.parts) : facts, of);
  const belief = wired ? beliefOf(evidenceOfCase(standing, of), of, file.record.parts) : null;
  const { faults, withheld } = faultsOf(file, standing, of);
  const places = [...new Set(faults.map((f) => f.place))];
  const agreed = agreedBy(standing);
  const outside = file.outside ?? outsideBy(standing);
  const here = [
    ...controlsOf(profile, revision).map((c) => c.id),
    ...functionsOf(profile, revision).flatMap((f) => (file.absent.includes(f.id) ? [] : [f.id])),
  ];
  const grades = Object.fromEntries(here.map((id) => [id, gradeAt(standing, id)]));
  const input: DecideInput = {
    profile: {
      id: profile.id,
      controls: profile.controls,
      functions: profile.functions,
      slots: withShelf(profile.slots ?? [], file.stock),
    },
    revision,
    ...marketBy(file, standing),
    rates,
    routes: all,
    ...(file.house ? { house: file.house } : {}),
    ...(lacking.length > 0 ? { lacking } : {}),
    record: file.record.routes,
    rules: file.rules,
    faults,
    tried: facts.flatMap((f) =>
      f.kind === "mended" && f.route && f.place && places.includes(f.place)
        ? [{ place: f.place, route: f.route }]
        : [],
    ),
    openMinutes: file.openMinutes,
    spent: file.spent,
    customer: customerBy(file, agreed),
    agreed: agreed.flatMap(({ place, option }) =>
      all.some((r) => r.id === option) ? [{ place, route: option }] : [],
    ),
    withheld,
    ...testedBy(file, grades, belief, faults, outside),
    ...(belief ? causesOf(belief, standing, of, { places, profile, skill: rates.skill }) : {}),
  };
  return { of, belief, facts, standing, input, grades, outside, routes: all };
}
