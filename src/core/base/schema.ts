import { z } from "zod";

import { type Finding, found } from "./finding";
import type { Id } from "./ids";

/**
 * Zod whose messages are findings: what a validator finds is read by people in their language, so its own
 * sentences ("expected number to be <=2000") never are. Every schema is made from here; the linter holds
 * that. A schema's own message goes before these.
 */

type Issue = Parameters<NonNullable<NonNullable<Parameters<typeof z.config>[0]>["customError"]>>[0];

const MOST_SHOWN = 12;
const some = (list: readonly unknown[]) =>
  `${list
    .slice(0, MOST_SHOWN)
    .map((v) => String(v).slice(0, 40))
    .join(", ")}${list.length > MOST_SHOWN ? ", ..." : ""}`;
const of = (origin: string) => (origin === "string" ? "letters" : "entries");
const isLong = (origin: string) => origin === "string" || origin === "array";
/** A limit that somebody chose; those of the number itself say nothing to a reader. */
const chosen = (limit: unknown): number | null => (String(limit).length > 15 ? null : Number(limit));

function findingOf(issue: Issue): Finding {
  switch (issue.code) {
    case "invalid_type":
      return issue.input === undefined
        ? { rule: "missing" }
        : { rule: "kind", wanted: String(issue.expected) };
    case "too_big":
      return isLong(issue.origin)
        ? { rule: "too-long", most: Number(issue.maximum), of: of(issue.origin) }
        : {
            rule: "too-large",
            most: issue.origin === "int" ? null : chosen(issue.maximum),
            below: issue.inclusive === false,
          };
    case "too_small":
      if (issue.origin === "string" && issue.minimum === 1) return { rule: "empty" };
      return isLong(issue.origin)
        ? { rule: "too-short", least: Number(issue.minimum), of: of(issue.origin) }
        : { rule: "too-small", least: chosen(issue.minimum), above: issue.inclusive === false };
    case "not_multiple_of":
      return { rule: "multiple", of: issue.divisor };
    case "invalid_format":
      return { rule: "form", wanted: issue.format };
    case "invalid_value":
      return { rule: "choice", of: some(issue.values) };
    case "unrecognized_keys":
      return { rule: "not-known", keys: some(issue.keys) };
    case "invalid_union":
      return { rule: "no-form" };
    default:
      return { rule: "unfit" };
  }
}

z.config({ customError: (issue) => found(findingOf(issue)) });

/** The id of a row of a table, as it comes from outside. */
export const idOf = <T extends string>(_table: T) => z.uuid() as unknown as z.ZodType<Id<T>, Id<T>>;

export { z };
