import "server-only";

import { randomBytes } from "node:crypto";

import type { Refusal } from "@/contract/refusals";
import { troubleOf } from "@/platform/db/trouble";
import { Refused } from "./base";
import { log } from "@/platform/log";
import { say } from "@/words/refusals";

/**
 * What an error becomes for whoever asked. Busy is said only where doing it again helps; a defect is said to
 * be one, with a number that stands in the log beside what was asked for and by whom.
 */
export function problemOf(error: unknown, about: { what: string; by?: string; request?: string }): Refusal {
  if (error instanceof Refused) return error.problem;
  const trouble = troubleOf(error);
  switch (trouble) {
    case "busy":
    case "away":
      log.warn({ err: error, ...about }, trouble);
      return { code: trouble };
    case "bad-value":
      log.warn({ err: error, ...about }, "a value that cannot be kept");
      return {
        code: "bad-input",
        issues: [{ path: "", message: say("aNumberADateOrA") }],
      };
    case "unexpected": {
      const number = randomBytes(4).toString("hex");
      log.error({ err: error, number, ...about }, "unexpected");
      return { code: "unexpected", number };
    }
  }
}
