import { type UnitEventKind, isUnitEvent } from "@/contract/events";
import { say as eventName } from "@/words/events";
import type { Grade } from "@/core/grade/grade";
import { DISPOSITION_WORDS } from "@/features/decide/words/text";
import { GRADE_WORDS, measureName } from "@/text/measures";
import { PROOF_RESULT_WORDS, proofWords } from "@/features/release/words/text";
import { fastenerName, idWords, placeWords } from "@/text/names";
import { CHECK_NAMES, ENDING_NAMES, TESTER_NAMES } from "@/features/case/words/text";
import { say } from "@/features/case/words/words";
import type { SealState } from "@/core/record/seal";
import { refOf } from "@/core/mend/ref";
import { codeWords } from "@/words/codes";

/** The record of who did what, in words: what was done, and what of. */

/** What somebody did; a kind of an earlier version by its own name. */
export const eventWords = (kind: string): string => (isUnitEvent(kind) ? eventName(kind) : idWords(kind));

type Body = Record<string, unknown>;
const text = (v: unknown): string => {
  if (typeof v === "string") return v;
  if (typeof v === "number") return String(v);
  return "";
};
const join = (...parts: string[]): string => parts.filter(Boolean).join(", ");
const quoted = (v: unknown): string => (text(v) ? `“${text(v)}”` : "");

/** "fastener:r.rail" is "fastener right rail"; other ids in their own words. */
export function itemWords(id: string): string {
  const item = refOf(id);
  if (item === null) return idWords(id);
  return item.kind === "fastener"
    ? say("fastenerOwn", { own: fastenerName(item.id) })
    : `${codeWords(item.kind)} ${idWords(item.id)}`;
}

const STEP_OF_WORK: Record<string, (e: Body) => string> = {
  apart: (e) => say("stepApart", { step: idWords(text(e.step)) }),
  back: (e) => say("putBackStep", { step: idWords(text(e.step)) }),
  in: (e) => say("inItsPlaceAgainItem", { item: itemWords(text(e.item)) }),
  out: (e) => say("itemOut", { item: itemWords(text(e.item)) }),
  explained: (e) => join(`${itemWords(text(e.item))}: ${idWords(text(e.fate))}`, text(e.why)),
  away: (e) => say("putAsideItemWhere", { item: itemWords(text(e.item)), where: text(e.where) }),
  extra: (e) => `${idWords(text(e.what))}: ${text(e.name)}`,
  task: (e) => say("taskDone", { task: taskWords(text(e.task)) }),
  again: (e) => join(say("taskOnceMore", { task: taskWords(text(e.task)) }), text(e.why)),
  gate: (e) =>
    join(say("testWhen", { when: e.gate === "open" ? say("whileOpen") : say("afterClosing") }), text(e.why)),
};
/** A task of an order by its own words: "clean back shell". */
export function taskWords(task: string): string {
  const { kind, id } = refOf(task) ?? { kind: "calibrate", id: task };
  return kind === "mend"
    ? say("mendWhat", { what: id })
    : `${kind === "clean" ? say("clean") : say("calibrate")} ${idWords(id)}`;
}
const workStep = (body: Body): string => STEP_OF_WORK[text(body.kind)]?.(body) ?? "";

