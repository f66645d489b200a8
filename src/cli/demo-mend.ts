import type { Knex } from "knex";

import type { DeedInput, DeedName, ValueOf } from "@/contract/deeds";
import type { WorkEvent } from "@/core/mend/work";
import { itemsOf } from "@/core/mend/work";
import { guideOf } from "@/core/profile/guide";
import { seeded } from "@/core/math/random";
import { orderView } from "@/service/order-view";
import { modelByKey } from "@/service/models";
import { stepsFor } from "@/core/mend/order";
import type { Actor } from "@/service/base";
import { dayOf, daysLater } from "@/core/days/days";
import { loadSettings } from "@/service/settings";
import { one } from "@/core/base/one";
import type { Id } from "@/core/base/ids";
import { refTo } from "@/core/mend/ref";

/** The demo's open benches: one unit half taken apart, one closed and waiting for its test, waits that run, notes, hours and due days. */

type Do = <D extends DeedName>(by: string, hoursAgo: number, deed: D, input: DeedInput<D>) => Promise<ValueOf<D>>;

const SKILLS: [string, number][] = [
  ["ida", 4],
  ["bram", 3],
  ["oona", 2],
];
const HOURS: DeedInput<"person.set-hours">["hours"] = [1, 1, 1, 1, 1, 1, 0].map((works, day): [number, number][] =>
  !works
    ? []
    : day === 5
      ? [[600, 780]]
      : [
          [540, 780],
          [810, 1050],
        ],
);
/** units with a promised day, in days from now */
const DUE: [string, number][] = [
  ["B-0114", 1],
  ["B-0116", 2],
  ["B-0148", 4],
  ["B-0151", 3],
];
const NOTES: Omit<DeedInput<"tip.add">, "unitId">[] = [
  {
    model: "dunlin",
    step: "halves",
    kind: "surprise",
    words: "The upper clip sits behind the port frame: lift the frame by a hair first and it comes away whole.",
    source: "",
  },
  {
    model: "dunlin",
    step: "label",
    kind: "tip",
    words: "A minute of warm air is enough; more and the print lifts.",
    source: "a peer in the next town",
  },
  {
    model: "dunlin",
    step: "flexes",
    kind: "missed",
    words: "The picture hid the antenna lead: it runs under the pad flex, not over it.",
    source: "",
  },
  {
    model: "dunlin",
    step: "board",
    kind: "step",
    words: "Slip a card between board and light motor cord before lifting.",
    source: "",
    after: "motors",
    minutes: 1,
  },
  {
    model: "turnstone",
    step: "trigger.left",
    kind: "better-idea",
    words: "A dot of paint on gear and face before lifting saves the second try.",
    source: "",
  },
  {
    model: "whimbrel",
    step: "paddle.ribbon",
    kind: "tip",
    words: "Tape the ribbon to the back half at its bend; it lasts longer.",
    source: "a buyer who opened his own",
  },
];

