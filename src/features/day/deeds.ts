import "server-only";

import type { Knex } from "knex";

import type { Hours } from "@/contract/day";
import { learnMinutes, type StepLog } from "@/core/mend/minutes";
import type { OrderStep } from "@/core/mend/order";
import {
  DAY_STATIONS,
  type DayProblem,
  type Order,
  type Person,
  type Placed,
  type PlanStation,
  type Task,
  type DayPlan,
} from "@/core/dayplan/problem";
import type { Planned } from "@/core/dayplan/schedule";
import type { NextAction } from "@/core/record/standing";
import { type Actor, nothing, Refused, stamp, touched } from "@/platform/deed/base";
import { hostOf } from "@/core/protocol/prepare";
import { dayTasks } from "@/core/dayplan/tasks";
import { one } from "@/core/base/one";
import { dayJobWords } from "@/features/day/words/text";
import { decisionBy } from "@/features/decide/view";
import { loadRoutes } from "@/features/routes/deeds";
import { modelById } from "@/features/models/deeds";
import { untilNoted } from "@/platform/deed/noted";
import { endOfDay, USUAL_HOURS, windowsFrom } from "@/core/dayplan/hours";
import { loadSettings } from "@/features/settings/settings";
import { openWaits } from "@/features/waits/deeds";
import { openOrder, stepTimes } from "@/features/mend/order";
import { deed, namedUnit } from "@/platform/deed/declare";
import { offThread } from "@/platform/work/pool";
import { rowsOf } from "@/platform/db/joined";
import { say } from "@/features/day/words/words";
import type { Id } from "@/core/base/ids";

/**
 * The day's plan: what is open in the house as tasks, by the scheduler of core/dayplan, on the people's own
 * hours.
 */

const DAYS = 21;
const MOST_ORDERS = 60; // weeks of work for a small shop: what is further off changes before anybody gets to it
const STEP_MS = 5 * 60_000; // the plan begins at a full five minutes, so that looking again shows the same

type UnitLine = {
  id: string;
  tag: string;
  next_action: NextAction;
  received_at: Date;
  due_day: string | null;
  model: string;
  key: string;
  revision: string | null;
  profile_id: string;
};

/** What a step takes in this house: by its log, else by the guide. */
const minutesBy =
  ({ times }: StepLog) =>
  (s: OrderStep): number =>
    learnMinutes(
      s.minutes,
      times.filter((t) => t.step === s.key),
      null,
    ).minutes;

export type PlanTask = Placed & {
  title: string;
  tag: string;
  model: string;
  minutes: number;
  kind: "work" | "wait";
  skill: number;
  opensWait: boolean;
  late: boolean;
  href: string;
  startAt: string;
  endAt: string;
};
export type DayView = {
  from: string;
  tasks: PlanTask[];
  people: { id: string; name: string; skill: number; windows: [number, number][] }[];
  stations: PlanStation[];
  makespan: number;
  worstLate: number;
  totalLate: number;
  firstCome: { makespan: number; worstLate: number };
  bound: { makespan: number; worstLate: number };
  evaluations: number;
  /** what is not in the plan, and what it waits for */
  held: { tag: string; model: string; why: string }[];
  /** units that wait beyond what one plan looks at */
  later: number;
  impossible: { id: string; title: string }[];
  pins: { task: string; personId: Id<"person">; startAt: string }[];
};

const ACTION_PAGE: Partial<Record<NextAction, string>> = {
  "first-test": "test",
  "name-faults": "find",
  decide: "decide",
  prove: "prove",
  "settle-blocks": "prove",
  release: "release",
  end: "release",
  mend: "mend",
  "dry-out": "mend",
};

/**
 * Plans from now on. The search is seeded and its length fixed, so that everybody sees the same plan, until
 * something is noted.
 */
export function dayView(db: Knex, evaluations = 300): Promise<DayView> {
  const from = new Date(Math.floor(Date.now() / STEP_MS) * STEP_MS);
  const ages = { renewMs: STEP_MS, longestMs: 2 * STEP_MS };
  return untilNoted(db, `day ${evaluations}`, [], () => planFrom(db, from, evaluations), ages);
}

const searched: { key: string; evaluations: number; found: Planned }[] = [];
const MOST_SEARCHED = 8;
const MOST_SECONDS = 30;

/**
 * The search is the long part, and most of what is noted leaves its question as it was: the same question has
 * the same answer.
 */
async function planned(problem: DayProblem, evaluations: number): Promise<Planned> {
  const key = JSON.stringify(problem);
  const had = searched.find((s) => s.key === key && s.evaluations >= evaluations);
  if (had) return had.found;
  const found = await offThread("searchDay", { problem, evaluations }, MOST_SECONDS);
  searched.unshift({ key, evaluations, found });
  searched.length = Math.min(searched.length, MOST_SEARCHED);
  return found;
}

