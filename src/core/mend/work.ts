import { ok, refuse, type Result } from "../base/result";
import type { GuideStep, MendGuide } from "../profile/guide";
import { refTo } from "./ref";

/**
 * What was really done to an open unit, as a list of events that is only added to, and what follows from it:
 * which steps are apart, where every fastener, clip, cable and piece is, and which gate was passed. Nothing
 * that came out can vanish: it goes back, or somebody says what became of it.
 */

export const FATES = ["missing-before", "lost", "broken", "replaced", "left-out"] as const;
export type Fate = (typeof FATES)[number];
export const EXTRAS = ["fell-out", "taken-off", "put-in"] as const;
export type ExtraKind = (typeof EXTRAS)[number];

export type WorkEvent =
  | { kind: "apart"; step: string }
  | { kind: "back"; step: string }
  /** an item is in its place again */
  | { kind: "in"; item: string }
  /** an item of a step that is apart came out after all, or was taken out again */
  | { kind: "out"; item: string }
  | { kind: "explained"; item: string; fate: Fate; why: string }
  | { kind: "away"; item: string; where: string }
  /** something that the guide does not name: it fell out, was taken off, or was put in for a while */
  | { kind: "extra"; name: string; what: ExtraKind }
  | { kind: "task"; task: string }
  | { kind: "again"; task: string; why: string }
  | { kind: "gate"; gate: "open" | "closed"; recordingId: string | null; why: string };

export type Item = {
  id: string;
  step: string | null;
  state: "in" | "out" | "explained";
  away: string;
  fate: Fate | null;
  why: string;
};

export type WorkState = {
  /** steps that are apart now, oldest first */
  apart: readonly string[];
  items: ReadonlyMap<string, Item>;
  extras: readonly { id: string; name: string; what: ExtraKind }[];
  tasks: ReadonlySet<string>;
  /** where the gate before the last fasteners stands; a step apart after it closes it again */
  openGate: { recordingId: string | null; why: string } | null;
  closedGate: { recordingId: string } | null;
};

export type WorkProblem =
  | { code: "step-unknown"; step: string }
  | { code: "item-unknown"; item: string }
  | { code: "apart-already"; step: string }
  | { code: "not-apart"; step: string }
  /** blocking order: these must be done before */
  | { code: "blocked-by"; steps: string[] }
  /** put back first: these lie over it */
  | { code: "put-back-first"; steps: string[] }
  | { code: "left-out"; items: string[] }
  | { code: "not-out"; item: string }
  | { code: "gate-first" }
  | { code: "gate-needs-test" }
  | { code: "still-apart"; steps: string[] }
  | { code: "tasks-open"; tasks: string[] }
  | { code: "over" };

export const itemsOf = (s: GuideStep): string[] => [
  ...s.frees.fasteners.map((f) => refTo("fastener", f)),
  ...s.frees.clips.map((c) => refTo("clip", c)),
  ...s.frees.cables.map((k) => refTo("cable", k)),
  ...s.frees.pieces.map((p) => refTo("piece", p)),
];

/** A unit that nobody opened yet. */
export function closedUnit(guide: MendGuide): WorkState {
  const items = new Map<string, Item>();
  for (const s of guide.steps)
    for (const id of itemsOf(s))
      items.set(id, { id, step: s.id, state: "in", away: "", fate: null, why: "" });
  return { apart: [], items, extras: [], tasks: new Set(), openGate: null, closedGate: null };
}

/** Everything that must be done before a step, however far back; the step itself is not among them. */
export function before(guide: MendGuide, id: string): Set<string> {
  const byId = new Map(guide.steps.map((s) => [s.id, s]));
  const found = new Set<string>();
  const visit = (step: string) => {
    for (const a of byId.get(step)?.after ?? [])
      if (!found.has(a)) {
        found.add(a);
        visit(a);
      }
  };
  visit(id);
  return found;
}

/** Steps that are apart and lie over this one: they go back first. */
export const over = (guide: MendGuide, state: WorkState, id: string): string[] =>
  state.apart.filter((t) => t !== id && before(guide, t).has(id));

const lies = (state: WorkState, items: readonly string[]) =>
  items.filter((i) => state.items.get(i)?.state === "out");

/** Everything that is out and neither back nor explained. */
export const leftOut = (state: WorkState): Item[] =>
  [...state.items.values()].filter((i) => i.state === "out");

/**
 * The step whose going back drives the last fasteners: of the steps that are apart and have some, the one
 * that goes back last. The unit is tested before it.
 */
export function lastFasteners(guide: MendGuide, state: WorkState): string | null {
  const withSome = state.apart.filter(
    (id) => guide.steps.find((s) => s.id === id)!.frees.fasteners.length > 0,
  );
  return withSome[0] ?? null;
}

type Added = Result<WorkState, WorkProblem>;
/** Where an event falls: tasks that must be done before the last fasteners are named by the caller. */
type Where = { guide: MendGuide; state: WorkState; open: string[] };
type OfKind<K extends WorkEvent["kind"]> = Extract<WorkEvent, { kind: K }>;

const withItem = (state: WorkState, id: string, change: Partial<Item>): Added =>
  ok({ ...state, items: new Map(state.items).set(id, { ...state.items.get(id)!, ...change }) });

function takeApart({ guide, state }: Where, event: OfKind<"apart">): Added {
  const step = guide.steps.find((s) => s.id === event.step);
  if (!step) return refuse({ code: "step-unknown", step: event.step });
  if (state.apart.includes(step.id)) return refuse({ code: "apart-already", step: step.id });
  const missing = step.after.filter((a) => !state.apart.includes(a));
  if (missing.length) return refuse({ code: "blocked-by", steps: missing });
  const items = new Map(state.items);
  for (const id of itemsOf(step)) {
    const item = items.get(id)!;
    if (item.state === "in") items.set(id, { ...item, state: "out", away: "" });
  }
  return ok({ ...state, apart: [...state.apart, step.id], items, openGate: null });
}

