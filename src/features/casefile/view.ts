import "server-only";

import type { Knex } from "knex";

import { withCredit } from "@/core/case/credit";
import { beliefOf, evidenceOfCase, movedBy } from "@/core/case/evidence";
import type { Fact } from "@/core/case/facts";
import { type CaseOf, type Ended, type Standing, standingOf } from "@/core/case/standing-facts";
import { startBelief } from "@/core/diagnosis/belief";
import { weightOfEvidence } from "@/core/diagnosis/explain";
import { dayOf } from "@/core/days/days";
import type { Station } from "@/core/record/standing";
import { caseOf, readCase } from "@/features/case/file";
import { factWords, passedWords, worksWords } from "@/features/find/words/facts";
import { shopRecord } from "@/features/case/causes";
import type { UnitView } from "@/features/units/view";

/** The case of a unit on the screen: one line of facts, what each moves, and what ended it. */

export type FactLine = {
  id: string;
  at: string;
  who: string | null;
  kind: Fact["kind"];
  words: string;
  station: Station;
  moved: { part: string; without: number; with: number } | null;
  ended: { how: Ended["how"]; at: string } | null;
  /** how many earlier facts it ended */
  ends: number;
  /** of what kind it is that bears on no part, where it does not */
  silent: "answered" | "decided" | "residue" | null;
  /** how many times likelier (or, below 1, less likely) it makes what was asked for */
  weight: number | null;
};
export type CaseView = {
  wired: boolean;
  lines: FactLine[];
  standing: number;
  ended: number;
  /** the figure that was asked for: a part with its odds, or a control or function */
  about: { id: string; name: string; probability: number | null; odds: number | null } | null;
};

const STATION_OF: Record<Fact["kind"], Station> = {
  told: "intake",
  history: "intake",
  mate: "intake",
  intake: "intake",
  measure: "test",
  works: "test",
  function: "test",
  reading: "test",
  observed: "find",
  piece: "find",
  tried: "find",
  mended: "mend",
  answered: "decide",
  decided: "decide",
};

/** What one test found good, and what one person answered as good in a day, is one line; other facts are their own. */
function lineIdOf({ fact, ended }: Standing, zone: string): string {
  if (fact.kind === "works") return `works ${fact.recording} ${ended?.by ?? ""}`;
  if (fact.kind === "function" && fact.outcome === "pass" && fact.hand === null)
    return `pass ${dayOf(new Date(fact.at), zone)} ${fact.who} ${ended ? ended.how + ended.at : ""}`;
  return fact.id;
}
type Line = { id: string; facts: Standing[] };
function linesOf(standing: readonly Standing[], zone: string): Line[] {
  const lines: Line[] = [];
  for (const s of standing) {
    const id = lineIdOf(s, zone);
    const line = lines.find((l) => l.id === id);
    if (line) line.facts.push(s);
    else lines.push({ id, facts: [s] });
  }
  return lines;
}

const silentAs = (f: Fact): FactLine["silent"] => {
  if (f.kind === "observed") return f.finding === "residue" ? "residue" : null;
  return f.kind === "answered" || f.kind === "decided" ? f.kind : null;
};

/** Whether a fact is about a control or function, or about a part that it rests on. */
function isAbout(f: Fact, place: string, of: CaseOf): boolean {
  const rests = new Set((of.graph.restsOn.get(place) ?? []).map((i) => of.graph.nodes[i]!.id));
  if ("places" in f && f.places.some((p) => p === place || rests.has(p))) return true;
  if (f.kind === "piece") return rests.has(f.fits);
  return (
    "place" in f && f.place !== null && (f.place === place || (f.kind === "observed" && rests.has(f.place)))
  );
}

/**
 * Every fact of the unit, the newest first.
 * @param about a part, a control or a function whose figure was asked for: only what speaks of it
 */
