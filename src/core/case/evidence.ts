import { type Belief, type Evidence, learn, startBelief } from "../diagnosis/belief";
import { evidenceFrom, type Piece, type SeenThing, type Treated } from "../diagnosis/evidence";
import { PLACE_FINDINGS, type PlaceFinding } from "../diagnosis/places";
import type { Outcome, ShopRecord } from "../diagnosis/priors";
import { together, yieldsToForce } from "../diagnosis/symptoms";
import type { TryOutcome } from "../diagnosis/tries";
import type { NodeKind } from "../profile/wiring";
import { CORRODED_LEANS, HISTORY_LEANS, INTAKE_LEANS, MARKS_TELL, MATE_TIMES, type Sign } from "./bearing";
import type { Fact, FactOf, FoundAt } from "./facts";
import { type CaseOf, checkOf, complaintsOf, isOver, SEARCH, type Standing, takenOf } from "./standing-facts";

/** From the facts of a case that still stand to evidence about its parts, each piece with the facts behind it. */

/** What a named fault, and what a claim, is to be believed. House guesses. */
const NAMED_TRUST = 0.9;
const NAMED = { ifFaulty: 0.8, ifSound: 0.1 };
const TOLD_TRUST = { named: 0.7, meant: 0.5 };

export type SeenInCase = SeenThing & {
  from: "recording" | "answer" | "observation" | "claim";
  facts: readonly string[];
};

const is =
  <K extends Fact["kind"]>(kind: K) =>
  (f: Fact): f is FactOf<K> =>
    f.kind === kind;

type Shown = { outcome: Outcome; facts: string[]; axis?: "x" | "y"; steady?: boolean };
/** The measures that speak for a pattern: by their axis it is known at which side it lies. */
const SPEAKS: Partial<Record<Outcome, readonly string[]>> = {
  offset: ["restOffset"],
  noise: ["restNoise", "restSpikes"],
  jumps: ["jumps"],
  "dead-half": ["deadHalves"],
  "short-reach": ["reachMin"],
};
const sidesOf = (f: Fact): Pick<Shown, "axis" | "steady"> =>
  f.kind === "measure" && f.pattern !== null && SPEAKS[f.pattern]?.includes(f.measure)
    ? { ...(f.axis ? { axis: f.axis } : {}), ...(f.steady === undefined ? {} : { steady: f.steady }) }
    : {};

/** What a recording showed of each place, in the order of the recordings. */
function shownAt(facts: readonly Fact[], place: string, force: string) {
  const shown = new Map<string, Shown>();
  for (const f of facts) {
    if ((f.kind !== "measure" && f.kind !== "works") || f.place !== place || f.force !== force) continue;
    const outcome = f.kind === "works" ? "works" : f.pattern;
    if (outcome === null) continue;
    const key = f.recording ?? f.id;
    const had = shown.get(key);
    shown.set(key, { ...had, outcome, facts: [...(had?.facts ?? []), f.id], ...sidesOf(f) });
  }
  return [...shown.values()];
}

function recordedAt(facts: readonly Fact[], place: string): Shown | null {
  const light = shownAt(facts, place, "light").at(-1);
  const normal = shownAt(facts, place, "normal");
  const usual = together(normal.map((s) => s.outcome));
  const harder = shownAt(facts, place, "hard").at(-1)?.outcome ?? usual;
  if (light && yieldsToForce(light.outcome, harder))
    return { outcome: "yields-to-force", facts: light.facts };
  const last = normal.at(-1);
  const sides = last?.outcome === usual ? last : undefined;
  return usual && { ...sides, outcome: usual, facts: normal.flatMap((s) => s.facts) };
}

const ANSWERS: Partial<Record<FactOf<"function">["outcome"], Outcome>> = {
  pass: "works",
  fail: "dead",
  intermittent: "intermittent",
};

/**
 * What is seen of each control and function as it is now. What was recorded and asked speaks first; what a person saw
 * there takes its place; what was named and told speaks where nothing else does, or where that only says that it works.
 */
