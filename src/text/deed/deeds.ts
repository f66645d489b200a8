import type { DeedName } from "@/contract/deeds";
import { placeWords } from "@/text/names";
import { CHECK_NAMES } from "@/features/case/words/text";
import { PROOF_RESULT_WORDS, proofWords } from "@/features/release/words/text";
import { say as deedName } from "@/words/deeds";
import { say } from "@/words/refusals";
import { codeWords } from "@/words/codes";

/** What a change is called when it is spoken of: one that waits, or one that was refused. */

type Told = Partial<Record<string, unknown>>;
const text = (v: unknown): string => (typeof v === "string" ? v : "");
const outcomeWords = (v: unknown): string => codeWords(text(v));

/** What stands beside the name: which one, and what was said of it. */
const DETAILS: Partial<Record<DeedName, (input: Told) => string>> = {
  "function.check": (i) =>
    `${placeWords(text(i.functionId))}: ${CHECK_NAMES[i.result as keyof typeof CHECK_NAMES]}`,
  "proof.answer": (i) =>
    `${proofWords(text(i.key)).name}: ${PROOF_RESULT_WORDS[i.result as keyof typeof PROOF_RESULT_WORDS]}`,
  "fault.add": (i) => `${placeWords(text(i.place))}: ${text(i.kind)}`,
  "batch.read": (i) => say("pieceNumber", { number: String(i.number) }),
  "find.observe": (i) => `${placeWords(text(i.target))}: ${outcomeWords(i.outcome)}`,
  "mend.add": (i) => text(i.what),
  "fragment.add": (i) => text(i.what),
  "try.add": (i) => text(i.what),
};

/** A change in words: "a function, radio link: pass". */
export function deedWords(deed: DeedName, input: unknown): string {
  const detail = DETAILS[deed]?.(input as Told);
  const name = deedName(deed);
  return detail ? `${name}, ${detail}` : name;
}
