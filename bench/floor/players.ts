import { type Built, buildProblem } from "@/core/decide/build";
import { bestOf, endsOf } from "@/core/decide/ends";
import { knownOf, treatedAs } from "@/core/decide/causes";
import { HOUSE_ROUTES, routesSchema, type School } from "@/core/decide/routes";
import { keeping, solved } from "@/core/decide/solved";
import { rankChecks, USUAL_ADVICE } from "@/core/diagnosis/advise";
import { type Belief, type Evidence, learn, startBelief } from "@/core/diagnosis/belief";
import { bestExplanation } from "@/core/diagnosis/explain";
import { checkLibrary, evidenceOf } from "@/core/diagnosis/checks";
import { type Graph, graphOf } from "@/core/diagnosis/graph";
import type { Outcome } from "@/core/diagnosis/priors";
import { Case, type Done, type Known } from "./case";
import { beliefOf, Ideal, type Move, type Particle, seenSo, settled } from "./ideal";
import type { World } from "./truth";
import before from "./routes-before.json" with { type: "json" };
import type { FloorUnit } from "./units";

/** Those who mend the same units: today's rules, one school, the cheapest first, who sees the truth, who knows the odds. */

/** What a player did: it went on, sold what is left with its faults said, or gave up. */
type Step = "on" | "sell-limited" | "give-up";
const MOST_STEPS = 40;

/** Goes on until it ends: whatever passes its proof is sold, whatever does not is mended on. */
function play(
  unit: FloorUnit,
  world: World,
  next: (c: Case, built: Built) => Step,
  known: (c: Case) => Known = () => ({}),
): Done {
  const c = new Case(unit, world);
  for (let n = 0; n < MOST_STEPS; n++) {
    if (c.broken) return c.giveUp();
    if (c.failing.size === 0) {
      if (c.proves()) return c.sell(true);
      continue;
    }
    const built = buildProblem(c.input(known(c)));
    const step = next(c, built);
    if (step === "give-up") return c.giveUp();
    if (step === "sell-limited") return c.sell(false);
  }
  return c.giveUp();
}

/** What the ladder says of some of the options. */
function byLadder(c: Case, whole: Built, kept: Built, looking?: (check: string) => void): Step {
  const input = c.input();
  const { built, ladder } = solved(kept);
  const best = bestOf(endsOf(input, built, ladder, 0));
  const { root } = ladder;
  if (best === "sell-limited") return "sell-limited";
  if (best !== "mend" && best !== "hold") return "give-up";
  if (root.do === "sell") return "sell-limited";
  if (root.do === "check") {
    looking?.(built.problem.checks![root.check]!.id);
    return "on";
  }
  if (root.do !== "try") return "give-up";
  const { id } = built.problem.attempts[root.attempt]!;
  c.attempt(
    whole,
    whole.problem.attempts.findIndex((a) => a.id === id),
  );
  return "on";
}

/** The catalogue and the rules as they were before causes had names: a fault's place and measure, and nothing else. */
const BEFORE: Known = {
  routes: routesSchema.parse(before.routes),
  usualReach: 1,
};
export const today = (unit: FloorUnit, world: World): Done =>
  play(
    unit,
    world,
    (c, built) => byLadder(c, built, built),
    () => BEFORE,
  );

/** Every route that could act on anything behind a place: for those who choose by knowing better. */
function anything(unit: FloorUnit): (c: Case) => Known {
  const graph = graphOf(unit.profile.wiring!, null);
  return (c) => ({
    causes: Object.fromEntries(
      [...c.failing.keys()].map((place) => {
        const behind = graph.restsOn.get(place) ?? [];
        const probability = 1 / (behind.length + 1);
        return [
          place,
          [
            ...behind.map((i) => ({
              parts: [{ node: graph.nodes[i]!.id, kind: graph.kinds[i]!, name: "" }],
              elsewhere: false,
              probability,
            })),
            { parts: [], elsewhere: true, probability },
          ],
        ];
      }),
    ),
  });
}

export const school =
  (which: School) =>
  (unit: FloorUnit, world: World): Done =>
    play(unit, world, (c, built) =>
      byLadder(
        c,
        built,
        keeping(built, new Set(built.options.flatMap((o, i) => (o.route.school === which ? [i] : [])))),
      ),
    );

export const cheapest = (unit: FloorUnit, world: World): Done =>
  play(unit, world, (c, built) => {
    const p = built.problem;
    const option = built.options
      .map((o, i) => ({
        i,
        cost: p.attempts[i]!.cost,
        helps: o.places.some((x) => c.failing.has(x)) && !o.twin,
      }))
      .filter((x) => x.helps)
      .sort((a, b) => a.cost - b.cost)[0];
    // nobody goes on beyond what the unit can still bring
    if (!option || option.cost >= p.price[0] - p.giveUp[p.openedTo]!) return "give-up";
    c.attempt(built, option.i);
    return "on";
  });

export type Stated = { said: number; right: boolean };

const OUTCOME: Record<string, Outcome> = {
  noAnswer: "dead",
  deadHalves: "dead-half",
  jumps: "jumps",
  largestStep: "jumps",
  backtrack: "jumps",
  restSpikes: "noise",
  restNoise: "noise",
  restOffset: "offset",
  restValue: "offset",
  stuckReleases: "scatter",
  safeDeadZone: "scatter",
  reachMin: "short-reach",
  fullPull: "short-reach",
  decision: "misses",
  chatter: "misses",
  "rim.decision": "rim-misses",
};

