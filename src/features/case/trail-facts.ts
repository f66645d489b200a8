import "server-only";

import type { Knex } from "knex";

import type { Id } from "@/core/base/ids";
import { SEARCH } from "@/core/case/standing-facts";
import { type Fact, type FoundAt } from "@/core/case/facts";
import type { CaseOf } from "@/core/case/standing-facts";
import { halvingNext } from "@/core/diagnosis/halving";
import { OUTCOMES } from "@/core/diagnosis/priors";
import { rowsOf } from "@/platform/db/joined";
import { together } from "@/platform/deed/base";

/** What was written down on the way to the cause: what was seen, tried, found loose and searched for. */

export async function readTrail(db: Knex, unitId: Id<"unit">) {
  const by = (table: "observation" | "attempt" | "fragment" | "halving") =>
    db(`${table} as t`)
      .join("person as p", "p.id", "t.by")
      .where("t.unit_id", unitId)
      .orderBy(["t.at", "t.id"]);
  const [observations, attempts, fragments, halvings] = await together(
    db,
    () =>
      rowsOf(
        by("observation").where({ withdrawn: false }),
        { t: "observation", p: "person" },
        "t.*",
        "p.name as person",
      ),
    () => rowsOf(by("attempt"), { t: "attempt", p: "person" }, "t.*", "p.name as person"),
    () => rowsOf(by("fragment"), { t: "fragment", p: "person" }, "t.*", "p.name as person"),
    () => rowsOf(by("halving"), { t: "halving", p: "person" }, "t.*", "p.name as person"),
  );
  return { observations, attempts, fragments, halvings };
}
export type Trail = Awaited<ReturnType<typeof readTrail>>;

const FINDINGS: Record<string, { finding: FoundAt; severity: 0 | 1 | 2 | 3 }> = {
  sound: { finding: "sound", severity: 0 },
  "corrosion-slight": { finding: "corroded", severity: 1 },
  "corrosion-strong": { finding: "corroded", severity: 3 },
  "cracked-joint": { finding: "cracked", severity: 2 },
  "bridged-joint": { finding: "bridged", severity: 2 },
  residue: { finding: "residue", severity: 1 },
  "missing-tooth": { finding: "missing-tooth", severity: 2 },
  worn: { finding: "worn", severity: 2 },
  dirty: { finding: "dirty", severity: 1 },
  bent: { finding: "bent", severity: 2 },
  eaten: { finding: "eaten", severity: 3 },
  torn: { finding: "torn", severity: 3 },
  "loose-piece": { finding: "loose", severity: 2 },
};

const POINT_SAYS: Record<string, "pass" | "fail" | "doubtful"> = { right: "pass", off: "fail" };

function observationFact(o: Trail["observations"][number], library: CaseOf["library"]): Fact | null {
  const common = { id: `observation ${o.id}`, at: o.at.toISOString(), who: o.person };
  if (o.kind === "function") {
    const pattern = OUTCOMES.find((x) => x === o.outcome) ?? null;
    const outcome = pattern === "works" ? "pass" : "fail";
    return { ...common, kind: "function", place: o.target, outcome, pattern, hand: "seen", words: o.note };
  }
  if (o.kind === "place") {
    const found = FINDINGS[o.outcome];
    return found
      ? { ...common, kind: "observed", place: o.target, ...found, magnified: false, code: o.outcome }
      : null;
  }
  if (o.kind === "point")
    return {
      ...common,
      kind: "reading",
      reading: "point",
      place: o.target,
      side: null,
      verdict: POINT_SAYS[o.outcome] ?? "doubtful",
      values: o.value === null ? {} : { value: o.value },
    };
  const check = library.find((c) => c.id === o.target);
  return {
    ...common,
    kind: "tried",
    act: o.target,
    places: check ? [check.target] : [],
    retest: "none",
    number: null,
    outcome: o.outcome,
    undone: null,
    share: null,
  };
}

const RETESTS = { cured: "pass", better: "fail", same: "fail", worse: "fail" } as const;

export function trailFacts(trail: Trail, library: CaseOf["library"]): Fact[] {
  const observed = trail.observations.flatMap((o) => observationFact(o, library) ?? []);
  const tried = trail.attempts.map((t): Fact => ({
    id: `try ${t.number}`,
    at: t.at.toISOString(),
    who: t.person,
    kind: "tried",
    act: t.action,
    places: [t.suspect],
    retest: t.outcome === null ? "none" : RETESTS[t.outcome],
    number: t.number,
    outcome: t.outcome,
    undone: t.undone,
    share: null,
  }));
  const pieces = trail.fragments.map((f): Fact => ({
    id: `piece ${f.number}`,
    at: f.at.toISOString(),
    who: f.person,
    kind: "piece",
    number: f.number,
    material: f.what,
    fits: f.matched_to ?? (f.explained === "" ? "unknown" : "nothing"),
  }));
  const ends = trail.halvings.flatMap((h): Fact[] => {
    const now = halvingNext(
      h.items.map((x) => x.id),
      h.steps,
    );
    if (now.state !== "found" || h.steps.length === 0) return [];
    const item = h.items.find((x) => x.id === now.item);
    return [
      {
        id: `search ${h.id}`,
        at: (h.ended_at ?? h.at).toISOString(),
        who: h.person,
        kind: "tried",
        act: SEARCH,
        places: [item?.node ?? now.item],
        retest: "none",
        number: null,
        outcome: "found",
        undone: null,
        share: null,
      },
    ];
  });
  return [...observed, ...tried, ...pieces, ...ends];
}
