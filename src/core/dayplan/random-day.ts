import { type Chance, seeded } from "../math/random";
import { DAY_STATIONS, type DayProblem, type Order, type Person, type Task } from "./problem";

/**
 * Made-up days for the bench and the tests: units to be cleaned, mended and proven by a few people of
 * differing skill.
 */

const whole = (c: Chance, lo: number, hi: number) => Math.round(c.between(lo, hi));

function orderTasks(c: Chance, id: string, model: string): Task[] {
  const task = (name: string, rest: Partial<Task> & { minutes: number; after: string[] }): Task => ({
    id: `${id}.${name}`,
    order: id,
    title: name,
    kind: "work",
    skill: 1,
    station: null,
    setup: null,
    ...rest,
    after: rest.after.map((a) => `${id}.${a}`),
  });
  const tasks = [
    task("test", { minutes: whole(c, 6, 14), station: "test", setup: model, after: [] }),
    task("open", { minutes: whole(c, 5, 20), after: ["test"] }),
  ];
  const joins: string[] = [];
  if (c.happens(0.6)) {
    tasks.push(
      task("wash", {
        minutes: whole(c, 3, 10),
        station: "cleaning",
        setup: c.pick(["bath", "alcohol"]),
        after: ["open"],
      }),
      task("soak", { kind: "wait", minutes: whole(c, 15, 45), after: ["wash"] }),
      task("dry", { kind: "wait", minutes: whole(c, 30, 90), after: ["soak"] }),
    );
    joins.push("dry");
  }
  if (c.happens(0.65)) {
    const iron = c.happens(0.75);
    tasks.push(
      task("solder", {
        minutes: whole(c, 10, 40),
        skill: iron ? 2 : 3,
        station: iron ? "iron" : "hot-air",
        setup: c.pick(["340", "360"]),
        after: ["open"],
      }),
    );
    if (c.happens(0.3)) {
      tasks.push(task("cure", { kind: "wait", minutes: whole(c, 30, 180), after: ["solder"] }));
      joins.push("cure");
    } else joins.push("solder");
  } else {
    tasks.push(task("swap", { minutes: whole(c, 4, 15), after: ["open"] }));
    joins.push("swap");
  }
  tasks.push(
    task("close", { minutes: whole(c, 6, 22), after: joins }),
    task("prove", { minutes: whole(c, 8, 16), station: "test", setup: model, after: ["close"] }),
  );
  return tasks;
}

/** A day with this many orders and people, by seed. Hours run for as many days as it takes. */
export function randomDay(seed: number, orderCount: number, peopleCount: number): DayProblem {
  const c = seeded(seed * 7919 + 13);
  const start = 0;
  const people: Person[] = Array.from({ length: peopleCount }, (_, i) => {
    const from = start + whole(c, 0, 4) * 15;
    const windows = Array.from({ length: 30 }, (_, d) => [
      [d * 1440 + from, d * 1440 + from + 240] as const,
      [d * 1440 + from + 270, d * 1440 + from + 510] as const,
    ]).flat();
    return { id: `p${i}`, name: `person ${i + 1}`, skill: i === 0 ? 4 : whole(c, 1, 4), windows };
  });
  const orders: Order[] = Array.from({ length: orderCount }, (_, i) => ({
    id: `o${i}`,
    title: `order ${i + 1}`,
    received: -1000 + i,
    readyAt: c.happens(0.15) ? whole(c, 10, 240) : 0,
    due: null,
  }));
  const tasks = orders.flatMap((o) => orderTasks(c, o.id, c.pick(["dunlin", "turnstone", "whimbrel"])));
  const load = tasks.reduce((s, t) => s + (t.kind === "work" ? t.minutes : 0), 0) / peopleCount;
  for (const o of orders)
    if (c.happens(0.7))
      o.due = Math.round(o.readyAt + 180 + c.next() * (load + Math.floor(load / 500) * 900));
  return { orders, tasks, people, stations: DAY_STATIONS, pins: [] };
}
