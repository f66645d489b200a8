import type { Route } from "../decide/routes";
import { cleaningPlan } from "../mend/cleaning";
import { lineUp, type OrderBody, type OrderStep } from "../mend/order";
import type { WorkState } from "../mend/work";
import type { MendGuide } from "../profile/guide";
import type { Slot } from "../profile/slots";
import type { NextAction } from "../record/standing";
import type { Task } from "./problem";
import { isRefTo, refTo } from "../mend/ref";

/**
 * What an open unit asks of the day: its tasks with their minutes, from its work order or, without one, from
 * its next action.
 */

export type DayJob =
  | { code: "waiting"; what: string }
  | { code: "first-test" | "name-found" | "name-faults" | "decide" | "open-wet" | "full-test" }
  | { code: "functions-and-release" | "functions-left" | "release" | "close" | "cure" }
  | { code: "mend"; route: string | null }
  /** a step of the guide or of the order, by its own name */
  | { code: "step"; title: string }
  | { code: "clean"; surface: string }
  | { code: "take-apart" | "put-back"; steps: number }
  | { code: "soak"; soaks: boolean; surface: string }
  | { code: "cure-after"; what: string };
export type DayTask = Omit<Task, "title"> & { job: DayJob };

export type DayUnit = {
  tag: string;
  /** what stands on the table to test it (`hostOf`): those with the same follow each other without setting up anew */
  host: string;
  nextAction: NextAction;
  /** what runs for it already, with the minutes until it ends */
  waits: readonly { id: string; what: string; endsIn: number }[];
  /** its open work order, with the minutes that a step takes here */
  order: {
    guide: MendGuide;
    body: OrderBody;
    state: WorkState;
    minutesOf: (step: OrderStep) => number;
  } | null;
  /** the route that was decided, and the part slots of the model */
  route: Route | null;
  slots: readonly Slot[];
};

type Plain = Omit<DayTask, "id" | "order" | "after">;
const plain = (job: DayJob, minutes: number, rest: Partial<Plain> = {}): Plain => ({
  job,
  kind: "work",
  minutes,
  skill: 1,
  station: null,
  setup: null,
  ...rest,
});
const pause = (job: DayJob, minutes: number): Plain => plain(job, minutes, { kind: "wait" });
const atTest = (job: DayJob, minutes: number, host: string): Plain =>
  plain(job, minutes, { station: "test", setup: host });

/** House minutes of what no work order measures. */
const MINUTES = {
  fullTest: 9,
  nameFound: 5,
  decide: 4,
  openWet: 12,
  functionsAndRelease: 8,
  functionsLeft: 6,
  release: 3,
  close: 4,
  mend: 15,
} as const;

/** What a unit without a work order asks for next, and what must follow. */
const FOLLOW: Partial<Record<NextAction, (host: string) => Plain[]>> = {
  "first-test": (h) => [
    atTest({ code: "first-test" }, MINUTES.fullTest, h),
    plain({ code: "name-found" }, MINUTES.nameFound),
  ],
  "name-faults": () => [
    plain({ code: "name-faults" }, MINUTES.nameFound),
    plain({ code: "decide" }, MINUTES.decide, { skill: 2 }),
  ],
  decide: () => [plain({ code: "decide" }, MINUTES.decide, { skill: 2 })],
  "dry-out": () => [plain({ code: "open-wet" }, MINUTES.openWet)],
  prove: (h) => [
    atTest({ code: "full-test" }, MINUTES.fullTest, h),
    plain({ code: "functions-and-release" }, MINUTES.functionsAndRelease),
  ],
  "settle-blocks": (h) => [
    atTest({ code: "functions-left" }, MINUTES.functionsLeft, h),
    plain({ code: "release" }, MINUTES.release),
  ],
  release: () => [plain({ code: "release" }, MINUTES.release)],
  end: () => [plain({ code: "close" }, MINUTES.close)],
};

class TaskList {
  readonly tasks: DayTask[] = [];
  constructor(private readonly tag: string) {}

  /** Adds a task after some others and says its id; whole minutes, one at least. */
  put(key: string, t: Plain, after: readonly string[]): string {
    const id = `${this.tag} ${key}`;
    this.tasks.push({ ...t, id, order: this.tag, minutes: Math.max(1, Math.round(t.minutes)), after });
    return id;
  }
}

