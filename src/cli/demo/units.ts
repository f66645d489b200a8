import { readFileSync } from "node:fs";

import { CAUSES } from "@/contract/mend";
import { ROLES } from "@/contract/roles";
import { MARK_KINDS } from "@/contract/intake";
import { z } from "@/core/base/schema";
import type { ControllerFaults } from "@/core/simulate/faults";
import { HALVES } from "@/core/signal/dead-halves";

/**
 * The demonstration workshop as data: who and what there is (demo/shop.json), and its units, each with how
 * far its story goes (demo/units.json).
 */

/**
 * 0 taken in, 1 quick look, 2 full test, 3 faults named, 4 mended, 5 proven with functions open, 6 everything
 * answered.
 */
export const LAST_STEP = {
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
} as const;
export type Story = keyof typeof LAST_STEP;

const share = z.number().min(0).max(2);
const text = z.string().max(300);
const pair = z.tuple([text, text]);
const stick = z.strictObject({
  offset: z.tuple([z.number(), z.number()]).exactOptional(),
  noise: share.exactOptional(),
  spikesPerSecond: z.number().min(0).exactOptional(),
  scatter: share.exactOptional(),
  sticksShare: share.exactOptional(),
  reach: z.partialRecord(z.enum(HALVES), share).exactOptional(),
  square: share.exactOptional(),
  dead: z.enum(HALVES).exactOptional(),
  noAnswer: z.boolean().exactOptional(),
  wornAt: share.exactOptional(),
  leap: share.exactOptional(),
  leanDeg: z.number().exactOptional(),
});
const trigger = z.strictObject({
  rest: share.exactOptional(),
  full: share.exactOptional(),
  backtrack: share.exactOptional(),
  hole: share.exactOptional(),
  noAnswer: z.boolean().exactOptional(),
});
const button = z.strictObject({
  missRate: share.exactOptional(),
  rimMissRate: share.exactOptional(),
  rimMissBySide: z.tuple([share, share, share, share]).exactOptional(),
  lightMissRate: share.exactOptional(),
  hardMissRate: share.exactOptional(),
  chatterRate: share.exactOptional(),
  extraRate: share.exactOptional(),
  stuck: z.boolean().exactOptional(),
  firesWith: text.exactOptional(),
});
const faults: z.ZodType<ControllerFaults> = z.strictObject({
  sticks: z.record(z.string(), stick).exactOptional(),
  triggers: z.record(z.string(), trigger).exactOptional(),
  buttons: z.record(z.string(), button).exactOptional(),
});

