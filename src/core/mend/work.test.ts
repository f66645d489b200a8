import { readdirSync, readFileSync } from "node:fs";
import { join } from "node:path";

import fc from "fast-check";

import { type MendGuide, guideOf } from "../profile/guide";
import { type ModelProfile, profileSchema } from "../profile/profile";
import { inOrder, lineUp, type OrderBody, stepsFor, taskKeys } from "./order";
import {
  add,
  before,
  closedUnit,
  FATES,
  itemsOf,
  leftOut,
  over,
  replay,
  type WorkEvent,
  type WorkState,
} from "./work";

const folder = join(__dirname, "../../../profiles");
const models = readdirSync(folder).map((f): ModelProfile =>
  profileSchema.parse(JSON.parse(readFileSync(join(folder, f), "utf8"))),
);
const guides = models.flatMap((m) =>
  m.revisions.map((r): [string, MendGuide] => [`${m.name} ${r.id}`, guideOf(m.guide!, r.id)]),
);
const dunlin = guides.find(([n]) => n.startsWith("Dunlin"))![1];

const stepOf = (id: string) => dunlin.steps.find((s) => s.id === id)!;
const must = (guide: MendGuide, state: WorkState, e: WorkEvent, tasks: string[] = []): WorkState => {
  const done = add(guide, state, e, tasks);
  if (!done.ok) throw new Error(`${JSON.stringify(e)} refused: ${JSON.stringify(done.problem)}`);
  return done.value;
};
/** Takes everything of a step back in and closes it. */
const close = (guide: MendGuide, state: WorkState, id: string): WorkState => {
  let s = state;
  for (const item of itemsOf(guide.steps.find((x) => x.id === id)!))
    if (s.items.get(item)!.state === "out") s = must(guide, s, { kind: "in", item });
  return must(guide, s, { kind: "back", step: id });
};

test("every model has a guide whose steps all come apart and go back", () => {
  expect(models.filter((m) => !m.guide)).toEqual([]);
  for (const [, guide] of guides) {
    let s = closedUnit(guide);
    for (const step of inOrder(guide, new Set(guide.steps.map((x) => x.id))))
      s = must(guide, s, { kind: "apart", step: step.id });
    expect(s.apart).toHaveLength(guide.steps.length);
    expect(leftOut(s)).toHaveLength(s.items.size);
    s = must(guide, s, { kind: "gate", gate: "open", recordingId: "r", why: "" });
    for (const id of [...s.apart].reverse()) s = close(guide, s, id);
    expect(leftOut(s)).toEqual([]);
    s = must(guide, s, { kind: "gate", gate: "closed", recordingId: "r", why: "" });
    expect(s.closedGate).not.toBeNull();
  }
});

test("every part slot of every model is reached by a step", () => {
  for (const m of models) {
    const reached = new Set(m.guide!.steps.flatMap((s) => s.reaches));
    expect((m.slots ?? []).filter((s) => !reached.has(s.id)).map((s) => `${m.name}: ${s.id}`)).toEqual([]);
  }
});

test("a revision has its own branch, and blocking order goes through what it lacks", () => {
  const turnstone = models.find((m) => m.id === "turnstone")!.guide!;
  const a = guideOf(turnstone, "a").steps.map((s) => s.id);
  const b = guideOf(turnstone, "b").steps.map((s) => s.id);
  expect(a).toContain("trigger.plugs");
  expect(a).not.toContain("trigger.leads");
  expect(b).toContain("trigger.leads");
  // board comes after the plugs of board A and the leads of board B; on B the plugs' own blocker stands in
  // for them
  expect(
    guideOf(turnstone, "b")
      .steps.find((s) => s.id === "board")!
      .after.sort(),
  ).toEqual(["flexes", "halves", "motors", "trigger.leads"]);
});