export function dayTasks(unit: DayUnit): DayTask[] {
  const list = new TaskList(unit.tag);
  const waits = unit.waits.map((w) =>
    list.put(`wait ${w.id}`, pause({ code: "waiting", what: w.what }, w.endsIn), []),
  );
  if (unit.order) fromOrder(list, unit.order, unit.host, waits);
  else if (unit.nextAction === "mend") fromRoute(list, unit, waits);
  else {
    let last = waits;
    (FOLLOW[unit.nextAction]?.(unit.host) ?? []).forEach((t, i) => {
      last = [list.put(`${unit.nextAction} ${i + 1}`, t, last)];
    });
  }
  return list.tasks;
}

/**
 * A mend that is decided and not begun: as long as its route says, and opened as deep as its deepest part.
 */
function fromRoute(list: TaskList, { route, slots, host }: DayUnit, waits: readonly string[]): void {
  const irons = route?.tools.some((t) => t.includes("iron")) ?? false;
  const deep = Math.max(0, ...slots.filter((s) => route?.part?.kind === s.kind).map((s) => s.stripMinutes));
  const job = plain(
    { code: "mend", route: route?.name ?? null },
    (route?.minutes ?? MINUTES.mend) + (route?.opens ? deep : 0),
    {
      skill: route?.skill ?? 2,
      station: irons ? "iron" : null,
      setup: irons ? "usual" : null,
    },
  );
  let last = list.put("mend", job, waits);
  if (route && route.waitMinutes > 0)
    last = list.put("mend wait", pause({ code: "cure" }, route.waitMinutes), [last]);
  list.put("prove", atTest({ code: "full-test" }, MINUTES.fullTest, host), [last]);
}

const sum = (steps: readonly OrderStep[], minutes: (s: OrderStep) => number): number =>
  steps.reduce((total, s) => total + minutes(s), 0);

/**
 * What an open work order still holds: opening as one, each cleaning and mend with its waits, closing, and
 * the proof.
 */
function fromOrder(
  list: TaskList,
  order: NonNullable<DayUnit["order"]>,
  host: string,
  waits: readonly string[],
): void {
  const { guide, body, state, minutesOf } = order;
  const cleaning = cleaningPlan(guide, body.cleaningLevel);
  const line = lineUp(guide, body, state).filter((s) => !s.done);
  const apart = line.filter((s) => s.phase === "apart");
  const skill = apart.some((s) => s.difficulty >= 4) ? 2 : 1;
  const opened = apart.length
    ? [
        list.put(
          "open",
          plain({ code: "take-apart", steps: apart.length }, sum(apart, minutesOf), { skill }),
          [],
        ),
      ]
    : [];
  const joins: string[] = [...waits];
  for (const s of line.filter((x) => isRefTo("clean", x.key))) {
    const job = cleaning.find((j) => refTo("clean", j.surface) === s.key);
    const from = job?.after === null ? [] : opened;
    const done = plain({ code: "clean", surface: s.subject }, minutesOf(s), {
      station: "cleaning",
      setup: job?.agent ?? null,
    });
    let last = list.put(s.key, done, from);
    const rests = (job?.soakMinutes ?? 0) + (job?.dryMinutes ?? 0);
    if (job && rests > 0)
      last = list.put(
        `${s.key} wait`,
        pause({ code: "soak", soaks: job.soakMinutes > 0, surface: job.name }, rests),
        [last],
      );
    joins.push(last);
  }
  for (const t of body.targets) {
    const s = line.find((x) => x.key === refTo("mend", t.key));
    if (!s) continue;
    const heat = guide.solder.find((j) => t.slot !== null && j.slots.includes(t.slot));
    const irons = t.tools.some((x) => x.includes("iron"));
    const air = t.tools.some((x) => x.includes("hot air"));
    const stationOf = () => {
      if (irons) return "iron";
      if (air) return "hot-air";
      return null;
    };
    const station = stationOf();
    const setupOf = () => {
      if (heat) return `${heat.celsius} °C`;
      if (station === null) return null;
      return "usual";
    };
    const setup = setupOf();
    const skilled = { skill: station === null ? 1 : 2, station, setup };
    let last = list.put(s.key, plain({ code: "step", title: s.subject }, minutesOf(s), skilled), opened);
    if (t.waitMinutes > 0)
      last = list.put(`${s.key} wait`, pause({ code: "cure-after", what: t.what }, t.waitMinutes), [last]);
    joins.push(last);
  }
  const back = line.filter((s) => s.phase === "back" || s.key === "gate:open");
  const closeAfter = [...new Set([...opened, ...joins])];
  const closed = back.length
    ? [list.put("close", plain({ code: "put-back", steps: back.length }, sum(back, minutesOf)), closeAfter)]
    : closeAfter;
  list.put("prove", atTest({ code: "full-test" }, MINUTES.fullTest, host), closed);
}