const unit = z.strictObject({
  /** what it shows, for whoever reads the file */
  about: text.exactOptional(),
  model: text,
  story: z.enum(Object.keys(LAST_STEP) as [Story, ...Story[]]),
  by: z.enum(["ida", "bram", "oona"]),
  daysAgo: z.number().min(0),
  claim: z.string().max(300),
  faults,
  after: faults.exactOptional(),
  revision: text.nullable().exactOptional(),
  /** parts from the shelf: batch by part and supplier, slot, pieces */
  fits: z.array(z.tuple([text, text]).rest(z.int().min(1))).exactOptional(),
  /** the route that it waits for */
  hold: text.exactOptional(),
  lot: text.exactOptional(),
  customer: text.exactOptional(),
  seller: text.exactOptional(),
  price: z.int().min(0).exactOptional(),
  tray: z.int().min(1).max(9).exactOptional(),
  smell: z.enum(["slight", "strong"]).exactOptional(),
  grime: z.enum(["none", "slight", "strong"]).exactOptional(),
  rattle: z.enum(["metal", "plastic"]).exactOptional(),
  history: text.exactOptional(),
  openedBefore: z.boolean().exactOptional(),
  missing: z.array(text).exactOptional(),
  /** belongs with the unit before it */
  isMate: z.boolean().exactOptional(),
  marks: z.array(z.tuple([z.enum(MARK_KINDS), z.number(), z.number()])).exactOptional(),
  picture: z.boolean().exactOptional(),
  quick: z.boolean().exactOptional(),
  /**
   * name of a made-up bench (src/core/simulate/instruments.ts) with which the readings are taken; none when
   * left out
   */
  bench: text.exactOptional(),
  /** only these ways of measuring */
  benchOnly: z.array(text).exactOptional(),
  /** kept as a known-good unit to compare with */
  reference: z.boolean().exactOptional(),
  dried: z.boolean().exactOptional(),
  /** what was seen inside (part, finding), tried and found loose on the way to the cause */
  seen: z.array(pair).exactOptional(),
  tried: z
    .array(
      z.tuple([
        text,
        z.enum(["clean", "reseat", "replace", "resolder"]),
        text,
        z.enum(["cured", "same"]).nullable(),
      ]),
    )
    .exactOptional(),
  loose: z.array(pair).exactOptional(),
  points: z.record(z.string(), z.number()).exactOptional(),
  failing: z.array(text).exactOptional(),
  stillFailing: z.array(text).exactOptional(),
  alsoFound: z.array(pair).exactOptional(),
  /** what, part, minutes, route, price of the part */
  mend: z
    .array(
      z
        .tuple([text, text, z.int()])
        .or(z.tuple([text, text, z.int(), text]))
        .or(z.tuple([text, text, z.int(), text, z.int()])),
    )
    .exactOptional(),
  /** routes that were tried before and did not help */
  failedMends: z.array(z.tuple([text, text, z.int(), text, z.int()])).exactOptional(),
  /** came back this many days ago, for the first mend */
  cameBack: z.strictObject({ daysAgo: z.number(), words: text }).exactOptional(),
  /** the customer was asked so many hours ago; with an answer when they gave one */
  asked: z
    .strictObject({ hoursAgo: z.number(), answer: z.enum(["yes", "no"]).exactOptional() })
    .exactOptional(),
  costLimit: z.int().exactOptional(),
  cause: z.enum(CAUSES).exactOptional(),
  /** the mend is good for now: what it falls back on, and in how many days it is looked at again */
  goodForNow: z.tuple([text, z.int()]).exactOptional(),
  parcel: z.enum(["sound", "poor", "damaged"]).exactOptional(),
  differs: text.exactOptional(),
  leavesOpen: z.boolean().exactOptional(),
  /** lines of the proof sheet that nobody answered yet */
  unproven: z.array(text).exactOptional(),
  /** where it was sold or how it went back, the fees, to whom and how to reach them */
  handed: z.tuple([text, z.int(), text, text]).exactOptional(),
  warrantyDays: z.int().exactOptional(),
  sells: z.int().exactOptional(),
  known: text.exactOptional(),
  limit: text.exactOptional(),
  reason: text.exactOptional(),
});
export type DemoUnit = z.infer<typeof unit>;

const file = z.strictObject({
  format: z.literal("birdcage-demo"),
  version: z.literal(1),
  units: z.array(unit).min(1),
});
export const DEMO_UNITS: DemoUnit[] = file.parse(JSON.parse(readFileSync("demo/units.json", "utf8"))).units;

const shop = z.strictObject({
  format: z.literal("birdcage-demo-shop"),
  version: z.literal(1),
  people: z.array(z.strictObject({ name: text, role: z.enum(ROLES), password: z.string().min(12) })),
  customers: z.array(z.strictObject({ name: text, contact: text })),
  lots: z.array(
    z.strictObject({
      code: text,
      seller: text,
      priceMinor: z.int(),
      carriageMinor: z.int(),
      unitsPromised: z.int(),
    }),
  ),
  listings: z.array(
    z.strictObject({
      profileKey: text,
      words: text,
      seller: text,
      priceMinor: z.int(),
      carriageMinor: z.int(),
    }),
  ),
  shelf: z.array(
    z.strictObject({
      part: text,
      supplier: text,
      pieces: z.int(),
      costMinor: z.int(),
      bin: text,
      daysAgo: z.number(),
      /** how many of them were measured, and the share of bad ones among them */
      measured: z.int(),
      badShare: share,
    }),
  ),
});
export const DEMO_SHOP = shop.parse(JSON.parse(readFileSync("demo/shop.json", "utf8")));
