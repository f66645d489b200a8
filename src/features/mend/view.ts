import "server-only";

import type { Knex } from "knex";

import { cleaningPlan, type CleaningJob } from "@/core/mend/cleaning";
import { learnMinutes, type LearnedMinutes } from "@/core/mend/minutes";
import {
  lineUp,
  minutesLeft,
  type OrderBody,
  type OrderStep,
  pauseBefore,
  stepsFor,
} from "@/core/mend/order";
import { pictureOf, type StepPicture } from "@/core/mend/picture";
import { type NeededTool, toolsFor } from "@/core/mend/tools";
import { type Item, leftOut, type WorkState } from "@/core/mend/work";
import type { MendGuide } from "@/core/profile/guide";
import { type Actor, together } from "@/platform/deed/base";
import type { WorkOrderRow } from "@/platform/db/tables";
import { type LookStep, looksOf } from "./looks";
import { loadTools } from "@/features/settings/settings";
import { nameOf, openOrder, stepTimes } from "./order";
import type { Id } from "@/core/base/ids";

/**
 * What the pages show of a work order: the line of steps with learned minutes, where everything is, tools,
 * cleaning.
 */

export type OrderView = {
  id: string;
  version: number;
  body: OrderBody;
  guide: MendGuide;
  line: (OrderStep & { learned: LearnedMinutes })[];
  items: Item[];
  names: Record<string, string>;
  apart: string[];
  extras: WorkState["extras"];
  leftOut: string[];
  minutesLeft: number;
  pause: string | null;
  tools: NeededTool[];
  consumables: string[];
  cleaning: CleaningJob[];
  /** the checks among the steps, with what may be answered */
  looks: LookStep[];
  /** of this unit and, `earlier`, of others of its model at the same step */
  photos: { id: string; caption: string; step: string | null; earlier: boolean }[];
  /** by the key of a step, what it is about on the drawing; only of steps that have a place */
  pictures: Record<string, StepPicture>;
  openGate: WorkState["openGate"];
  /** what the unit's revision is known to be; the branch is open while it is not */
  revision: string | null;
  revisions: { id: string; name: string; inside: string }[];
  firstOfKind: boolean;
  /** steps, ticks and gates done so far */
  begun: number;
};

/** The open work order of a unit as the pages show it; null when there is none. */
export async function orderView(db: Knex, unitId: Id<"unit">, actor: Actor): Promise<OrderView | null> {
  const loaded = await openOrder(db, unitId);
  if (!loaded) return null;
  const { order, guide, state, profile } = loaded;
  const [log, tools, photos] = await together(
    db,
    () => stepTimes(db, profile.id),
    () => loadTools(db),
    () => photosOfSteps(db, unitId, order.profile_id),
  );
  const cleaning = cleaningPlan(guide, order.body.cleaningLevel);
  const looks = await looksOf(db, loaded);
  const line = lineUp(guide, order.body, state, looks).map((s) => {
    const learned = learnMinutes(
      s.minutes,
      log.times.filter((t) => t.step === s.key),
      actor.id,
      log.hands,
    );
    return { ...s, minutes: Math.round(learned.minutes * 2) / 2, learned };
  });
  const steps = stepsFor(guide, order.body);
  const about = {
    profile,
    guide,
    targets: order.body.targets,
    cleaning,
    looks: looks.map((l) => ({ id: l.id, target: l.about })),
  };
  const pictures = Object.fromEntries(
    line.flatMap((s) => {
      const picture = pictureOf(s, about);
      return picture ? [[s.key, picture] as const] : [];
    }),
  );
  return {
    id: order.id,
    version: order.version,
    body: order.body,
    guide,
    line,
    items: [...state.items.values()],
    names: Object.fromEntries([...state.items.keys()].map((id) => [id, nameOf(guide, state, id)])),
    apart: [...state.apart],
    extras: state.extras,
    leftOut: leftOut(state).map((i) => i.id),
    minutesLeft: minutesLeft(line),
    pause: pauseBefore(line),
    tools: toolsFor(
      guide,
      steps,
      order.body.targets.flatMap((t) => t.tools.map((tool) => ({ tool, for: t.what }))),
      new Set(tools.value),
    ),
    consumables: [...new Set(steps.flatMap((s) => s.consumables))],
    cleaning,
    looks,
    photos,
    pictures,
    openGate: state.openGate,
    revision: order.revision,
    revisions: profile.revisions.map(({ id, name, inside }) => ({ id, name, inside })),
    firstOfKind: log.times.length === 0,
    begun: loaded.events.length,
  };
}

const MOST_EARLIER = 40;

/** Pictures that were taken at steps: of this unit, and the newest of others of its model. */
async function photosOfSteps(
  db: Knex,
  unitId: Id<"unit">,
  profileId: WorkOrderRow["profile_id"],
): Promise<OrderView["photos"]> {
  const own = await db("photo")
    .where({ unit_id: unitId, removed: false })
    .whereNotNull("step")
    .orderBy("at")
    .select("id", "caption", "step");
  const alike = db("unit").where({ profile_id: profileId }).whereNot({ id: unitId }).select("id");
  const others = await db("photo")
    .whereIn("unit_id", alike)
    .where({ removed: false })
    .whereNotNull("step")
    .orderBy("at", "desc")
    .limit(MOST_EARLIER)
    .select("id", "caption", "step");
  return [...own.map((p) => ({ ...p, earlier: false })), ...others.map((p) => ({ ...p, earlier: true }))];
}
