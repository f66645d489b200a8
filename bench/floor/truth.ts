import type { Chance } from "@/core/math/random";
import type { ModelProfile } from "@/core/profile/profile";
import type { NodeKind } from "@/core/profile/wiring";

/**
 * What is really wrong with made-up units, and what really helps. These tables are the bench's own: they share
 * nothing with the advice's, and each run moves them by up to three times.
 */

export type Defect = {
  id: string;
  kinds: readonly NodeKind[];
  /** how often, against the others */
  weight: number;
  /** share of such faults that come and go */
  fickle: number;
  /** what a control says of it where the part is its own; further down the wiring it does not answer */
  stick?: readonly string[];
  trigger?: readonly string[];
  button?: readonly string[];
  /** shows only at what has to do with power */
  power?: boolean;
};

const d = (
  id: string,
  kinds: NodeKind | readonly NodeKind[],
  weight: number,
  fickle: number,
  shows: Partial<Defect> = {},
): Defect => ({
  id,
  kinds: typeof kinds === "string" ? [kinds] : kinds,
  weight,
  fickle,
  ...shows,
});
const PAD: readonly NodeKind[] = ["contact", "dome", "membrane"];
const PLUGGED: readonly NodeKind[] = ["connector", "socket", "plug"];

export const DEFECTS: readonly Defect[] = [
  d("worn-track", ["track", "sensor"], 3, 0.1, {
    stick: ["jumps", "restNoise", "deadHalves"],
    trigger: ["largestStep"],
  }),
  d("dirty-track", ["track", "sensor"], 2.2, 0.25, {
    stick: ["restNoise", "jumps", "restSpikes"],
    trigger: ["backtrack"],
  }),
  d("off-balance", ["track", "sensor", "magnet"], 2.4, 0, { stick: ["restOffset"], trigger: ["restValue"] }),
  d("worn-bowl", ["mechanism", "rocker"], 1.6, 0, {
    stick: ["stuckReleases", "safeDeadZone"],
    trigger: ["fullPull"],
  }),
  d("weak-spring", "spring", 1, 0, { stick: ["stuckReleases", "restOffset"], trigger: ["restValue"] }),
  d("snapped-post", "post", 0.6, 0, { stick: ["reachMin"] }),
  d("bent-frame", "frame", 0.4, 0, { stick: ["restOffset"] }),
  d("torn-cap", "cap", 0.5, 0, { stick: ["reachMin"] }),
  d("missing-tooth", "gear", 1, 0, { trigger: ["largestStep", "fullPull"] }),
  d("dirty-pad", PAD, 1.4, 0.1, { button: ["decision"] }),
  d("torn-dome", ["dome", "membrane"], 0.9, 0, { button: ["decision", "rim.decision"] }),
  d("worn-carbon", ["contact", "membrane"], 0.6, 0, { button: ["decision"] }),
  d("worn-switch", "switch", 1.2, 0.1, { button: ["decision", "chatter"] }),
  d("cracked-joint", "joint", 1, 0.45, { stick: ["deadHalves", "jumps", "noAnswer"], button: ["decision"] }),
  d("cracked-shell", "shell", 0.3, 0, { button: ["decision"] }),
  d("torn-flex", "flex", 0.9, 0.3),
  d("unseated-flex", "flex", 0.8, 0.5),
  d("loose-connector", PLUGGED, 1, 0.5),
  d("corroded-connector", PLUGGED, 0.8, 0.2),
  d("bent-contact", "cell-contact", 1, 0.4, { power: true }),
  d("cut-trace", "trace", 0.3, 0.1),
  d("dead-chip", "chip", 0.25, 0.1),
  d("dead-supply", "supply", 0.3, 0.1, { power: true }),
  d("blown-fuse", "fuse", 0.3, 0),
  d("tired-cell", "cell", 2.2, 0.05, { power: true }),
  d("broken-lead", "lead", 1, 0.3),
  d("loose-antenna", "antenna", 0.9, 0.4),
  d("dead-motor", "motor", 0.9, 0.1),
  d("dead-transducer", "transducer", 0.9, 0.1),
  d("dead-light", "light", 0.6, 0.05),
  d("worn-latch", "latch", 1, 0.1),
  d("worn-port", "port", 1.5, 0.3, { power: true }),
  d("dirty-port", "port", 1, 0.3, { power: true }),
];

/** What lies outside the wiring: at one place, of no kind. */
export const OUTSIDE = "outside";
const STICK_ANY = ["restOffset", "jumps", "restNoise", "reachMin"];

