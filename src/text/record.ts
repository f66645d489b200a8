import type { UnitEventKind } from "@/contract/events";
import type { Grade } from "@/core/grade/grade";
import { fastenerName } from "@/core/profile/guide";
import { DISPOSITION_WORDS } from "./decide";
import { GRADE_WORDS, measureName } from "./measures";
import { PROOF_RESULT_WORDS, proofWords } from "./release";
import { idWords, placeWords } from "./names";
import { CHECK_NAMES, ENDING_NAMES, TESTER_NAMES } from "./words";

/** The record of who did what, in words: what was done, and what of. */

export const EVENT_WORDS: Record<UnitEventKind, string> = {
  "unit-taken-in": "took it in",
  "intake-changed": "changed the intake",
  "marks-settled": "settled marks outside",
  tray: "moved it",
  "liquid-cleared": "signed it off as dry",
  "recording-stored": "tested it",
  "recording-taken-as-proof": "took a recording as the proof",
  "reading-taken": "took a reading",
  "made-reference": "made it a reference unit",
  "reference-ended": "ended it as a reference unit",
  "function-checked": "checked a function",
  observed: "wrote down what was seen",
  "observation-withdrawn": "took back what was seen",
  tried: "tried something",
  "try-settled": "wrote down what a try showed",
  "fragment-found": "found a loose piece",
  "fragment-matched": "said what a loose piece fits",
  "search-started": "began a search by halves",
  "search-step": "made a step of the search by halves",
  "fault-named": "named a fault",
  "fault-settled": "settled a fault",
  decided: "decided",
  planned: "planned it",
  "question-sent": "asked the customer",
  "question-answered": "answered",
  "question-withdrawn": "took a question back",
  "mend-logged": "logged a mend",
  "mend-changed": "changed a mend entry",
  "part-reserved": "put a part aside for it",
  "part-released": "freed a part",
  "part-fitted": "fitted a part",
  "part-removed": "took a part out",
  "part-swapped": "swapped a part",
  "part-felt": "said how a part feels",
  "stock-taken": "used something up for it",
  "donor-judged": "judged a part of it",
  "donor-part-taken": "took a part from it",
  "work-opened": "opened a work order",
  "work-changed": "changed the work order",
  "work-dropped": "dropped the work order",
  "work-undone": "took a step back",
  "work-step": "worked on it",
  "revision-seen": "saw the revision inside",
  "damage-noted": "noted damage on the way",
  "damage-made-good": "made damage good",
  "wait-started": "started a wait",
  "wait-moved": "moved the end of a wait",
  "wait-ended": "saw a wait end",
  soldered: "soldered",
  "calibration-written": "wrote a calibration",
  "calibration-kept": "saw the calibration kept",
  "tip-written": "wrote a note for next time",
  "proof-answered": "answered the proof sheet",
  "due-set": "set when it is due",
  "photo-kept": "added a photograph",
  "photo-removed": "removed a photograph",
  "unit-ended": "closed it",
  "unit-handed-over": "handed it over",
  "unit-came-back": "took it back",
  "unit-reopened": "opened it again",
  "certificate-revoked": "revoked the certificate",
  "batch-recalled": "called a fitted part back",
  "share-changed": "spread the lot’s cost anew",
};

/** What somebody did; a kind of an earlier version by its own name. */
export const eventWords = (kind: string): string => EVENT_WORDS[kind as UnitEventKind] ?? idWords(kind);

type Body = Record<string, unknown>;
const text = (v: unknown): string => (typeof v === "string" ? v : typeof v === "number" ? String(v) : "");
const join = (...parts: string[]): string => parts.filter(Boolean).join(", ");
const quoted = (v: unknown): string => (text(v) ? `“${text(v)}”` : "");

/** "fastener:r.rail" is "fastener right rail"; other ids in their own words. */
export function itemWords(id: string): string {
  const [kind, own] = id.split(":");
  if (own === undefined) return idWords(id);
  return kind === "fastener" ? `fastener ${fastenerName(own)}` : `${kind} ${idWords(own)}`;
}

const STEP_OF_WORK: Record<string, (e: Body) => string> = {
  apart: (e) => `apart: ${idWords(text(e.step))}`,
  back: (e) => `put back: ${idWords(text(e.step))}`,
  in: (e) => `in its place again: ${itemWords(text(e.item))}`,
  out: (e) => `out: ${itemWords(text(e.item))}`,
  explained: (e) => join(`${itemWords(text(e.item))}: ${idWords(text(e.fate))}`, text(e.why)),
  away: (e) => `put aside: ${itemWords(text(e.item))}, ${text(e.where)}`,
  extra: (e) => `${idWords(text(e.what))}: ${text(e.name)}`,
  task: (e) => `done: ${taskWords(text(e.task))}`,
  again: (e) => join(`once more: ${taskWords(text(e.task))}`, text(e.why)),
  gate: (e) => join(`test ${e.gate === "open" ? "while open" : "after closing"}`, text(e.why)),
};
function taskWords(task: string): string {
  const [kind, what] = task.split(":");
  return kind === "mend" ? `mend ${what}` : `${kind === "clean" ? "clean" : "calibrate"} ${idWords(what ?? "")}`;
}
const workStep = (body: Body): string => STEP_OF_WORK[text(body.kind)]?.(body) ?? "";

