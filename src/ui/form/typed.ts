import { DEEDS, type DeedInput, type DeedName } from "@/contract/deeds";
import { amountExample, readAmount } from "@/text/format";
import { findingWords } from "@/text/findings";
import { typedAmount } from "@/text/format";
import { readFigure } from "@/ui/fields/NumberField";
import { say } from "@/words/kit";

/**
 * What is typed into the fields of a form, held against the schema of the deed that it does: the one rule
 * that the server has too.
 */

/** The fields of a deed that a hand types: texts and numbers. */
export type TypedName<D extends DeedName> = {
  [K in keyof DeedInput<D>]-?: NonNullable<DeedInput<D>[K]> extends string | number ? K : never;
}[keyof DeedInput<D>] &
  string;

export type FieldRule = {
  kind: "text" | "amount" | "whole" | "figure";
  /** how many letters fit; a number's digits have no such limit */
  maxLength: number | undefined;
  /** whether it may be left empty */
  empty: boolean;
};

type Issue = { code?: string; message: string; maximum?: number | bigint };

/** What this needs of a schema: Zod's own types of ninety deeds are too many for one function. */
type Inner = {
  def: { type: string };
  safeParse: (value: unknown) => { error?: { issues: Issue[] } };
  shape?: Record<string, Inner>;
  element?: Inner;
  options?: readonly Inner[];
  unwrap?: () => Inner;
  minLength?: number | null;
  maxLength?: number | null;
  isInt?: boolean;
};

const WRAPPED = ["nullable", "optional", "default", "prefault"];
/** The schema within what may be null or left out, and which of that it may. */
function bare(schema: Inner): { schema: Inner; wraps: string[] } {
  const wraps: string[] = [];
  while (schema.unwrap && WRAPPED.includes(schema.def.type)) {
    wraps.push(schema.def.type);
    schema = schema.unwrap();
  }
  return { schema, wraps };
}

/**
 * One step on a way into a schema: a field of a group, any entry of a list (a number or "*"), or what one of
 * several forms has there.
 */
function within(outer: Inner, step: string): Inner | undefined {
  const { schema } = bare(outer);
  if (schema.element && /^(\d+|\*)$/.test(step)) return schema.element;
  if (schema.shape) return schema.shape[step];
  for (const option of schema.options ?? []) {
    const found = within(option, step);
    if (found) return found;
  }
  return undefined;
}

/**
 * The schema of a field by its name, or by its way into a group: "settings.shopName". Throws for one that the
 * deed does not have.
 */
function schemaAt(deed: DeedName, name: string): Inner {
  let found = DEEDS[deed].input as unknown as Inner;
  for (const step of name.split(".")) {
    const inner = within(found, step);
    if (!inner) throw new Error(`${deed} has no field ${name}`);
    found = inner;
  }
  return found;
}

/** How a field is to be typed, as its schema says. */
export function fieldRule(deed: DeedName, name: string): FieldRule {
  const { schema, wraps } = bare(schemaAt(deed, name));
  if (schema.def.type !== "number")
    return {
      kind: "text",
      maxLength: schema.maxLength ?? undefined,
      empty: wraps.length > 0 || !schema.minLength,
    };
  const kindOf = () => {
    if (name.endsWith("Minor")) return "amount";
    if (schema.isInt) return "whole";
    return "figure";
  };
  return {
    kind: kindOf(),
    maxLength: undefined,
    empty: wraps.length > 0,
  };
}
const isNullable = (deed: DeedName, name: string): boolean =>
  bare(schemaAt(deed, name)).wraps.includes("nullable");

const READ = {
  amount: {
    read: readAmount,
    get wrong() {
      return say("anAmountSuchAs", { example: amountExample() });
    },
  },
  whole: {
    read: (text: string) => (Number.isInteger(readFigure(text)) ? readFigure(text) : null),
    wrong: say("aWholeNumber"),
  },
  figure: { read: readFigure, wrong: say("digitsOnlySuchAs371") },
};

/**
 * What a schema found, as words that stand under a field; money is typed in whole units, and its limits are
 * too.
 */
const words = (kind: FieldRule["kind"], { code, message, maximum }: Issue): string =>
  kind === "amount" && code === "too_big"
    ? say("atMostAmount", { amount: typedAmount(Number(maximum)) })
    : findingWords(message);

/**
 * A field's text as the value that its schema wants, or what is wrong with it; nothing where an empty one is
 * left out.
 */
function readField(deed: DeedName, name: string, text: string): { value?: unknown; wrong?: string } {
  const rule = fieldRule(deed, name);
  const empty = text.trim() === "";
  if (empty && isNullable(deed, name)) return { value: null };
  if (rule.kind === "text") return { value: text };
  if (empty) return rule.empty ? {} : { wrong: say("isMissing") };
  const { read, wrong } = READ[rule.kind];
  const value = read(text);
  return value === null ? { wrong } : { value };
}

/**
 * The number that a field holds, or null where it does not fit: one reading for what is shown, allowed and
 * sent.
 */
export function numberIn(deed: DeedName, name: string, text: string): number | null {
  const { value } = readField(deed, name, text);
  return typeof value === "number" && fieldWrong(deed, name, text) === null ? value : null;
}

/** What is wrong with one field as it stands, in words that stand under it, or null. */
export function fieldWrong(deed: DeedName, name: string, text: string): string | null {
  const { value, wrong } = readField(deed, name, text);
  if (wrong !== undefined) return wrong;
  const issue = schemaAt(deed, name).safeParse(value).error?.issues[0];
  return issue ? words(fieldRule(deed, name).kind, issue) : null;
}

/**
 * The deed's input: what was typed, read as its schema wants it, and `rest`, which no field holds. An empty
 * field that may be empty is null, or left out where the schema has a value of its own, or what `emptyIs`
 * says. What does not fit is told by field, in words that stand under one.
 */
export function readTyped<D extends DeedName>(
  deed: D,
  typed: Partial<Record<string, string>>,
  rest: Partial<DeedInput<D>>,
  emptyIs: Partial<DeedInput<D>> = {},
): { input: DeedInput<D>; wrong: Record<string, string> } {
  const input: Record<string, unknown> = { ...rest };
  const wrong: Record<string, string> = {};
  for (const [name, text = ""] of Object.entries(typed)) {
    const read =
      text.trim() === "" && name in emptyIs ? { value: emptyIs[name as never] } : readField(deed, name, text);
    if (read.wrong !== undefined) wrong[name] = read.wrong;
    else if (read.value !== undefined) input[name] = read.value;
  }
  const parsed = DEEDS[deed].input.safeParse(input);
  for (const issue of parsed.error?.issues ?? []) {
    const field = String(issue.path[0] ?? "");
    wrong[field] ??= words(field in typed ? fieldRule(deed, field).kind : "text", issue);
  }
  return { input: input as DeedInput<D>, wrong };
}
