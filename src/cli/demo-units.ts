import type { Cause } from "@/contract/deeds";
import type { Mark } from "@/contract/intake";
import type { ControllerFaults } from "@/core/simulate/faults";

/** The made-up units of the demonstration workshop, each with how far its story goes. */

export type Story =
  | "arrived"
  | "quick"
  | "tested"
  | "found"
  | "mended"
  | "proven"
  | "ready"
  | "released"
  | "released-limit"
  | "donor"
  | "scrap"
  | "returned-unmended"
  | "sold-as-found"
  | "quarantine"
  | "wet"
  | "dried";

/** 0 taken in, 1 quick look, 2 full test, 3 faults named, 4 mended, 5 proven with functions open, 6 everything answered. */
export const LAST_STEP: Record<Story, number> = {
  arrived: 0,
  quarantine: 0,
  wet: 0,
  quick: 1,
  dried: 2,
  tested: 2,
  found: 3,
  donor: 3,
  scrap: 3,
  "returned-unmended": 3,
  "sold-as-found": 2,
  mended: 4,
  proven: 5,
  ready: 6,
  released: 6,
  "released-limit": 6,
};

export type DemoUnit = {
  model: string;
  story: Story;
  by: "ida" | "bram" | "oona";
  daysAgo: number;
  claim: string;
  faults: ControllerFaults;
  after?: ControllerFaults;
  revision?: string | null;
  /** parts from the shelf: batch by part and supplier, slot, pieces */
  fits?: [string, string, number?][];
  /** the route that it waits for */
  hold?: string;
  lot?: string;
  customer?: string;
  seller?: string;
  price?: number;
  tray?: number;
  smell?: "slight" | "strong";
  grime?: "none" | "slight" | "strong";
  rattle?: "metal" | "plastic";
  history?: string;
  openedBefore?: boolean;
  missing?: string[];
  marks?: [Mark["kind"], number, number][];
  picture?: boolean;
  quick?: boolean;
  /** name of a made-up bench (src/core/simulate/instruments.ts) with which the readings are taken; none when left out */
  bench?: string;
  /** only these ways of measuring */
  benchOnly?: string[];
  /** kept as a known-good unit to compare with */
  reference?: boolean;
  dried?: boolean;
  /** what was seen inside, tried and found loose on the way to the cause */
  seen?: [part: string, finding: string][];
  tried?: [
    suspect: string,
    action: "clean" | "reseat" | "replace" | "resolder",
    expects: string,
    outcome: "cured" | "same" | null,
  ][];
  loose?: [what: string, foundAt: string][];
  points?: Record<string, number>;
  failing?: string[];
  stillFailing?: string[];
  alsoFound?: [string, string][];
  mend?: [what: string, part: string, minutes: number, route?: string, partMinor?: number][];
  /** routes that were tried before and did not help */
  failedMends?: [what: string, part: string, minutes: number, route: string, partMinor: number][];
  /** came back this many days ago, for the first mend */
  cameBack?: { daysAgo: number; words: string };
  /** the customer was asked so many hours ago; with an answer when they gave one */
  asked?: { hoursAgo: number; answer?: "yes" | "no" };
  costLimit?: number;
  cause?: Cause;
  /** the mend is good for now: what it falls back on, and in how many days it is looked at again */
  goodForNow?: [fallback: string, inDays: number];
  parcel?: "sound" | "poor" | "damaged";
  differs?: string;
  leavesOpen?: boolean;
  /** lines of the proof sheet that nobody answered yet */
  unproven?: string[];
  /** where it was sold or how it went back, the fees, to whom and how to reach them */
  handed?: [channel: string, feesMinor: number, buyer: string, contact: string];
  warrantyDays?: number;
  sells?: number;
  known?: string;
  limit?: string;
  reason?: string;
};

const driftLeft: ControllerFaults = { sticks: { "stick.left": { offset: [0.15, -0.05], noise: 0.006 } } };
const driftRight: ControllerFaults = { sticks: { "stick.right": { offset: [-0.09, 0.12] } } };
const worn: ControllerFaults = { sticks: { "stick.left": { wornAt: 0.35, noise: 0.006 } } };