const wholeModule = (worn: number) => ({
  "worn-track": worn,
  "dirty-track": worn,
  "off-balance": worn - 0.04,
  "worn-bowl": worn,
  "weak-spring": worn,
  "snapped-post": worn,
  "bent-frame": worn,
  "worn-switch": worn,
  "cracked-joint": 0.6,
  outside: 0.5,
});
const sensors = (well: number) => ({
  "worn-track": well,
  "dirty-track": well,
  "off-balance": well - 0.08,
  "cracked-joint": 0.45,
  outside: 0.1,
});
const dome = (well: number) => ({ "dirty-pad": well - 0.1, "torn-dome": well, "worn-carbon": well });

/** Chance that a route really takes a defect away when it reaches the part; what is not named: hardly ever. */
const CURES: Record<string, Record<string, number>> = {
  calibrate: { "off-balance": 0.5, "weak-spring": 0.12 },
  "clean-contacts": { "dirty-track": 0.8, "worn-track": 0.12 },
  "clean-magnets": { "dirty-track": 0.7, "off-balance": 0.25 },
  "clean-bowl": { "dirty-track": 0.65, "worn-bowl": 0.25 },
  "sensors-dear": sensors(0.9),
  "sensors-cheap": sensors(0.76),
  "module-dear": wholeModule(0.9),
  "module-cheap": wholeModule(0.78),
  "module-original": wholeModule(0.93),
  "box-original": wholeModule(0.93),
  "box-cheap": wholeModule(0.78),
  "magnetic-upgrade": wholeModule(0.88),
  "magnetic-dear": wholeModule(0.86),
  "magnetic-original": wholeModule(0.91),
  "clean-pads": { "dirty-pad": 0.85, "worn-carbon": 0.15, "worn-switch": 0.12 },
  "pad-behind": { "dirty-pad": 0.3, "worn-carbon": 0.6, "torn-dome": 0.15 },
  "dome-dear": dome(0.94),
  "dome-cheap": dome(0.82),
  "membrane-dear": dome(0.92),
  "switch-new": { "worn-switch": 0.94, "cracked-joint": 0.7 },
  "trigger-reseat": { "off-balance": 0.45, "weak-spring": 0.35, "worn-bowl": 0.15 },
  "trigger-sensor": { ...sensors(0.88), "weak-spring": 0.1 },
  "trigger-original": { ...sensors(0.92), "weak-spring": 0.1 },
  "clean-power": {
    "bent-contact": 0.5,
    "worn-latch": 0.3,
    "dirty-port": 0.75,
    "corroded-connector": 0.65,
    "loose-connector": 0.5,
    "unseated-flex": 0.5,
    "loose-antenna": 0.35,
  },
  "cell-new": { "tired-cell": 0.95, "loose-connector": 0.4 },
  "port-new": { "worn-port": 0.88, "dirty-port": 0.9 },
  "antenna-new": { "loose-antenna": 0.92 },
  "motor-new": { "dead-motor": 0.95, "broken-lead": 0.6 },
  "jack-new": { "dead-transducer": 0.5, "worn-port": 0.5, "broken-lead": 0.3 },
  "microphone-new": { "dead-transducer": 0.92 },
  "speaker-new": { "dead-transducer": 0.93, "broken-lead": 0.4 },
  "flex-new": { "torn-flex": 0.95, "unseated-flex": 0.93, "loose-connector": 0.5, "dead-light": 0.5 },
  "flex-copy": { "torn-flex": 0.85, "unseated-flex": 0.9, "loose-connector": 0.45, "dead-light": 0.45 },
  "latch-new": { "worn-latch": 0.92 },
  "cap-new": { "torn-cap": 0.97 },
  "cap-copy": { "torn-cap": 0.91 },
  "spring-new": { "weak-spring": 0.94 },
  "spring-set": { "weak-spring": 0.45, "worn-bowl": 0.1 },
  "gear-new": { "missing-tooth": 0.95 },
  "gear-copy": { "missing-tooth": 0.85 },
  "contacts-bend": { "bent-contact": 0.7 },
  "contacts-new": { "bent-contact": 0.94 },
  "connector-reseat": { "loose-connector": 0.6, "corroded-connector": 0.55, "unseated-flex": 0.65 },
  "wire-bridge": { "torn-flex": 0.65, "cut-trace": 0.8, "broken-lead": 0.8 },
  specialist: {
    "dead-chip": 0.7,
    "dead-supply": 0.7,
    "blown-fuse": 0.9,
    "cut-trace": 0.8,
    "cracked-joint": 0.85,
    "loose-connector": 0.7,
    "corroded-connector": 0.7,
    "torn-flex": 0.4,
    outside: 0.3,
  },
  "cord-sleeve": { "broken-lead": 0.55 },
  "cord-new": { "broken-lead": 0.95, "loose-connector": 0.6, "corroded-connector": 0.7 },
  "rework-joints": { "cracked-joint": 0.85, "loose-connector": 0.35, "cut-trace": 0.4 },
  "reheat-chip": { "dead-chip": 0.2, "cracked-joint": 0.3 },
  "board-original": {
    "dead-chip": 0.95,
    "dead-supply": 0.95,
    "cut-trace": 0.95,
    "cracked-joint": 0.9,
    "corroded-connector": 0.7,
    outside: 0.6,
  },
};
const HARDLY = 0.01;
/** Of ten units so mended, how many come back for it; by school. */
const COMES_BACK: Record<string, number> = {
  calibrate: 0.2,
  clean: 0.14,
  adjust: 0.1,
  sensor: 0.05,
  rework: 0.1,
};
const COMES_BACK_ELSE = 0.04;

