import type { DayJob } from "@/core/dayplan/tasks";
import { say } from "./words";

/** Words of the day's plan. */

const JOBS: Record<
  Exclude<
    DayJob,
    | { what: string }
    | { route: unknown }
    | { title: string }
    | { surface: string }
    | { steps: number }
    | { soaks: boolean }
  >["code"],
  string
> = {
  "first-test": say("firstFullTest"),
  "name-found": say("nameWhatWasFound"),
  "name-faults": say("nameTheFaults"),
  decide: say("decide"),
  "open-wet": say("openUnplugInspect"),
  "full-test": say("fullTestClosed"),
  "functions-and-release": say("functionsAndRelease"),
  "functions-left": say("functionsThatAreLeft"),
  release: say("release"),
  close: say("closeAsDecided"),
  cure: say("cureOrDry"),
};

export function dayJobWords(job: DayJob): string {
  switch (job.code) {
    case "waiting":
      return say("whatRunning", { what: job.what });
    case "mend":
      return say("mendRoute", { route: job.route ?? say("asDecided") });
    case "step":
      return job.title;
    case "clean":
      return say("cleanSurface", { surface: job.surface });
    case "take-apart":
      return say("takeApartStepsSteps", { steps: job.steps });
    case "put-back":
      return say("testOpenAndPutBackSteps", { steps: job.steps });
    case "soak":
      return `${job.soaks ? say("soakAndDry") : say("dry")}: ${job.surface}`;
    case "cure-after":
      return say("cureOrDryAfterWhat", { what: job.what });
    default:
      return JOBS[job.code];
  }
}
