import type { Graph } from "../diagnosis/graph";
import { BREAKS_SEEN, type SeenBroken } from "../prove/seen-broken";
import { type CaseOf, checkOf, type Standing } from "./standing-facts";

/** What somebody saw broken inside and nothing done since has ended: it stands, whatever the tests say. */

const isBreak = (finding: string): finding is SeenBroken["finding"] =>
  (BREAKS_SEEN as readonly string[]).includes(finding);
const SEEN_PLAINLY = 2;

/** The parts that were last seen broken, each once, in the order in which they were first seen. */
export function seenBroken(standing: readonly Standing[], of: CaseOf): SeenBroken[] {
  const last = new Map<string, SeenBroken["finding"] | null>();
  for (const { fact, ended } of standing) {
    if (ended) continue;
    if (fact.kind === "observed" && of.graph.index.has(fact.place)) {
      const { finding, severity } = fact;
      last.set(fact.place, isBreak(finding) && severity >= SEEN_PLAINLY ? finding : null);
    } else if (fact.kind === "tried" && checkOf(fact, of)?.kind === "look") {
      const [place = ""] = fact.places;
      if (fact.outcome === "damaged") last.set(place, last.get(place) ?? "damaged");
      if (fact.outcome === "sound") last.set(place, null);
    }
  }
  return [...last].flatMap(([part, finding]) =>
    finding === null ? [] : [{ part, name: nameIn(of.graph, part), finding }],
  );
}

const nameIn = (graph: Graph, part: string): string => graph.nodes.find((n) => n.id === part)?.name ?? part;