/** Known-good units on the shelf: what others are held against. */
const reference = (model: string, by: DemoUnit["by"], daysAgo: number, revision?: string): DemoUnit => ({
  model,
  story: "ready",
  by,
  daysAgo,
  seller: "kept by the shop",
  price: 2200,
  claim: "works, kept as a reference",
  points:
    model === "dunlin"
      ? {
          "tp.cell": 3.94,
          "tp.33": 3.3,
          "tp.18": 1.8,
          "tp.left.x": 0.9,
          "tp.left.y": 0.9,
          "tp.right.x": 0.91,
          "tp.right.y": 0.89,
        }
      : { "tp.5": 5.02, "tp.33": 3.31, "tp.stick": 1.8 },
  faults: {},
  bench: "healthy",
  reference: true,
  ...(revision ? { revision } : {}),
});

export const DEMO_UNITS: DemoUnit[] = [
  // sold and gone
  {
    model: "dunlin",
    story: "released",
    by: "bram",
    daysAgo: 14,
    lot: "L-07",
    claim: "left stick drifts",
    cause: "wear",
    faults: driftLeft,
    mend: [["Cleaned both contact sensors of the left stick", "contact cleaner", 24, "clean-contacts", 20]],
    sells: 4150,
    handed: ["online market", 492, "Ottoline Marsh", "ottoline at the lock-keeper's"],
    cameBack: { daysAgo: 6, words: "the left stick wanders again" },
  },
  {
    model: "dunlin",
    story: "released",
    by: "oona",
    daysAgo: 14,
    lot: "L-07",
    claim: "untested",
    faults: { buttons: { "face.south": { missRate: 0.35 } } },
    mend: [["New rubber dome under face south", "dome sheet, dear copy", 18, "dome-dear", 190]],
    sells: 4400,
    handed: ["online market", 519, "", ""],
  },
  {
    model: "turnstone",
    story: "released",
    by: "bram",
    daysAgo: 13,
    revision: "b",
    seller: "Canal Street finds",
    price: 1500,
    claim: "trigger does not reach the end",
    faults: { triggers: { "trigger.right": { full: 0.9 } } },
    mend: [["Seated the right trigger sensor again, shim 0.2 mm", "shim", 31, "trigger-reseat", 10]],
    sells: 5600,
    handed: ["shop counter", 0, "Ruben Aldous", "calls from the tram depot"],
    warrantyDays: 20,
    picture: true,
  },
  {
    model: "whimbrel",
    story: "released",
    by: "oona",
    daysAgo: 13,
    seller: "quayside market",
    price: 2100,
    claim: "lower paddle chatters",
    faults: { buttons: { "paddle.left.lower": { chatterRate: 0.45 } } },
    mend: [["Replaced the switch under the lower left paddle", "clicky switch, original", 27, "switch-new", 110]],
    sells: 6700,
    handed: ["online market", 772, "", ""],
  },
  {
    model: "knot",
    story: "released",
    by: "ida",
    daysAgo: 12,
    lot: "L-08",
    claim: "untested",
    faults: {},
    sells: 2050,
    known: "Wrist strap is new.",
  },
  {
    model: "dunlin",
    story: "released-limit",
    by: "bram",
    daysAgo: 12,
    lot: "L-07",
    claim: "does not connect",
    faults: {},
    failing: ["radio"],
    stillFailing: ["radio"],
    mend: [["Reseated the antenna lead, no change", "", 22]],
    leavesOpen: true,
    limit: "by cable only",
    reason: "the radio chip does not answer and is not to be had",
    known: "Everything else is proven by cable.",
  },
  {
    model: "curlew",
    story: "released",
    by: "oona",
    daysAgo: 11,
    revision: "wide",
    seller: "Canal Street finds",
    price: 600,
    claim: "stick does not come back",
    faults: { sticks: { "stick.left": { scatter: 0.09, sticksShare: 0.3 } } },
    mend: [["New return spring, gimbal cleaned", "spring from B-0104", 20]],
    sells: 2000,
  },
  {
    model: "sanderling",
    story: "donor",
    by: "bram",
    daysAgo: 11,
    lot: "L-08",
    claim: "stick loose",
    faults: { sticks: { "stick.left": { noise: 0.05, reach: { up: 0.7, right: 0.75 } } } },
    known: "Stick bowl ground away. Board, trigger and rail latch tested good.",
  },
  {
    model: "turnstone",
    story: "scrap",
    by: "ida",
    daysAgo: 10,
    lot: "L-08",
    revision: "a",
    claim: "dead, was in a flooded cellar",
    faults: {
      sticks: { "stick.left": { noAnswer: true }, "stick.right": { noAnswer: true } },
      triggers: { "trigger.left": { noAnswer: true } },
    },
    dried: true,
    known: "Corrosion under both chips; nothing worth taking but the shell screws.",
    grime: "strong",
    smell: "strong",
  },
  {
    model: "avocet",
    story: "returned-unmended",
    by: "oona",
    daysAgo: 10,
    customer: "Joost Averill",
    claim: "right half falls off its latch",
    faults: {},
    failing: ["latch"],
    known: "Latch tongue is broken off; the part is not to be had. Both halves test good. Owner wants it back as it is.",
  },
  {
    model: "whimbrel",
    story: "sold-as-found",
    by: "bram",
    daysAgo: 9,
    seller: "quayside market",
    price: 800,
    claim: "cord chewed by a dog",
    faults: {},
    failing: ["cord"],
    known: "Works while the cord is held. Sold with that said.",
    marks: [
      ["chewed", 88, 4],
      ["scratch", 40, 60],
    ],
  },
  {
    model: "dunlin",
    story: "released",
    by: "ida",
    daysAgo: 9,
    lot: "L-07",
    claim: "right stick wanders",
    faults: driftRight,
    mend: [["Replaced both sensors of the right stick", "contact sensor, dear copy", 38, "sensors-dear", 260]],
    sells: 4500,
    picture: true,
  },
  // proven or nearly
  {
    model: "dunlin",
    story: "ready",
    by: "bram",
    daysAgo: 6,
    lot: "L-07",
    claim: "left stick pulls to the right",
    bench: "healthy",
    faults: driftLeft,
    mend: [["Replaced the left stick module", "stick module, dear copy", 41, "module-dear", 520]],
    tray: 1,
    picture: true,
    marks: [
      ["scuff", 20, 80],
      ["scratch", 120, 88],
    ],
  },
  {
    model: "turnstone",
    story: "proven",
    by: "oona",
    daysAgo: 5,
    revision: "a",
    customer: "Mirela Tandy",
    cause: "dirt",
    claim: "face north needs three pushes",
    faults: { buttons: { "face.north": { missRate: 0.4 } } },
    mend: [["Cleaned membrane and board contacts", "contact alcohol", 26, "clean-pads", 10]],
    tray: 2,
    history: "coffee near it, says the owner, never in it",
  },
  {
    model: "knot",
    story: "ready",
    by: "bram",
    daysAgo: 5,
    lot: "L-08",
    claim: "pad left dead",
    faults: { buttons: { "pad.left": { missRate: 1 } } },
    mend: [["New dome sheet", "dome sheet, dear copy", 12, "dome-dear", 130]],
  },
  // mended, to be proven
  {
    model: "whimbrel",
    story: "mended",
    by: "oona",
    daysAgo: 4,
    customer: "Pernilla Okonjo",
    claim: "aim jumps when I push right",
    tried: [["sensor.left.x", "clean", "no jumps on a slow circle", "same"]],
    faults: worn,
    mend: [["Replaced the x sensor of the left stick", "contact sensor, original from B-0108", 33, "sensors-dear", 0]],
    tray: 3,
    picture: true,
  },
  {
    model: "curlew",
    story: "mended",
    by: "bram",
    daysAgo: 4,
    revision: "narrow",
    seller: "Mill Lane recycling",
    price: 450,
    claim: "stick click dead",
    faults: { buttons: { "stick.left.click": { missRate: 1 } } },
    mend: [["Resoldered the click switch", "", 17]],
    cause: "drop",
    goodForNow: ["a new click switch", 5],
    tray: 4,
  },
  {
    model: "avocet",
    story: "mended",
    by: "ida",
    daysAgo: 3,
    seller: "Canal Street finds",
    price: 1900,
    claim: "left half drifts up",
    faults: { sticks: { "stick.left": { offset: [0.02, -0.14] } } },
    mend: [["Cleaned, then calibrated the left stick", "contact cleaner", 15, "clean-contacts", 20]],
  },
  // faults named
  {
    model: "dunlin",
    story: "found",
    by: "bram",
    daysAgo: 3,
    lot: "L-07",
    claim: "run stops now and then",
    bench: "sensor off balance",
    benchOnly: ["supply", "contact-sensor", "charge-log", "discharge-log"],
    faults: { sticks: { "stick.left": { dead: "up" } } },
    tray: 5,
    alsoFound: [["board", "cracked joint at the stick's middle leg"]],
    seen: [
      ["sensor.left.y", "sound"],
      ["joint.left.y", "cracked-joint"],
    ],
    points: { "tp.cell": 3.92, "tp.18": 1.8, "tp.left.y": 0.2, "tp.left.x": 0.91 },
    picture: true,
  },
  {
    model: "turnstone",
    story: "found",
    by: "oona",
    daysAgo: 3,
    revision: null,
    seller: "quayside market",
    price: 1300,
    claim: "untested, no cells",
    loose: [["crescent of grey plastic, 4 mm", "under the left trigger"]],
    seen: [["gear.left", "missing-tooth"]],
    faults: { triggers: { "trigger.left": { hole: 0.2, backtrack: 0.06 } }, buttons: { "bumper.right": { missRate: 0.3 } } },
    missing: ["door"],
    tray: 6,
  },
  {
    model: "sanderling",
    story: "found",
    by: "bram",
    daysAgo: 2,
    lot: "L-08",
    claim: "stick grinds",
    faults: { sticks: { "stick.left": { reach: { up: 0.84, left: 0.86 }, noise: 0.03 } } },
  },
  {
    model: "whimbrel",
    story: "found",
    by: "ida",
    daysAgo: 2,
    seller: "Canal Street finds",
    price: 1700,
    claim: "microphone dead",
    faults: {},
    failing: ["mic.upper"],
    bench: "deaf microphone",
    benchOnly: ["microphone", "tone"],
  },
  // first test done
  {
    model: "dunlin",
    story: "tested",
    by: "oona",
    daysAgo: 2,
    seller: "quayside market",
    price: 1100,
    claim: "works fine, selling because upgraded",
    bench: "tired cell",
    benchOnly: ["supply", "charge-log", "discharge-log", "feel"],
    faults: { sticks: { "stick.right": { offset: [0.07, 0.06] } }, triggers: { "trigger.left": { full: 0.95, rest: 0.015 } } },
    tray: 7,
  },
  {
    model: "knot",
    story: "tested",
    by: "bram",
    daysAgo: 1,
    lot: "L-08",
    claim: "untested",
    faults: { buttons: { "face.east": { firesWith: "face.south" } } },
  },
  { model: "curlew", story: "tested", by: "bram", daysAgo: 1, revision: "wide", lot: "L-08", claim: "untested", faults: {} },
  {
    model: "avocet",
    story: "dried",
    by: "oona",
    daysAgo: 2,
    customer: "Mirela Tandy",
    claim: "glass of squash over the left half",
    faults: { buttons: { "left.lower": { stuck: true } } },
    history: "an hour in rice, then put away for a week",
    grime: "strong",
  },
  // quick look only
  {
    model: "turnstone",
    story: "quick",
    by: "bram",
    daysAgo: 1,
    revision: "b",
    lot: "L-08",
    claim: "drifts",
    faults: { sticks: { "stick.left": { offset: [0.2, 0.02] } } },
    tray: 8,
  },
  { model: "dunlin", story: "quick", by: "oona", daysAgo: 1, lot: "L-07", claim: "untested", faults: {} },
  {
    model: "sanderling",
    story: "quick",
    by: "bram",
    daysAgo: 0.6,
    lot: "L-08",
    claim: "button stays in",
    faults: { buttons: { "face.south": { stuck: true } } },
  },
  // arrived
  {
    model: "dunlin",
    story: "quarantine",
    by: "oona",
    daysAgo: 0.5,
    seller: "quayside market",
    price: 700,
    claim: "does not sit flat on the table",
    faults: {},
    marks: [["crack", 84, 60]],
  },
  {
    model: "turnstone",
    story: "wet",
    by: "bram",
    daysAgo: 0.4,
    customer: "Pernilla Okonjo",
    claim: "fell into the rock pool yesterday",
    faults: {},
    grime: "slight",
    smell: "slight",
  },
  {
    model: "dunlin",
    story: "arrived",
    by: "bram",
    daysAgo: 0.35,
    lot: "L-07",
    claim: "left stick cap missing",
    faults: {},
    missing: ["cap.left"],
    marks: [["missing-piece", 48, 70]],
  },
  {
    model: "whimbrel",
    story: "arrived",
    by: "bram",
    daysAgo: 0.3,
    seller: "Canal Street finds",
    price: 1600,
    claim: "paddles missing, otherwise great",
    faults: {},
    missing: ["paddles", "case"],
  },
  { model: "knot", story: "arrived", by: "oona", daysAgo: 0.28, lot: "L-08", claim: "", faults: {}, missing: ["strap"] },
  { model: "knot", story: "arrived", by: "oona", daysAgo: 0.27, lot: "L-08", claim: "", faults: {}, grime: "strong" },
  { model: "curlew", story: "arrived", by: "oona", daysAgo: 0.26, revision: null, lot: "L-08", claim: "", faults: {} },
  {
    model: "avocet",
    story: "arrived",
    by: "ida",
    daysAgo: 0.2,
    customer: "Joost Averill",
    claim: "both halves lose each other after ten minutes",
    faults: {},
    history: "since the first day",
  },
  {
    model: "turnstone",
    story: "arrived",
    by: "ida",
    daysAgo: 0.15,
    revision: null,
    seller: "quayside market",
    price: 1200,
    claim: "rattles, one trigger mushy",
    faults: {},
    rattle: "plastic",
    marks: [
      ["scuff", 18, 88],
      ["label-glue", 79, 100],
    ],
  },
  {
    model: "sanderling",
    story: "arrived",
    by: "bram",
    daysAgo: 0.1,
    seller: "Canal Street finds",
    price: 500,
    claim: "rail will not hold",
    faults: {},
    openedBefore: true,
  },
  {
    model: "dunlin",
    story: "arrived",
    by: "bram",
    daysAgo: 0.08,
    seller: "quayside market",
    price: 950,
    claim: "drift in both sticks, bumper fine",
    faults: {},
  },
  // on the shelf, to compare with
  reference("dunlin", "ida", 13),
  reference("dunlin", "bram", 12),
  reference("dunlin", "oona", 9),
  reference("whimbrel", "ida", 8),
  // the shop's record of the same trouble by several routes
  {
    model: "dunlin",
    story: "released",
    by: "oona",
    daysAgo: 13,
    seller: "quayside market",
    price: 1150,
    claim: "left stick drifts a lot",
    faults: driftLeft,
    failedMends: [["Cleaned the contacts, no better", "contact cleaner", 22, "clean-contacts", 20]],
    mend: [["New pair of sensors in the left stick", "contact sensor, dear copy", 36, "sensors-dear", 260]],
    sells: 4450,
    handed: ["online market", 525, "", ""],
    parcel: "sound",
  },
  {
    model: "dunlin",
    story: "released",
    by: "bram",
    daysAgo: 12,
    seller: "Canal Street finds",
    price: 1300,
    claim: "right stick drifts",
    faults: driftRight,
    mend: [["Whole right stick module", "stick module, dear copy", 44, "module-dear", 520]],
    fits: [["SM-DUN-D tidewater-parts", "module.right"]],
    sells: 4600,
    handed: ["shop counter", 0, "Fenna Quist", "the bakery in Reed Street"],
    parcel: "poor",
  },
  {
    model: "dunlin",
    story: "released",
    by: "ida",
    daysAgo: 8,
    seller: "quayside market",
    price: 1050,
    claim: "right stick wanders now and then",
    faults: driftRight,
    mend: [["Cleaned the contact surfaces", "contact cleaner", 19, "clean-contacts", 20]],
    sells: 4050,
    parcel: "sound",
  },
  // waits for the customer while it lies open
  {
    model: "dunlin",
    story: "found",
    by: "oona",
    daysAgo: 3,
    customer: "Mirela Tandy",
    claim: "left stick drifts and face south sticks",
    costLimit: 3200,
    faults: { sticks: { "stick.left": { offset: [0.14, 0.03], noise: 0.005 } }, buttons: { "face.south": { missRate: 0.3 } } },
    failedMends: [["Opened and cleaned the left stick, no better", "contact cleaner", 21, "clean-contacts", 20]],
    asked: { hoursAgo: 40 },
  },
  // two routes failed, and what is left costs more than it brings
  {
    model: "curlew",
    story: "found",
    by: "bram",
    daysAgo: 2.5,
    revision: "wide",
    seller: "Mill Lane recycling",
    price: 450,
    claim: "stick drifts",
    faults: { sticks: { "stick.left": { offset: [0.13, 0.02], noise: 0.006 } } },
    failedMends: [
      ["Cleaned the contacts", "contact cleaner", 24, "clean-contacts", 20],
      ["New pair of sensors, still off", "contact sensor, cheap copy", 41, "sensors-cheap", 80],
    ],
    differs: "the listing showed it with its cord tie",
    parcel: "poor",
  },
  // cheap modules of one batch: one gone, one still in house and somebody's own
  {
    model: "dunlin",
    story: "released",
    by: "oona",
    daysAgo: 10,
    seller: "Canal Street finds",
    price: 1150,
    claim: "left stick drifts",
    faults: driftLeft,
    mend: [["Whole left stick module", "stick module, cheap copy", 46, "module-cheap", 210]],
    fits: [["SM-DUN-C old-mill-spares", "module.left"]],
    sells: 4200,
    handed: ["online market", 497, "Sorin Vale", "sorin at the observatory"],
    parcel: "sound",
  },
  {
    model: "dunlin",
    story: "mended",
    by: "bram",
    daysAgo: 4,
    customer: "Pernilla Okonjo",
    claim: "right stick drifts, use: games at home",
    faults: driftRight,
    mend: [["Whole right stick module", "stick module, cheap copy", 43, "module-cheap", 210]],
    fits: [["SM-DUN-C old-mill-spares", "module.right"]],
    costLimit: 3000,
  },
  // a donor with one dead stick: the rest of it is good
  {
    model: "dunlin",
    story: "donor",
    by: "ida",
    daysAgo: 5,
    seller: "Harbour clearance",
    price: 600,
    claim: "dead left stick, shell cracked",
    faults: { sticks: { "stick.left": { noAnswer: true } } },
    known: "shell cracked through; parts only",
    parcel: "damaged",
  },
  // parked until an original module turns up
  {
    model: "dunlin",
    story: "found",
    by: "oona",
    daysAgo: 3.5,
    seller: "quayside market",
    price: 1250,
    claim: "left stick drifts badly",
    faults: driftLeft,
    hold: "module-original",
    parcel: "sound",
  },
  {
    model: "whimbrel",
    story: "found",
    by: "bram",
    daysAgo: 2,
    seller: "Canal Street finds",
    price: 1900,
    claim: "left stick jumps",
    faults: worn,
    parcel: "sound",
  },
  // more is wrong with it than it is worth, and its right half is what others need
  {
    model: "dunlin",
    story: "found",
    by: "ida",
    daysAgo: 1.8,
    seller: "Mill Lane recycling",
    price: 420,
    claim: "untested, was in a drawer",
    faults: {
      sticks: { "stick.left": { wornAt: 0.4, noise: 0.02 } },
      triggers: { "trigger.left": { hole: 0.25, backtrack: 0.07 }, "trigger.right": { full: 0.85 } },
      buttons: { "face.east": { missRate: 0.5 }, "bumper.left": { missRate: 0.6 } },
    },
    parcel: "poor",
  },
  {
    model: "turnstone",
    story: "found",
    by: "oona",
    daysAgo: 1.5,
    revision: "a",
    seller: "Harbour clearance",
    price: 1800,
    claim: "heavy motor silent",
    faults: {},
    failing: ["motor.heavy"],
    parcel: "sound",
  },
  // half taken apart on the bench, and closed again: the mending part of the demo
  {
    model: "dunlin",
    story: "found",
    by: "bram",
    daysAgo: 2,
    seller: "Harbour clearance",
    price: 700,
    claim: "left stick drifts, back feels sticky",
    faults: driftLeft,
    grime: "strong",
  },
  {
    model: "dunlin",
    story: "found",
    by: "oona",
    daysAgo: 3,
    seller: "quayside market",
    price: 820,
    claim: "left stick drifts up and left",
    faults: driftLeft,
  },
];