test("reassembly is a valid reverse for any order of doing", () => {
  fc.assert(
    fc.property(
      fc.integer({ min: 0, max: guides.length - 1 }),
      fc.infiniteStream(fc.nat(1000)),
      fc.nat(40),
      (g, choices, count) => {
        const guide = guides[g]![1];
        let s = closedUnit(guide);
        for (let n = 0; n < count; n++) {
          const can = guide.steps.filter(
            (x) => !s.apart.includes(x.id) && x.after.every((a) => s.apart.includes(a)),
          );
          if (can.length === 0) break;
          s = must(guide, s, { kind: "apart", step: can[(choices.next().value as number) % can.length]!.id });
        }
        const done = [...s.apart];
        const backs = lineUp(guide, { targets: [], cleaningLevel: 0, calibrate: [] }, s)
          .filter((x) => x.phase === "back" && !x.done)
          .map((x) => x.step!.id);
        expect(backs).toEqual([...done].reverse());
        s = must(guide, s, { kind: "gate", gate: "open", recordingId: "r", why: "" });
        for (const id of backs) {
          // nothing that goes back lies under something that is still apart
          expect(s.apart.filter((t) => before(guide, t).has(id))).toEqual([]);
          s = close(guide, s, id);
        }
        expect(s.apart).toEqual([]);
        expect(leftOut(s)).toEqual([]);
      },
    ),
    { numRuns: 300 },
  );
});

describe("what cannot be is refused with its reason, and changes nothing", () => {
  const first = dunlin.steps.find((s) => s.after.length === 0)!;
  const later = dunlin.steps.find((s) => s.after.length > 0 && itemsOf(s).length > 0)!;
  const item = itemsOf(later)[0]!;
  const closed = closedUnit(dunlin);
  /** Everything before the later step apart, then the step itself. */
  const opened = inOrder(dunlin, new Set([...before(dunlin, later.id), later.id])).reduce(
    (s, step) => must(dunlin, s, { kind: "apart", step: step.id }),
    closed,
  );
  const under = [...before(dunlin, later.id)].find((id) => itemsOf(stepOf(id)).length > 0)!;
  const gate = (which: "open" | "closed"): WorkEvent => ({
    kind: "gate",
    gate: which,
    recordingId: "r",
    why: "",
  });
  const finished = must(dunlin, closed, gate("closed"));
  const refused: [code: string, state: WorkState, event: WorkEvent][] = [
    ["step-unknown", closed, { kind: "apart", step: "nowhere" }],
    ["step-unknown", closed, { kind: "back", step: "nowhere" }],
    ["apart-already", opened, { kind: "apart", step: later.id }],
    ["blocked-by", closed, { kind: "apart", step: later.id }],
    ["not-apart", closed, { kind: "back", step: first.id }],
    ["not-apart", closed, { kind: "out", item }],
    ["put-back-first", opened, { kind: "back", step: under }],
    ["put-back-first", opened, { kind: "in", item: itemsOf(stepOf(under))[0]! }],
    ["left-out", opened, { kind: "back", step: later.id }],
    ["item-unknown", opened, { kind: "in", item: "piece:nowhere" }],
    ["item-unknown", opened, { kind: "out", item: "piece:nowhere" }],
    ["item-unknown", opened, { kind: "away", item: "piece:nowhere", where: "washing" }],
    ["item-unknown", opened, { kind: "explained", item: "piece:nowhere", fate: "lost", why: "x" }],
    ["not-out", closed, { kind: "in", item }],
    ["not-out", closed, { kind: "away", item, where: "washing" }],
    ["not-out", closed, { kind: "explained", item, fate: "lost", why: "x" }],
    ["still-apart", opened, gate("closed")],
    ["gate-needs-test", closed, { kind: "gate", gate: "closed", recordingId: null, why: "in a hurry" }],
    ["gate-needs-test", opened, { kind: "gate", gate: "open", recordingId: null, why: "" }],
    ["over", finished, { kind: "apart", step: first.id }],
  ];
  test.each(refused)("%s", (code, state, event) => {
    const kept = JSON.stringify([state.apart, [...state.items], state.extras]);
    expect(add(dunlin, state, event)).toMatchObject({ ok: false, problem: { code } });
    expect(JSON.stringify([state.apart, [...state.items], state.extras])).toBe(kept);
  });
  test("tasks-open: neither gate opens before the work is done", () => {
    for (const which of ["open", "closed"] as const)
      expect(add(dunlin, closed, gate(which), ["mend:1"])).toMatchObject({
        ok: false,
        problem: { code: "tasks-open", tasks: ["mend:1"] },
      });
  });
});

