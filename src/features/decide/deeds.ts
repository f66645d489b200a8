import "server-only";

import type { Knex } from "knex";

import type { DeedParsed } from "@/contract/deeds";
import type { Advice } from "@/core/decide/advise";
import type { Disposition, End } from "@/core/decide/ends";
import { firstTry } from "@/core/decide/walk";
import type { DecideInput } from "@/core/decide/build";
import type { Forecast, ForecastTry, KeptAdvice } from "@/core/decide/kept";
import { plannedWork } from "@/core/decide/plan";
import type { Route } from "@/core/decide/routes";
import { unitById } from "@/features/case/facts";
import { modelById } from "@/features/models/deeds";
import { loadSettings, settingsAhead } from "@/features/settings/settings";
import { Refused, nothing, stamp } from "@/platform/deed/base";
import { Stale, deed, namedUnit } from "@/platform/deed/declare";
import { decideInput, solve } from "./input";
import { adviceFor } from "./kept";

/** Decisions: what was advised, and what was chosen. */

const firstRoute = (advice: Advice, tree: Advice["tree"]): string | null => {
  const tried = firstTry(tree);
  return tried && advice.options[tried.attempt]!.route.id;
};

const keptOf = (advice: Advice): KeptAdvice => ({
  best: advice.best,
  value: Math.round(advice.value),
  first: firstRoute(advice, advice.tree),
  policy: advice.policy && {
    best: advice.policy.best,
    value: Math.round(advice.policy.value),
    first: firstRoute(advice, advice.policy.tree),
  },
  schools: advice.schools.map((s) => ({ school: s.school, value: Math.round(s.value) })),
});

/** At each faulty place what is done first, how likely it works, and what was likeliest behind it. */
const triesOf = (advice: Advice, input: DecideInput): ForecastTry[] =>
  [...plannedWork(advice).ladders].flatMap(([place, [first]]) => {
    if (!first || !advice.places.some((p) => p.place === place && !p.twin)) return [];
    const causes = [...(input.causes?.[place] ?? [])].sort((a, b) => b.probability - a.probability);
    const cause = causes[0]?.parts[0]?.kind ?? "elsewhere";
    return [{ place, route: advice.options[first.attempt]!.route.id, works: first.works, cause }];
  });

const forecastOf = (
  end: End | undefined,
  { sunk }: Pick<Advice, "sunk">,
  tries: ForecastTry[],
): Forecast | null => {
  if (!end || end.value === null) return null;
  const s = end.spread;
  return {
    value: Math.round(end.value),
    margin: Math.round(end.value - sunk),
    low: Math.round(s?.low ?? end.value - sunk),
    high: Math.round(s?.high ?? end.value - sunk),
    loss: s?.loss ?? Number(end.value - sunk < 0),
    minutes: Math.round(s?.minutes ?? 0),
    tries,
  };
};

const isGoing = (d: Disposition): boolean => d === "mend" || d === "hold";

/**
 * What a decision rests on, besides the shop's record of routes, which others' work changes all the while.
 */
const basisOf = (input: DecideInput): string => JSON.stringify({ ...input, record: null });

type Solved = { basis: string; advice: Advice; chosen: Advice };

/**
 * Solves a unit's decision before anything is locked: as advised, and for the route that was asked for
 * instead.
 */
async function solveDecision(
  { unitId, disposition, route }: DeedParsed<"decision.take">,
  db: Knex,
): Promise<Solved> {
  const unit = await unitById(db, unitId);
  const { settings } = await loadSettings(db);
  const input = await decideInput(db, { unit, profile: await modelById(db, unit.profile_id), settings });
  const { advice } = await adviceFor(unit.id, input);
  const solved = { basis: basisOf(input), advice, chosen: advice };
  if (advice.testFirst || !isGoing(disposition) || route === null || route === keptOf(advice).first)
    return solved;
  const about = advice.options.find((o) => o.route.id === route && !o.twin);
  if (!about) throw new Refused({ code: "route-unknown", route });
  const keep = (r: Route) =>
    r.id === route ||
    !advice.options.some((o) => o.route.id === r.id && o.places.some((p) => about.places.includes(p)));
  return { ...solved, chosen: await solve({ ...input, routes: input.routes.filter(keep) }) };
}

export const takeDecision = deed(
  "decision.take",
  { unit: namedUnit, seen: "unit", workable: true, prepare: solveDecision },
  async (
    { db, actor, note, unit, prepared: { basis, advice, chosen } },
    { unitId, disposition, route, why },
  ) => {
    const profile = await modelById(db, unit.profile_id);
    await settingsAhead(db, ["shop", "catalogue", "routes", `model:${profile.body.id}`]);
    const { settings } = await loadSettings(db);
    const input = await decideInput(db, { unit, profile, settings });
    if (basisOf(input) !== basis) throw new Stale();
    // nobody knows what there is to mend: the lazy way to a price stops here
    if (advice.testFirst && (isGoing(disposition) || disposition === "sell-limited"))
      throw new Refused({ code: "untested", count: input.untested.length });
    const kept = keptOf(advice);
    const agrees = (best: Disposition, first: string | null) =>
      best === disposition && (!isGoing(disposition) || route === null || route === first);
    const byRule = advice.policy !== null && agrees(kept.policy!.best, kept.policy!.first);
    if (!agrees(kept.best, kept.first) && !byRule && why === "") throw new Refused({ code: "needs-why" });
    const end = chosen.ends.find((e) => e.disposition === disposition);
    await db("decision").insert({
      unit_id: unitId,
      disposition,
      route: isGoing(disposition) ? (route ?? (byRule ? kept.policy!.first : kept.first)) : null,
      why,
      faults: JSON.stringify(input.faults.map((f) => f.number)),
      advised: JSON.stringify(kept),
      forecast: JSON.stringify(forecastOf(end, chosen, isGoing(disposition) ? triesOf(chosen, input) : [])),
      ...stamp(db, actor),
    });
    note("decided", unitId, { disposition, route, why, advised: kept.best });
    return nothing;
  },
);

/** The changes of this file, for the list of all (features/deeds.ts). */
export const deeds = [takeDecision] as const;
