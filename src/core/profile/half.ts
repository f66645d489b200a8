import type { MendGuide } from "./guide";
import type { ModelProfile } from "./profile";
import type { Slot } from "./slots";
import type { Wiring } from "./wiring";

/**
 * A model that is made of two halves, and what one of them is alone: a model of its own with its controls, inside,
 * slots, guide and prices, so that every station takes a single half as it takes any unit.
 */

type Here = (item: { half?: string | undefined }) => boolean;

/** Room left and right of a half's outline on its own plan, in millimetres. */
const MARGIN = 2;

/** What a half alone is called among the models. */
export const halfId = (pair: string, half: string): string => `${pair}-${half}`;

/** The model that parts are listed for and routes are written for: a half takes those of its pair. */
export const listedAs = (profile: Pick<ModelProfile, "id" | "half">): string =>
  profile.half?.of ?? profile.id;

/** The models of single halves; none for a model that is one body, or is a half itself. */
export const halvesOf = (pair: ModelProfile): ModelProfile[] =>
  pair.half || pair.halves.length !== 2 ? [] : pair.halves.map((h) => halfOf(pair, h.id));

/**
 * What belongs to one half, on a plan of its own width. Whatever names no half is of the pair together (sliding
 * them apart, the dock) and is left out, but functions: one that names none is asked of either.
 * @throws TypeError where the pair has no such half
 */
export function halfOf(pair: ModelProfile, half: string): ModelProfile {
  const own = pair.halves.find((h) => h.id === half);
  const mate = pair.halves.find((h) => h.id !== half);
  if (!own || !mate) throw new TypeError(`${pair.id} has no half ${half}`);
  const here: Here = (item) => item.half === half;
  const { $schema: _schema, halfMarket, market: _pairs, wiring, slots, guide, ...outer } = pair;
  const { outlines, left, width } = planOf(pair, here);
  const shift = <T extends { at?: { x: number; y: number } | undefined }>(item: T): T =>
    item.at ? { ...item, at: { ...item.at, x: round(item.at.x - left) } } : item;
  const bare = <T extends { half?: string | undefined }>({ half: _half, ...item }: T) => item;
  const controls = pair.controls.filter(here).map((c) => bare(shift(c)) as typeof c);
  const functions = pair.functions
    .filter((f) => here(f) || f.half === undefined)
    .map((f) => bare(shift(f)) as typeof f);
  const served = new Set([...controls, ...functions].map((x) => x.id));
  const ownSlots = slots && slotsOf(slots, served);
  const kept = new Set(ownSlots?.map((s) => s.id));
  const ownGuide = guide && halfGuide(guide, { here, kept, shift, served });
  return {
    ...outer,
    id: halfId(pair.id, half),
    name: `${pair.name}, ${own.name}`,
    half: { of: pair.id, id: half, mate: mate.id, name: own.name, soldAlone: halfMarket?.soldAlone ?? true },
    halves: [],
    plan: { ...pair.plan, width, outlines },
    controls,
    functions,
    power: pair.power.filter((p) => here(p) || p.half === undefined).map((p) => bare(p) as typeof p),
    accessories: pair.accessories.filter(here).map((a) => bare(a) as typeof a),
    ...(halfMarket ? { market: halfMarket.market } : {}),
    ...(wiring ? { wiring: wiringOf(wiring, served) } : {}),
    ...(ownSlots ? { slots: ownSlots } : {}),
    ...(ownGuide ? { guide: ownGuide } : {}),
  };
}

const round = (mm: number): number => Math.round(mm * 10) / 10;

function planOf(pair: ModelProfile, here: Here) {
  const own = pair.plan.outlines.filter((o) => here(o) || o.half === undefined);
  const xs = own.flatMap((o) => o.points.map(([x]) => x));
  const left = Math.min(...xs) - MARGIN;
  return {
    left,
    width: round(Math.max(...xs) + MARGIN - left),
    outlines: own.map((o) => ({
      points: o.points.map(([x, y]): [number, number] => [round(x - left), y]),
    })),
  };
}

function slotsOf(slots: readonly Slot[], served: ReadonlySet<string>): Slot[] {
  const own = slots.flatMap((s) => {
    const serves = s.serves.filter((id) => served.has(id));
    return serves.length > 0 ? [{ ...s, serves }] : [];
  });
  const ids = new Set(own.map((s) => s.id));
  return own.map(({ twin, ...s }) => (twin !== undefined && ids.has(twin) ? { ...s, twin } : s));
}

