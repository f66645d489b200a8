import type { School } from "../decide/routes";
import type { Graph } from "../diagnosis/graph";
import type { TryAction } from "../diagnosis/tries";
import type { NodeKind } from "../profile/wiring";
import type { PartKind, Slot } from "../profile/slots";
import type { Treatment } from "./treatments";

/**
 * Facts age: what was done at a part ends what was seen and measured of it before. They stay in the record as
 * "before", and count for nothing any more.
 */

/** Something done at parts of the wiring, by their numbers in the graph. */
export type Act = { at: Date; parts: ReadonlySet<number>; how: Treatment };

/** Which kinds of part a spare replaces. */
const STICK: readonly NodeKind[] = [
  "sensor",
  "track",
  "magnet",
  "mechanism",
  "switch",
  "post",
  "spring",
  "frame",
];
export const REPLACES: Record<PartKind, readonly NodeKind[]> = {
  "stick-module": STICK,
  "magnetic-module": STICK,
  "stick-box": STICK,
  "contact-sensor": ["track", "sensor"],
  dome: ["dome", "contact"],
  membrane: ["membrane", "contact"],
  switch: ["switch", "contact"],
  "trigger-sensor": ["sensor", "magnet"],
  cell: ["cell"],
  port: ["port"],
  flex: ["flex", "light"],
  board: ["board", "chip", "supply", "trace", "joint", "fuse", "socket"],
  antenna: ["antenna"],
  motor: ["motor"],
  speaker: ["transducer"],
  microphone: ["transducer"],
  jack: ["transducer", "port"],
  cord: ["lead"],
  latch: ["latch", "mechanism"],
  cap: ["cap"],
  spring: ["spring"],
  gear: ["gear"],
  "cell-contact": ["cell-contact"],
};

const BY_SCHOOL: Partial<Record<School, { how: Treatment; kinds: readonly NodeKind[] | "all" }>> = {
  clean: { how: "cleaned", kinds: "all" },
  rework: { how: "resoldered", kinds: ["joint", "chip", "socket"] },
  adjust: {
    how: "reseated",
    kinds: [
      "connector",
      "plug",
      "socket",
      "flex",
      "contact",
      "dome",
      "membrane",
      "mechanism",
      "spring",
      "rocker",
    ],
  },
};

const BY_ACTION: Partial<Record<TryAction, Treatment>> = {
  clean: "cleaned",
  reseat: "reseated",
  resolder: "resoldered",
  reheat: "resoldered",
  replace: "replaced",
  swap: "replaced",
};

/** Whether more than half of all that there is rests on a part: what is done at one place is not done to it. */
function isCommon(graph: Graph, part: number): boolean {
  let served = 0;
  for (const rests of graph.restsOn.values()) if (rests.includes(part)) served++;
  return served > graph.restsOn.size / 2;
}

/** What only feeds a place lies elsewhere. */
const FEEDS: readonly NodeKind[] = ["supply", "chip", "board", "cell", "fuse"];

/** Parts of some kinds that a hand comes to at a place: its own, and common ones only where it has no other. */
function reachedAt(graph: Graph, place: string, kinds: readonly NodeKind[] | "all"): Set<number> {
  const all = behind(graph, [place], kinds);
  const own = [...all].filter((i) => !isCommon(graph, i) && !FEEDS.includes(graph.kinds[i]!));
  return own.length > 0 ? new Set(own) : all;
}

/** Parts of some kinds behind some controls or functions. */
function behind(graph: Graph, places: readonly string[], kinds: readonly NodeKind[] | "all"): Set<number> {
  const all = new Set<number>();
  for (const place of places)
    for (const i of graph.restsOn.get(place) ?? [])
      if (kinds === "all" || kinds.includes(graph.kinds[i]!)) all.add(i);
  return all;
}

/**
 * A spare that was fitted into a slot; the slot's places say which parts it is. Where none of its kind lies
 * behind them and the unit has a single one (its cell), it is that.
 */