export async function demoMend(db: Knex, run: Do, actor: (name: string) => Actor, now: number): Promise<void> {
  const people = new Map<string, string>((await db("person").select("id", "name")).map((p) => [p.name, p.id]));
  for (const [name, skill] of SKILLS)
    await run("ida", 200, "person.set-hours", { personId: people.get(name)!, skill, hours: HOURS });
  const { settings } = await loadSettings(db);
  for (const [tag, days] of DUE) {
    const unit = one(await db("unit").where({ tag }).first("id", "version"));
    await run("ida", 30, "unit.set-due", {
      unitId: unit.id,
      version: unit.version,
      dueOn: daysLater(dayOf(new Date(now), settings.timeZone), days),
    });
  }
  for (const note of NOTES) await run(note.model === "dunlin" ? "bram" : "oona", 90, "tip.add", { ...note, unitId: null });
  const held = one(await db("tip").where({ step: "halves" }).first("id"));
  await run("ida", 60, "tip.settle", { tipId: held.id, state: "confirmed" });

  const whole = await openFor(db, run, "B-0158", "oona", 30, 1);
  await take(run, whole, "oona", 29.5, 99, 5);
  await run("oona", 28, "work.do", {
    orderId: whole.orderId,
    event: { kind: "task", task: "mend:1" },
    tookMs: 31 * 60_000,
    part: "stick module, dear copy",
    partMinor: 620,
  });
  for (const s of whole.cleaning)
    await run("oona", 27.5, "work.do", { orderId: whole.orderId, event: { kind: "task", task: s }, tookMs: 3 * 60_000 });
  for (const w of await db("wait").where({ unit_id: whole.unitId }).whereNull("seen_at").select("id"))
    await run("oona", 26, "wait.seen", { waitId: w.id, outcome: "" });
  await run("oona", 26, "work.do", {
    orderId: whole.orderId,
    event: { kind: "gate", gate: "open", why: "no cable at this bench" },
    tookMs: 60_000,
  });
  await putBack(db, run, whole, "oona", 25.5, actor("oona"));
  await run("oona", 25, "damage.add", {
    unitId: whole.unitId,
    place: "upper clip beside the port",
    what: "one clip broke as the halves parted",
    clipLost: true,
    stillFirm: true,
  });
  await run("oona", 28.2, "heat.add", {
    unitId: whole.unitId,
    job: "modules",
    celsius: 355,
    exception: "",
    method: "powered sucker",
    chips: ["main chip"],
    shielded: "pad flex socket",
    holes: Array.from({ length: 14 }, (_, i) => ({ hole: i + 1, gaugeMm: 0.9, ringIntact: true })),
    joints: ["filled", "shiny", "no-bridge", "legs-cut", "flux-off", "both-sides"],
  });

  const half = await openFor(db, run, "B-0157", "bram", 1.2, 2);
  await take(run, half, "bram", 1.1, 5, 3);
  await run("bram", 0.8, "work.do", {
    orderId: half.orderId,
    event: { kind: "extra", name: "grey shard, 3 mm, from the left seam", what: "fell-out" },
    tookMs: null,
  });
  await run("bram", 0.7, "work.do", {
    orderId: half.orderId,
    event: { kind: "away", item: "piece:shell.back", where: "washing" },
    tookMs: null,
  });
  await run("bram", 0, "wait.start", { unitId: half.unitId, kind: "soak", what: "soak and dry: back half", minutes: 150 });
  const charging = one(await db("unit").where({ tag: "B-0118" }).first("id"));
  await run("ida", 0, "wait.start", { unitId: charging.id, kind: "charge", what: "charge, left half", minutes: 380 });
}

type Opened = { unitId: Id<"unit">; orderId: string; steps: string[]; cleaning: string[] };
async function openFor(db: Knex, run: Do, tag: string, by: string, ago: number, cleaningLevel: number): Promise<Opened> {
  const unit = one(await db("unit").where({ tag }).first("id", "revision"));
  const fault = one(await db("fault").where({ unit_id: unit.id, status: "open" }).orderBy("number").first("id"));
  const target = { faultId: fault.id, what: "Whole module, dear copy: left stick", slot: "module.left", route: "module-dear" };
  const { id: orderId } = await run(by, ago, "work.open", { unitId: unit.id, targets: [target], cleaningLevel, calibrate: [] });
  const guide = guideOf((await modelByKey(db, "dunlin"))!.body.guide!, unit.revision);
  const body = one(await db("work_order").where({ id: orderId }).first("body")).body;
  return {
    unitId: unit.id,
    orderId,
    steps: stepsFor(guide, body).map((s) => s.id),
    cleaning: guide.surfaces.filter((s) => s.level <= cleaningLevel).map((s) => refTo("clean", s.id)),
  };
}

async function take(run: Do, o: Opened, by: string, ago: number, most: number, seed: number): Promise<void> {
  const chance = seeded(seed);
  for (const step of o.steps.slice(0, most))
    await run(by, ago, "work.do", {
      orderId: o.orderId,
      event: { kind: "apart", step },
      tookMs: Math.round(chance.between(1.2, 5) * 60_000),
    });
}

async function putBack(db: Knex, run: Do, o: Opened, by: string, ago: number, actor: Actor): Promise<void> {
  const chance = seeded(9);
  for (const step of [...o.steps].reverse()) {
    const view = (await orderView(db, o.unitId, actor))!;
    const ids = itemsOf(view.guide.steps.find((s) => s.id === step)!);
    const send = (event: WorkEvent & { kind: "in" | "back" }, tookMs: number | null) =>
      run(by, ago, "work.do", { orderId: o.orderId, event, tookMs });
    for (const item of ids) await send({ kind: "in", item }, null);
    await send({ kind: "back", step }, Math.round(chance.between(1.5, 4.5) * 60_000));
  }
}
