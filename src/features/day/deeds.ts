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
} from "@/core/dayplan/problem";
import type { Planned } from "@/core/dayplan/schedule";
import type { NextAction } from "@/core/record/standing";
import { type Actor, nothing, Refused, stamp, touched } from "@/platform/deed/base";
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

/** The day's plan: what is open in the house as tasks, by the scheduler of core/dayplan, on the people's own hours. */

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

/** Plans from now on. The search is seeded and its length fixed, so that everybody sees the same plan, until something is noted. */
export function dayView(db: Knex, evaluations = 300): Promise<DayView> {
  const from = new Date(Math.floor(Date.now() / STEP_MS) * STEP_MS);
  const ages = { renewMs: STEP_MS, longestMs: 2 * STEP_MS };
  return untilNoted(db, `day ${evaluations}`, [], () => planFrom(db, from, evaluations), ages);
}

const searched: { key: string; evaluations: number; found: Planned }[] = [];
const MOST_SEARCHED = 8;
const MOST_SECONDS = 30;

/** The search is the long part, and most of what is noted leaves its question as it was: the same question has the same answer. */
async function planned(problem: DayProblem, evaluations: number): Promise<Planned> {
  const key = JSON.stringify(problem);
  const had = searched.find((s) => s.key === key && s.evaluations >= evaluations);
  if (had) return had.found;
  const found = await offThread("searchDay", { problem, evaluations }, MOST_SECONDS);
  searched.unshift({ key, evaluations, found });
  searched.length = Math.min(searched.length, MOST_SEARCHED);
  return found;
}

async function planFrom(db: Knex, from: Date, evaluations: number): Promise<DayView> {
  const minute = (d: Date) => Math.round((d.getTime() - from.getTime()) / 60_000);
  const { settings } = await loadSettings(db);
  const zone = settings.timeZone;
  const [units, people, waits, routes, awaited, pins] = await Promise.all([
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
  ]);
  const keys = [...new Set(units.map((u) => u.key))];
  const times = new Map(await Promise.all(keys.map(async (key) => [key, await stepTimes(db, key)] as const)));

  const withOrder = new Set<string>(await db("work_order").where({ status: "open" }).pluck("unit_id"));
  const held: DayView["held"] = [];
  const orders: Order[] = [];
  const tasks: Task[] = [];
  let later = 0;
  for (const u of inTurn(units, withOrder)) {
    if (u.next_action === "quarantine" || u.next_action === "closed") continue;
    if (u.next_action === "wait" || awaited.includes(u.id)) {
      held.push({
        tag: u.tag,
        model: u.model,
        why: awaited.includes(u.id) ? say("replyAwaited") : say("heldForAPart"),
      });
      continue;
    }
    if (orders.length >= MOST_ORDERS) {
      later++;
      continue;
    }
    const order = withOrder.has(u.id) ? await openOrder(db, u.id) : null;
    const decided = order === null && u.next_action === "mend" ? (await decisionBy(db, u.id))[0] : undefined;
    const own = dayTasks({
      tag: u.tag,
      model: u.key,
      nextAction: u.next_action,
      waits: waits
        .filter((w) => w.unitId === u.id && new Date(w.endsAt) > from)
        .map((w) => ({ id: w.id, what: w.what, endsIn: minute(new Date(w.endsAt)) })),
      order: order && { ...order, body: order.order.body, minutesOf: minutesBy(one(times.get(u.key))) },
      route: routes.value.find((r) => r.id === decided?.route) ?? null,
      slots: (await modelById(db, u.profile_id)).body.slots ?? [],
    });
    if (own.length === 0) continue;
    tasks.push(...own.map(({ job, ...t }): Task => ({ ...t, title: dayJobWords(job) })));
    orders.push({
      id: u.tag,
      title: u.tag,
      received: minute(u.received_at),
      readyAt: 0,
      due: u.due_day === null ? null : minute(endOfDay(u.due_day, zone)),
    });
  }
  const workers: Person[] = people.map((w) => ({
    id: w.id,
    name: w.name,
    skill: w.skill,
    windows: windowsFrom(w.hours ?? USUAL_HOURS, from, DAYS, zone),
  }));
  const known = new Set(tasks.map((t) => t.id));
  const problem: DayProblem = {
    orders,
    tasks,
    people: workers,
    stations: DAY_STATIONS,
    pins: pins
      .filter((p) => known.has(p.task))
      .map((p) => ({ task: p.task, person: p.person_id, start: Math.max(0, minute(p.start_at)) })),
  };
  const { plan, firstCome, bound, evaluations: tried } = await planned(problem, evaluations);
  const byId = new Map(tasks.map((t) => [t.id, t]));
  const unitOf = new Map(units.map((u) => [u.tag, u]));
  const due = new Map(orders.map((o) => [o.id, o.due]));
  const iso = (m: number) => new Date(from.getTime() + m * 60_000).toISOString();
  return {
    from: from.toISOString(),
    tasks: plan.placed
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
          late: limit !== null && limit - x.end < 480,
          href: `/units/${u.tag}/${ACTION_PAGE[u.next_action] ?? ""}`,
          startAt: iso(x.start),
          endAt: iso(x.end),
        };
      })
      .sort((a, b) => a.start - b.start),
    people: workers.map((w) => ({
      id: w.id,
      name: w.name,
      skill: w.skill,
      windows: w.windows.map(([a, b]): [number, number] => [a, b]),
    })),
    stations: DAY_STATIONS,
    makespan: plan.makespan,
    worstLate: plan.worstLate,
    totalLate: plan.totalLate,
    firstCome: { makespan: firstCome.makespan, worstLate: firstCome.worstLate },
    bound,
    evaluations: tried,
    held,
    later,
    impossible: plan.impossible.map((id) => ({
      id,
      title: `${byId.get(id)!.order}: ${byId.get(id)!.title}`,
    })),
    pins: pins
      .filter((p) => known.has(p.task))
      .map((p) => ({ task: p.task, personId: p.person_id, startAt: p.start_at.toISOString() })),
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