/** The parts that what is served rests on, and the boards and test points among them. */
function wiringOf(wiring: Wiring, served: ReadonlySet<string>): Wiring {
  const byId = new Map(wiring.nodes.map((n) => [n.id, n]));
  const kept = new Set<string>();
  const take = (id: string): void => {
    if (kept.has(id)) return;
    kept.add(id);
    byId.get(id)?.needs.forEach(take);
  };
  const serves = Object.fromEntries(Object.entries(wiring.serves).filter(([id]) => served.has(id)));
  Object.values(serves).flat().forEach(take);
  const nodes = wiring.nodes
    .filter((n) => kept.has(n.id))
    .map(({ twin, ...n }) => (twin !== undefined && kept.has(twin) ? { ...n, twin } : n));
  const points = wiring.points.filter((p) => kept.has(p.node));
  const boards = new Set([...nodes.flatMap((n) => n.board ?? []), ...points.map((p) => p.board)]);
  return { boards: wiring.boards.filter((b) => boards.has(b.id)), nodes, serves, points };
}

type Kept = {
  here: Here;
  kept: ReadonlySet<string>;
  shift: <T extends { at?: { x: number; y: number } | undefined }>(item: T) => T;
  served: ReadonlySet<string>;
};

/** Its own steps with what they free; undefined where no step says of which half it is. */
function halfGuide(guide: MendGuide, { here, kept, shift, served }: Kept): MendGuide | undefined {
  const byId = new Map(guide.steps.map((s) => [s.id, s]));
  const own = new Set(guide.steps.filter(here).map((s) => s.id));
  if (own.size === 0) return undefined;
  /** what a step of the pair together came after, in its place */
  const through = (id: string): string[] =>
    own.has(id) ? [id] : (byId.get(id)?.after ?? []).flatMap(through);
  const steps = guide.steps.filter(here).map(({ half: _half, ...s }) => ({
    ...s,
    after: [...new Set(s.after.flatMap(through))],
    reaches: s.reaches.filter((id) => kept.has(id)),
  }));
  const freed = (kind: keyof (typeof steps)[number]["frees"]) => new Set(steps.flatMap((s) => s.frees[kind]));
  const only = <T extends { id: string; at: { x: number; y: number } }>(
    items: readonly T[],
    kind: keyof (typeof steps)[number]["frees"],
  ): T[] => items.filter((i) => freed(kind).has(i.id)).map(shift);
  const pieces = only(guide.pieces, "pieces");
  const ofPair = (step: string) => byId.get(step)?.half === undefined;
  const sticks = guide.calibration?.sticks.filter((id) => served.has(id)) ?? [];
  return {
    ...guide,
    steps,
    fasteners: only(guide.fasteners, "fasteners"),
    clips: only(guide.clips, "clips"),
    cables: only(guide.cables, "cables"),
    pieces,
    surfaces: guide.surfaces
      .filter((s) => s.piece === undefined || pieces.some((p) => p.id === s.piece))
      .flatMap(({ after, ...s }) => {
        if (after === undefined || own.has(after)) return [after === undefined ? s : { ...s, after }];
        return ofPair(after) ? [s] : [];
      }),
    solder: guide.solder.flatMap((j) => {
      const slots = j.slots.filter((id) => kept.has(id));
      return j.slots.length === 0 || slots.length > 0 ? [{ ...j, slots }] : [];
    }),
    calibration:
      guide.calibration && sticks.length > 0
        ? {
            ...guide.calibration,
            sticks,
            dueAfter: guide.calibration.dueAfter.filter((id) => kept.has(id)),
          }
        : null,
  };
}

/**
 * The place of the other half, or of the same half's other side, that wears like this one: by the twin of its slot, or
 * else of the part it rests on. Null where the pair's profile names none.
 */
export function likePlace(pair: Pick<ModelProfile, "slots" | "wiring">, place: string): string | null {
  const bySlot = (pair.slots ?? [])
    .filter((s) => s.serves.includes(place) && s.twin !== undefined)
    .flatMap((s) => {
      const twin = pair.slots!.find((t) => t.id === s.twin);
      return twin?.serves[s.serves.indexOf(place)] ?? [];
    });
  if (bySlot[0]) return bySlot[0];
  // what has no twin, such as its shell, is passed over
  const rests = pair.wiring?.serves[place] ?? [];
  const twins = rests.flatMap((id) => pair.wiring!.nodes.find((n) => n.id === id)?.twin ?? []);
  const like = Object.entries(pair.wiring?.serves ?? {}).find(
    ([id, parts]) => id !== place && parts.length === rests.length && twins.every((t) => parts.includes(t)),
  );
  return twins.length > 0 && like ? like[0] : null;
}
