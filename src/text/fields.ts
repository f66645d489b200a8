/** What an input's field is called by a person: "provisional.reviewOn" is nobody's word. */

const NAMED: Record<string, string> = {
  clipLost: "lost clip",
  costLimitMinor: "limit of cost",
  costMinor: "cost",
  feesMinor: "fees",
  foundWhen: "found when",
  handedOn: "day of handing over",
  highestMinor: "highest bid",
  idleHours: "hours until sign-out",
  labelHeightMm: "height of a label",
  labelWidthMm: "width of a label",
  limit: "stated limit",
  minor: "amount",
  marksGone: "marks that are gone",
  openedBefore: "opened before",
  partDays: "cover of parts",
  partGift: "part as a gift",
  partMinor: "cost of the part",
  profileKey: "model",
  reviewOn: "day to look again",
  startedAgoMs: "time of the test",
  tookMs: "time taken",
  unitsPromised: "units promised",
  valueMinor: "value",
  warrantyDays: "days of warranty",
  warrantyUntil: "end of warranty",
  why: "reason",
};

/** The field at the end of a path, with the number of its line where it is one of a list: "Lines 2, price". */
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
