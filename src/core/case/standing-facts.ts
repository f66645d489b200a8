import type { Check } from "../diagnosis/checks";
import type { Graph } from "../diagnosis/graph";
import { measuredParts, type TakenAt } from "../diagnosis/readings";
import { TRY_ACTIONS, type TryAction } from "../diagnosis/tries";
import type { ReadingKind } from "../bench/readings";
import { type Complaint, type Lexicon, readClaim } from "../claim/lexicon";
import { type Act, actOfTry, endedBy, MEASURED } from "./ageing";
import { type Fact, type FactOf, inOrder, READ_AS } from "./facts";
import { TREATMENTS, type Treatment } from "./treatments";

/** Which facts of a case still speak of the unit as it is now, and what ended the others. */

export type CaseOf = {
  /** the model's id: the shop's record is its own and others' */
  model: string;
  graph: Graph;
  library: readonly Check[];
  /** controls and functions, with what people call them */
  things: readonly { id: string; kind: string; name: string }[];
  /** functions that tell of the power itself */
  power: readonly string[];
  lexicon: Lexicon;
};

/** What ended a fact: something done since (`by` it), a later answer to the same question, or its own settling. */
export type Ended = { by: string; how: Treatment | "worked-on" | "answered-again" | "settled"; at: string };
export type Standing = { fact: Fact; ended: Ended | null };

/** Something done, with where it was done so far as that is a control or function. */
type Done = Act & {
  id: string;
  place: string | null;
  everywhere: boolean;
  changes: boolean;
  /** a try: what failed before it is old news once it cured and the place was tested after it, and not before */
  tried: "in-vain" | "cured" | null;
};

const isTreatment = (how: string): how is Treatment => (TREATMENTS as readonly string[]).includes(how);
const isTry = (act: string): act is TryAction => (TRY_ACTIONS as readonly string[]).includes(act);

function doneBy(fact: Fact, graph: Graph): Done[] {
  const at = new Date(fact.at);
  if (fact.kind === "tried") {
    const [suspect = ""] = fact.places;
    const act =
      isTry(fact.act) && fact.undone === null ? actOfTry(graph, { at, suspect, action: fact.act }) : null;
    return act
      ? [
          {
            ...act,
            id: fact.id,
            place: null,
            everywhere: false,
            changes: true,
            tried: fact.outcome === "cured" ? "cured" : "in-vain",
          },
        ]
      : [];
  }
  if (fact.kind !== "mended" || fact.how === "opened") return [];
  const parts = new Set(fact.places.flatMap((p) => graph.index.get(p) ?? []));
  const how = isTreatment(fact.how) ? fact.how : "reseated";
  const everywhere = fact.place === null && parts.size === 0;
  return [
    {
      at,
      parts,
      how,
      id: fact.id,
      place: fact.place,
      everywhere,
      changes: isTreatment(fact.how),
      tried: null,
    },
  ];
}

/** The bench's own name of a reading in a case; a point is none of them. */
export const readingKindOf = (f: FactOf<"reading">): ReadingKind | null =>
  (Object.keys(READ_AS) as ReadingKind[]).find((k) => READ_AS[k] === f.reading) ?? null;

export const takenOf = (
  f: FactOf<"reading">,
  of: CaseOf,
): (TakenAt & { verdict: typeof f.verdict }) | null => {
  const kind = readingKindOf(f);
  if (kind === null) return null;
  const triggers = kind === "trigger-drag" ? of.things.filter((t) => t.kind === "trigger") : [];
  const at = of.things.filter((t) => t.id === f.place);
  const places = (triggers.length > 0 ? triggers : at).map((t) => t.id);
  return { kind, places, side: f.side, verdict: f.verdict };
};

/** The check of the library that somebody did, if it was one. */
export const checkOf = (f: FactOf<"tried">, of: CaseOf): Check | null =>
  of.library.find((c) => c.id === f.act) ?? null;

/** The parts that a fact is about by itself, and how it was found out; null for what was seen of a whole path. */
function aboutOf(f: Fact, of: CaseOf): { parts: readonly number[]; finding: string } | null {
  const { graph } = of;
  const part = (id: string) => graph.index.get(id) ?? [];
  if (f.kind === "observed") return { parts: [part(f.place)].flat(), finding: f.code };
  if (f.kind === "piece") return { parts: [part(f.fits)].flat(), finding: MEASURED };
  if (f.kind === "reading") {
    if (f.reading === "point") return { parts: graph.showsAt.get(f.place) ?? [], finding: MEASURED };
    const taken = takenOf(f, of);
    return { parts: taken ? measuredParts(graph, taken) : [], finding: MEASURED };
  }
  if (f.kind !== "tried") return null;
  const check = checkOf(f, of);
  return { parts: check?.about ?? f.places.flatMap(part), finding: MEASURED };
}

