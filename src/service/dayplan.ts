import "server-only";

import type { Knex } from "knex";

import { type Hours } from "@/contract/mend";
import { cleaningPlan } from "@/core/mend/cleaning";
import { learnMinutes, type StepLog } from "@/core/mend/minutes";
import { lineUp, type OrderStep } from "@/core/mend/order";
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
import { type Actor, nothing, Refused, stamp, touched } from "./base";
import { loadRoutes } from "./decide";
import { modelById } from "./models";
import { untilNoted } from "./noted";
import { endOfDay, USUAL_HOURS, windowsFrom } from "@/core/dayplan/hours";
import { loadSettings } from "./settings";
import { openWaits } from "./waits";
import { openOrder, stepTimes } from "./work-order";
import { deed, namedUnit } from "./deed/declare";
import { offThread } from "@/work/pool";
import { rowsOf } from "@/db/joined";

/** The day's plan: what is open in the house as tasks, by the scheduler of core/dayplan, on the people's own hours. */

const DAYS = 21;
const MOST_ORDERS = 60; // weeks of work for a small shop: what is further off changes before anybody gets to it
const STEP_MS = 5 * 60_000; // the plan begins at a full five minutes, so that looking again shows the same

type Plain = Omit<Task, "id" | "order" | "after">;
const plain = (title: string, minutes: number, rest: Partial<Plain> = {}): Plain => ({
  title,
  kind: "work",
  minutes,
  skill: 1,
  station: null,
  setup: null,
  ...rest,
});

/** What a unit without a work order asks for next, and what must follow. Minutes are the house's figures until the log has its own. */
const FOLLOW: Partial<Record<NextAction, (model: string) => Plain[]>> = {
  "first-test": (m) => [plain("First full test", 9, { station: "test", setup: m }), plain("Name what was found", 5)],
  "name-faults": () => [plain("Name the faults", 5), plain("Decide", 4, { skill: 2 })],
  decide: () => [plain("Decide", 4, { skill: 2 })],
  "dry-out": () => [plain("Open, unplug, inspect", 12)],
  prove: (m) => [plain("Full test, closed", 9, { station: "test", setup: m }), plain("Functions and release", 8)],
  "settle-blocks": (m) => [plain("Functions that are left", 6, { station: "test", setup: m }), plain("Release", 3)],
  release: () => [plain("Release", 3)],
  end: () => [plain("Close as decided", 4)],
};

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

class TaskList {
  readonly tasks: Task[] = [];
  constructor(private readonly unit: UnitLine) {}

  /** Adds a task after some others and says its id; whole minutes, one at least. */
  put(key: string, t: Plain, after: readonly string[]): string {
    const id = `${this.unit.tag} ${key}`;
    this.tasks.push({ ...t, id, order: this.unit.tag, minutes: Math.max(1, Math.round(t.minutes)), after });
    return id;
  }
}

const sum = (steps: readonly OrderStep[], minutes: (s: OrderStep) => number) => steps.reduce((s, x) => s + minutes(x), 0);