const seenNow = (c: Case, graph: Graph): Evidence[] =>
  [...graph.restsOn.keys()].map((id) => {
    const measure = c.failing.get(id);
    const outcome = c.failing.has(id) ? (OUTCOME[measure ?? "noAnswer"] ?? "dead") : "works";
    return { kind: "function" as const, id, outcome };
  });

/** A treatment that left a place failing: hardly any fault lies in what it reached. */
const IN_VAIN = { ifFaulty: 0.12, ifSound: 1 };

/** Checks that are weighed beside the attempts, as the application does. */
const MOST_CHECKS = 8;

/**
 * The stations as they stand: the one policy over checks, attempts and endings, from what Find holds, anew after each act.
 * What it stated before its first attempt is kept for its reliability.
 */
export const bothStations =
  (stated: Stated[]) =>
  (unit: FloorUnit, world: World): Done => {
    const wiring = unit.profile.wiring!;
    const graph = graphOf(wiring, null);
    const library = checkLibrary(graph, wiring, { references: false }).filter((x) => x.kind !== "test");
    const found: Evidence[] = [];
    const done = new Set<string>();
    let isOpen = false;
    let isStated = false;
    const beliefNow = (c: Case): Belief => {
      const b = startBelief(graph);
      learn(b, [...seenNow(c, graph), ...found]);
      return b;
    };
    const state = (b: Belief): void => {
      isStated = true;
      const best = bestExplanation(b);
      const truth = unit.faults.map((f) => (graph.index.has(f.node) ? f.node : `elsewhere ${f.node}`));
      const said = [...best.nodes, ...best.elsewhere.map((p) => `elsewhere ${p}`)];
      stated.push({
        said: best.probability,
        right: [...said].sort().join() === [...new Set(truth)].sort().join(),
      });
    };
    const known = (c: Case): Known => {
      const b = beliefNow(c);
      const places = [...c.failing.keys()];
      const about = new Set(places.flatMap((p) => graph.restsOn.get(p) ?? []));
      const checks = rankChecks(b, library, { ...USUAL_ADVICE, isOpen, done })
        .map((p) => p.check)
        .filter((x) => x.skill < 3 && x.about.some((i) => about.has(i)))
        .slice(0, MOST_CHECKS);
      return knownOf(b, places, checks);
    };
    const check = (c: Case, id: string): void => {
      const x = library.find((l) => l.id === id)!;
      const about = x.about.map((i) => graph.nodes[i]!.id);
      const bad = c.check(x.id, about, x.minutes, x.opens, USUAL_ADVICE.openMinutes);
      isOpen ||= x.opens;
      done.add(id);
      found.push(evidenceOf(x, x.outcomes[bad ? 0 : 1]!.code));
    };
    return play(
      unit,
      world,
      (c, built) => {
        const before = c.tried.length;
        let looked = false;
        const stating = isStated ? null : beliefNow(c);
        const step = byLadder(c, built, built, (id) => {
          looked = true;
          check(c, id);
        });
        if (stating && !looked) state(stating);
        for (const t of c.tried.slice(before)) {
          const at = built.places.find((p) => p.place === t.place)!;
          const route = HOUSE_ROUTES.find((r) => r.id === t.route)!;
          const about = (graph.restsOn.get(t.place) ?? []).filter((i) =>
            route.treats.some((x) => x.family === treatedAs(graph.kinds[i]!, at.family)),
          );
          if (c.failing.has(t.place) && about.length > 0)
            found.push({ kind: "check", about, ...IN_VAIN, leaning: true });
        }
        return step;
      },
      known,
    );
  };

const MOST_LOOKS = 3;

/** The parts that are most likely at fault: what a look may settle. */
function worthLooking(belief: readonly Particle[]): string[] {
  const mass = new Map<string, number>();
  for (const p of belief)
    for (const f of p.faults)
      if (f.defect !== "outside") mass.set(f.node, (mass.get(f.node) ?? 0) + p.weight);
  return [...mass]
    .filter(([, m]) => m > 0.05 && m < 0.95)
    .sort((a, b) => b[1] - a[1])
    .slice(0, MOST_LOOKS)
    .map(([node]) => node);
}

/** Plays with a belief; with the truth alone it is the one who sees it, and looks at nothing. */
function ideally(unit: FloorUnit, world: World, begin: (c: Case) => Particle[], looks: boolean): Done {
  let belief: Particle[] = [];
  const looked = new Set<string>();
  return play(
    unit,
    world,
    (c, built) => {
      const failing = [...c.failing.keys()].sort();
      if (belief.length === 0) belief = begin(c);
      const nodes = looks ? worthLooking(belief).filter((n) => !looked.has(n)) : [];
      const ideal = new Ideal(unit, world, built, nodes);
      const move: Move = ideal.best(belief, failing);
      if (move.do === "look") {
        looked.add(move.node);
        const { depths } = built.problem;
        const bad = c.look(move.node, depths[Math.min(1, depths.length - 1)]!.minutes);
        belief = settled(seenSo(belief, move.node, bad));
        return "on";
      }
      if (move.do === "sell-limited") return "sell-limited";
      if (move.do !== "try") return "give-up";
      const outcomes = ideal.after(belief, move.option, failing);
      c.attempt(built, move.option);
      const now = [...c.failing.keys()].sort().join(" ");
      belief = outcomes.find((o) => o.failing === now)?.belief ?? [];
      return "on";
    },
    anything(unit),
  );
}

export const knowsTheOdds = (unit: FloorUnit, world: World): Done =>
  ideally(unit, world, (c) => beliefOf(unit, world, c.failing), true);

export const seesTheTruth = (unit: FloorUnit, world: World): Done =>
  ideally(unit, world, () => [{ faults: unit.faults, gone: 0, weight: 1 }], false);
