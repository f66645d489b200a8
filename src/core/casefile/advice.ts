import type { Fact, FactOf } from "../case/facts";
import { seenBroken } from "../case/seen-broken";
import { readingKindOf } from "../case/standing-facts";
import { type Advice, advise } from "../decide/advise";
import { worksUnder } from "../decide/route-chance";
import { READINGS_BEAR } from "../diagnosis/readings";
import { explanations } from "../diagnosis/explain";
import { type Grade, worstGrade } from "../grade/grade";
import type { ActNow } from "../policy/rung";
import { LISTING_ALL } from "../policy/solve";
import { type Disclosure, disclosuresOf } from "../prove/disclosures";
import { functionsOf, placeName } from "../profile/profile";
import { MAKES } from "../profile/slots";
import type { ActFile, AdviceFile } from "./format";
import { type CaseWhole, type KnownCase, knownOfCase } from "./known";

/** The advice on a case as the command prints it, and as the pages of the application show it. */

const LEAST_CAUSE = 1e-4;
const MOST_CAUSES = 400;
const WHYS = 4;

/** Whole explanations that add up to 1; what has no part of the wiring in it is "something else". */
function causesIn({ belief }: KnownCase): AdviceFile["causes"] {
  if (!belief) return [];
  const byParts = new Map<string, { parts: string[]; probability: number }>();
  for (const e of explanations(belief, MOST_CAUSES)) {
    const key = e.nodes.join();
    const had = byParts.get(key);
    if (had) had.probability += e.probability;
    else byParts.set(key, { parts: e.nodes, probability: e.probability });
  }
  const kept = [...byParts.values()].filter((c) => c.probability >= LEAST_CAUSE);
  const sum = kept.reduce((s, c) => s + c.probability, 0);
  return kept
    .map((c) => ({ ...c, probability: c.probability / sum }))
    .sort((a, b) => b.probability - a.probability);
}

/** What may be wrong where a route is tried, and how surely the route is done well against each. */
function whyTry(known: KnownCase, advice: Advice, at: number): ActFile["why"] {
  const { input } = known;
  const option = advice.options[at]!;
  const places = advice.places.filter((p) => option.places.includes(p.place));
  const first = places[0]!;
  const causes = input.causes?.[first.place] ?? [];
  const whole = input.whole ?? [];
  if (option.twin || causes.length === 0 || whole.length === 0)
    return option.terms.map((t) => ({ term: t.code, minor: t.minor }));
  return causes.slice(0, WHYS).map((c, k) => {
    const under = whole.filter((w) => w.at[first.place] === k);
    const mass = under.reduce((s, w) => s + w.probability, 0);
    const works = under.reduce((s, w) => s + w.probability * worksUnder(input, option.route, places, w), 0);
    return {
      cause: c.parts.map((p) => p.node),
      probability: c.probability,
      works: mass > 0 ? works / mass : 0,
    };
  });
}

function actOf(known: KnownCase, advice: Advice, act: ActNow, stop: number): ActFile[] {
  const valueMinor = act.value - stop;
  if (act.do === "check") {
    const check = (known.input.checks ?? [])[act.index]!;
    const whole = known.input.whole ?? [];
    const chanceOf = (chances: readonly number[]) =>
      whole.reduce((s, w, h) => s + w.probability * chances[h]!, 0);
    return [
      {
        act: "check",
        id: check.id,
        place: check.target,
        route: null,
        works: null,
        valueMinor,
        minutes: check.minutes,
        why: check.outcomes.map((o) => ({ outcome: o.code, probability: chanceOf(o.chances) })),
      },
    ];
  }
  if (act.do === "end") return [];
  const option = advice.options[act.index]!;
  return [
    {
      act: "attempt",
      id: `${option.route.id} ${option.places.join("+")}`,
      place: option.places[0]!,
      route: option.route.id,
      works: option.chance.mean,
      valueMinor,
      minutes: option.route.minutes + known.input.rates.retestMinutes,
      why: whyTry(known, advice, act.index),
    },
  ];
}

const GOES_ON: readonly string[] = ["mend", "hold"];
const endsIn = (advice: Advice, stop: number): ActFile[] =>
  advice.ends.flatMap((e): ActFile[] =>
    e.value === null || GOES_ON.includes(e.disposition)
      ? []
      : [
          {
            act: "end",
            id: e.disposition,
            place: null,
            route: null,
            works: null,
            valueMinor: e.value - stop,
            minutes: e.spread?.minutes ?? 0,
            why: e.terms.map((t) => ({ term: t.code, minor: t.minor })),
          },
        ],
  );

/**
 * Every act that was weighed, the best first. A unit in which no fault is open has nothing to choose between: only its
 * endings are told.
 */
function actsIn(known: KnownCase, advice: Advice): ActFile[] {
  const stop = advice.giveUp;
  const isWeighed = advice.places.some((p) => !p.twin);
  const acts = isWeighed ? advice.acts.flatMap((a) => actOf(known, advice, a, stop)) : [];
  return [...acts, ...endsIn(advice, stop)].sort((a, b) => b.valueMinor - a.valueMinor);
}

/** The act that is next: going on where that pays, else the best ending; none where it has to be tested first. */
function nextIn(advice: Advice, acts: readonly ActFile[]): ActFile | null {
  if (advice.testFirst) return null;
  const goesOn = GOES_ON.includes(advice.best);
  return acts.find((a) => (goesOn ? a.act !== "end" : a.id === advice.best)) ?? null;
}

