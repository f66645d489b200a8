import type { ElectricalNeed, MechanicalNeed, Slot } from "../profile/slots";
import {
  type Catalogue,
  type FitRule,
  type Part,
  partOf,
  type Substitute,
  type Traits,
  type Use,
  PART_USES,
} from "./catalogue";

/**
 * Fit is two-sided (the slot asks, the part has) and one-way (that a part of B goes into A says nothing of
 * A's in B); mechanical and electrical are judged apart. What is found out and written as a rule goes before
 * what traits say.
 */

export type FitVerdict = "fits" | "no" | "not-known";
export type FitWhy =
  | { code: "kind"; wanted: string; has: string }
  | { code: "no-fit-data" }
  | { code: "trait"; trait: keyof Traits; wanted: string; has: string | null }
  /** a length: from and to that the slot takes, and what the part is, in mm */
  | { code: "length"; trait: keyof Traits; wanted: readonly [number, number]; has: number | null }
  | { code: "rule"; fits: boolean; words: string };
export type FitSide = { verdict: FitVerdict; why: FitWhy[] };
export type Fit = {
  part: string;
  verdict: FitVerdict;
  mechanical: FitSide;
  electrical: FitSide;
  deviation: string;
  /**
   * the parts that this one stands in for, from what the slot takes by itself on; empty when it fits by
   * itself
   */
  instead: { of: string; why: string }[];
};

export type FitPlace = { model: string; revision: string | null; slot: Slot };

const worst = (a: FitVerdict, b: FitVerdict): FitVerdict => {
  if (a === "no" || b === "no") return "no";
  if (a === "not-known" || b === "not-known") return "not-known";
  return "fits";
};

function sideOf(why: FitWhy[]): FitSide {
  const bad = why.filter((w) => (w.code === "trait" || w.code === "length") && w.has !== null);
  const verdictOf = () => {
    if (bad.length) return "no";
    if (why.length) return "not-known";
    return "fits";
  };
  return { verdict: verdictOf(), why };
}

const within = (
  range: readonly [number, number] | undefined,
  has: number | undefined,
  trait: keyof Traits,
): FitWhy[] =>
  !range || (has !== undefined && has >= range[0] && has <= range[1])
    ? []
    : [{ code: "length", trait, wanted: range, has: has ?? null }];

const same = (wanted: string | undefined, has: string | undefined, trait: keyof Traits): FitWhy[] =>
  wanted === undefined || wanted === has ? [] : [{ code: "trait", trait, wanted, has: has ?? null }];

const sideMatters = (place: FitPlace, t: Traits, mirrored: boolean): FitWhy[] =>
  !mirrored || place.slot.side === "centre" || t.side === "either" || t.side === place.slot.side
    ? []
    : [{ code: "trait", trait: "side", wanted: place.slot.side, has: t.side ?? null }];

/** What the slot asks in this revision. */
export function needOf(place: FitPlace): { mechanical: MechanicalNeed; electrical: ElectricalNeed } | null {
  const fit = place.slot.fit;
  if (!fit) return null;
  const other = place.revision ? fit.byRevision?.[place.revision] : undefined;
  return {
    mechanical: { ...fit.mechanical, ...other?.mechanical },
    electrical: { ...fit.electrical, ...other?.electrical },
  };
}

/**
 * A revision that is not known yet could be any: a part is then sure to fit only if it fits each that
 * differs.
 */
const unsure = (place: FitPlace): boolean =>
  place.revision === null && Object.keys(place.slot.fit?.byRevision ?? {}).length > 0;

const ruleFor = (c: Catalogue, place: FitPlace, part: string): FitRule | null => {
  const all = c.rules.filter((r) => r.part === part && r.model === place.model && r.slot === place.slot.id);
  return (
    all.find((r) => r.revision !== null && r.revision === place.revision) ??
    all.find((r) => r.revision === null) ??
    null
  );
};

const ruled = (side: FitSide, said: FitRule["mechanical"]): FitSide =>
  said
    ? { verdict: said.fits ? "fits" : "no", why: [{ code: "rule", fits: said.fits, words: said.why }] }
    : side;

