import { found, type Listed } from "../base/finding";
import { z } from "../base/schema";

import { changeLimits, HOUSE_LIMITS, limitChangesSchema, type Limits } from "../grade/limits";
import type { Rules } from "../analyse/analyse";
import { guideSchema } from "./guide";
import { type InputMap, inputMap, type MappedControl } from "../input/input";
import { marketSchema, slotSchema } from "./slots";
import { wiringSchema } from "./wiring";

/**
 * The open format of a model profile, version 1. Lengths in millimetres on the plan, origin top left, x
 * right, y down.
 */

export const PROFILE_FORMAT = "birdcage-profile";
export const PROFILE_VERSION = 1;

const slug = z
  .string()
  .regex(/^[a-z0-9]+([.-][a-z0-9]+)*$/, found({ rule: "letters", of: "small" }))
  .max(60);
const words = (max: number) => z.string().trim().min(1).max(max);
const millimetres = z.number().finite().min(-20).max(600);
const place = z.strictObject({ x: millimetres, y: millimetres });
const side = z.enum(["left", "right", "centre"]);
const channel = z.int().min(0).max(63);

const stickInput = z.strictObject({
  axes: z.tuple([channel, channel]),
  flip: z.tuple([z.boolean(), z.boolean()]).optional(),
});
const buttonInput = z.strictObject({ button: channel });
const axisTriggerInput = z
  .strictObject({ axis: channel, released: z.number().min(-1).max(1), pulled: z.number().min(-1).max(1) })
  .refine((i) => Math.abs(i.pulled - i.released) >= 0.2, found({ rule: "apart", by: 0.2 }));
const hatInput = z.strictObject({ hat: channel, values: z.array(z.number().min(-4).max(4)).min(1).max(8) });

const controlBase = {
  id: slug,
  name: words(60).optional(),
  side,
  at: place,
  half: slug.optional(),
  /** the revisions that have this control; all when left out */
  revisions: z.array(slug).min(1).optional(),
  limits: limitChangesSchema.optional(),
};
const size = z.number().positive().max(200);

const controlSchema = z.discriminatedUnion("kind", [
  z.strictObject({
    ...controlBase,
    kind: z.literal("stick"),
    input: stickInput,
    sensor: z.enum(["contact", "magnetic", "optical"]),
    /** revisions whose stick differs under the same cap */
    sensorByRevision: z.record(slug, z.enum(["contact", "magnetic", "optical"])).optional(),
    diameter: size,
  }),
  z.strictObject({
    ...controlBase,
    kind: z.literal("trigger"),
    input: z.union([buttonInput, axisTriggerInput]),
    motored: z.boolean().default(false),
    width: size,
    height: size,
  }),
  z.strictObject({
    ...controlBase,
    kind: z.literal("button"),
    input: z.union([buttonInput, hatInput]),
    contact: z.enum(["dome", "membrane", "clicky"]),
    /** how it is drawn; `ring` marks the click of a stick */
    shape: z.enum(["round", "bar", "wedge", "ring", "paddle"]),
    width: size,
    height: size,
    rim: z.boolean().default(false),
  }),
]);

export const FUNCTION_KINDS = [
  "motor",
  "light",
  "speaker",
  "microphone",
  "jack",
  "port",
  "radio",
  "touch",
  "motion",
  "latch",
  "cord",
  "key",
  "charging",
  "power-on",
] as const;

const functionSchema = z.strictObject({
  id: slug,
  kind: z.enum(FUNCTION_KINDS),
  name: words(60),
  at: place.optional(),
  half: slug.optional(),
  revisions: z.array(slug).min(1).optional(),
});

const powerSchema = z.strictObject({
  kind: z.enum(["built-in", "loose", "cord"]),
  half: slug.optional(),
  chemistry: z.enum(["lithium-ion", "lithium-polymer", "nickel-metal-hydride", "alkaline", "none"]),
  cells: z.int().min(0).max(8),
  nominalVolts: z.number().min(0).max(12),
  capacityMah: z.number().min(0).max(20000).nullable(),
});

