import { type Belief, suspectsOf } from "../diagnosis/belief";
import { type Check, type CheckKind, firstOutcome, outcomeCodes } from "../diagnosis/checks";
import { LEAK } from "../diagnosis/priors";
import type { NodeKind } from "../profile/wiring";
import { type Family, isStick, type Treated } from "./families";

/** What may be behind a failing place, from the belief under Find, as deciding needs it: plain data. */

/** `broken`: seen to be torn, eaten or short of a piece, so that only a new one or a joined one works again. */
export type CausePart = { node: string; kind: NodeKind; name: string; broken?: true };
/** Parts that are at fault together behind one place; `elsewhere`: what no part of the wiring stands for. */
export type PlaceCause = {
  parts: CausePart[];
  elsewhere: boolean;
  probability: number;
};

const SHOWN = 12;
const LEAST = 0.002;

/** What is behind one place under an explanation: its parts there in order, and whether something else is in it. */
function behindAt(b: Belief, place: string): (h: number) => { parts: number[]; elsewhere: boolean } {
  const behind = new Set(b.graph.restsOn.get(place) ?? []);
  const own = b.parts + b.places.indexOf(place);
  return (h) => {
    const suspects = suspectsOf(b, h);
    const parts = suspects.filter((i) => behind.has(i)).sort((i, j) => i - j);
    return { parts, elsewhere: parts.length === 0 || suspects.includes(own) };
  };
}
const keyOf = (at: { parts: readonly number[]; elsewhere: boolean }): string =>
  `${at.parts.join()} ${at.elsewhere}`;

/**
 * The explanations of what fails at one place, the likeliest first: those of the whole unit, so far as their parts lie
 * behind it. They add up to 1; what has no part behind it counts as something else.
 */
export const causesAt = (b: Belief, place: string): PlaceCause[] => [
  ...causesByKey(b, place, weighed(b, [place])).values(),
];

/** The same by what they are; `weight` says how likely each explanation of the unit is. */
function causesByKey(
  b: Belief,
  place: string,
  weight: (h: number) => number,
  broken: ReadonlySet<string> = new Set(),
): Map<string, PlaceCause> {
  const at = behindAt(b, place);
  const masses = new Map<string, PlaceCause>();
  for (const h of b.live) {
    const is = at(h);
    const probability = weight(h);
    const key = keyOf(is);
    const had = masses.get(key);
    if (had) had.probability += probability;
    else
      masses.set(key, {
        parts: is.parts.map((i) => {
          const { id, kind, name } = b.graph.nodes[i]!;
          return { node: id, kind, name, ...(broken.has(id) ? { broken: true as const } : {}) };
        }),
        elsewhere: is.elsewhere,
        probability,
      });
  }
  const all = [...masses].sort(([, x], [, y]) => y.probability - x.probability);
  const total = all.reduce((s, [, c]) => s + c.probability, 0);
  const kept = all.filter(([, c], i) => i === 0 || (i < SHOWN && c.probability >= LEAST * total));
  const sum = kept.reduce((s, [, c]) => s + c.probability, 0);
  return new Map(kept.map(([key, c]) => [key, { ...c, probability: c.probability / sum }]));
}

/** A whole explanation of a unit: by faulty place, which of its causes is behind it. */
export type WholeCause = { probability: number; at: Readonly<Record<string, number>> };
/** A check as deciding needs it: how likely each of its two outcomes is under each whole explanation. */
export type DecideCheck = {
  id: string;
  kind: CheckKind;
  target: string;
  /** of what it is done at */
  name: string;
  /** the faulty places that rest on what it is about, and the parts it is about */
  places: readonly string[];
  nodes: readonly string[];
  minutes: number;
  risk: number;
  opens: boolean;
  outcomes: readonly { code: string; chances: readonly number[] }[];
};
/** All that may be behind the faults of a unit, and what could be looked at to tell it apart. */
export type Known = {
  causes: Readonly<Record<string, readonly PlaceCause[]>>;
  whole: readonly WholeCause[];
  checks: readonly DecideCheck[];
};

const MOST_WHOLE = 40;
const LEAST_WHOLE = 0.001;

/**
 * What is known of the causes behind some places, jointly: the likeliest whole explanations, told apart only by what is
 * behind these places, and what each check would show under them.
 */
