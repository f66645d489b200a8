import { type Built, buildProblem } from "@/core/decide/build";
import { bestOf, endsOf } from "@/core/decide/ends";
import { routesSchema, type School } from "@/core/decide/routes";
import { keeping, solved } from "@/core/decide/solved";
import { graphOf } from "@/core/diagnosis/graph";
import { Case, type Done, type Known } from "./case";
import { beliefOf, Ideal, type Move, type Particle, seenSo, settled } from "./ideal";
import type { World } from "./truth";
import before from "./routes-before.json" with { type: "json" };
import type { FloorUnit } from "./units";

/** Those who mend the same units beside the advice: today's rules, one school, the cheapest first, who sees the truth, who knows the odds. */

/** What a player did: it went on, sold what is left with its faults said, or gave up. */
export type Step = "on" | "sell-limited" | "give-up";
const MOST_STEPS = 40;

/** Goes on until it ends: whatever passes its proof is sold, whatever does not is mended on. */
export function play(
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
export function byLadder(c: Case, whole: Built, kept: Built, looking?: (check: string) => void): Step {
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