const unique = (items: readonly { id: string }[]) => new Set(items.map((i) => i.id)).size === items.length;

export const profileSchema = z
  .strictObject({
    $schema: z.string().max(300).optional(),
    format: z.literal(PROFILE_FORMAT),
    version: z.literal(PROFILE_VERSION),
    id: slug,
    name: words(60),
    maker: words(60),
    summary: words(300),
    plan: z.strictObject({
      width: z.number().min(20).max(400),
      height: z.number().min(20).max(400),
      outlines: z
        .array(
          z.strictObject({
            half: slug.optional(),
            points: z
              .array(z.tuple([millimetres, millimetres]))
              .min(3)
              .max(80),
          }),
        )
        .min(1)
        .max(4),
    }),
    halves: z
      .array(z.strictObject({ id: slug, name: words(40) }))
      .max(2)
      .default([]),
    revisions: z
      .array(z.strictObject({ id: slug, name: words(40), outside: words(300), inside: words(300) }))
      .min(1)
      .max(12),
    controls: z.array(controlSchema).min(1).max(64),
    functions: z.array(functionSchema).max(48),
    power: z.array(powerSchema).min(1).max(2),
    accessories: z
      .array(
        z.strictObject({
          id: slug,
          name: words(60),
          costMinor: z.int().min(0).max(1_000_000),
          /** comes with one half alone too; without it with the pair only */
          half: slug.optional(),
        }),
      )
      .max(40),
    limits: limitChangesSchema.optional(),
    /** what a test of this model wants first, in words */
    prepare: z
      .strictObject({
        /** how the bond to an earlier host is cleared */
        bond: words(300).optional(),
        drivers: words(200).optional(),
        /** what the unit does to its host beside what is tested */
        sideEffects: z.array(words(200)).max(6).optional(),
      })
      .optional(),
    /** what depends on what inside; without it causes are not ranked by what is shared */
    wiring: wiringSchema.optional(),
    /** places that take a part; without them no route that needs a part is offered */
    slots: z.array(slotSchema).max(120).optional(),
    /** going prices when the profile was written; the shop keeps its own */
    market: marketSchema.optional(),
    /** what one half of it fetches alone (new: 0 where none is to be had), and whether it is sold without its mate */
    halfMarket: z.strictObject({ market: marketSchema, soldAlone: z.boolean() }).optional(),
    /** a model that is one half of another: written by `halfOf`, never by hand */
    half: z
      .strictObject({ of: slug, id: slug, mate: slug, name: words(40), soldAlone: z.boolean() })
      .optional(),
    /** how it comes apart and goes back; without it a mend is only logged */
    guide: guideSchema.optional(),
  })
  .refine((p) => unique(p.controls) && unique(p.functions), {
    error: found({ rule: "own-id", of: "control" }),
  })
  .refine((p) => unique(p.revisions), { error: found({ rule: "own-id", of: "revision" }) })
  .refine((p) => unique(p.accessories), { error: found({ rule: "own-id", of: "accessory" }) })
  .superRefine((p, ctx) => {
    const lost = (by: string, what: Listed, name: string) =>
      ctx.addIssue({ code: "custom", message: found({ rule: "not-listed", by, what, name }) });
    const revisions = new Set(p.revisions.map((r) => r.id));
    const halves = new Set(p.halves.map((h) => h.id));
    [...p.controls, ...p.functions].forEach((item) => {
      for (const r of item.revisions ?? []) if (!revisions.has(r)) lost(item.id, "revision", r);
    });
    [...p.controls, ...p.functions, ...p.accessories, ...(p.guide?.steps ?? [])].forEach((item) => {
      if (item.half !== undefined && !halves.has(item.half)) lost(item.id, "half", item.half);
    });
    const served = new Set([...p.controls, ...p.functions].map((x) => x.id));
    for (const id of Object.keys(p.wiring?.serves ?? {})) if (!served.has(id)) lost("wiring", "control", id);
    const slots = new Set((p.slots ?? []).map((s) => s.id));
    if (slots.size !== (p.slots ?? []).length)
      ctx.addIssue({ code: "custom", message: found({ rule: "own-id", of: "slot" }) });
    for (const part of [
      ...(p.guide?.steps.flatMap((s) => s.reaches) ?? []),
      ...(p.guide?.solder.flatMap((j) => j.slots) ?? []),
    ])
      if (!slots.has(part)) lost("guide", "slot", part);
    for (const list of [p.guide?.steps, p.guide?.fasteners, p.guide?.clips, p.guide?.cables, p.guide?.pieces])
      for (const item of list ?? [])
        for (const r of item.revisions ?? []) if (!revisions.has(r)) lost(item.id, "revision", r);
    for (const s of p.slots ?? []) {
      for (const id of s.serves) if (!served.has(id)) lost(s.id, "control", id);
      if (s.twin !== undefined && !slots.has(s.twin)) lost(s.id, "slot", s.twin);
    }
  });

