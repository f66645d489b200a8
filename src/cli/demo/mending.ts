import { readFileSync } from "node:fs";

import type { Knex } from "knex";

import { DEEDS, type DeedInput, type DeedName, type ValueOf } from "@/contract/deeds";
import type { Id } from "@/core/base/ids";
import { one } from "@/core/base/one";
import { z } from "@/core/base/schema";
import { dayOf, daysLater } from "@/core/days/days";
import { seeded } from "@/core/math/random";
import { stepsFor } from "@/core/mend/order";
import { refTo } from "@/core/mend/ref";
import { itemsOf } from "@/core/mend/work";
import { guideOf } from "@/core/profile/guide";
import type { Actor } from "@/platform/deed/base";
import { modelById } from "@/features/models/deeds";
import { orderView } from "@/features/mend/view";
import { loadSettings } from "@/features/settings/settings";

/**
 * The demonstration's open benches (demo/benches.json): units half taken apart or waiting for their test,
 * waits that run, notes, hours and due days. What a deed takes has the deed's own schema.
 */

const hoursAgo = z.number().min(0);
const name = z.string().max(40);
const tag = z.string().max(20);
const minutes = z.number().min(0).nullable();
const seed = z.int();
const damage = DEEDS["damage.add"].input.omit({ unitId: true });
const heat = DEEDS["heat.add"].input.omit({ unitId: true });
const actSchema = z.discriminatedUnion("act", [
  /** so many steps taken apart, or all of them; how long each took comes from the seed */
  z.strictObject({ act: z.literal("apart"), hoursAgo, steps: z.int().nullable(), seed }),
  /** all of them put back, with each piece */
  z.strictObject({ act: z.literal("back"), hoursAgo, seed }),
  z.strictObject({
    act: z.literal("work"),
    hoursAgo,
    minutes,
    ...DEEDS["work.do"].input.pick({ event: true }).shape,
    ...DEEDS["work.do"].input.pick({ part: true, partMinor: true }).partial().shape,
  }),
  /** every surface of the order's level */
  z.strictObject({ act: z.literal("clean"), hoursAgo, minutes }),
  z.strictObject({ act: z.literal("see-waits"), hoursAgo }),
  z.strictObject({ act: z.literal("damage"), hoursAgo, ...damage.shape }),
  z.strictObject({ act: z.literal("heat"), hoursAgo, ...heat.shape }),
]);
type Act = z.infer<typeof actSchema>;

const orderSchema = z.strictObject({
  tag,
  by: name,
  hoursAgo,
  cleaningLevel: z.int(),
  target: z.strictObject({ what: z.string(), slot: z.string(), route: z.string() }),
  acts: z.array(actSchema),
});
const benchesSchema = z.strictObject({
  format: z.literal("birdcage-demo-benches"),
  version: z.literal(1),
  hours: DEEDS["person.set-hours"].input.shape.hours,
  skills: z.array(z.strictObject({ name, skill: z.int() })),
  due: z.array(z.strictObject({ tag, inDays: z.int() })),
  notes: z.array(DEEDS["tip.add"].input.omit({ unitId: true }).extend({ by: name })),
  /** the step whose note somebody else confirmed */
  confirmed: z.string(),
  orders: z.array(orderSchema),
  waits: z.array(
    z.strictObject({
      tag,
      by: name,
      ...DEEDS["wait.start"].input.pick({ kind: true, what: true, minutes: true }).shape,
    }),
  ),
});
const BENCHES = benchesSchema.parse(JSON.parse(readFileSync("demo/benches.json", "utf8")));

type Do = <D extends DeedName>(
  by: string,
  hoursAgo: number,
  deed: D,
  input: DeedInput<D>,
) => Promise<ValueOf<D>>;