/** What the plan is made of, as it lies in the house now. */
async function readHouse(db: Knex) {
  const [units, people, waits, routes, awaited, pins, begun] = await Promise.all([
    rowsOf(
      db("unit")
        .join("model_profile as m", "m.id", "unit.profile_id")
        .whereNull("ending")
        .whereNull("reference_since")
        .orderBy("received_at"),
      { unit: "unit", m: "model_profile" },
      "unit.id",
      "unit.tag",
      "unit.next_action",
      "unit.received_at",
      "unit.due_on as due_day",
      "m.name as model",
      "m.key",
      "unit.profile_id",
      "unit.revision",
    ),
    db("person")
      .where({ active: true })
      .whereIn("role", ["technician", "lead"])
      .orderBy("name")
      .select("id", "name", "skill", "hours"),
    openWaits(db),
    loadRoutes(db),
    db("question as q")
      .whereNull("q.withdrawn_at")
      .whereRaw("q.expires_at > now()")
      .whereNotExists(db("answer").whereRaw("answer.question_id = q.id"))
      .pluck("q.unit_id"),
    db("day_pin").select("task", "person_id", "start_at"),
    db("work_order").where({ status: "open" }).pluck("unit_id"),
  ]);
  const keys = [...new Set(units.map((u) => u.key))];
  const times = new Map(await Promise.all(keys.map(async (key) => [key, await stepTimes(db, key)] as const)));
  return { units, people, waits, routes, awaited, pins, begun: new Set<string>(begun), times };
}
type House = Awaited<ReturnType<typeof readHouse>>;

const minuteFrom = (from: Date) => (d: Date) => Math.round((d.getTime() - from.getTime()) / 60_000);

/** The tasks of one unit, in the words of the page. */
async function tasksOf(db: Knex, house: House, u: UnitLine, from: Date): Promise<Task[]> {
  const minute = minuteFrom(from);
  const order = house.begun.has(u.id) ? await openOrder(db, u.id) : null;
  const decided = order === null && u.next_action === "mend" ? (await decisionBy(db, u.id))[0] : undefined;
  const { body } = await modelById(db, u.profile_id);
  const own = dayTasks({
    tag: u.tag,
    host: hostOf(body, u.revision),
    nextAction: u.next_action,
    waits: house.waits
      .filter((w) => w.unitId === u.id && new Date(w.endsAt) > from)
      .map((w) => ({ id: w.id, what: w.what, endsIn: minute(new Date(w.endsAt)) })),
    order: order && { ...order, body: order.order.body, minutesOf: minutesBy(one(house.times.get(u.key))) },
    route: house.routes.value.find((r) => r.id === decided?.route) ?? null,
    slots: body.slots ?? [],
  });
  return own.map(({ job, ...t }): Task => ({ ...t, title: dayJobWords(job) }));
}

type Open = { orders: Order[]; tasks: Task[]; held: DayView["held"]; later: number };
/**
 * What can be worked on, unit by unit, up to what one day is searched for; what waits is told with its
 * reason.
 */
async function openWork(db: Knex, house: House, from: Date, zone: string): Promise<Open> {
  const minute = minuteFrom(from);
  const open: Open = { orders: [], tasks: [], held: [], later: 0 };
  for (const u of inTurn(house.units, house.begun)) {
    if (u.next_action === "quarantine" || u.next_action === "closed") continue;
    const awaited = house.awaited.includes(u.id);
    if (u.next_action === "wait" || awaited) {
      open.held.push({
        tag: u.tag,
        model: u.model,
        why: awaited ? say("replyAwaited") : say("heldForAPart"),
      });
      continue;
    }
    if (open.orders.length >= MOST_ORDERS) {
      open.later++;
      continue;
    }
    const own = await tasksOf(db, house, u, from);
    if (own.length === 0) continue;
    open.tasks.push(...own);
    open.orders.push({
      id: u.tag,
      title: u.tag,
      received: minute(u.received_at),
      readyAt: 0,
      due: u.due_day === null ? null : minute(endOfDay(u.due_day, zone)),
    });
  }
  return open;
}

/** A task that ends less than this before its promised day's end is shown as late. */
const LATE_MINUTES = 480;

/** The placed tasks as the page draws them, in the order of the clock. */
function drawn(plan: DayPlan, { orders, tasks }: Open, house: House, from: Date): PlanTask[] {
  const byId = new Map(tasks.map((t) => [t.id, t]));
  const unitOf = new Map(house.units.map((u) => [u.tag, u]));
  const due = new Map(orders.map((o) => [o.id, o.due]));
  const iso = (m: number) => new Date(from.getTime() + m * 60_000).toISOString();
  return plan.placed
    .map((x): PlanTask => {
      const t = byId.get(x.task)!;
      const u = unitOf.get(t.order)!;
      const limit = due.get(t.order) ?? null;
      return {
        ...x,
        title: t.title,
        tag: t.order,
        model: u.model,
        minutes: t.minutes,
        kind: t.kind,
        skill: t.skill,
        opensWait: tasks.some((k) => k.kind === "wait" && k.after.includes(t.id)),
        late: limit !== null && limit - x.end < LATE_MINUTES,
        href: `/units/${u.tag}/${ACTION_PAGE[u.next_action] ?? ""}`,
        startAt: iso(x.start),
        endAt: iso(x.end),
      };
    })
    .sort((a, b) => a.start - b.start);
}

