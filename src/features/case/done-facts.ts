import "server-only";

import type { Knex } from "knex";

import type { Id } from "@/core/base/ids";
import { actOfMend, actOfSpare } from "@/core/case/ageing";
import { type Fact } from "@/core/case/facts";
import { type Graph } from "@/core/diagnosis/graph";
import { type ModelProfile } from "@/core/profile/profile";
import { refOf } from "@/core/mend/ref";
import { loadRoutes } from "@/features/routes/deeds";
import { rowsOf } from "@/platform/db/joined";
import { together } from "@/platform/deed/base";

/** What was done: mends, spares in their slots, calibrations, cleaning and soldering. */
async function readDone(db: Knex, unitId: Id<"unit">) {
  const [mends, spares, calibrations, tasks, heats, { value: routes }] = await together(
    db,
    () =>
      rowsOf(
        db("mend as m")
          .join("person as p", "p.id", "m.by")
          .leftJoin("fault as f", "f.id", "m.fault_id")
          .where("m.unit_id", unitId)
          .orderBy("m.number"),
        { m: "mend", p: "person", f: "fault?" },
        "m.number",
        "m.what",
        "m.route",
        "m.opened",
        "m.part",
        "m.fault_id",
        "m.at",
        "f.place",
        "p.name as who",
      ),
    () =>
      rowsOf(
        db("fitted as x")
          .join("person as p", "p.id", "x.by")
          .leftJoin("batch as b", "b.id", "x.batch_id")
          .leftJoin("unit as d", "d.id", "x.from_unit_id")
          .where("x.unit_id", unitId)
          .orderBy(["x.at", "x.id"]),
        { x: "fitted", p: "person", b: "batch?", d: "unit?" },
        "x.id",
        "x.at",
        "x.slot",
        "x.part",
        "b.code as batch",
        "d.tag as donor",
        "p.name as who",
      ),
    () =>
      rowsOf(
        db("calibration as c")
          .join("person as p", "p.id", "c.by")
          .where("c.unit_id", unitId)
          .whereNotNull("c.saved_at")
          .orderBy(["c.at", "c.id"]),
        { c: "calibration", p: "person" },
        "c.id",
        "c.stick",
        "c.at",
        "p.name as who",
      ),
    () =>
      rowsOf(
        db("work_event as e")
          .join("work_order as o", "o.id", "e.work_order_id")
          .join("person as p", "p.id", "e.by")
          .where({ "o.unit_id": unitId, "e.undone": false })
          .whereRaw("e.body->>'task' like 'clean:%'")
          .orderBy("e.id"),
        { e: "work_event", p: "person" },
        "e.id",
        "e.body",
        "e.at",
        "p.name as who",
      ),
    () =>
      rowsOf(
        db("heat as h")
          .join("person as p", "p.id", "h.by")
          .where("h.unit_id", unitId)
          .orderBy(["h.at", "h.id"]),
        { h: "heat", p: "person" },
        "h.id",
        "h.job",
        "h.at",
        "p.name as who",
      ),
    () => loadRoutes(db),
  );
  return { mends, spares, calibrations, tasks, heats, routes };
}
type DoneRows = Awaited<ReturnType<typeof readDone>>;

const named = (graph: Graph, parts: ReadonlySet<number>): string[] =>
  [...parts].map((i) => graph.nodes[i]!.id);

function mendFact(
  m: DoneRows["mends"][number],
  routes: DoneRows["routes"],
  profile: ModelProfile,
  graph: Graph,
): Fact {
  const route = routes.find((r) => r.id === m.route) ?? null;
  const act =
    m.place !== null ? actOfMend(graph, { at: m.at, place: m.place, route, slots: profile.slots }) : null;
  const howOf = () => {
    if (act) return act.how;
    // the order's own line of opening and closing changes nothing by itself
    if (m.fault_id === null && m.opened && m.route === null && m.part === "") return "opened";
    return "unknown";
  };
  return {
    id: `mend ${m.number}`,
    at: m.at.toISOString(),
    who: m.who,
    kind: "mended",
    route: m.route,
    places: act ? named(graph, act.parts) : [],
    fitted: null,
    place: m.place,
    how: howOf(),
    number: m.number,
    words: m.what,
  };
}

function spareFact(s: DoneRows["spares"][number], profile: ModelProfile, graph: Graph): Fact {
  const into = profile.slots?.find((x) => x.id === s.slot);
  const act = into ? actOfSpare(graph, { at: s.at, kind: into.kind, serves: into.serves }) : null;
  return {
    id: `fitted ${s.id}`,
    at: s.at.toISOString(),
    who: s.who,
    kind: "mended",
    route: null,
    places: act ? named(graph, act.parts) : [],
    fitted: { make: s.part, batch: s.batch, donor: s.donor },
    place: into?.serves[0] ?? s.slot,
    how: "replaced",
    number: null,
    words: s.part,
  };
}

const calibrationFact = (c: DoneRows["calibrations"][number]): Fact => ({
  id: `calibration ${c.id}`,
  at: c.at.toISOString(),
  who: c.who,
  kind: "mended",
  route: null,
  places: [],
  fitted: null,
  place: c.stick,
  how: "calibrated",
  number: null,
  words: "",
});

/** Work at a surface, or with an iron, that names no part of the wiring: it is told, and ends nothing. */
const workFact = (id: string, at: Date, who: string, what: string, how: "cleaned" | "resoldered"): Fact => ({
  id,
  at: at.toISOString(),
  who,
  kind: "mended",
  route: null,
  places: [],
  fitted: null,
  place: what,
  how,
  number: null,
  words: what.replace(/[.-]/g, " "),
});

export async function doneFacts(
  db: Knex,
  unitId: Id<"unit">,
  profile: ModelProfile,
  graph: Graph,
): Promise<Fact[]> {
  const { mends, spares, calibrations, tasks, heats, routes } = await readDone(db, unitId);
  return [
    ...mends.map((m) => mendFact(m, routes, profile, graph)),
    ...spares.map((s) => spareFact(s, profile, graph)),
    ...calibrations.map(calibrationFact),
    ...tasks.flatMap((t) => {
      const task = t.body.kind === "task" ? refOf(t.body.task) : null;
      return task ? [workFact(`step ${t.id}`, t.at, t.who, task.id, "cleaned")] : [];
    }),
    ...heats.map((h) => workFact(`heat ${h.id}`, h.at, h.who, h.job, "resoldered")),
  ];
}
