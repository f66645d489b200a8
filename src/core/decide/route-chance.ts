import { chanceOf, type ChanceView, pooledCases, type Tally } from "../math/chances";
import type { NodeKind } from "../profile/wiring";
import type { DecideInput, LadderPlace, RouteTally } from "./asked";
import { type CausePart, treatedAs, type WholeCause } from "./causes";
import type { Family, Treated } from "./families";
import type { Route, School } from "./routes";

/** How often a route works: by how often it reaches what is wrong, and how well it is done there. */

/** The chance of a route at a place: how often it reaches what is wrong there, and works. */
export type RouteChance = ChanceView & { reach: number };

const tallyOf = (record: readonly RouteTally[], route: string, model: string) => {
  const mine = record.filter((t) => t.route === route);
  const sum = (rows: readonly RouteTally[], yes: "worked" | "cameBack", no: "failed" | "stayed"): Tally =>
    rows.reduce((s, t) => ({ yes: s.yes + t[yes], no: s.no + t[no] }), { yes: 0, no: 0 });
  const of = (yes: "worked" | "cameBack", no: "failed" | "stayed") => ({
    own: sum(
      mine.filter((t) => t.model === model),
      yes,
      no,
    ),
    others: sum(
      mine.filter((t) => t.model !== model),
      yes,
      no,
    ),
    most: pooledCases(mine.map((t) => ({ yes: t[yes], no: t[no] }))),
  });
  return { success: of("worked", "failed"), comeback: of("cameBack", "stayed") };
};

/** Chance that a unit comes back for what a route did, on this model. */
export const comebackChance = (
  input: Pick<DecideInput, "record"> & { profile: { id: string } },
  route: Route,
): ChanceView => {
  const { own, others, most } = tallyOf(input.record, route.id, input.profile.id).comeback;
  return chanceOf(route.comeback, own, others, most);
};

/** Intervals take a while and are asked for again at each place and cause: kept with the record that they follow from. */
const kept = new WeakMap<readonly RouteTally[], Map<string, ChanceView>>();

/** Chance that a route is done well on this model where a family is what is wrong. Null when it does not treat it. */
function doneWell(
  { record, profile }: Pick<DecideInput, "record" | "profile">,
  route: Route,
  family: Treated,
): ChanceView | null {
  const stated = route.treats.find((t) => t.family === family)?.success;
  if (!stated) return null;
  let views = kept.get(record);
  if (!views) kept.set(record, (views = new Map<string, ChanceView>()));
  const key = `${profile.id} ${route.id} ${stated.mean} ${stated.cases}`;
  let view = views.get(key);
  if (!view) {
    const tally = tallyOf(record, route.id, profile.id).success;
    views.set(key, (view = chanceOf(stated, tally.own, tally.others, tally.most)));
  }
  return view;
}

/** Schools that leave every part as it is: none of them mends what is torn, eaten or short of a piece. */
const LEAVES: readonly School[] = ["calibrate", "clean", "adjust"];
/** The same of one part behind a place. */
const doneAt = (
  input: Pick<DecideInput, "record" | "profile">,
  route: Route,
  part: CausePart,
  family: Family,
): ChanceView | null =>
  part.broken && LEAVES.includes(route.school) ? null : doneWell(input, route, treatedAs(part.kind, family));

/** Without a belief about its causes, a family is what its name says in so many of a hundred. A house guess. */
const USUAL_REACH = 0.92;
/** What works less often than this is not offered. */
const LEAST_CHANCE = 0.03;

/**
 * Chance of a route at a place: over all that may be behind it, how likely that is, and that every part of it is treated
 * well; null when it cannot act on any of it.
 */
export function routeChance(
  input: Pick<DecideInput, "record" | "profile" | "causes" | "usualReach">,
  route: Route,
  at: { place: string; family: Family; twin?: boolean },
): RouteChance | null {
  const causes = at.twin ? undefined : input.causes?.[at.place];
  if (!causes) {
    const reach = at.twin ? 1 : (input.usualReach ?? USUAL_REACH);
    const well = doneWell(input, route, at.family);
    return (
      well && { ...well, mean: well.mean * reach, low: well.low * reach, high: well.high * reach, reach }
    );
  }
  const sum = { mean: 0, low: 0, high: 0, reach: 0 };
  let main: { view: ChanceView; weight: number } | null = null;
  for (const c of causes) {
    const views = [
      ...c.parts.map((p) => doneAt(input, route, p, at.family)),
      ...(c.elsewhere ? [doneWell(input, route, "elsewhere")] : []),
    ];
    if (views.some((v) => v === null)) continue;
    const all = (of: "mean" | "low" | "high") => views.reduce((x, v) => x * v![of], c.probability);
    sum.reach += c.probability;
    sum.mean += all("mean");
    sum.low += all("low");
    sum.high += all("high");
    if (!main || c.probability > main.weight) main = { view: views[0]!, weight: c.probability };
  }
  return main && sum.mean >= LEAST_CHANCE ? { ...main.view, ...sum } : null;
}

/** Whether a route acts on parts of a kind at a place of a family. */
export const canTreat = (route: Route, kind: NodeKind, family: Family): boolean =>
  route.treats.some((t) => t.family === treatedAs(kind, family));

/**
 * Chance that a route works at some places under one whole explanation: that every part which is then behind any of them
 * is treated well. A part behind several places is treated once.
 */
export function worksUnder(
  input: Pick<DecideInput, "record" | "profile" | "causes">,
  route: Route,
  places: readonly LadderPlace[],
  whole: WholeCause,
): number {
  const treated = new Map<string, number>();
  for (const at of places) {
    const cause = input.causes?.[at.place]?.[whole.at[at.place]!];
    if (!cause) continue;
    for (const part of cause.parts)
      if (!treated.has(part.node)) treated.set(part.node, doneAt(input, route, part, at.family)?.mean ?? 0);
    if (cause.elsewhere) treated.set(`else ${at.place}`, doneWell(input, route, "elsewhere")?.mean ?? 0);
  }
  return [...treated.values()].reduce((x, y) => x * y, 1);
}

/** The parts that carry most of what a route can reach at a place: one act at them is one for every place behind. */
export function reachedAt(input: DecideInput, route: Route, at: LadderPlace): string | null {
  const causes = input.causes?.[at.place] ?? [];
  const mass = new Map<string, number>();
  let all = 0;
  for (const c of causes) {
    if (c.elsewhere || c.parts.some((p) => !doneAt(input, route, p, at.family))) continue;
    all += c.probability;
    for (const p of c.parts) mass.set(p.node, (mass.get(p.node) ?? 0) + c.probability);
  }
  const [most] = [...mass].sort((x, y) => y[1] - x[1]);
  return most && most[1] > all / 2 ? most[0] : null;
}