const DETAILS: Partial<Record<UnitEventKind, (body: Body) => string>> = {
  "unit-taken-in": (b) =>
    join(text(b.model), b.swollen ? say("swollenCell") : "", b.liquid ? say("tookLiquid") : ""),
  "intake-changed": (b) => {
    const was = (b.was ?? {}) as Body;
    return join(
      text(was.model) && say("modelWas", { model: text(was.model) }),
      quoted(was.claim) && say("claimWas", { claim: quoted(was.claim) }),
    );
  },
  "marks-settled": (b) =>
    join(
      ((b.marks ?? []) as string[]).map((m) => codeWords(m)).join(", "),
      text(b.gone) || say("stillThere"),
    ),
  "paper-issued": (b) => `${codeWords(text(b.paper))} ${text(b.number)}`,
  "cover-given-up": (b) => text(b.by),
  tray: (b) => (typeof b.tray === "number" ? say("trayTray", { tray: b.tray }) : say("offTheBench")),
  "liquid-cleared": () => say("openedUnpluggedInspectedDry"),
  "recording-stored": (b) => {
    const testWords = () => {
      if (text(b.purpose) === "full") return say("fullTest");
      if (text(b.purpose) === "quick") return say("quickLook");
      return say("spotTest");
    };
    return join(testWords(), TESTER_NAMES[text(b.source)] ?? "", GRADE_WORDS[text(b.grade) as Grade] ?? "");
  },
  "recording-taken-as-proof": (b) => text(b.why),
  "reading-taken": (b) =>
    join(
      `${codeWords(text(b.kind))} ${text(b.subject) === "main" ? "" : idWords(text(b.subject))}`.trim(),
      codeWords(text(b.verdict)),
    ),
  "function-checked": (b) =>
    `${placeWords(text(b.functionId))}: ${CHECK_NAMES[text(b.result) as keyof typeof CHECK_NAMES] ?? ""}`,
  "fault-named": (b) => `${text(b.number)}. ${placeWords(text(b.place))}: ${measureName(text(b.kind))}`,
  "fault-settled": (b) =>
    join(
      say("faultFromNowTo", {
        number: text(b.number),
        from: codeWords(text(b.from)),
        to: codeWords(text(b.to)),
      }),
      text(b.why),
    ),
  "search-item": (b) => text(b.what),
  "faults-joined": (b) => say("faultUnderFault", { from: text(b.from), number: text(b.number) }),
  "symptom-parted": (b) => say("faultOutOfFault", { from: text(b.from), number: text(b.number) }),
  decided: (b) =>
    join(
      DISPOSITION_WORDS[text(b.disposition) as keyof typeof DISPOSITION_WORDS] ?? "",
      idWords(text(b.route)),
      text(b.why),
    ),
  "mend-logged": (b) =>
    join(
      `${text(b.number)}. ${text(b.what)}`,
      b.fault ? say("faultNumber", { number: text(b.fault) }) : "",
      say("minutesMin", { minutes: text(b.minutes) }),
    ),
  "mend-changed": (b) =>
    say("mendNumberWasWhat", { number: text(b.number), what: quoted(((b.was ?? {}) as Body).what) }),
  "work-step": workStep,
  "work-undone": workStep,
  "work-opened": (b) =>
    say("targetsToMendCleaningLevelCleaning", { targets: text(b.targets), cleaning: text(b.cleaning) }),
  "work-changed": (b) =>
    say("targetsToMendCleaningLevelCleaning", { targets: text(b.targets), cleaning: text(b.cleaning) }),
  "proof-answered": (b) =>
    `${proofWords(text(b.key)).name}: ${PROOF_RESULT_WORDS[text(b.result) as keyof typeof PROOF_RESULT_WORDS] ?? ""}`,
  "unit-ended": (b) => {
    const kind = ENDING_NAMES[text(b.kind) as keyof typeof ENDING_NAMES] ?? "";
    return join(kind, GRADE_WORDS[text(b.grade) as Grade] ?? "", text(b.limit), text(b.known));
  },
  "unit-handed-over": (b) =>
    join(text(b.kind) === "sold" ? say("soldNow") : say("handedBack"), text(b.channel), text(b.handedOn)),
  "unit-came-back": (b) =>
    join(
      quoted(b.words),
      b.mend === null || b.mend === undefined ? "" : say("pointsToMend", { number: text(b.mend) }),
      b.inWarranty === true ? say("withinTheWarranty") : "",
      b.inWarranty === false ? say("outOfWarranty") : "",
      b.seal === undefined ? "" : SEAL_WORDS[text(b.seal) as SealState],
    ),
  "unit-reopened": (b) => join(say("wasBefore", { was: idWords(text(b.was)) }), text(b.why)),
};

const SEAL_WORDS: Record<SealState, string> = {
  whole: say("ourSealWasWhole"),
  broken: say("ourSealWasBroken"),
  other: say("notOurSeal"),
};

/** Ids that nobody reads, and bodies that are told otherwise. */
const HIDDEN = new Set(["recording", "photo", "fittedId", "reservationId", "blocks", "was", "split"]);
const FIELD_WORDS: Record<string, string> = {
  dueOn: say("due"),
  itsSlot: say("itsPlace"),
  clipLost: say("clipLost"),
  matchedTo: say("from"),
};

function plainDetail(body: Body): string {
  const told = (v: unknown): string => {
    if (v === null) return say("none");
    if (typeof v === "boolean") {
      if (v) return say("yes");
      return say("no");
    }
    if (typeof v === "number") return String(v);
    return idWords(text(v));
  };
  return Object.entries(body)
    .filter(([k, v]) => !HIDDEN.has(k) && v !== "" && (v === null || typeof v !== "object"))
    .map(([k, v]) => `${FIELD_WORDS[k] ?? k} ${told(v)}`)
    .join(", ");
}

/** What an event was about, in words; no id of the program and no data as it is stored. */
export const eventDetail = (kind: string, body: Body): string =>
  (DETAILS[kind as UnitEventKind] ?? plainDetail)(body);