export async function caseView(db: Knex, view: UnitView, about: string | null): Promise<CaseView> {
  const { unit, profile } = view;
  const of = await caseOf(db, profile, unit.revision);
  const [{ facts }, record] = await Promise.all([
    readCase(db, { ...unit, receivedAt: new Date(unit.receivedAt) }, profile, of),
    shopRecord(db, of.model),
  ]);
  const standing = standingOf(withCredit(facts, of, record), of);
  const names = new Map([
    ...[...profile.controls, ...profile.functions].map((x) => [x.id, "name" in x ? x.name : x.id] as const),
    ...of.things.map((t) => [t.id, t.name] as const),
    ...of.graph.nodes.map((n) => [n.id, n.name] as const),
    ...(profile.wiring?.points ?? []).map((p) => [p.id, p.name] as const),
  ]);
  const nameOf = (id: string) => names.get(id) ?? id.replaceAll(".", " ");
  const things = new Set(of.things.map((t) => t.id));
  const lines = linesOf(standing, view.settings.timeZone);
  const groups = lines.map((l) => ({ id: l.id, facts: l.facts.map((s) => s.fact.id) }));
  const moved = movedBy(standing, groups, of, record);
  const part = about === null ? undefined : of.graph.index.get(about);
  const weights = part !== undefined ? weightsOn(standing, lines, of, part, record) : null;
  const shown = lines.filter((l) => {
    if (about === null) return true;
    if (weights) return weights.has(l.id);
    return l.facts.some((s) => isAbout(s.fact, about, of));
  });
  const belief = part !== undefined ? beliefOf(evidenceOfCase(standing, of), of, record) : null;
  return {
    wired: profile.wiring !== undefined,
    lines: shown.reverse().map((l): FactLine => {
      const { fact, ended } = l.facts[0]!;
      const m = moved.get(l.id);
      return {
        id: l.id,
        at: fact.at,
        who: fact.who,
        kind: fact.kind,
        words: lineWords(l, nameOf, things),
        station: STATION_OF[fact.kind],
        moved: m ? { part: nameOf(m.node), without: m.without, with: m.with } : null,
        ended: ended && { how: ended.how, at: ended.at },
        ends: standing.filter((s) => s.ended && l.facts.some((f) => f.fact.id === s.ended?.by)).length,
        silent: silentAs(fact),
        weight: weights?.get(l.id) ?? null,
      };
    }),
    standing: standing.filter((s) => s.ended === null).length,
    ended: standing.filter((s) => s.ended !== null).length,
    about:
      about === null
        ? null
        : {
            id: about,
            name: nameOf(about),
            probability: belief && part !== undefined ? belief.marginal[part]! : null,
            odds: part !== undefined ? startBelief(of.graph, record).marginal[part]! : null,
          },
  };
}

function lineWords({ facts }: Line, nameOf: (id: string) => string, things: ReadonlySet<string>): string {
  const { fact } = facts[0]!;
  const places = facts.flatMap((s) => ("place" in s.fact && s.fact.place !== null ? [s.fact.place] : []));
  if (fact.kind === "works") return worksWords(places, nameOf);
  return facts.length > 1 ? passedWords(places, nameOf) : factWords(fact, nameOf, things);
}

const LEAST_WEIGHT = 0.2; // as for the reasons under Find
/** How many times likelier each line makes a part, where it makes a difference. */
function weightsOn(
  standing: readonly Standing[],
  lines: readonly Line[],
  of: CaseOf,
  part: number,
  record: Awaited<ReturnType<typeof shopRecord>>,
): Map<string, number> {
  const pieces = evidenceOfCase(standing, of);
  const b = startBelief(of.graph, record);
  const [weights] = weightOfEvidence(
    b,
    pieces.map((p) => p.evidence),
    [part],
  );
  const out = new Map<string, number>();
  pieces.forEach((p, k) => {
    const line = lines.find((l) => l.facts.some((s) => p.facts?.includes(s.fact.id)));
    if (line) out.set(line.id, (out.get(line.id) ?? 0) + weights![k]!);
  });
  return new Map([...out].filter(([, w]) => Math.abs(w) > LEAST_WEIGHT).map(([id, w]) => [id, Math.exp(w)]));
}
