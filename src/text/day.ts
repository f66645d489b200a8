import type { DayJob } from "@/core/dayplan/tasks";

/** Words of the day's plan. */

const JOBS: Record<
  Exclude<DayJob, { what: string } | { route: unknown } | { title: string } | { steps: number } | { soaks: boolean }>["code"],
  string
> = {
  "first-test": "First full test",
  "name-found": "Name what was found",
  "name-faults": "Name the faults",
  decide: "Decide",
  "open-wet": "Open, unplug, inspect",
  "full-test": "Full test, closed",
  "functions-and-release": "Functions and release",
  "functions-left": "Functions that are left",
  release: "Release",
  close: "Close as decided",
  cure: "Cure or dry",
};

export function dayJobWords(job: DayJob): string {
  switch (job.code) {
    case "waiting":
      return `${job.what}, running`;
    case "mend":
      return `Mend: ${job.route ?? "as decided"}`;
    case "step":
      return job.title;
    case "take-apart":
      return `Take apart, ${job.steps} steps`;
    case "put-back":
      return `Test open and put back, ${job.steps} steps`;
    case "soak":
      return `${job.soaks ? "Soak and dry" : "Dry"}: ${job.surface}`;
    case "cure-after":
      return `Cure or dry after: ${job.what}`;
    default:
      return JOBS[job.code];
  }
}
