import type { GuideStep, Hazard, MendGuide } from "../profile/guide";
import { AGENTS, cleaningPlan, surfacesFor } from "./cleaning";
import { before, itemsOf, type WorkState } from "./work";
import { refTo } from "./ref";

/**
 * A work order: what is to be done to which places, and from it the line of steps, in blocking order, with
 * what each needs.
 */

export type Target = {
  /** its number in the order; stays when others come or go */
  key: number;
  /** the fault that it mends; null for work without one */
  faultId: string | null;
  number: number | null;
  /** what is done, in words */
  what: string;
  slot: string | null;
  route: string | null;
  minutes: number;
  /** soaking, curing, drying after it, in minutes */
  waitMinutes: number;
  tools: string[];
  /** what the new part comes without and is moved over from the old one */
  movesOver: string[];
  /** the routes that come after it where its retest fails; older orders have none */
  then?: string[];
};
export type OrderBody = {
  targets: Target[];
  cleaningLevel: number;
  calibrate: string[];
  /** checks, by their ids, that are answered before the mends; older orders have none */
  checks?: string[];
};

/** A check inside an order, as it stands: done when it is answered. */
export type OrderLook = { id: string; name: string; opens: boolean; minutes: number; answered: boolean };

export type OrderStep = {
  /** apart:ID, look:ID, clean:ID, mend:N, gate:open, back:ID, calibrate:STICK, gate:closed */
  key: string;
  phase: "apart" | "look" | "work" | "gate" | "back";
  step: GuideStep | null;
  /**
   * what it is about by its own name: the step of the guide, the surface, the target, the stick; empty for a
   * test
   */
  subject: string;
  /** what the guide says of it */
  does: string;
  movesOver: readonly string[];
  minutes: number;
  difficulty: number;
  fragility: number;
  hazards: readonly Hazard[];
  tools: readonly string[];
  items: readonly string[];
  done: boolean;
};

/** The step after which a slot lies open. */
export const stepReaching = (guide: MendGuide, slot: string): GuideStep | null =>
  guide.steps.find((s) => s.reaches.includes(slot)) ?? null;

/** The steps that must come apart for these places, in the guide's order, each after all that block it. */
export function stepsFor(guide: MendGuide, body: OrderBody): GuideStep[] {
  const wanted = new Set<string>();
  const want = (id: string) => {
    wanted.add(id);
    for (const b of before(guide, id)) wanted.add(b);
  };
  for (const t of body.targets) {
    const reach = t.slot === null ? null : stepReaching(guide, t.slot);
    if (reach) want(reach.id);
  }
  for (const s of surfacesFor(guide, body.cleaningLevel)) if (s.after !== undefined) want(s.after);
  return inOrder(guide, wanted);
}

/**
 * Steps in an order in which each comes after all that block it; among those that can, the guide's own order.
 */
export function inOrder(guide: MendGuide, ids: ReadonlySet<string>): GuideStep[] {
  const left = guide.steps.filter((s) => ids.has(s.id));
  const line: GuideStep[] = [];
  while (left.length) {
    const i = left.findIndex((s) => s.after.every((a) => !ids.has(a) || line.some((l) => l.id === a)));
    if (i < 0) break; // the schema rules a circle out
    line.push(...left.splice(i, 1));
  }
  return line;
}

export const taskKeys = (guide: MendGuide, body: OrderBody): string[] => [
  ...surfacesFor(guide, body.cleaningLevel).map((s) => refTo("clean", s.id)),
  ...body.targets.map((t) => refTo("mend", t.key)),
];

const GLUES = /\b(glue|epoxy|adhesive|cement)/i;
const SOLVENTS = /\b(cleaner|alcohol|solvent|remover)/i;

const plain = {
  step: null,
  does: "",
  movesOver: [],
  difficulty: 1,
  fragility: 1,
  hazards: [],
  tools: [],
  items: [],
  minutes: 1,
} as const;

const apartStep = (s: GuideStep, done: boolean): OrderStep => ({
  key: refTo("apart", s.id),
  phase: "apart",
  step: s,
  movesOver: [],
  subject: s.title,
  does: s.does,
  minutes: s.minutes,
  difficulty: s.difficulty,
  fragility: s.fragility,
  hazards: s.hazards,
  tools: s.tools,
  items: itemsOf(s),
  done,
});
const backStep = (s: GuideStep, done: boolean): OrderStep => ({
  ...apartStep(s, done),
  key: refTo("back", s.id),
  phase: "back",
  does: s.back.does,
  minutes: s.back.minutes,
});
const stepNamed = (guide: MendGuide, id: string): GuideStep => guide.steps.find((s) => s.id === id)!;

type Line = { guide: MendGuide; body: OrderBody; state: WorkState; planned: GuideStep[]; allTasks: boolean };