function putBack({ guide, state, open }: Where, event: OfKind<"back">): Added {
  const step = guide.steps.find((s) => s.id === event.step);
  if (!step) return refuse({ code: "step-unknown", step: event.step });
  if (!state.apart.includes(step.id)) return refuse({ code: "not-apart", step: step.id });
  const above = over(guide, state, step.id);
  if (above.length) return refuse({ code: "put-back-first", steps: above });
  const left = lies(state, itemsOf(step));
  if (left.length) return refuse({ code: "left-out", items: left });
  if (step.id === lastFasteners(guide, state)) {
    if (open.length) return refuse({ code: "tasks-open", tasks: open });
    if (!state.openGate) return refuse({ code: "gate-first" });
    // what fell out of no known place must be settled before the shell shuts on it
    const strays = lies(
      state,
      state.extras.map((e) => e.id),
    );
    if (strays.length) return refuse({ code: "left-out", items: strays });
  }
  return ok({ ...state, apart: state.apart.filter((a) => a !== step.id) });
}

function putIn({ guide, state }: Where, event: OfKind<"in">): Added {
  const item = state.items.get(event.item);
  if (!item) return refuse({ code: "item-unknown", item: event.item });
  if (item.state === "in") return refuse({ code: "not-out", item: item.id });
  const above = item.step === null ? [] : over(guide, state, item.step);
  if (above.length) return refuse({ code: "put-back-first", steps: above });
  return withItem(state, item.id, { state: "in", away: "", fate: null, why: "" });
}

function takeOut({ state }: Where, event: OfKind<"out">): Added {
  const item = state.items.get(event.item);
  if (!item) return refuse({ code: "item-unknown", item: event.item });
  if (item.step !== null && !state.apart.includes(item.step))
    return refuse({ code: "not-apart", step: item.step });
  return withItem(state, item.id, { state: "out", fate: null, why: "" });
}

function explain({ state }: Where, event: OfKind<"explained">): Added {
  const item = state.items.get(event.item);
  if (!item) return refuse({ code: "item-unknown", item: event.item });
  if (item.state === "in" && event.fate !== "missing-before")
    return refuse({ code: "not-out", item: item.id });
  return withItem(state, item.id, { state: "explained", away: "", fate: event.fate, why: event.why });
}

function layAway({ state }: Where, event: OfKind<"away">): Added {
  const item = state.items.get(event.item);
  if (!item) return refuse({ code: "item-unknown", item: event.item });
  if (item.state !== "out") return refuse({ code: "not-out", item: item.id });
  return withItem(state, item.id, { away: event.where });
}

function foundExtra({ state }: Where, event: OfKind<"extra">): Added {
  const id = refTo("extra", state.extras.length + 1);
  const item: Item = { id, step: null, state: "out", away: "", fate: null, why: "" };
  return ok({
    ...state,
    extras: [...state.extras, { id, name: event.name, what: event.what }],
    items: new Map(state.items).set(id, item),
  });
}

function passGate({ state, open }: Where, event: OfKind<"gate">): Added {
  if (event.gate === "open") {
    if (open.length) return refuse({ code: "tasks-open", tasks: open });
    if (event.recordingId === null && event.why === "") return refuse({ code: "gate-needs-test" });
    return ok({ ...state, openGate: { recordingId: event.recordingId, why: event.why } });
  }
  if (state.apart.length) return refuse({ code: "still-apart", steps: [...state.apart] });
  if (open.length) return refuse({ code: "tasks-open", tasks: open });
  const left = leftOut(state).map((i) => i.id);
  if (left.length) return refuse({ code: "left-out", items: left });
  // the test after closing is never skipped: closing itself may break something
  if (event.recordingId === null) return refuse({ code: "gate-needs-test" });
  return ok({ ...state, closedGate: { recordingId: event.recordingId } });
}

const ADDING: { [K in WorkEvent["kind"]]: (where: Where, event: OfKind<K>) => Added } = {
  apart: takeApart,
  back: putBack,
  in: putIn,
  out: takeOut,
  explained: explain,
  away: layAway,
  extra: foundExtra,
  task: ({ state }, event) => ok({ ...state, tasks: new Set([...state.tasks, event.task]) }),
  again: ({ state }, event) => {
    const tasks = new Set(state.tasks);
    tasks.delete(event.task);
    return ok({ ...state, tasks, openGate: null });
  },
  gate: passGate,
};

/**
 * One more event; refused with the reason when it cannot be. Tasks that must be done before the last
 * fasteners are named by the caller.
 */
export function add(
  guide: MendGuide,
  state: WorkState,
  event: WorkEvent,
  tasks: readonly string[] = [],
): Added {
  if (state.closedGate) return refuse({ code: "over" });
  const open = tasks.filter((t) => !state.tasks.has(t));
  const adding = ADDING[event.kind] as (where: Where, event: WorkEvent) => Added; // the key picks its event
  return adding({ guide, state, open }, event);
}

/**
 * The state after a list of events; an event that the guide no longer allows (it was edited since) still
 * counts where it can.
 */
export function replay(guide: MendGuide, events: readonly WorkEvent[]): WorkState {
  let state = closedUnit(guide);
  for (const e of events) {
    const done = add(guide, state, e);
    if (done.ok) state = done.value;
  }
  return state;
}