/**
 * Whether a control or function rests on some of these parts so that a change of them changes what it does. A cell
 * carries everything: a new one changes only what tells of the power.
 */
export const restsOnAny = (of: CaseOf, place: string, parts: ReadonlySet<number>): boolean =>
  (of.graph.restsOn.get(place) ?? []).some(
    (i) => parts.has(i) && (of.graph.kinds[i] !== "cell" || of.power.includes(place)),
  );

/** The parts of the wiring among some places. */
export const partsAt = (of: CaseOf, places: readonly string[]): Set<number> =>
  new Set(places.flatMap((p) => of.graph.index.get(p) ?? []));

/** Whether what was done ends what was seen of a control or function: it was done there, or at a part behind it. */
function endsPlace(done: Done, place: string, ordered: readonly Fact[], of: CaseOf): boolean {
  if (done.tried === "in-vain" || (done.tried === "cured" && !testedAfter(done, place, ordered)))
    return false;
  return done.everywhere || done.place === place || restsOnAny(of, place, done.parts);
}

const testedAfter = (done: Done, place: string, facts: readonly Fact[]): boolean =>
  facts.some(
    (f) =>
      ((f.kind === "measure" && f.grade !== "untested") || f.kind === "works" || f.kind === "function") &&
      f.place === place &&
      new Date(f.at) > done.at,
  );

/** What the words of somebody complain of. */
export const complaintsOf = (f: FactOf<"told">, of: CaseOf): Complaint[] =>
  readClaim(f.words, of.things, of.lexicon);

const placesOf = (f: Fact, of: CaseOf): string[] => {
  if (f.kind === "measure" || f.kind === "works" || f.kind === "function") return [f.place];
  return f.kind === "told" ? complaintsOf(f, of).flatMap((c) => c.places) : [];
};

/** The act of a search by halves that has come to its end. */
export const SEARCH = "search";

/** Of the answers of a function only the latest counts, of a check and of a reading at one place too. */
const questionOf = (f: Fact): string | null => {
  if (f.kind === "function" && f.hand === null) return `function ${f.place}`;
  // a check that is done again answers the same question: two answers are not twice as sure
  if (f.kind === "tried" && f.number === null && f.outcome !== null && f.act !== SEARCH)
    return `check ${f.act}`;
  return f.kind === "reading" ? `${f.reading} ${f.place} ${f.side}` : null;
};

/** Every fact in its order, with what ended it. */
export function standingOf(facts: readonly Fact[], of: CaseOf): Standing[] {
  const ordered = inOrder(facts);
  const done = ordered.flatMap((f) => doneBy(f, of.graph));
  const treated = done.filter((d) => d.changes);
  const named = (d: Done): Ended => ({
    by: d.id,
    how: d.changes ? d.how : "worked-on",
    at: d.at.toISOString(),
  });
  return ordered.map((fact, i): Standing => {
    if (fact.settled) return { fact, ended: { by: fact.id, how: "settled", at: fact.settled } };
    const question = questionOf(fact);
    const again = question && ordered.slice(i + 1).find((f) => questionOf(f) === question);
    if (again) return { fact, ended: { by: again.id, how: "answered-again", at: again.at } };
    const at = new Date(fact.at);
    const about = aboutOf(fact, of);
    if (about) {
      const act = endedBy(
        { at, ...about },
        treated.filter((d) => d.id !== fact.id),
      );
      return { fact, ended: act ? named(act as Done) : null };
    }
    const places = placesOf(fact, of);
    const ends = places.map((p) => done.find((d) => d.at > at && endsPlace(d, p, ordered, of)));
    const last = ends.at(-1);
    return { fact, ended: last && ends.every(Boolean) ? named(last) : null };
  });
}

/** Whether what was said of one place of several is over, though the rest of it stands. */
export function isOver(standing: readonly Standing[], fact: Fact, place: string, of: CaseOf): boolean {
  const facts = standing.map((s) => s.fact);
  return facts
    .flatMap((f) => doneBy(f, of.graph))
    .some((d) => d.at > new Date(fact.at) && endsPlace(d, place, facts, of));
}