/** Whether a part fits a slot by itself, and why not. */
export function fitOf(c: Catalogue, place: FitPlace, part: Part): Fit {
  const answer = (mechanical: FitSide, electrical: FitSide, deviation = ""): Fit => ({
    part: part.code,
    verdict: worst(mechanical.verdict, electrical.verdict),
    mechanical,
    electrical,
    deviation,
    instead: [],
  });
  if (part.kind !== place.slot.kind) {
    const no: FitSide = {
      verdict: "no",
      why: [{ code: "kind", wanted: place.slot.kind, has: part.kind ?? part.class }],
    };
    return answer(no, no);
  }
  if (unsure(place)) {
    const each = Object.keys(place.slot.fit!.byRevision!).map((revision) =>
      fitOf(c, { ...place, revision }, part),
    );
    const plain = judged(c, place, part, answer);
    return each.every((f) => f.verdict === plain.verdict)
      ? plain
      : { ...plain, verdict: [...each, plain].every((f) => f.verdict === "no") ? "no" : "not-known" };
  }
  return judged(c, place, part, answer);
}

function judged(
  c: Catalogue,
  place: FitPlace,
  part: Part,
  answer: (m: FitSide, e: FitSide, deviation?: string) => Fit,
): Fit {
  const rule = ruleFor(c, place, part.code);
  const need = needOf(place);
  const blank: FitSide = { verdict: "not-known", why: [{ code: "no-fit-data" }] };
  const t = part.traits;
  const m = need?.mechanical;
  const e = need?.electrical;
  const mechanical = m
    ? sideOf([
        ...sideMatters(place, t, m.mirrored === true),
        ...same(m.base, t.base, "base"),
        ...within(m.heightMm, t.heightMm, "heightMm"),
        ...within(m.thicknessMm, t.thicknessMm, "thicknessMm"),
        ...same(m.clip, t.clip, "clip"),
      ])
    : blank;
  const electrical = e
    ? sideOf([
        ...same(e.sensor, t.sensor, "sensor"),
        ...same(e.supplyLeg, t.supplyLeg, "supplyLeg"),
        ...(!e.generation || (t.generation !== undefined && e.generation.includes(t.generation))
          ? []
          : same(e.generation.join(" or "), t.generation, "generation")),
        ...same(e.connector, t.connector, "connector"),
      ])
    : blank;
  return answer(
    ruled(mechanical, rule?.mechanical ?? null),
    ruled(electrical, rule?.electrical ?? null),
    rule?.deviation ?? "",
  );
}

/**
 * Every part that may go into a slot, by itself or instead of one that does. Refused and unknown ones are not
 * among them.
 */
export function partsThatFit(c: Catalogue, place: FitPlace): Fit[] {
  const found = new Map<string, Fit>();
  for (const part of c.parts) {
    if (part.class !== "part") continue;
    const fit = fitOf(c, place, part);
    if (fit.verdict === "fits") found.set(part.code, fit);
  }
  // a chain goes on only over links that allow it
  let edge: { fit: Fit; link: Substitute }[] = [...found.values()].flatMap((fit) =>
    c.substitutes.filter((s) => s.part === fit.part).map((link) => ({ fit, link })),
  );
  while (edge.length > 0) {
    const next: typeof edge = [];
    for (const { fit, link } of edge) {
      if (found.has(link.instead)) continue;
      const part = partOf(c, link.instead);
      if (!part || part.kind !== place.slot.kind) continue;
      const rule = ruleFor(c, place, part.code);
      const wrongSide =
        sideMatters(place, part.traits, needOf(place)?.mechanical.mirrored === true).length > 0;
      if (wrongSide || rule?.mechanical?.fits === false || rule?.electrical?.fits === false) continue;
      const stands: Fit = {
        part: part.code,
        verdict: "fits",
        mechanical: { verdict: "fits", why: [{ code: "rule", fits: true, words: link.why }] },
        electrical: { verdict: "fits", why: [{ code: "rule", fits: true, words: link.why }] },
        deviation: [fit.deviation, link.deviation].filter(Boolean).join("; "),
        instead: [...fit.instead, { of: fit.part, why: link.why }],
      };
      found.set(part.code, stands);
      if (link.onward)
        next.push(
          ...c.substitutes.filter((s) => s.part === part.code).map((l) => ({ fit: stands, link: l })),
        );
    }
    edge = next;
  }
  return [...found.values()];
}

/** Whether a part may be fitted for a use; own use and never are not for sale. */
export const allowedFor = (part: Pick<Part, "use">, use: Use): boolean =>
  part.use !== "never" && PART_USES.indexOf(part.use) <= PART_USES.indexOf(use);