export function actOfSpare(
  graph: Graph,
  spare: { at: Date; kind: PartKind; serves: readonly string[] },
): Act {
  const kinds = REPLACES[spare.kind];
  const parts = behind(graph, spare.serves, kinds);
  const only = graph.kinds.flatMap((k, i) => (k === kinds[0] ? [i] : []));
  return {
    at: spare.at,
    parts: parts.size === 0 && only.length === 1 ? new Set(only) : parts,
    how: "replaced",
  };
}

/** What the spare of a mend serves: a sheet under one button is a new one under its neighbours too. */
const servedAt = ({
  place,
  route,
  slots,
}: Pick<Parameters<typeof actOfMend>[1], "place" | "route" | "slots">): readonly string[] =>
  slots?.find((s) => s.kind === route?.part?.kind && s.serves.includes(place))?.serves ?? [place];

type ActingRoute = {
  part: { kind: PartKind } | null;
  school: School;
  treats?: readonly { family: string }[];
};
/** What an iron can make good besides joints, where the route says so: a wire across a torn flex or a broken lead. */
const BRIDGED: readonly NodeKind[] = ["flex", "lead", "trace"];
/** The kinds of part that a route comes to: with the iron only those that it is for. */
function reworked(route: ActingRoute, kinds: readonly NodeKind[] | "all"): readonly NodeKind[] | "all" {
  if (route.school !== "rework" || kinds === "all") return kinds;
  const bridged = BRIDGED.filter((k) => route.treats?.some((t) => t.family === k));
  return bridged.length > 0 ? bridged : kinds;
}

/** A mend by a route at a place; null where it changed no part (calibrated, or nobody said by which route). */
export function actOfMend(
  graph: Graph,
  mend: {
    at: Date;
    place: string;
    route: ActingRoute | null;
    slots?: readonly Pick<Slot, "kind" | "serves">[] | undefined;
  },
): Act | null {
  if (!mend.route) return null;
  if (mend.route.part)
    return actOfSpare(graph, { at: mend.at, kind: mend.route.part.kind, serves: servedAt(mend) });
  const by = BY_SCHOOL[mend.route.school];
  return by
    ? { at: mend.at, parts: reachedAt(graph, mend.place, reworked(mend.route, by.kinds)), how: by.how }
    : null;
}

/** The controls and functions that a new part changed: all that its slot serves. Nothing without a spare. */
export const renewedBy = (
  mend: Pick<Parameters<typeof actOfMend>[1], "place" | "route" | "slots">,
): readonly string[] => (mend.route?.part ? servedAt(mend) : []);

/** One try at a suspected part; null for what changes no part. */
export function actOfTry(graph: Graph, t: { at: Date; suspect: string; action: TryAction }): Act | null {
  const part = graph.index.get(t.suspect);
  const how = BY_ACTION[t.action];
  return part === undefined || !how ? null : { at: t.at, parts: new Set([part]), how };
}

/** What a finding is of, as far as a treatment can take it away. */
const TAKES_AWAY: Record<Exclude<Treatment, "replaced">, readonly string[]> = {
  resoldered: ["cracked-joint", "bridged-joint", "torn", "eaten"],
  cleaned: ["corrosion-slight", "corrosion-strong", "residue", "dirty"],
  reseated: [],
};

/** Something that was found out about parts: by looking at one, by a check, by a reading. */
export type Aged = { at: Date; parts: readonly number[]; finding: string };

/**
 * What ended a fact: the first act after it that replaced every part it is about, or took away what was seen
 * at one; a check or reading of parts that were resoldered is ended as well. Null for what still stands.
 */
export function endedBy(fact: Aged, acts: readonly Act[]): Act | null {
  if (fact.parts.length === 0) return null;
  const later = acts.filter((a) => a.at > fact.at).sort((a, b) => a.at.getTime() - b.at.getTime());
  const ends = (a: Act): boolean => {
    if (!fact.parts.some((p) => a.parts.has(p))) return false;
    if (a.how === "replaced") return fact.parts.every((p) => a.parts.has(p));
    if (TAKES_AWAY[a.how].includes(fact.finding)) return true;
    return a.how === "resoldered" && fact.finding === MEASURED && fact.parts.every((p) => a.parts.has(p));
  };
  return later.find(ends) ?? null;
}
/** The finding of what was measured or checked at a part, and not seen. */
export const MEASURED = "measured";