const stillOf = <K extends Fact["kind"]>(known: KnownCase, kind: K): FactOf<K>[] =>
  known.standing.flatMap(({ fact, ended }) => (!ended && fact.kind === kind ? [fact as FactOf<K>] : []));

/** What the facts leave unsettled between the unit and its release. */
function blocksIn(known: KnownCase, file: CaseWhole): AdviceFile["blocks"] {
  const block = (code: string, place: string | null, what = "") => ({ code, place, what });
  const wet = stillOf(known, "history").some((f) => f.what === "liquid" && f.doubt === 0);
  const lastMend = known.facts.reduce((at, f) => (f.kind === "mended" && f.at > at ? f.at : at), "");
  const proven = known.facts.some(
    (f) => (f.kind === "works" || (f.kind === "measure" && f.test !== "spot")) && f.at >= lastMend,
  );
  const functions = new Set(functionsOf(file.profile, file.revision).map((f) => f.id));
  const unsure = stillOf(known, "reading").filter((f) => {
    const kind = readingKindOf(f);
    return f.verdict !== "pass" && kind !== null && READINGS_BEAR[kind] !== undefined;
  });
  return [
    ...(wet ? [block("liquid", null)] : []),
    ...(proven ? [] : [block("no-proof", null)]),
    ...Object.entries(known.grades).flatMap(([place, grade]) =>
      grade === "fail" || grade === "untested"
        ? [block(functions.has(place) ? "function" : "control", place, grade)]
        : [],
    ),
    ...[...new Set(known.input.faults.map((f) => f.place))].map((place) => block("open-fault", place)),
    ...stillOf(known, "piece")
      .filter((f) => f.fits === "unknown")
      .map((f) => block("fragment", null, String(f.number))),
    ...seenBroken(known.standing, known.of).map((b) => block("broken", b.part, b.finding)),
    ...unsure.map((f) => block("reading", f.place, `${f.reading} ${f.verdict}`)),
  ];
}

const isMake = (make: string): make is (typeof MAKES)[number] => (MAKES as readonly string[]).includes(make);

/** What a buyer is told, from the facts. */
function disclosuresIn(known: KnownCase, file: CaseWhole): AdviceFile["disclosures"] {
  const mended = known.facts.filter((f): f is FactOf<"mended"> => f.kind === "mended");
  const nameOf = (id: string) => {
    const thing = [...file.profile.controls, ...file.profile.functions].find((t) => t.id === id);
    return thing ? placeName(thing) : id;
  };
  const door = stillOf(known, "intake");
  const told = disclosuresOf({
    parts: mended.flatMap((f) => {
      const route = known.routes.find((r) => r.id === f.route);
      const make = f.fitted?.make ?? route?.part?.make;
      if (make === undefined || (!f.fitted && !route?.part)) return [];
      const name = route?.part?.kind ?? make;
      const used = f.fitted?.donor != null;
      return [{ name, place: nameOf(f.place ?? ""), make: isMake(make) ? make : null, used }];
    }),
    mends: mended.map((f) => ({ what: f.words, part: "", remark: "", listed: true, provisional: false })),
    routes: mended.flatMap((f) => known.routes.find((r) => r.id === f.route) ?? []),
    marks: [...new Set(door.flatMap((f) => f.marks.map((m) => m.mark)))],
    lost: [],
    damages: stillOf(known, "observed")
      .filter((f) => f.code === "damaged")
      .map((f) => ({ place: nameOf(f.place), what: f.finding })),
    missing: [...new Set(door.flatMap((f) => f.missing))],
    without: [],
    readings: stillOf(known, "reading").flatMap((f) => {
      const reading = readingKindOf(f);
      return f.verdict === "pass" || reading === null
        ? []
        : [{ reading, subject: f.place, verdict: f.verdict }];
    }),
    broken: seenBroken(known.standing, known.of),
    accepted: [],
  });
  return told.map((d) => ({ code: d.code, what: whatOf(d) }));
}

/** All that a disclosure names, in one line. */
function whatOf({ code: _code, ...rest }: Disclosure): string {
  return Object.values(rest)
    .flatMap((v) => (Array.isArray(v) ? (v as string[]) : [String(v)]))
    .filter((v) => v !== "")
    .join(", ");
}

/** What the command prints for what is known of a case and the advice on it. */
export function adviceFile(file: CaseWhole, known: KnownCase, advice: Advice): AdviceFile {
  const acts = actsIn(known, advice);
  return {
    format: "birdcage-advice",
    version: 1,
    causes: causesIn(known),
    untested: known.input.untested.map((u) => ({ place: u.place, probability: u.bad })),
    acts,
    next: nextIn(advice, acts),
    disposition: advice.testFirst ? "test-first" : advice.best,
    expectedMinor: advice.value,
    lossChance: Math.min(1, Math.max(0, advice.spread.loss)),
    // what is spent is spent: whoever has not bought it yet may give at most what it brings from now on
    bidAtMostMinor: file.customer ? 0 : Math.max(0, Math.floor(advice.value)),
    blocks: blocksIn(known, file),
    disclosures: disclosuresIn(known, file),
    grade: { function: worstGrade(Object.values(known.grades) as Grade[]), outside: known.outside },
  };
}

/** The whole advice on a case. Pure and deterministic; up to a second for the largest models. */
export function adviseOnCase(file: CaseWhole): AdviceFile {
  const known = knownOfCase(file);
  return adviceFile(file, known, advise(known.input, LISTING_ALL));
}