export function seenInCase(standing: readonly Standing[], of: CaseOf): SeenInCase[] {
  const facts = standing.flatMap((s) => (s.ended ? [] : [s.fact]));
  const answers = facts.filter(is("function"));
  const seen = of.things.flatMap((t): SeenInCase[] => {
    const own = answers.filter((f) => f.place === t.id && f.hand === "seen").at(-1);
    if (own?.pattern) return [{ id: t.id, outcome: own.pattern, from: "observation", facts: [own.id] }];
    const recorded = recordedAt(facts, t.id);
    if (recorded) return [{ id: t.id, ...recorded, from: "recording" }];
    const answer = answers.filter((f) => f.place === t.id && f.hand === null).at(-1);
    const outcome = answer && ANSWERS[answer.outcome];
    return outcome ? [{ id: t.id, outcome, from: "answer", facts: [answer.id] }] : [];
  });
  const silent = (id: string) => seen.every((s) => s.id !== id);
  const named = answers.flatMap((f): SeenInCase[] =>
    f.hand === "named" && f.pattern && silent(f.place)
      ? [
          {
            id: f.place,
            outcome: f.pattern,
            from: "observation",
            trust: NAMED_TRUST,
            facts: [f.id],
          },
        ]
      : [],
  );
  return [...seen, ...named];
}

/** What was told, where nothing that was measured, asked or named says as much. */
function toldPieces(standing: readonly Standing[], seen: readonly SeenInCase[], of: CaseOf): Piece[] {
  const fails = (id: string) => seen.some((s) => s.id === id && s.outcome !== "works");
  return standing.flatMap(({ fact, ended }) => {
    if (fact.kind !== "told" || ended) return [];
    return complaintsOf(fact, of).flatMap((c) =>
      c.places
        .filter((p) => of.graph.restsOn.has(p) && !fails(p) && !isOver(standing, fact, p, of))
        .map((id): Piece => ({
          basis: { code: "told", id, outcome: c.outcome, words: c.words },
          evidence: {
            kind: "function",
            id,
            outcome: c.outcome,
            exempt: of.graph.kinds.flatMap((k, i) => (k === "cell" ? [i] : [])),
            trust: c.named ? TOLD_TRUST.named : TOLD_TRUST.meant / Math.max(1, c.places.length),
          },
          facts: [fact.id],
        })),
    );
  });
}

/** Whether more than half of all that there is rests on a part: who names one place would have named more. */
function isCommon(part: number, { graph }: CaseOf): boolean {
  let served = 0;
  for (const rests of graph.restsOn.values()) if (rests.includes(part)) served++;
  return served > graph.restsOn.size / 2;
}

/** What a hand named without saying how it fails accuses all that the place rests on alike, but what all else needs. */
function namedPieces(facts: readonly Fact[], seen: readonly SeenInCase[], of: CaseOf): Piece[] {
  return facts.filter(is("function")).flatMap((f): Piece[] => {
    const rests = of.graph.restsOn.get(f.place);
    if (
      f.hand !== "named" ||
      f.pattern ||
      !rests ||
      seen.some((s) => s.id === f.place && s.outcome !== "works")
    )
      return [];
    const own = rests.filter((i) => of.graph.kinds[i] !== "cell" && !isCommon(i, of));
    const about = own.length > 0 ? own : rests.filter((i) => of.graph.kinds[i] !== "cell");
    const evidence: Evidence = { kind: "check", about, ...NAMED, leaning: true };
    return [{ basis: { code: "named", id: f.place, words: f.words }, evidence, facts: [f.id] }];
  });
}

/** Odds of some kinds of part, multiplied. */
function leaning(
  of: CaseOf,
  { kinds, times }: { kinds: readonly NodeKind[]; times: number },
): Evidence | null {
  const about = of.graph.kinds.flatMap((k, i) => (kinds.includes(k) ? [i] : []));
  return about.length > 0 ? { kind: "check", about, ifFaulty: 1, ifSound: 1 / times, leaning: true } : null;
}

const signsOf = (f: FactOf<"intake">): Sign[] => [
  ...(f.rattle === "none" ? [] : ([`${f.seen ? "seen" : "rattle"}-${f.rattle}`] as const)),
  ...(f.hands?.some((h) => h !== "glued") ? (["rough-hands"] as const) : []),
  ...(f.hands?.includes("glued") ? (["glued"] as const) : []),
  ...(f.grime > 0 ? (["grime"] as const) : []),
  ...new Set(f.marks.flatMap((m) => MARKS_TELL[m.mark] ?? [])),
];

/** Where its mate failed, the like parts here are likelier at fault: what all else needs is no like part. */
function matePieces(facts: readonly Fact[], of: CaseOf): Piece[] {
  return facts.filter(is("mate")).flatMap((f): Piece[] => {
    const about = (of.graph.restsOn.get(f.place) ?? []).filter(
      (i) => of.graph.kinds[i] !== "cell" && !isCommon(i, of),
    );
    const evidence: Evidence = { kind: "check", about, ifFaulty: 1, ifSound: 1 / MATE_TIMES, leaning: true };
    return about.length > 0
      ? [{ basis: { code: "mate", id: f.place, tag: f.tag }, evidence, facts: [f.id] }]
      : [];
  });
}