test("a fastener, spring or fragment can never vanish, whatever is tried", () => {
  const steps = dunlin.steps.map((s) => s.id);
  const items = [...closedUnit(dunlin).items.keys(), "extra:1", "extra:2", "extra:3"];
  const event = fc.oneof(
    {
      weight: 4,
      arbitrary: fc.record({ kind: fc.constant("apart" as const), step: fc.constantFrom(...steps) }),
    },
    {
      weight: 3,
      arbitrary: fc.record({ kind: fc.constant("back" as const), step: fc.constantFrom(...steps) }),
    },
    {
      weight: 6,
      arbitrary: fc.record({
        kind: fc.constantFrom("in" as const, "out" as const),
        item: fc.constantFrom(...items),
      }),
    },
    fc.record({
      kind: fc.constant("away" as const),
      item: fc.constantFrom(...items),
      where: fc.constant("washing"),
    }),
    fc.record({
      kind: fc.constant("explained" as const),
      item: fc.constantFrom(...items),
      fate: fc.constantFrom(...FATES),
      why: fc.constant("because"),
    }),
    fc.record({
      kind: fc.constant("extra" as const),
      name: fc.constant("shard"),
      what: fc.constant("fell-out" as const),
    }),
    fc.record({
      kind: fc.constant("gate" as const),
      gate: fc.constantFrom("open" as const, "closed" as const),
      recordingId: fc.constantFrom("r", null),
      why: fc.constant(""),
    }),
  );
  fc.assert(
    fc.property(fc.array(event, { maxLength: 150 }), (events) => {
      let s = closedUnit(dunlin);
      let extras = 0;
      const out = new Set<string>();
      for (const e of events as WorkEvent[]) {
        const was = s;
        const done = add(dunlin, s, e);
        if (!done.ok) continue;
        s = done.value;
        if (e.kind === "extra") extras += 1;
        for (const [id, item] of s.items)
          if (item.state === "out" && was.items.get(id)?.state !== "out") out.add(id);
        // every item that was ever out is still known, and is in, out, or explained with a reason
        for (const id of out) {
          const item = s.items.get(id)!;
          expect(item.state === "explained" ? item.fate : item.state).toBeTruthy();
        }
        expect(s.items.size).toBe(closedUnit(dunlin).items.size + extras);
        // what lies out belongs to a step that is apart, or came loose by itself
        for (const item of leftOut(s)) expect(item.step === null || s.apart.includes(item.step)).toBe(true);
        if (s.closedGate) expect(leftOut(s)).toEqual([]);
      }
    }),
    { numRuns: 400 },
  );
});