/** What comes apart; once all work is done a step that went back is not taken apart again. */
function apartLine({ guide, state, planned, allTasks }: Line): OrderStep[] {
  const extra = state.apart.filter((id) => !planned.some((p) => p.id === id));
  return [
    ...planned.map((s) => apartStep(s, state.apart.includes(s.id) || allTasks)),
    ...extra.map((id) => apartStep(stepNamed(guide, id), true)),
  ];
}

/** What soaks longest first, so that the mend fills its wait. */
const cleaningLine = ({ guide, body, state }: Line): OrderStep[] =>
  cleaningPlan(guide, body.cleaningLevel).map((job) => {
    const key = refTo("clean", job.surface);
    return {
      ...plain,
      key,
      phase: "work",
      subject: job.name,
      minutes: job.minutes,
      hazards: AGENTS[job.agent].waters || job.agent === "none" ? [] : ["solvent"],
      done: state.tasks.has(key),
    };
  });

function mendStep({ guide, state }: Line, t: OrderBody["targets"][number]): OrderStep {
  const key = refTo("mend", t.key);
  const job = guide.solder.find((j) => t.slot !== null && j.slots.includes(t.slot));
  const hazards: OrderStep["hazards"] = [
    ...(job && t.tools.some((x) => x.includes("iron")) ? (["iron", "fumes"] as const) : []),
    ...(GLUES.test([t.what, ...t.tools].join(" ")) ? (["glue"] as const) : []),
    ...(SOLVENTS.test(t.tools.join(" ")) ? (["solvent"] as const) : []),
  ];
  return {
    ...plain,
    key,
    phase: "work",
    subject: t.what,
    movesOver: t.movesOver,
    minutes: t.minutes,
    difficulty: job ? 3 : 2,
    fragility: job ? 3 : 2,
    hazards,
    tools: t.tools,
    done: state.tasks.has(key),
  };
}

/**
 * Everything back, with the test while open before the last fasteners. What is not apart goes back before
 * what is: it comes apart last, or is back already; so the line keeps its length.
 */
function backLine({ guide, state, planned, allTasks }: Line): OrderStep[] {
  const backs = [
    ...planned
      .filter((s) => !state.apart.includes(s.id))
      .reverse()
      .map((step) => ({ step, done: allTasks })),
    ...[...state.apart].reverse().map((id) => ({ step: stepNamed(guide, id), done: false })),
  ];
  const gateOpen: OrderStep = {
    ...plain,
    key: "gate:open",
    phase: "gate",
    subject: "",
    does: guide.enoughToTest,
    minutes: 4,
    hazards: ["powered"],
    done: state.openGate !== null,
  };
  const last = backs.findLast(({ step }) => step.frees.fasteners.length > 0);
  const line = backs.flatMap((back) => [
    ...(back === last ? [gateOpen] : []),
    backStep(back.step, back.done),
  ]);
  return backs.length && !last ? [...line, gateOpen] : line;
}

const calibrationLine = ({ body, state }: Line): OrderStep[] =>
  body.calibrate.map((stick) => {
    const key = refTo("calibrate", stick);
    return { ...plain, key, phase: "work", subject: stick, minutes: 5, done: state.tasks.has(key) };
  });

/** What is looked at: closed before anything comes apart, and inside once it lies open. */
const lookLine = (looks: readonly OrderLook[], opens: boolean): OrderStep[] =>
  looks
    .filter((l) => l.opens === opens)
    .map((l) => ({
      ...plain,
      key: refTo("look", l.id),
      phase: "look",
      subject: l.name,
      minutes: l.minutes,
      done: l.answered,
    }));

/**
 * The whole line as it stands: what is looked at, what comes apart, what is cleaned and mended, the test while open, everything
 * back in the reverse of what was really done, calibration, and the test after closing. What is done stays in
 * the line, ticked.
 */
export function lineUp(
  guide: MendGuide,
  body: OrderBody,
  state: WorkState,
  looks: readonly OrderLook[] = [],
): OrderStep[] {
  const allTasks = taskKeys(guide, body).every((t) => state.tasks.has(t));
  const line: Line = { guide, body, state, planned: stepsFor(guide, body), allTasks };
  return [
    ...lookLine(looks, false),
    ...apartLine(line),
    ...lookLine(looks, true),
    ...cleaningLine(line),
    ...body.targets.map((t) => mendStep(line, t)),
    ...backLine(line),
    ...calibrationLine(line),
    {
      ...plain,
      key: "gate:closed",
      phase: "gate",
      subject: "",
      minutes: 8,
      done: state.closedGate !== null,
    },
  ];
}

/** The line in one figure: minutes still to be worked. */
export const minutesLeft = (line: readonly OrderStep[]): number =>
  line.reduce((sum, s) => sum + (s.done ? 0 : s.minutes), 0);

/** A pause is advised before the most delicate step that is still to come. */
export function pauseBefore(line: readonly OrderStep[]): string | null {
  const worst = line
    .filter((s) => !s.done && s.phase === "apart")
    .sort((a, b) => b.fragility * b.difficulty - a.fragility * a.difficulty)[0];
  return worst && worst.fragility * worst.difficulty >= 12 ? worst.key : null;
}
