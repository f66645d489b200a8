import { beliefOf, evidenceOfCase } from "@/core/case/evidence";
import { type CaseOf, standingOf } from "@/core/case/standing-facts";
import { completeFacts } from "@/core/casefile/complete";
import type { CaseFact } from "@/core/casefile/format";
import { readAgainst } from "@/core/casefile/known";
import type { Built } from "@/core/decide/build";
import { knownOf } from "@/core/decide/causes";
import { HOUSE_ROUTES } from "@/core/decide/routes";
import { rankChecks, USUAL_ADVICE } from "@/core/diagnosis/advise";
import type { Belief } from "@/core/diagnosis/belief";
import { bestExplanation } from "@/core/diagnosis/explain";
import type { ModelProfile } from "@/core/profile/profile";
import type { Case, Done, Known } from "./case";
import { byLadder, play } from "./players";
import type { World } from "./truth";
import type { FloorUnit } from "./units";

/**
 * The advice as the stations give it: what the bench does becomes facts of a case, and the belief, the checks and the
 * next act follow from these by the core's own functions, anew after each act.
 */

export type Stated = { said: number; right: boolean };

/** Checks that are weighed beside the attempts, as the application does. */
const MOST_CHECKS = 8;
const BEGAN = Date.parse("2026-01-05T08:00:00Z");
const NO_RECORD: Parameters<typeof beliefOf>[2] = {};

const read = new Map<string, CaseOf>();
function readOf(profile: ModelProfile): CaseOf {
  let of = read.get(profile.id);
  if (!of) read.set(profile.id, (of = readAgainst(profile, null)));
  return of;
}

/** The case of one unit as it grows: tests of everything, checks, routes. */
class Told {
  private readonly facts: CaseFact[] = [];
  private acts = 0;
  readonly done = new Set<string>();
  isOpen = false;
  private readonly of: CaseOf;

  constructor(private readonly unit: FloorUnit) {
    this.of = readOf(unit.profile);
  }

  private next = (): string => new Date(BEGAN + ++this.acts * 60_000).toISOString();

  /** Everything as it is now: what fails, by its measure, and what works. */
  tested(failing: ReadonlyMap<string, string | null>): void {
    const at = this.next();
    const { controls } = this.unit.profile;
    for (const place of this.unit.wires.places) {
      const isControl = controls.some((x) => x.id === place);
      if (!failing.has(place))
        this.facts.push(
          isControl ? { kind: "works", at, place } : { kind: "function", at, place, outcome: "pass" },
        );
      else
        this.facts.push(
          isControl
            ? { kind: "measure", at, place, measure: failing.get(place) ?? "noAnswer", grade: "fail" }
            : { kind: "function", at, place, outcome: "fail" },
        );
    }
  }

  mended(route: string, places: readonly string[]): void {
    for (const place of places)
      this.facts.push({ kind: "mended", at: this.next(), route, places: [place], place });
  }

  checked(c: Case, id: string): void {
    const x = this.of.library.find((l) => l.id === id)!;
    const about = x.about.map((i) => this.of.graph.nodes[i]!.id);
    const bad = c.check(x.id, about, x.minutes, x.opens, USUAL_ADVICE.openMinutes);
    this.isOpen ||= x.opens;
    this.done.add(id);
    const outcome = x.outcomes[bad ? 0 : 1]!.code;
    this.facts.push({ kind: "tried", at: this.next(), act: id, places: about, retest: "none", outcome });
  }

  belief(): Belief {
    const { of } = this;
    const facts = completeFacts(this.facts, { of, profile: this.unit.profile, routes: HOUSE_ROUTES });
    return beliefOf(evidenceOfCase(standingOf(facts, of), of), of, NO_RECORD);
  }

  /** What may be behind what fails, and what could be looked at: no reference units, nothing that wants a test of its own. */
  known(places: readonly string[], belief: Belief): Known {
    const about = new Set(places.flatMap((p) => this.of.graph.restsOn.get(p) ?? []));
    const library = this.of.library.filter((x) => x.kind !== "test" && x.kind !== "compare" && x.skill < 3);
    const checks = rankChecks(belief, library, { ...USUAL_ADVICE, isOpen: this.isOpen, done: this.done })
      .map((p) => p.check)
      .filter((x) => x.about.some((i) => about.has(i)))
      .slice(0, MOST_CHECKS);
    return knownOf(belief, places, checks);
  }
}

/** What it stated before its first attempt is kept for its reliability. */
export const bothStations =
  (stated: Stated[]) =>
  (unit: FloorUnit, world: World): Done => {
    const told = new Told(unit);
    let belief: Belief | null = null;
    let isStated = false;
    const state = (): void => {
      isStated = true;
      const best = bestExplanation(belief!);
      const { index } = belief!.graph;
      const truth = unit.faults.map((f) => (index.has(f.node) ? f.node : `elsewhere ${f.node}`));
      const said = [...best.nodes, ...best.elsewhere.map((p) => `elsewhere ${p}`)];
      stated.push({
        said: best.probability,
        right: [...said].sort().join() === [...new Set(truth)].sort().join(),
      });
    };
    let tests = -1;
    const known = (c: Case): Known => {
      if (c.tests !== tests) told.tested(c.failing);
      tests = c.tests;
      belief = told.belief();
      return told.known([...c.failing.keys()], belief);
    };
    const next = (c: Case, built: Built) => {
      const before = c.tried.length;
      let looked = false;
      const step = byLadder(c, built, built, (id) => {
        looked = true;
        told.checked(c, id);
      });
      if (!isStated && !looked) state();
      const done = c.tried.slice(before);
      for (const route of new Set(done.map((t) => t.route))) {
        told.isOpen = true;
        told.mended(
          route,
          done.filter((t) => t.route === route).map((t) => t.place),
        );
      }
      return step;
    };
    return play(unit, world, next, known);
  };
