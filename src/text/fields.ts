import { say } from "@/words/fields";

/** What an input's field is called by a person: "provisional.reviewOn" is nobody's word. */

const NAMED: Record<string, string> = {
  clipLost: say("lostClip"),
  costLimitMinor: say("limitOfCost"),
  costMinor: say("cost"),
  feesMinor: say("fees"),
  foundWhen: say("foundWhen"),
  handedOn: say("dayOfHandingOver"),
  highestMinor: say("highestBid"),
  idleHours: say("hoursUntilSignOut"),
  labelHeightMm: say("heightOfALabel"),
  labelWidthMm: say("widthOfALabel"),
  limit: say("statedLimit"),
  minor: say("amount"),
  marksGone: say("marksThatAreGone"),
  openedBefore: say("openedBefore"),
  partDays: say("coverOfParts"),
  partGift: say("partAsAGift"),
  partMinor: say("costOfThePart"),
  profileKey: say("model"),
  reviewOn: say("dayToLookAgain"),
  startedAgoMs: say("timeOfTheTest"),
  tookMs: say("timeTaken"),
  unitsPromised: say("unitsPromised"),
  valueMinor: say("value"),
  warrantyDays: say("daysOfWarranty"),
  warrantyUntil: say("endOfWarranty"),
  why: say("reason"),
};

/**
 * The field at the end of a path, with the number of its line where it is one of a list: "Lines 2, price".
 */
export function fieldWords(path: string): string {
  const steps = path.split(".").filter((s) => s !== "");
  const last = steps.findLastIndex((s) => !/^\d+$/.test(s));
  if (last < 0) return "";
  const name = wordsOf(steps[last]!);
  const line = steps.slice(0, last).findLastIndex((s) => /^\d+$/.test(s));
  if (line > 0) return upper(`${wordsOf(steps[line - 1]!)} ${Number(steps[line]) + 1}, ${name}`);
  const own = steps[last + 1];
  return upper(own === undefined ? name : `${name} ${Number(own) + 1}`);
}

const upper = (words: string): string => words.charAt(0).toUpperCase() + words.slice(1);
const wordsOf = (field: string): string =>
  NAMED[field] ??
  field
    .replace(/(Minor|Id|Ms|Mm)$/, "")
    .replace(/([a-z0-9])([A-Z])/g, "$1 $2")
    .replace(/[-$]/g, " ")
    .trim()
    .toLowerCase();
