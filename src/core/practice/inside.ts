import { canTreat } from "../decide/route-chance";
import { treatedAs } from "../decide/causes";
import { familyOf } from "../decide/families";
import type { Route } from "../decide/routes";
import { type Check, outcomeCodes } from "../diagnosis/checks";
import type { Graph } from "../diagnosis/graph";
import { KIND_ODDS, showsAs } from "../diagnosis/priors";
import { patternOf } from "../diagnosis/symptoms";
import type { ModelProfile } from "../profile/profile";

/** The inside of a practice unit: which part is really broken, what a look at it shows, and what a mend does. */

/**
 * Draws the part behind a failing control, by how usual it is and how it shows itself; only parts that serve nothing else,
 * since the simulated controller fails at that control alone. Null where there is none.
 * @param draw from 0 to below 1
 */
export function partBehind(
  graph: Graph,
  { place, measure, kind }: { place: string; measure: string; kind: string },
  draw: number,
): string | null {
  const shared = new Map<number, number>();
  for (const parts of graph.restsOn.values()) for (const i of parts) shared.set(i, (shared.get(i) ?? 0) + 1);
  const shown = patternOf(kind, new Set([measure]), { centred: false, silent: false });
  const own = (graph.restsOn.get(place) ?? []).filter((i) => shared.get(i) === 1);
  const weights = own.map((i) => KIND_ODDS[graph.kinds[i]!] * showsAs(graph.kinds[i]!, shown));
  let left = draw * weights.reduce((sum, w) => sum + w, 0);
  const at = weights.findIndex((w) => (left -= w) < 0);
  return at < 0 ? null : graph.nodes[own[at]!]!.id;
}

/**
 * What a check shows while these parts are broken: by the check's own odds, so that a look may miss what is there.
 * @param draw from 0 to below 1, the same for the same question
 */
export function checkShows(
  check: Pick<Check, "kind" | "about" | "outcomes">,
  graph: Pick<Graph, "index">,
  broken: readonly string[],
  draw: number,
): string {
  const parts = broken.flatMap((id) => graph.index.get(id) ?? []);
  const [first, other] = outcomeCodes(check as Check);
  const { ifFaulty, ifSound } = check.outcomes[0]!;
  const isAt = parts.some((i) => check.about.includes(i));
  // a test answers how the control is, and not what a part is like
  if (check.kind === "test") return isAt ? other : first;
  return draw < (isAt ? ifFaulty : ifSound) ? first : other;
}

/**
 * Whether a mend takes a hidden fault away: it was made there, acts on the part that is broken, and is done well.
 * @param draw from 0 to below 1, the same for the same mend
 */
export function mendCures(
  profile: ModelProfile,
  graph: Graph | null,
  hidden: { place: string; measure: string; part?: string | undefined },
  mend: { route: Route; place: string },
  draw: number,
): boolean {
  const family = familyOf(profile, hidden.place, hidden.measure);
  if (mend.place !== hidden.place || family === null) return false;
  const at = hidden.part === undefined ? undefined : graph?.index.get(hidden.part);
  const kind = at === undefined ? null : graph!.kinds[at]!;
  if (kind !== null && !canTreat(mend.route, kind, family)) return false;
  const treated = kind === null ? family : treatedAs(kind, family);
  const odds = mend.route.treats.find((t) => t.family === treated)?.success.mean;
  return odds !== undefined && draw < odds;
}