export type ModelProfile = z.infer<typeof profileSchema>;
export type ProfileControl = ModelProfile["controls"][number];
export type ProfileFunction = ModelProfile["functions"][number];

const fitted = <T extends { revisions?: string[] | undefined }>(
  items: readonly T[],
  revision: string | null,
): T[] => items.filter((i) => !i.revisions || revision === null || i.revisions.includes(revision));

/** The controls of a revision; with an unknown revision, every control that some revision has. */
export const controlsOf = (profile: ModelProfile, revision: string | null): ProfileControl[] =>
  fitted(profile.controls, revision);
export const functionsOf = (profile: ModelProfile, revision: string | null): ProfileFunction[] =>
  fitted(profile.functions, revision);

export const profileMap = (profile: ModelProfile, revision: string | null): InputMap =>
  inputMap(controlsOf(profile, revision) as MappedControl[]);

/** The rules that hold for a model: house limits, then the shop's, then the model's, then the control's. */
export function rulesOf(profile: ModelProfile, house: Limits = HOUSE_LIMITS): Rules {
  const model = changeLimits(house, profile.limits);
  const byControl = new Map(
    profile.controls.filter((c) => c.limits).map((c) => [c.id, changeLimits(model, c.limits)]),
  );
  return { limitsFor: (id) => byControl.get(id) ?? model, missTest: house.button };
}

/**
 * What a place is called: its own name, or its id in words ("stick.left.click" is "left stick click",
 * "pad.up" is "pad up").
 */
export const placeName = (item: { id: string; name?: string | undefined }): string =>
  item.name ??
  item.id.replace(/^(stick|bumper|trigger|menu|paddle|touch)\.(left|right)\b/, "$2 $1").replace(/[.-]/g, " ");

/** Everything of a model that words can be about, with what it is called; functions are of one kind. */
export const thingsOf = (
  profile: ModelProfile,
  revision: string | null,
): { id: string; kind: string; name: string }[] => [
  ...controlsOf(profile, revision).map((c) => ({ id: c.id, kind: c.kind as string, name: placeName(c) })),
  ...functionsOf(profile, revision).map((f) => ({ id: f.id, kind: "function", name: f.name })),
];

const NEAR_MM = 14;
/** What a point of the plan belongs to: the nearest control, or the shell when none is near; else the back or the cord. */
export function placeAt(
  profile: ModelProfile,
  at: { x: number; y: number; face?: "front" | "back" | "cord" },
): string {
  if (at.face === "back" || at.face === "cord") return at.face;
  const near = profile.controls
    .map((c) => ({ c, far: Math.hypot(c.at.x - at.x, c.at.y - at.y) }))
    .sort((a, b) => a.far - b.far)[0];
  return near && near.far <= NEAR_MM ? placeName(near.c) : "shell";
}

/**
 * A model as a page draws it: its controls, functions and outline, without its inside, its parts and its
 * guide.
 */
export function outsideOf(profile: ModelProfile): ModelProfile {
  const { wiring: _wiring, slots: _slots, guide: _guide, ...outside } = profile;
  return outside;
}
