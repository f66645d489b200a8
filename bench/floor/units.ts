import type { Chance } from "@/core/math/random";
import { type ModelProfile, placeName } from "@/core/profile/profile";
import { DEFECTS, type Fault, OUTSIDE, signsAt, type Wires, type World } from "./truth";

/** Made-up units: what is wrong, what the seller says, and what is asked for them. */

export type Claim = "names" | "half" | "misses";
export type FloorUnit = {
  seed: number;
  profile: ModelProfile;
  wires: Wires;
  faults: Fault[];
  claim: Claim;
  words: string;
  scale: number;
  askMinor: number;
};

const SOUND = 0.15;
const BEYOND_WIRING = 0.1;
const TWO = 0.22;
const WEAR = 0.08;

function weighted<T>(c: Chance, items: readonly T[], weight: (x: T) => number): T {
  let at = c.next() * items.reduce((s, x) => s + weight(x), 0);
  for (const x of items) {
    at -= weight(x);
    if (at <= 0) return x;
  }
  return items.at(-1)!;
}

/** Every fault that the wiring of a model allows, with its weight; only what shows somewhere. */
export function possible(
  profile: ModelProfile,
  w: Wires,
  world: World,
): { fault: Fault; weight: number; fickle: number }[] {
  return [...w.kindOf].flatMap(([node, kind]) =>
    DEFECTS.filter((x) => x.kinds.includes(kind)).flatMap((x) => {
      const fault: Fault = { node, defect: x.id, shows: 1 };
      const somewhere = w.places.some((p) => signsAt(profile, w, fault, p).length > 0);
      return somewhere ? [{ fault, weight: world.weightOf(x), fickle: x.fickle }] : [];
    }),
  );
}

function drawnFault(c: Chance, all: ReturnType<typeof possible>): Fault {
  const one = weighted(c, all, (x) => x.weight);
  return { ...one.fault, shows: c.happens(one.fickle) ? c.between(0.35, 0.85) : 1 };
}

function drawnFaults(c: Chance, profile: ModelProfile, w: Wires, world: World): Fault[] {
  if (c.happens(SOUND)) return [];
  if (c.happens(BEYOND_WIRING)) return [{ node: c.pick(w.places), defect: OUTSIDE, shows: 1 }];
  const all = possible(profile, w, world);
  const first = drawnFault(c, all);
  if (c.happens(WEAR)) {
    const twin = w.twinOf.get(first.node);
    if (twin) return [first, { ...first, node: twin }];
  }
  if (!c.happens(TWO)) return [first];
  const second = drawnFault(c, all);
  return second.node === first.node ? [first] : [first, second];
}

const COMPLAINT: Record<string, string> = {
  stick: "drifts",
  trigger: "does not pull through",
  button: "does not work",
};

function wordsOf(c: Chance, claim: Claim, unit: Pick<FloorUnit, "profile" | "wires" | "faults">): string {
  const { profile, wires, faults } = unit;
  const failing = wires.places.filter((p) => faults.some((f) => signsAt(profile, wires, f, p).length > 0));
  if (claim === "misses" || failing.length === 0) return c.pick(["untested", "fully working", ""]);
  if (claim === "half") return c.pick(["faulty", "acts up sometimes", "seems to have a problem"]);
  const things = [...profile.controls, ...profile.functions];
  const place = c.pick(failing);
  const thing = things.find((x) => x.id === place)!;
  return `${placeName(thing)} ${COMPLAINT[thing.kind] ?? "does not work"}`;
}

/** The price follows what is said: who says nothing asks for more. */
const ASKED: Record<Claim, number> = { names: 0.85, half: 0.95, misses: 1.15 };

export function drawUnit(
  c: Chance,
  seed: number,
  models: readonly { profile: ModelProfile; wires: Wires }[],
  world: World,
): FloorUnit {
  const { profile, wires } = c.pick(models);
  const faults = drawnFaults(c, profile, wires, world);
  const claim = weighted(
    c,
    ["names", "half", "misses"] as const,
    (x) => ({ names: 4, half: 3, misses: 3 })[x],
  );
  const scale = c.between(0.9, 1.5);
  const askMinor = Math.round(profile.market!.asFoundMinor * scale * ASKED[claim] * c.between(0.5, 1.1));
  return {
    seed,
    profile,
    wires,
    faults,
    claim,
    words: wordsOf(c, claim, { profile, wires, faults }),
    scale,
    askMinor,
  };
}
