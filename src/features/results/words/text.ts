import type { Settings } from "@/contract/deeds";
import type { ColumnKind, ReportId } from "@/contract/reports";
import { hoursText, money, figure, amountCell } from "@/text/format";
import { say } from "./words";

/** Names of the reports, the question that each answers, and how its figures read. */

export const REPORT_WORDS: Record<ReportId, { name: string; question: string }> = {
  flow: { name: say("flow"), question: say("whereDoUnitsPileUpAnd") },
  yield: { name: say("yield"), question: say("whichRouteCuresWhichFaultAnd") },
  margin: { name: say("marginAnHour"), question: say("whatIsAnHourAtThe") },
  forecast: { name: say("forecast"), question: say("doUnitsBringWhatTheDecision") },
  odds: { name: say("odds"), question: say("doRoutesWorkAsOftenAs") },
  returns: { name: say("returns"), question: say("howLongDoesEachWayOf") },
  sellers: { name: say("sellers"), question: say("fromWhomIsItWorthBuying") },
  suppliers: { name: say("suppliers"), question: say("whosePartsAreGoodAndWhose") },
  faults: { name: say("commonFaults"), question: say("whatBreaksOnWhichModelAnd") },
  steps: { name: say("minutesByStep"), question: say("howLongDoTheStepsReally") },
  "tied-up": { name: say("tiedUpMoney"), question: say("howMuchMoneyLiesInThe") },
};

export function cellText(value: string | number | null, kind: ColumnKind, shop: Settings): string {
  if (value === null) return say("none");
  if (typeof value === "string") return value;
  switch (kind) {
    case "money":
      return money(Math.round(value), shop);
    case "share":
      return `${Math.round(value * 100)} %`;
    case "minutes":
      return say("valueMin", { value: value < 10 ? figure(value, 1) : Math.round(value) });
    case "hours":
      return hoursText(value * 60);
    case "days":
      return say("valueDays", { value: Math.round(value) });
    default:
      return String(value);
  }
}

/**
 * A figure as a spreadsheet takes it: money in whole units with two places, shares as fractions, the rest as
 * it is.
 */
export const cellFigure = (value: string | number | null, kind: ColumnKind): string | number => {
  if (value === null) return "";
  if (typeof value === "string") return value;
  if (kind === "money") return amountCell(value);
  return Math.round(value * 1e4) / 1e4;
};
