import type { Intake } from "@/contract/intake";
import { codeWords } from "@/words/codes";
import { say } from "@/features/intake/words/words";

/** What a unit's hygiene asks of whoever holds it. */
export const HYGIENE_WORDS: Record<Intake["hygiene"], string> = {
  none: codeWords("none"),
  slight: say("withGloves"),
  strong: say("glovesMaskWipe"),
};