const DETAILS: Partial<Record<UnitEventKind, (body: Body) => string>> = {
  "unit-taken-in": (b) => join(text(b.model), b.swollen ? "swollen cell" : "", b.liquid ? "took liquid" : ""),
  "intake-changed": (b) => {
    const was = (b.was ?? {}) as Body;
    return join(text(was.model) && `model was ${text(was.model)}`, quoted(was.claim) && `claim was ${quoted(was.claim)}`);
  },
  "marks-settled": (b) =>
    join(((b.marks ?? []) as string[]).map((m) => m.replaceAll("-", " ")).join(", "), text(b.gone) || "still there"),
  tray: (b) => (typeof b.tray === "number" ? `tray ${b.tray}` : "off the bench"),
  "liquid-cleared": () => "opened, unplugged, inspected, dry",
  "recording-stored": (b) =>
    join(
      text(b.purpose) === "full" ? "full test" : text(b.purpose) === "quick" ? "quick look" : "spot test",
      TESTER_NAMES[text(b.source)] ?? "",
      GRADE_WORDS[text(b.grade) as Grade] ?? "",
    ),
  "recording-taken-as-proof": (b) => text(b.why),
  "reading-taken": (b) => join(`${idWords(text(b.kind))} ${idWords(text(b.subject))}`.trim(), idWords(text(b.verdict))),
  "function-checked": (b) =>
    `${placeWords(text(b.functionId))}: ${CHECK_NAMES[text(b.result) as keyof typeof CHECK_NAMES] ?? ""}`,
  "fault-named": (b) => `${text(b.number)}. ${placeWords(text(b.place))}: ${measureName(text(b.kind))}`,
  "fault-settled": (b) => join(`fault ${text(b.number)}: ${text(b.from)}, now ${text(b.to)}`, text(b.why)),
  decided: (b) =>
    join(DISPOSITION_WORDS[text(b.disposition) as keyof typeof DISPOSITION_WORDS] ?? "", idWords(text(b.route)), text(b.why)),
  "mend-logged": (b) =>
    join(`${text(b.number)}. ${text(b.what)}`, b.fault ? `fault ${text(b.fault)}` : "", `${text(b.minutes)} min`),
  "mend-changed": (b) => `mend ${text(b.number)}, was ${quoted(((b.was ?? {}) as Body).what)}`,
  "work-step": workStep,
  "work-undone": workStep,
  "work-opened": (b) => `${text(b.targets)} to mend, cleaning level ${text(b.cleaning)}`,
  "work-changed": (b) => `${text(b.targets)} to mend, cleaning level ${text(b.cleaning)}`,
  "proof-answered": (b) =>
    `${proofWords(text(b.key)).name}: ${PROOF_RESULT_WORDS[text(b.result) as keyof typeof PROOF_RESULT_WORDS] ?? ""}`,
  "unit-ended": (b) => {
    const kind = ENDING_NAMES[text(b.kind) as keyof typeof ENDING_NAMES] ?? "";
    return join(kind, GRADE_WORDS[text(b.grade) as Grade] ?? "", text(b.limit), text(b.known));
  },
  "unit-reopened": (b) => join(`was ${idWords(text(b.was))}`, text(b.why)),
};

/** Ids that nobody reads, and bodies that are told otherwise. */
const HIDDEN = new Set(["recording", "photo", "fittedId", "reservationId", "blocks", "was", "split"]);
const FIELD_WORDS: Record<string, string> = { dueOn: "due", itsSlot: "its place", clipLost: "clip lost", matchedTo: "from" };

function plainDetail(body: Body): string {
  const told = (v: unknown): string =>
    v === null ? "none" : typeof v === "boolean" ? (v ? "yes" : "no") : typeof v === "number" ? String(v) : idWords(text(v));
  return Object.entries(body)
    .filter(([k, v]) => !HIDDEN.has(k) && v !== "" && (v === null || typeof v !== "object"))
    .map(([k, v]) => `${FIELD_WORDS[k] ?? k} ${told(v)}`)
    .join(", ");
}

/** What an event was about, in words; no id of the program and no data as it is stored. */
export const eventDetail = (kind: string, body: Body): string => (DETAILS[kind as UnitEventKind] ?? plainDetail)(body);
