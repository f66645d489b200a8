import { type Act, actOfMend, actOfSpare } from "../case/ageing";
import { finerFinding } from "../case/evidence";
import { type Fact, inOrder } from "../case/facts";
import type { CaseOf } from "../case/standing-facts";
import type { Route } from "../decide/routes";
import type { Outcome } from "../diagnosis/priors";
import { patternOf } from "../diagnosis/symptoms";
import type { ModelProfile } from "../profile/profile";
import type { CaseFact } from "./format";

/**
 * Facts as a file may tell them, briefly, to facts as the case holds them: which pattern some measures make, which
 * parts a route acted on, what a retest means. What a file says itself is never changed.
 */

export type Around = { of: CaseOf; profile: ModelProfile; routes: readonly Route[] };
type Told<K extends CaseFact["kind"]> = Extract<CaseFact, { kind: K }>;

const SEVERE = 2;

export function completeFacts(facts: readonly CaseFact[], around: Around): Fact[] {
  return inOrder(facts.flatMap((f, i) => completed(f, i, facts, around)));
}

function completed(f: CaseFact, i: number, all: readonly CaseFact[], around: Around): Fact[] {
  const common = { id: f.id ?? `fact ${i + 1}`, who: f.who ?? null };
  switch (f.kind) {
    case "told":
      return [{ ...f, ...common }];
    case "mate":
      return [{ ...f, ...common, tag: f.tag ?? "", words: f.words ?? "" }];
    case "history":
      return [{ ...f, ...common, doubt: f.doubt ?? 0 }];
    case "intake":
      return [
        {
          ...f,
          ...common,
          rattle: f.rattle ?? "none",
          smell: f.smell ?? 0,
          grime: f.grime ?? 0,
          missing: f.missing ?? [],
          marks: f.marks ?? [],
        },
      ];
    case "measure":
      return [measured(f, common, all, around)];
    case "works":
      return [{ ...f, ...common, recording: f.recording ?? null, force: f.force ?? "normal" }];
    case "function":
      return [{ ...f, ...common, pattern: f.pattern ?? null, hand: f.hand ?? null, words: f.words ?? "" }];
    case "reading":
      return [{ ...f, ...common, side: f.side ?? null, values: f.values ?? {} }];
    case "observed": {
      const severity = f.severity ?? SEVERE;
      const code = f.code ?? finerFinding(f.finding, severity);
      return [{ ...f, ...common, severity, magnified: f.magnified ?? false, code }];
    }
    case "piece":
      return [{ ...f, ...common, number: f.number ?? i + 1, material: f.material ?? "" }];
    case "tried":
      return triedFacts(f, common, i, around);
    case "mended":
      return [mendedFact(f, common, around)];
    case "answered":
      return [{ ...f, ...common, priceMinor: f.priceMinor ?? null }];
    case "decided":
      return [{ ...f, ...common, why: f.why ?? "" }];
  }
}

type Common = { id: string; who: string | null };

/** The recording that a measure is of: as it is named, or all that was measured at the same moment. */
const recordingOf = (f: Told<"measure">): string => f.recording ?? `at ${f.at}`;

function measured(f: Told<"measure">, common: Common, all: readonly CaseFact[], { of }: Around): Fact {
  const kind = of.things.find((t) => t.id === f.place)?.kind ?? "button";
  const patternIn = (): Outcome | null => {
    if (f.grade !== "fail") return null;
    const beside = all.filter(
      (x): x is Told<"measure"> =>
        x.kind === "measure" &&
        x.place === f.place &&
        x.grade === "fail" &&
        recordingOf(x) === recordingOf(f),
    );
    return patternOf(kind, new Set(beside.map((x) => x.measure)), { centred: false, silent: false });
  };
  return {
    ...f,
    ...common,
    value: f.value ?? null,
    test: f.test ?? "first",
    recording: recordingOf(f),
    pattern: f.pattern === undefined ? patternIn() : f.pattern,
    force: f.force ?? "normal",
  };
}

