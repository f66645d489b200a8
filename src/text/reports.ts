import type { Settings } from "@/contract/deeds";
import type { ColumnKind, ReportId } from "@/contract/reports";
import { hoursText, money } from "./format";

/** Names of the reports, the question that each answers, and how its figures read. */

export const REPORT_WORDS: Record<ReportId, { name: string; question: string }> = {
  flow: { name: "Flow", question: "Where do units pile up, and how long do they wait there?" },
  yield: { name: "Yield", question: "Which route cures which fault, and how sure is that?" },
  margin: { name: "Margin an hour", question: "What is an hour at the bench worth, and on what?" },
  forecast: { name: "Forecast", question: "Do units bring what the decision expected?" },
  returns: { name: "Returns", question: "How long does each way of mending hold after the sale?" },
  sellers: { name: "Sellers", question: "From whom is it worth buying again?" },
  suppliers: { name: "Suppliers", question: "Whose parts are good, and whose come back?" },
  faults: { name: "Common faults", question: "What breaks on which model and generation?" },
  steps: { name: "Minutes by step", question: "How long do the steps really take?" },
  "tied-up": { name: "Tied-up money", question: "How much money lies in the house, and for how long?" },
};

export function cellText(value: string | number | null, kind: ColumnKind, shop: Settings): string {
  if (value === null) return "none";
  if (typeof value === "string") return value;
  switch (kind) {
    case "money":
      return money(Math.round(value), shop);
    case "share":
      return `${Math.round(value * 100)} %`;
    case "minutes":
      return `${value < 10 ? value.toFixed(1) : Math.round(value)} min`;
    case "hours":
      return hoursText(value * 60);
    case "days":
      return `${Math.round(value)} days`;
    default:
      return String(value);
  }
}

/** A figure as a spreadsheet takes it: money in whole units with two places, shares as fractions, the rest as it is. */
export const cellFigure = (value: string | number | null, kind: ColumnKind): string | number =>
  value === null
    ? ""
    : typeof value === "string"
      ? value
      : kind === "money"
        ? (value / 100).toFixed(2)
        : Math.round(value * 1e4) / 1e4;
