/**
 * Every kind of event that the record can hold: whose it is, and what has to be worked out again after it. A
 * kind that is not here does not compile, and neither does one of a unit without its words
 * (src/words/events.ts).
 */

/** Whose record it stands in: a unit's, the shop's, or either's. */
type Of = "unit" | "shop" | "either";
/**
 * `standing`: the unit's stage and next action; `outcome`: what came of a closed unit; `open-units`: the
 * standing of all in house.
 */
type Then = "standing" | "outcome" | "open-units";
type Rule = { of: Of; then: readonly Then[] };

const unit = (...then: Then[]) => ({ of: "unit", then }) as const;
const shop = (...then: Then[]) => ({ of: "shop", then }) as const;
const either = (...then: Then[]) => ({ of: "either", then }) as const;

export const EVENTS = {
  "unit-taken-in": unit("standing"),
  "intake-changed": unit("standing"),
  "marks-settled": unit(),
  "cover-given-up": unit(),
  tray: unit(),
  "liquid-cleared": unit("standing"),
  "due-set": unit(),
  "recording-stored": unit("standing"),
  "recording-taken-as-proof": unit("standing"),
  "reading-taken": unit("standing"),
  "made-reference": unit("standing"),
  "reference-ended": unit("standing"),
  "function-checked": unit("standing"),
  "photo-kept": unit(),
  "photo-removed": unit(),

  observed: unit(),
  "observation-withdrawn": unit(),
  tried: unit(),
  "try-settled": unit("standing"),
  "fragment-found": unit("standing"),
  "fragment-matched": unit("standing"),
  "search-started": unit(),
  "search-step": unit(),
  "search-item": unit(),
  "fault-named": unit("standing"),
  "fault-settled": unit("standing"),
  "faults-joined": unit("standing"),
  "symptom-parted": unit("standing"),
  decided: unit("standing"),
  planned: unit(),
  "question-sent": unit("standing"),
  "question-answered": unit("standing"),
  "question-withdrawn": unit("standing"),
  "question-reminded": unit(),

  "mend-logged": unit("standing"),
  "mend-changed": unit(),
  "work-opened": unit("standing"),
  "work-changed": unit(),
  "work-dropped": unit("standing"),
  "work-undone": unit("standing"),
  "work-step": unit("standing"),
  "revision-seen": unit("standing"),
  "damage-noted": unit(),
  "damage-made-good": unit(),
  "wait-started": either(),
  "wait-moved": either(),
  "wait-ended": either(),
  soldered: unit(),
  "calibration-written": unit(),
  "calibration-kept": unit(),
  "tip-written": either(),

  "part-reserved": unit(),
  "part-released": unit(),
  "part-fitted": unit("standing"),
  "part-removed": unit("standing"),
  "part-swapped": unit("standing"),
  "part-felt": unit(),
  "stock-taken": either(),
  "stock-moved": shop(),
  "stock-counted": shop(),
  "donor-judged": unit(),
  "donor-part-taken": unit(),
  "batch-received": shop(),
  "piece-read": shop(),
  "batch-accepted": shop(),
  "batch-rejected": shop(),
  "batch-recalled": unit("standing"),
  "batch-disposed": shop(),
  "batch-split": shop(),
  "batch-joined": shop(),
  "catalogue-saved": shop(),
  "plan-applied": shop(),
  "order-placed": shop(),
  "order-cancelled": shop(),

  "proof-answered": unit("standing"),
  "unit-ended": unit("outcome", "standing"),
  "unit-handed-over": unit("outcome"),
  "unit-came-back": unit("outcome", "standing"),
  "unit-reopened": unit("outcome", "standing"),
  "certificate-revoked": unit(),
  "paper-issued": unit(),
  /** a closed unit carries another share of its lot */
  "share-changed": unit("outcome"),

  "customer-added": shop(),
  "lot-added": shop(),
  "lot-spread": shop(),
  "listing-kept": shop(),
  "listing-settled": shop(),
  "routes-saved": shop(),
  "model-money-saved": shop(),
  "profile-imported": shop(),
  "lexicon-saved": shop(),
  "tools-saved": shop(),
  "tip-settled": shop(),
  "task-pinned": shop(),
  "task-unpinned": shop(),
  "hours-set": shop(),
  "settings-saved": shop(),
  /** what a unit's stage rests on besides its own record */
  "rules-changed": shop("open-units"),
  "person-added": shop(),
  "person-changed": shop(),
  "password-changed": shop(),
  "session-ended": shop(),
  "feed-made": shop(),
  "feed-revoked": shop(),
} as const satisfies Record<string, Rule>;

export type EventKind = keyof typeof EVENTS;
/** Kinds that can stand in a unit's record. */
export type UnitEventKind = {
  [K in EventKind]: (typeof EVENTS)[K]["of"] extends "shop" ? never : K;
}[EventKind];
export const isUnitEvent = (kind: string): kind is UnitEventKind =>
  Object.hasOwn(EVENTS, kind) && EVENTS[kind as EventKind].of !== "shop";
/** Whose an event of a kind is: a unit's id, or nobody's. */
export type SubjectOf<K extends EventKind> = {
  unit: string;
  shop: null;
  either: string | null;
}[(typeof EVENTS)[K]["of"]];

export const thenOf = (kind: EventKind): readonly Then[] => EVENTS[kind].then;