async function planFrom(db: Knex, from: Date, evaluations: number): Promise<DayView> {
  const minute = minuteFrom(from);
  const { settings } = await loadSettings(db);
  const zone = settings.timeZone;
  const house = await readHouse(db);
  const open = await openWork(db, house, from, zone);
  const people: Person[] = house.people.map((w) => ({
    id: w.id,
    name: w.name,
    skill: w.skill,
    windows: windowsFrom(w.hours ?? USUAL_HOURS, from, DAYS, zone),
  }));
  const byId = new Map(open.tasks.map((t) => [t.id, t]));
  const pins = house.pins.filter((p) => byId.has(p.task));
  const problem: DayProblem = {
    orders: open.orders,
    tasks: open.tasks,
    people,
    stations: DAY_STATIONS,
    pins: pins.map((p) => ({ task: p.task, person: p.person_id, start: Math.max(0, minute(p.start_at)) })),
  };
  const { plan, firstCome, bound, evaluations: tried } = await planned(problem, evaluations);
  return {
    from: from.toISOString(),
    tasks: drawn(plan, open, house, from),
    people: people.map((w) => ({ ...w, windows: w.windows.map(([a, b]): [number, number] => [a, b]) })),
    stations: DAY_STATIONS,
    makespan: plan.makespan,
    worstLate: plan.worstLate,
    totalLate: plan.totalLate,
    firstCome: { makespan: firstCome.makespan, worstLate: firstCome.worstLate },
    bound,
    evaluations: tried,
    held: open.held,
    later: open.later,
    impossible: plan.impossible.map((id) => ({
      id,
      title: `${byId.get(id)!.order}: ${byId.get(id)!.title}`,
    })),
    pins: pins.map((p) => ({ task: p.task, personId: p.person_id, startAt: p.start_at.toISOString() })),
  };
}
/** What is begun comes first, then what is promised by its day, then the oldest. */
const inTurn = (units: readonly UnitLine[], begun: ReadonlySet<string>): UnitLine[] =>
  [...units].sort(
    (a, b) =>
      Number(begun.has(b.id)) - Number(begun.has(a.id)) ||
      (a.due_day ?? "9").localeCompare(b.due_day ?? "9") ||
      a.received_at.getTime() - b.received_at.getTime(),
  );

/** The first task that the plan gives somebody; null when there is none. */
export async function nextFor(db: Knex, actor: Actor): Promise<PlanTask | null> {
  const view = await dayView(db); // the very plan of the day's page: two searches would give two answers
  return view.tasks.find((t) => t.person === actor.id) ?? null;
}

export const pin = deed("plan.pin", {}, async ({ db, actor, note }, { task, personId, startAt }) => {
  if (!(await db("person").where({ id: personId, active: true }).first("id")))
    throw new Refused({ code: "not-found", what: "person" });
  await db("day_pin")
    .insert({ task, person_id: personId, start_at: startAt, ...stamp(db, actor) })
    .onConflict("task")
    .merge();
  note("task-pinned", null, { task });
  return nothing;
});
export const unpin = deed("plan.unpin", {}, async ({ db, note }, { task }) => {
  await db("day_pin").where({ task }).delete();
  note("task-unpinned", null, { task });
  return nothing;
});

export const setDue = deed(
  "unit.set-due",
  { unit: namedUnit, seen: "unit" },
  async ({ db, actor, note, unit }, { dueOn }) => {
    await db("unit")
      .where({ id: unit.id })
      .update({ due_on: dueOn, ...touched(db, actor) });
    note("due-set", unit.id, { dueOn });
    return nothing;
  },
);

export const setHours = deed("person.set-hours", {}, async ({ db, note }, { personId, skill, hours }) => {
  const changed = await db("person")
    .where({ id: personId })
    .update({ skill, hours: JSON.stringify(hours) });
  if (changed !== 1) throw new Refused({ code: "not-found", what: "person" });
  note("hours-set", null, { person: personId, skill });
  return nothing;
});

export type WorkingPerson = { id: string; skill: number; hours: Hours };
export async function workingHours(db: Knex): Promise<WorkingPerson[]> {
  const rows = await db("person").where({ active: true }).select("id", "skill", "hours");
  return rows.map((r) => ({ id: r.id, skill: r.skill, hours: r.hours ?? USUAL_HOURS }));
}

/** The changes of this file, for the list of all (features/deeds.ts). */
export const deeds = [pin, setDue, setHours, unpin] as const;