function doorPieces(facts: readonly Fact[], of: CaseOf): Piece[] {
  const history = facts.filter(is("history")).flatMap((f): Piece[] => {
    const { kinds, times } = HISTORY_LEANS[f.what];
    const evidence = leaning(of, { kinds, times: f.doubt + (1 - f.doubt) * times });
    return evidence ? [{ basis: { code: "history", what: f.what }, evidence, facts: [f.id] }] : [];
  });
  const intake = facts.filter(is("intake")).flatMap((f) =>
    signsOf(f).flatMap((sign): Piece[] => {
      const evidence = leaning(of, INTAKE_LEANS[sign]);
      return evidence ? [{ basis: { code: "intake", sign }, evidence, facts: [f.id] }] : [];
    }),
  );
  return [...history, ...intake];
}

/** What is corroded at one place raises the contacts and joints everywhere else. */
function wetPieces(facts: readonly Fact[], of: CaseOf): Piece[] {
  const wet = facts.filter(is("observed")).filter((f) => f.finding === "corroded");
  const here = new Set(wet.map((f) => of.graph.index.get(f.place)));
  const about = of.graph.kinds.flatMap((k, i) =>
    CORRODED_LEANS.kinds.includes(k) && !here.has(i) ? [i] : [],
  );
  const [first] = wet;
  if (!first || about.length === 0) return [];
  const times = wet.some((f) => f.severity >= 2) ? CORRODED_LEANS.times : Math.sqrt(CORRODED_LEANS.times);
  return [
    {
      basis: { code: "wet", place: first.place },
      evidence: { kind: "check", about, ifFaulty: 1, ifSound: 1 / times, leaning: true },
      facts: wet.map((f) => f.id),
    },
  ];
}

/**
 * Where a place still fails after something was done at its parts, it is less likely those parts: a new one seldom fails
 * like the old one, and cleaning or seating anew cures a good part of what it comes to. House guesses.
 */
const IN_VAIN: Partial<Record<FactOf<"mended">["how"], { ifFaulty: number; ifSound: number }>> = {
  replaced: { ifFaulty: 0.2, ifSound: 1 },
  resoldered: { ifFaulty: 0.2, ifSound: 1 },
  reseated: { ifFaulty: 0.5, ifSound: 1 },
  cleaned: { ifFaulty: 0.7, ifSound: 1 },
};
/** What cleaning can cure at all: dirt on what moves or touches. */
const CLEANED: readonly NodeKind[] = [
  "contact",
  "dome",
  "membrane",
  "switch",
  "track",
  "sensor",
  "magnet",
  "mechanism",
  "connector",
  "plug",
  "socket",
  "port",
  "cell-contact",
];
function fittedPieces(facts: readonly Fact[], seen: readonly SeenInCase[], of: CaseOf): Piece[] {
  return facts.filter(is("mended")).flatMap((f): Piece[] => {
    const inVain = IN_VAIN[f.how];
    if (!inVain) return [];
    const parts = f.places.flatMap((p) => of.graph.index.get(p) ?? []);
    const about = f.how === "cleaned" ? parts.filter((i) => CLEANED.includes(of.graph.kinds[i]!)) : parts;
    const fails = seen.some(
      (s) =>
        s.outcome !== "works" &&
        of.graph.restsOn.get(s.id)?.some((i) => about.includes(i)) &&
        facts.some((x) => s.facts.includes(x.id) && x.at > f.at),
    );
    if (!fails || about.length === 0) return [];
    return [
      {
        basis: { code: "fitted", words: f.words },
        evidence: { kind: "check", about, ...inVain, leaning: true },
        facts: [f.id],
      },
    ];
  });
}

/** The finer finding of the house behind a finding of a case. */
const CODES: Record<FoundAt, PlaceFinding> = {
  sound: "sound",
  worn: "worn",
  dirty: "dirty",
  corroded: "corrosion-strong",
  cracked: "cracked-joint",
  bridged: "bridged-joint",
  torn: "torn",
  bent: "bent",
  loose: "loose-piece",
  "missing-tooth": "missing-tooth",
  eaten: "eaten",
  residue: "residue",
};
/** What is meant where only the plain finding is told. */
export const finerFinding = (finding: FoundAt, severity: number): PlaceFinding =>
  finding === "corroded" && severity < 2 ? "corrosion-slight" : CODES[finding];