/** A part looked at closely: how surely a bad one shows, and how often a sound one seems bad. */
export const LOOK = { shows: 0.72, seems: 0.04, minutes: 2 };
export const WRONG_SEEN = 0.05;

export type Fault = {
  /** a part of the wiring, or a place when it lies outside */
  node: string;
  defect: string;
  /** in how many of ten tests it shows; 1 for a constant one */
  shows: number;
};

/** One run's world: the tables, moved. */
export class World {
  private readonly moved = new Map<string, number>();
  constructor(c: Chance) {
    for (const x of DEFECTS) this.moved.set(x.id, 3 ** c.between(-1, 1));
    for (const route of Object.keys(CURES))
      for (const defect of Object.keys(CURES[route]!))
        this.moved.set(`${route} ${defect}`, 2 ** c.between(-1, 1));
  }
  weightOf = (x: Defect): number => x.weight * this.moved.get(x.id)!;
  /** the odds of failing are moved, so that what is nearly sure stays so */
  cures(route: string, defect: string): number {
    const stated = CURES[route]?.[defect];
    if (stated === undefined) return HARDLY;
    const odds = ((1 - stated) / stated) * this.moved.get(`${route} ${defect}`)!;
    return 1 / (1 + odds);
  }
  comesBack = (school: string): number => COMES_BACK[school] ?? COMES_BACK_ELSE;
}

/** What rests on what, walked here and not by the diagnosis. */
export type Wires = {
  places: readonly string[];
  /** of each place the parts behind it, and of these the ones that are its own */
  behind: ReadonlyMap<string, ReadonlySet<string>>;
  own: ReadonlyMap<string, ReadonlySet<string>>;
  kindOf: ReadonlyMap<string, NodeKind>;
  twinOf: ReadonlyMap<string, string>;
};

export function wiresOf(profile: ModelProfile): Wires {
  const { nodes, serves } = profile.wiring!;
  const needs = new Map(nodes.map((n) => [n.id, n.needs]));
  const behind = new Map<string, Set<string>>();
  const own = new Map<string, Set<string>>();
  for (const [place, parts] of Object.entries(serves)) {
    const all = new Set<string>();
    const waiting = parts.filter((p) => needs.has(p));
    own.set(place, new Set(waiting));
    while (waiting.length > 0) {
      const part = waiting.pop()!;
      if (all.has(part)) continue;
      all.add(part);
      waiting.push(...(needs.get(part) ?? []).filter((p) => needs.has(p)));
    }
    behind.set(place, all);
  }
  return {
    places: [...behind.keys()],
    behind,
    own,
    kindOf: new Map(nodes.map((n) => [n.id, n.kind])),
    twinOf: new Map(nodes.flatMap((n) => (n.twin ? [[n.id, n.twin] as const] : []))),
  };
}

const POWER = new Set(["power-on", "charging", "port"]);

type Signs = (string | null)[];
const known = new WeakMap<Fault, Map<string, Signs>>();
/** The same, remembered with the fault: one belongs to one unit. */
export function signsAt(profile: ModelProfile, w: Wires, fault: Fault, place: string): (string | null)[] {
  let all = known.get(fault);
  if (!all) known.set(fault, (all = new Map<string, Signs>()));
  let signs = all.get(place);
  if (!signs) all.set(place, (signs = signsOf(profile, w, fault, place)));
  return signs;
}

/** How a fault shows at a place when it shows: its possible measures, null for a function; nothing if it does not. */
function signsOf(profile: ModelProfile, w: Wires, fault: Fault, place: string): (string | null)[] {
  const control = profile.controls.find((x) => x.id === place);
  if (fault.defect === OUTSIDE) {
    if (fault.node !== place) return [];
    if (control?.kind === "stick") return STICK_ANY;
    return [control ? (control.kind === "button" ? "decision" : "fullPull") : null];
  }
  if (!w.behind.get(place)?.has(fault.node)) return [];
  const defect = DEFECTS.find((x) => x.id === fault.defect)!;
  const fn = profile.functions.find((x) => x.id === place);
  if (defect.power) return fn && POWER.has(fn.kind) ? [null] : [];
  if (!control) return [null];
  const mine = w.own.get(place)!.has(fault.node) || defect.kinds.includes("joint");
  const signs = mine ? defect[control.kind] : undefined;
  return signs ? [...signs] : ["noAnswer"];
}