export async function demoMend(
  db: Knex,
  run: Do,
  actor: (name: string) => Actor,
  now: number,
): Promise<void> {
  const people = new Map((await db("person").select("id", "name")).map((p) => [p.name, p.id]));
  for (const { name, skill } of BENCHES.skills)
    await run("ida", 200, "person.set-hours", {
      personId: one(people.get(name)),
      skill,
      hours: BENCHES.hours,
    });
  const { settings } = await loadSettings(db);
  for (const { tag, inDays } of BENCHES.due) {
    const unit = one(await db("unit").where({ tag }).first("id", "version"));
    const dueOn = daysLater(dayOf(new Date(now), settings.timeZone), inDays);
    await run("ida", 30, "unit.set-due", { unitId: unit.id, version: unit.version, dueOn });
  }
  for (const { by, ...note } of BENCHES.notes) await run(by, 90, "tip.add", { ...note, unitId: null });
  const held = one(await db("tip").where({ step: BENCHES.confirmed }).first("id"));
  await run("ida", 60, "tip.settle", { tipId: held.id, state: "confirmed" });
  for (const order of BENCHES.orders) {
    const opened = await openFor(db, run, order);
    for (const act of order.acts) await doAct({ db, run, by: order.by, actor: actor(order.by) }, opened, act);
  }
  for (const { tag, by, ...wait } of BENCHES.waits)
    await run(by, 0, "wait.start", { unitId: one(await db("unit").where({ tag }).first("id")).id, ...wait });
}

type Opened = { unitId: Id<"unit">; orderId: Id<"work_order">; steps: string[]; cleaning: string[] };
async function openFor(db: Knex, run: Do, order: z.infer<typeof orderSchema>): Promise<Opened> {
  const { tag, by, hoursAgo, cleaningLevel, target } = order;
  const unit = one(await db("unit").where({ tag }).first("id", "revision", "profile_id"));
  const fault = one(
    await db("fault").where({ unit_id: unit.id, status: "open" }).orderBy("number").first("id"),
  );
  const targets = [{ faultId: fault.id, ...target }];
  const { id: orderId } = await run(by, hoursAgo, "work.open", {
    unitId: unit.id,
    targets,
    cleaningLevel,
    calibrate: [],
  });
  const guide = guideOf(one((await modelById(db, unit.profile_id)).body.guide), unit.revision);
  const body = one(await db("work_order").where({ id: orderId }).first("body")).body;
  return {
    unitId: unit.id,
    orderId,
    steps: stepsFor(guide, body).map((s) => s.id),
    cleaning: guide.surfaces.filter((s) => s.level <= cleaningLevel).map((s) => refTo("clean", s.id)),
  };
}

type Hands = { db: Knex; run: Do; by: string; actor: Actor };
const ms = (min: number | null): number | null => (min === null ? null : Math.round(min * 60_000));

async function doAct({ db, run, by, actor }: Hands, o: Opened, act: Act): Promise<void> {
  const { hoursAgo } = act;
  const work = (
    event: DeedInput<"work.do">["event"],
    min: number | null,
    more: { part?: string; partMinor?: number } = {},
  ) => run(by, hoursAgo, "work.do", { orderId: o.orderId, event, tookMs: ms(min), ...more });
  switch (act.act) {
    case "apart": {
      const chance = seeded(act.seed);
      for (const step of o.steps.slice(0, act.steps ?? undefined))
        await work({ kind: "apart", step }, chance.between(1.2, 5));
      return;
    }
    case "back": {
      const chance = seeded(act.seed);
      for (const step of [...o.steps].reverse()) {
        const view = one(await orderView(db, o.unitId, actor));
        const items = itemsOf(one(view.guide.steps.find((s) => s.id === step)));
        for (const item of items) await work({ kind: "in", item }, null);
        await work({ kind: "back", step }, chance.between(1.5, 4.5));
      }
      return;
    }
    case "work": {
      const { event, minutes: min, part, partMinor } = act;
      return void (await work(event, min, {
        ...(part === undefined ? {} : { part }),
        ...(partMinor === undefined ? {} : { partMinor }),
      }));
    }
    case "clean":
      for (const task of o.cleaning) await work({ kind: "task", task }, act.minutes);
      return;
    case "see-waits":
      for (const w of await db("wait").where({ unit_id: o.unitId }).whereNull("seen_at").select("id"))
        await run(by, hoursAgo, "wait.seen", { waitId: w.id, outcome: "" });
      return;
    case "damage": {
      const { act: _act, hoursAgo: _ago, ...input } = act;
      return void (await run(by, hoursAgo, "damage.add", { unitId: o.unitId, ...input }));
    }
    case "heat": {
      const { act: _act, hoursAgo: _ago, ...input } = act;
      return void (await run(by, hoursAgo, "heat.add", { unitId: o.unitId, ...input }));
    }
  }
}