const codeOf = (f: FactOf<"observed">): PlaceFinding =>
  Object.hasOwn(PLACE_FINDINGS, f.code) ? (f.code as PlaceFinding) : finerFinding(f.finding, f.severity);

const isTryOutcome = (o: string | null): o is TryOutcome =>
  o !== null && ["cured", "better", "same", "worse"].includes(o);

/** Everything that the case holds about its parts. */
export function evidenceOfCase(standing: readonly Standing[], of: CaseOf): Piece[] {
  const facts = standing.flatMap((s) => (s.ended ? [] : [s.fact]));
  const seen = seenInCase(standing, of);
  const tried = facts.filter(is("tried"));
  const readings = facts.filter(is("reading"));
  return [
    ...evidenceFrom(of.graph, of.library, {
      seen,
      observations: [
        ...facts.filter(is("observed")).map((f) => ({
          kind: "place" as const,
          target: f.place,
          outcome: codeOf(f),
          facts: [f.id],
        })),
        ...tried.flatMap((f) =>
          checkOf(f, of) && f.outcome !== null
            ? [{ kind: "check" as const, target: f.act, outcome: f.outcome, facts: [f.id] }]
            : [],
        ),
        ...readings.flatMap((f) =>
          f.reading === "point" && f.verdict !== "doubtful"
            ? [
                {
                  kind: "point" as const,
                  target: f.place,
                  outcome: f.verdict === "fail" ? "off" : "right",
                  facts: [f.id],
                },
              ]
            : [],
        ),
      ],
      tries: tried.flatMap((f): Treated[] =>
        f.number !== null && isTryOutcome(f.outcome)
          ? [
              {
                number: f.number,
                suspect: f.places[0] ?? "",
                outcome: f.outcome,
                undone: f.undone,
                share: f.share,
                facts: [f.id],
              },
            ]
          : [],
      ),
      loose: facts.filter(is("piece")).map((f) => ({
        number: f.number,
        matchedTo: of.graph.index.has(f.fits) ? f.fits : null,
        facts: [f.id],
      })),
      searches: tried.flatMap((f) =>
        f.act === SEARCH && f.places.length === 1
          ? [
              {
                items: [{ id: f.places[0]!, node: f.places[0]! }],
                steps: [{ switched: [f.places[0]!], result: "fails" as const }],
                facts: [f.id],
              },
            ]
          : [],
      ),
      readings: readings.flatMap((f) => {
        const taken = takenOf(f, of);
        return taken ? [{ ...taken, facts: [f.id] }] : [];
      }),
      power: of.power,
    }),
    ...toldPieces(standing, seen, of),
    ...namedPieces(facts, seen, of),
    ...doorPieces(facts, of),
    ...matePieces(facts, of),
    ...wetPieces(facts, of),
    ...fittedPieces(facts, seen, of),
  ];
}

export const beliefOf = (pieces: readonly Piece[], of: CaseOf, record: ShopRecord): Belief => {
  const b = startBelief(of.graph, record);
  learn(
    b,
    pieces.map((p) => p.evidence),
  );
  return b;
};

/** What some facts moved most: a part, and how likely it would be at fault without them, and is with them. */
export type Moved = { node: string; without: number; with: number };
export type Group = { id: string; facts: readonly string[] };

const LEAST_MOVE = 0.01;

/** Of each group of facts what it moves, by leaving it out: independent of the order in which they came. */
export function movedBy(
  standing: readonly Standing[],
  groups: readonly Group[],
  of: CaseOf,
  record: ShopRecord,
): Map<string, Moved> {
  if (of.graph.nodes.length === 0) return new Map();
  const marginalOf = (left: readonly Standing[]) => beliefOf(evidenceOfCase(left, of), of, record).marginal;
  const now = marginalOf(standing);
  const out = new Map<string, Moved>();
  for (const { id, facts } of groups) {
    const mine = standing.filter((s) => facts.includes(s.fact.id));
    if (mine.every((s) => s.ended !== null)) continue;
    const before = marginalOf(standing.filter((s) => !mine.includes(s)));
    let most = 0;
    for (let i = 1; i < now.length; i++)
      if (Math.abs(now[i]! - before[i]!) > Math.abs(now[most]! - before[most]!)) most = i;
    if (Math.abs(now[most]! - before[most]!) >= LEAST_MOVE)
      out.set(id, { node: of.graph.nodes[most]!.id, without: before[most]!, with: now[most]! });
  }
  return out;
}
