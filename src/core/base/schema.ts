import { z } from "zod";

/**
 * Zod with our words: what a validator finds is read by people, so its own sentences ("expected number to be <=2000") never are.
 * Every schema is made from here; the linter holds that. A schema's own message goes before these.
 */

type Issue = Parameters<NonNullable<NonNullable<Parameters<typeof z.config>[0]>["customError"]>>[0];

const KINDS: Record<string, string> = {
  string: "a text",
  number: "a number",
  int: "a whole number",
  boolean: "yes or no",
  array: "a list",
  tuple: "a list",
  object: "a group of fields",
  record: "a group of fields",
  null: "nothing",
  date: "a date",
};
const FORMATS: Record<string, string> = {
  uuid: "is no id of Birdcage",
  date: "is no day, such as 2026-11-03",
  datetime: "is no moment, such as 2026-11-03T09:30:00Z",
  regex: "has another form than asked",
  url: "is no address",
  email: "is no mail address",
};
const MOST_SHOWN = 12;
const some = (list: readonly unknown[]) =>
  `${list
    .slice(0, MOST_SHOWN)
    .map((v) => String(v).slice(0, 40))
    .join(", ")}${list.length > MOST_SHOWN ? ", ..." : ""}`;
const counted = (n: unknown, origin: string) =>
  origin === "string"
    ? `${String(n)} character${Number(n) === 1 ? "" : "s"}`
    : ["array", "set", "map"].includes(origin)
      ? `${String(n)} entr${Number(n) === 1 ? "y" : "ies"}`
      : String(n);

/** Anything that Zod can find, as the second half of a sentence whose first half names the field. */
export function issueWords(issue: Issue): string {
  switch (issue.code) {
    case "invalid_type":
      return issue.input === undefined ? "is missing" : `should be ${KINDS[String(issue.expected)] ?? "something else"}`;
    case "too_big":
      if (issue.origin === "int" || String(issue.maximum).length > 15) return "is too large";
      return `is too ${issue.origin === "string" || issue.origin === "array" ? "long" : "large"}: ${issue.inclusive === false ? "less than" : "at most"} ${counted(issue.maximum, issue.origin)}`;
    case "too_small":
      if (issue.origin === "string" && issue.minimum === 1) return "is empty";
      if (String(issue.minimum).length > 15) return "is too small";
      return `is too ${issue.origin === "string" || issue.origin === "array" ? "short" : "small"}: ${issue.inclusive === false ? "more than" : "at least"} ${counted(issue.minimum, issue.origin)}`;
    case "not_multiple_of":
      return `should be a multiple of ${String(issue.divisor)}`;
    case "invalid_format":
      return FORMATS[issue.format] ?? "has another form than asked";
    case "invalid_value":
      return `should be one of: ${some(issue.values)}`;
    case "unrecognized_keys":
      return `holds what is not known here: ${some(issue.keys)}`;
    case "invalid_union":
      return "fits none of the forms that it may have";
    default:
      return "does not fit";
  }
}

z.config({ customError: issueWords });

export { z };