describe("a Dunlin's left stick module", () => {
  const body: OrderBody = {
    targets: [
      {
        key: 1,
        faultId: "f",
        number: 1,
        what: "New module",
        slot: "module.left",
        route: "module-dear",
        minutes: 30,
        waitMinutes: 0,
        tools: ["fine iron"],
        movesOver: ["cap"],
      },
    ],
    cleaningLevel: 0,
    calibrate: ["stick.left"],
  };
  const tasks = taskKeys(dunlin, body);

  test("opens only what must be opened, caps before the board, label before the hidden fastener", () => {
    const line = stepsFor(dunlin, body).map((s) => s.id);
    expect(line).toEqual([
      "label",
      "shell.fasteners",
      "halves",
      "cell.plug",
      "motors",
      "flexes",
      "caps",
      "board",
    ]);
    expect(line).not.toContain("triggers");
  });

  test("a forgotten fastener keeps the shell open until it is back or explained", () => {
    let s = closedUnit(dunlin);
    for (const step of stepsFor(dunlin, body)) s = must(dunlin, s, { kind: "apart", step: step.id }, tasks);
    expect(add(dunlin, s, { kind: "gate", gate: "open", recordingId: "r", why: "" }, tasks)).toMatchObject({
      problem: { code: "tasks-open" },
    });
    s = must(dunlin, s, { kind: "task", task: "mend:1" }, tasks);
    for (const id of [...s.apart].reverse()) {
      if (id === "shell.fasteners") break;
      s = close(dunlin, s, id);
    }
    expect(add(dunlin, s, { kind: "back", step: "shell.fasteners" }, tasks)).toMatchObject({
      problem: { code: "left-out" },
    });
    for (const f of ["back.nw", "back.ne", "back.sw", "back.se"])
      s = must(dunlin, s, { kind: "in", item: `fastener:${f}` });
    expect(add(dunlin, s, { kind: "back", step: "shell.fasteners" }, tasks)).toEqual({
      ok: false,
      problem: { code: "left-out", items: ["fastener:back.hidden"] },
    });
    s = must(dunlin, s, { kind: "in", item: "fastener:back.hidden" });
    expect(add(dunlin, s, { kind: "back", step: "shell.fasteners" }, tasks)).toMatchObject({
      problem: { code: "gate-first" },
    });
    s = must(dunlin, s, { kind: "gate", gate: "open", recordingId: "r", why: "" }, tasks);
    s = must(dunlin, s, { kind: "back", step: "shell.fasteners" }, tasks);
    s = close(dunlin, s, "label");
    expect(
      add(dunlin, s, { kind: "gate", gate: "closed", recordingId: null, why: "in a hurry" }, tasks),
    ).toMatchObject({
      problem: { code: "gate-needs-test" },
    });
    expect(
      must(dunlin, s, { kind: "gate", gate: "closed", recordingId: "full", why: "" }, tasks).closedGate,
    ).toEqual({
      recordingId: "full",
    });
  });

  test("what fell out of no known place must be settled before the last fasteners", () => {
    let s = closedUnit(dunlin);
    for (const step of ["label", "shell.fasteners"]) s = must(dunlin, s, { kind: "apart", step });
    s = must(dunlin, s, { kind: "extra", name: "grey shard", what: "fell-out" });
    s = must(dunlin, s, { kind: "gate", gate: "open", recordingId: "r", why: "" });
    for (const item of itemsOf(dunlin.steps.find((x) => x.id === "shell.fasteners")!))
      s = must(dunlin, s, { kind: "in", item });
    expect(add(dunlin, s, { kind: "back", step: "shell.fasteners" })).toEqual({
      ok: false,
      problem: { code: "left-out", items: ["extra:1"] },
    });
    s = must(dunlin, s, {
      kind: "explained",
      item: "extra:1",
      fate: "left-out",
      why: "the lip of the port frame, kept as evidence",
    });
    expect(add(dunlin, s, { kind: "back", step: "shell.fasteners" }).ok).toBe(true);
  });

  test("opening again after the test wants the test again", () => {
    let s = closedUnit(dunlin);
    for (const step of ["label", "shell.fasteners"]) s = must(dunlin, s, { kind: "apart", step });
    s = must(dunlin, s, { kind: "gate", gate: "open", recordingId: "r", why: "" });
    s = must(dunlin, s, { kind: "apart", step: "halves" });
    expect(s.openGate).toBeNull();
  });

  test("replaying the events gives the same state, and nothing lies over what goes back first", () => {
    const events: WorkEvent[] = [
      { kind: "apart", step: "label" },
      { kind: "apart", step: "shell.fasteners" },
      { kind: "apart", step: "halves" },
      { kind: "in", item: "fastener:back.nw" },
    ];
    const s = replay(dunlin, events);
    expect(s.apart).toEqual(["label", "shell.fasteners", "halves"]);
    expect(over(dunlin, s, "shell.fasteners")).toEqual(["halves"]);
    // the halves are still apart: their fasteners cannot be in yet
    expect(s.items.get("fastener:back.nw")!.state).toBe("out");
  });
});