export function knownOf(
  b: Belief,
  places: readonly string[],
  checks: readonly Check[] = [],
  {
    nameOf = (target) => target,
    broken = new Set(),
  }: { nameOf?: (target: string) => string; broken?: ReadonlySet<string> } = {},
): Known {
  const weight = weighed(b, places);
  const byPlace = places.map((p) => causesByKey(b, p, weighed(b, [p]), broken));
  const at = places.map((p) => behindAt(b, p));
  const numbers = byPlace.map((m) => new Map([...m.keys()].map((key, i) => [key, i])));
  const groups = new Map<string, { mass: number; at: number[]; of: number[] }>();
  for (const h of b.live) {
    const is = at.map((a, k) => numbers[k]!.get(keyOf(a(h))) ?? -1);
    if (is.includes(-1)) continue; // rarer than what is told of its place
    const key = is.join();
    const had = groups.get(key);
    if (had) {
      had.mass += weight(h);
      had.of.push(h);
    } else groups.set(key, { mass: weight(h), at: is, of: [h] });
  }
  const ranked = [...groups.values()].sort((x, y) => y.mass - x.mass);
  const total = ranked.reduce((s, g) => s + g.mass, 0);
  const kept = ranked.filter((g, i) => i === 0 || (i < MOST_WHOLE && g.mass >= LEAST_WHOLE * total));
  const sum = kept.reduce((s, g) => s + g.mass, 0);
  return {
    causes: Object.fromEntries(places.map((p, k) => [p, [...byPlace[k]!.values()]])),
    whole: kept.map((g) => ({
      probability: g.mass / sum,
      at: Object.fromEntries(places.map((p, k) => [p, g.at[k]!])),
    })),
    checks: checks.map((check) => {
      const firstOf = firstOutcome(b, check);
      const first = kept.map((g) => g.of.reduce((s, h) => s + weight(h) * firstOf(h), 0) / g.mass);
      const [one, other] = outcomeCodes(check);
      return {
        id: check.id,
        kind: check.kind,
        target: check.target,
        name: nameOf(check.target),
        places: places.filter((p) => check.about.some((i) => b.graph.restsOn.get(p)?.includes(i))),
        nodes: check.kind === "test" ? [] : check.about.map((i) => b.graph.nodes[i]!.id),
        minutes: check.minutes,
        risk: check.risk,
        opens: check.opens,
        outcomes: [
          { code: one, chances: first },
          { code: other, chances: first.map((x) => 1 - x) },
        ],
      };
    }),
  };
}

/**
 * How likely each explanation is, where some places are known to fail though no test says so: a hand named them. A
 * place fails by itself seldom.
 */
function weighed(b: Belief, named: readonly string[]): (h: number) => number {
  const unseen = named
    .filter((p) => !b.sums.fails.includes(p))
    .map((p) => new Set([...(b.graph.restsOn.get(p) ?? []), b.parts + b.places.indexOf(p)]));
  return (h) => {
    const suspects = suspectsOf(b, h);
    return unseen.reduce((w, own) => w * (suspects.some((i) => own.has(i)) ? 1 : LEAK), b.posterior[h]!);
  };
}

/**
 * Chance that any of some places fails, by all that is known of what they rest on: what they share is counted once.
 * @param named places that are known to fail
 */
export function chanceOfAnyFailing(
  b: Belief,
  places: readonly string[],
  named: readonly string[] = [],
): number {
  const works = new Float64Array(b.n).fill(1);
  for (const place of places) {
    for (const i of b.graph.restsOn.get(place) ?? []) works[i]! *= 1 - b.graph.covers[i]!;
    const own = b.places.indexOf(place);
    if (own >= 0) works[b.parts + own] = 0;
  }
  const weight = weighed(b, named);
  let fails = 0;
  let all = 0;
  for (const h of b.live) {
    const w = weight(h);
    all += w;
    fails += w * (1 - suspectsOf(b, h).reduce((x, i) => x * works[i]!, 1));
  }
  return fails / all;
}
/** The same of one: of what nobody tested. */
export const chanceOfFailing = (b: Belief, place: string, named: readonly string[] = []): number =>
  chanceOfAnyFailing(b, [place], named);

const BY_KIND: Partial<Record<NodeKind, Treated>> = {
  flex: "flex",
  trace: "flex",
  joint: "joint",
  connector: "connector",
  plug: "connector",
  socket: "connector",
  cap: "cap",
  post: "post",
  frame: "post",
  mechanism: "post",
  spring: "spring",
  gear: "gear",
  rocker: "gear",
  latch: "latch",
  cell: "cell",
  "cell-contact": "contact",
  port: "port",
  fuse: "chip",
  supply: "chip",
  chip: "chip",
  board: "chip",
  lead: "lead",
  shell: "elsewhere",
};
/** What a fault of a kind of part has to be treated as, at a place of some family. */
export function treatedAs(kind: NodeKind, family: Family): Treated {
  if (kind === "lead" && family === "cord") return "cord";
  if (kind === "mechanism" && !isStick(family)) return family;
  return BY_KIND[kind] ?? family;
}