/** Parts, controls and slots by their ids to the parts that a route or a spare acts on there. */
function actsAt(
  places: readonly string[],
  at: Date,
  route: Route | null,
  { of, profile }: Around,
): { parts: string[]; place: string | null; how: Act["how"] | null } {
  const { graph } = of;
  const acts = places.flatMap((p): Act[] => {
    const slot = profile.slots?.find((s) => s.id === p);
    if (slot) return [actOfSpare(graph, { at, kind: slot.kind, serves: slot.serves })];
    const thing = of.things.some((t) => t.id === p);
    return thing ? [actOfMend(graph, { at, place: p, route, slots: profile.slots }) ?? []].flat() : [];
  });
  const nodes = places.filter((p) => graph.index.has(p) && !of.things.some((t) => t.id === p));
  const parts = [...nodes, ...acts.flatMap((a) => [...a.parts].map((part) => graph.nodes[part]!.id))];
  const serves = profile.slots?.find((s) => places.includes(s.id))?.serves[0];
  const thing = places.find((p) => of.things.some((t) => t.id === p));
  return { parts: [...new Set(parts)], place: thing ?? serves ?? null, how: acts[0]?.how ?? null };
}

const HOW_BY_SCHOOL = { clean: "cleaned", rework: "resoldered", adjust: "reseated" } as const;
/** What a route does to a part where nothing else tells it. */
function howOf(route: Route | null): Extract<Fact, { kind: "mended" }>["how"] {
  if (!route) return "unknown";
  if (route.part) return "replaced";
  return route.school in HOW_BY_SCHOOL
    ? HOW_BY_SCHOOL[route.school as keyof typeof HOW_BY_SCHOOL]
    : "calibrated";
}

function mendedFact(f: Told<"mended">, common: Common, around: Around): Fact {
  const rest = {
    route: f.route ?? null,
    fitted: f.fitted ?? null,
    number: f.number ?? null,
    words: f.words ?? "",
  };
  if (f.how !== undefined) return { ...f, ...common, ...rest, how: f.how, place: f.place ?? null };
  const route = around.routes.find((r) => r.id === f.route) ?? null;
  const act = actsAt(f.places, new Date(f.at), route, around);
  const how = act.how ?? (f.fitted ? "replaced" : howOf(route));
  return { ...f, ...common, ...rest, how, places: act.parts, place: f.place ?? act.place };
}

const MEANS = { pass: "cured", fail: "same", none: null } as const;

/** A check or a way of treating a part stays one; a route that was tried is a mend, and its retest is a fact of its own. */
function triedFacts(f: Told<"tried">, common: Common, i: number, around: Around): Fact[] {
  const retest = f.retest ?? "none";
  const route = around.routes.find((r) => r.id === f.act);
  const isPart = f.places.length > 0 && f.places.every((p) => around.of.graph.index.has(p));
  if (!route || f.number !== undefined)
    return [
      {
        ...f,
        ...common,
        retest,
        number: f.number === undefined && isPart ? i + 1 : (f.number ?? null),
        outcome: f.outcome === undefined ? MEANS[retest] : f.outcome,
        undone: f.undone ?? null,
        share: f.share ?? null,
      },
    ];
  const mend = mendedFact(
    { kind: "mended", at: f.at, route: route.id, places: f.places },
    common,
    around,
  ) as Extract<Fact, { kind: "mended" }>;
  const tested = f.places.filter((p) => around.of.things.some((t) => t.id === p));
  const after = tested.map((place): Fact => {
    const own = { id: `${common.id} retest ${place}`, who: common.who, at: f.at, place };
    return retest === "pass"
      ? { ...own, kind: "works", recording: null, force: "normal" }
      : { ...own, kind: "function", outcome: "fail", pattern: null, hand: "named", words: "" };
  });
  return retest === "none" ? [mend] : [mend, ...after];
}