/** The tasks that an open work order still holds: opening as one, each cleaning and mend with its waits, closing, and the proof. */
async function fromOrder(db: Knex, unit: UnitLine, { times }: StepLog, list: TaskList, waits: string[]): Promise<boolean> {
  const loaded = await openOrder(db, unit.id);
  if (!loaded) return false;
  const { guide, order, state } = loaded;
  const cleaning = cleaningPlan(guide, order.body.cleaningLevel);
  const line = lineUp(guide, order.body, state).filter((s) => !s.done);
  const minutes = (s: OrderStep) =>
    learnMinutes(
      s.minutes,
      times.filter((t) => t.step === s.key),
      null,
    ).minutes;
  const apart = line.filter((s) => s.phase === "apart");
  const opened = apart.length
    ? [
        list.put(
          "open",
          plain(`Take apart, ${apart.length} steps`, sum(apart, minutes), {
            skill: apart.some((s) => s.difficulty >= 4) ? 2 : 1,
          }),
          [],
        ),
      ]
    : [];
  const joins: string[] = [...waits];
  for (const s of line.filter((x) => x.key.startsWith("clean:"))) {
    const job = cleaning.find((j) => `clean:${j.surface}` === s.key);
    const from = job?.after === null ? [] : opened;
    let last = list.put(s.key, plain(s.title, minutes(s), { station: "cleaning", setup: job?.agent ?? null }), from);
    const wait = (job?.soakMinutes ?? 0) + (job?.dryMinutes ?? 0);
    if (wait > 0)
      last = list.put(
        `${s.key} wait`,
        plain(`${job!.soakMinutes ? "Soak and dry" : "Dry"}: ${job!.name}`, wait, { kind: "wait" }),
        [last],
      );
    joins.push(last);
  }
  for (const t of order.body.targets) {
    const s = line.find((x) => x.key === `mend:${t.key}`);
    if (!s) continue;
    const job = guide.solder.find((j) => t.slot !== null && j.slots.includes(t.slot));
    const irons = t.tools.some((x) => x.includes("iron"));
    const air = t.tools.some((x) => x.includes("hot air"));
    let last = list.put(
      s.key,
      plain(s.title, minutes(s), {
        skill: irons || air ? 2 : 1,
        station: irons ? "iron" : air ? "hot-air" : null,
        setup: job ? `${job.celsius} °C` : irons || air ? "usual" : null,
      }),
      opened,
    );
    if (t.waitMinutes > 0)
      last = list.put(`${s.key} wait`, plain(`Cure or dry after: ${t.what}`, t.waitMinutes, { kind: "wait" }), [last]);
    joins.push(last);
  }
  const back = line.filter((s) => s.phase === "back" || s.key === "gate:open");
  const closeAfter = [...new Set([...opened, ...joins])];
  const closed = back.length
    ? [list.put("close", plain(`Test open and put back, ${back.length} steps`, sum(back, minutes)), closeAfter)]
    : closeAfter;
  list.put("prove", plain("Full test, closed", 9, { station: "test", setup: unit.key }), closed);
  return true;
}

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
  pins: { task: string; personId: string; startAt: string }[];
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
      held.push({ tag: u.tag, model: u.model, why: awaited.includes(u.id) ? "reply awaited" : "held for a part" });
      continue;
    }
    if (orders.length >= MOST_ORDERS) {
      later++;
      continue;
    }
    const list = new TaskList(u);
    const running = waits.filter((w) => w.unitId === u.id && new Date(w.endsAt) > from);
    const waitIds = running.map((w) =>
      list.put(`wait ${w.id}`, plain(`${w.what}, running`, minute(new Date(w.endsAt)), { kind: "wait" }), []),
    );
    if (!withOrder.has(u.id) || !(await fromOrder(db, u, times.get(u.key)!, list, waitIds))) {
      let last = waitIds;
      if (u.next_action === "mend") {
        const decision = await db("decision").where({ unit_id: u.id }).orderBy("at", "desc").first("route");
        const route = routes.value.find((r) => r.id === decision?.route);
        const irons = route?.tools.some((t) => t.includes("iron")) ?? false;
        const slot = Math.max(
          0,
          ...((await modelById(db, u.profile_id)).body.slots ?? [])
            .filter((s) => route?.part?.kind === s.kind)
            .map((s) => s.stripMinutes),
        );
        last = [
          list.put(
            "mend",
            plain(`Mend: ${route?.name ?? "as decided"}`, (route?.minutes ?? 15) + (route?.opens ? slot : 0), {
              skill: route?.skill ?? 2,
              station: irons ? "iron" : null,
              setup: irons ? "usual" : null,
            }),
            last,
          ),
        ];
        if (route && route.waitMinutes > 0)
          last = [list.put("mend wait", plain("Cure or dry", route.waitMinutes, { kind: "wait" }), last)];
        last = [list.put("prove", plain("Full test, closed", 9, { station: "test", setup: u.key }), last)];
      } else
        (FOLLOW[u.next_action]?.(u.key) ?? []).forEach((t, i) => {
          last = [list.put(`${u.next_action} ${i + 1}`, t, last)];
        });
    }
    if (list.tasks.length === 0) continue;
    tasks.push(...list.tasks);
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
    impossible: plan.impossible.map((id) => ({ id, title: `${id.split(" ")[0]}: ${byId.get(id)!.title}` })),
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

export const setDue = deed("unit.set-due", { unit: namedUnit, seen: "unit" }, async ({ db, actor, note, unit }, { dueOn }) => {
  await db("unit")
    .where({ id: unit.id })
    .update({ due_on: dueOn, ...touched(db, actor) });
  note("due-set", unit.id, { dueOn });
  return nothing;
});

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
