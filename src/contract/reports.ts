import { z } from "@/core/base/schema";
import { day } from "./fields";

/** The reports of what the shop learns, and the filters that their addresses carry. */

export const REPORTS = [
  "flow",
  "yield",
  "margin",
  "forecast",
  "odds",
  "returns",
  "sellers",
  "suppliers",
  "faults",
  "steps",
  "tied-up",
] as const;
export type ReportId = (typeof REPORTS)[number];

export const GROUPS = ["model", "fault", "route", "way", "seller", "make"] as const;

const orNone = <T extends z.ZodType>(schema: T) => schema.nullable().catch(null);
/** What is not understood in an address is left out, so that an old link still opens. */
export const reportFilterSchema = z.object({
  from: orNone(day),
  to: orNone(day),
  model: orNone(z.string().min(1).max(60)),
  source: orNone(z.enum(["single", "lot", "customer"])),
  by: z.enum(GROUPS).catch("model"),
});
export type ReportFilter = z.infer<typeof reportFilterSchema>;

export type ColumnKind = "text" | "count" | "money" | "share" | "days" | "minutes" | "hours";
export type Column = { key: string; label: string; kind: ColumnKind };
export type Row = Record<string, string | number | null>;

export type ReportChart =
  | { kind: "stacked"; x: string[]; series: { name: string; values: number[] }[]; axis: string }
  | {
      kind: "bars";
      /** each with the interval of its value, where it has one */
      bars: { name: string; value: number; low: number | null; high: number | null }[];
      unit: ColumnKind;
      axis: string;
    }
  | { kind: "scatter"; points: { name: string; x: number; y: number }[] }
  | {
      kind: "holding";
      lines: {
        name: string;
        steps: {
          days: number;
          holding: number;
          low: number;
          high: number;
          atRisk: number;
          relapses: number;
        }[];
        until: number;
      }[];
    };

export type Report = {
  id: ReportId;
  /** the days that it is about, both included */
  from: string;
  to: string;
  columns: Column[];
  rows: Row[];
  chart: ReportChart | null;
  /** what to know when reading it */
  notes: string[];
};
