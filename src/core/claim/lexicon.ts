import { z } from "../base/schema";

import { ok, refuse, type Result } from "../base/result";
import { OUTCOMES, type Outcome } from "../diagnosis/priors";
import { namedControls } from "./claim";

/**
 * The words in which people complain, and what each means on the bench. Small, and the shop's own to change.
 */

export const lexiconSchema = z
  .array(
    z.strictObject({
      /** any of these, as they are written */
      phrases: z.array(z.string().trim().min(2).max(40)).min(1).max(12),
      outcome: z.enum(OUTCOMES),
      /** the kind of control that it speaks of when none is named */
      kind: z.enum(["stick", "trigger", "button"]).nullable(),
    }),
  )
  .max(80);
export type Lexicon = z.infer<typeof lexiconSchema>;

export const HOUSE_LEXICON: Lexicon = [
  { phrases: ["drift", "wander", "pulls to", "walks by itself", "creeps"], outcome: "offset", kind: "stick" },
  { phrases: ["jump", "leap", "aim skips", "teleport"], outcome: "jumps", kind: "stick" },
  {
    phrases: ["run stops", "half dead", "only one way", "corners unreachable", "does not go"],
    outcome: "dead-half",
    kind: "stick",
  },
  {
    phrases: ["does not come back", "slow to return", "floppy", "loose stick", "stays over"],
    outcome: "scatter",
    kind: "stick",
  },
  { phrases: ["shakes", "jitter", "trembles", "nervous"], outcome: "noise", kind: "stick" },
  { phrases: ["does not reach", "never reaches", "not full"], outcome: "short-reach", kind: "trigger" },
  {
    phrases: ["two pushes", "three pushes", "press hard", "has to be pressed", "weak", "mushy"],
    outcome: "misses",
    kind: "button",
  },
  { phrases: ["only on the edge", "on its edge", "tilts"], outcome: "rim-misses", kind: "button" },
  { phrases: ["stays in", "stuck", "pressed by itself"], outcome: "stuck", kind: "button" },
  {
    phrases: ["now and then", "sometimes", "comes and goes", "falls asleep", "cuts out", "lose each other"],
    outcome: "intermittent",
    kind: null,
  },
  {
    phrases: ["dead", "does nothing", "not working", "no response", "does not work"],
    outcome: "dead",
    kind: null,
  },
];

const AXES: readonly [RegExp, string][] = [
  [/\b(left and right|sideways|to the (left|right))\b/i, "x"],
  [/\b(up and down|to the top|up|down)\b/i, "y"],
];
const DIRECTIONS: readonly [RegExp, string][] = [
  [/\b(push(ed|ing)?|goes?|pulls?|drifts?|walks?) (to the )?right\b/i, "right"],
  [/\b(push(ed|ing)?|goes?|pulls?|drifts?|walks?) (to the )?left\b/i, "left"],
  [/\b(push(ed|ing)?|goes?|pulls?|drifts?|walks?) (to the )?up\b/i, "up"],
  [/\b(push(ed|ing)?|goes?|pulls?|drifts?|walks?) (to the )?down\b/i, "down"],
];

const MOVEMENT = /\b(push(ed|ing)?|goes?|pulls?|drifts?|walks?) (to the )?(right|left|up|down)\b/g;

export type Complaint = {
  outcome: Outcome;
  /** the words that said so */
  words: string;
  /** what it is about: named, or every control of the kind it speaks of */
  places: string[];
  named: boolean;
  axis: string | null;
  direction: string | null;
};
type Named = { id: string; kind: string; name: string };

/**
 * Reads complaints out of free words: part, side, axis and direction as far as they are said. Sentence by
 * sentence.
 */
export function readClaim(
  claim: string,
  things: readonly Named[],
  lexicon: Lexicon = HOUSE_LEXICON,
): Complaint[] {
  const out: Complaint[] = [];
  for (const sentence of claim
    .split(/[.;,\n]| and /)
    .map((s) => s.trim())
    .filter(Boolean)) {
    const lower = ` ${sentence.toLowerCase()} `;
    const entry = lexicon.find((e) => e.phrases.some((p) => lower.includes(p.toLowerCase())));
    if (!entry) continue;
    const phrase = entry.phrases.find((p) => lower.includes(p.toLowerCase()))!;
    const still = lower.replace(MOVEMENT, " "); // "push right" is a direction, not the side of a part
    const named = namedControls(still, things);
    const sideOf = () => {
      if (/\bleft\b/.test(still)) return "left";
      if (/\bright\b/.test(still)) return "right";
      return null;
    };
    const side = sideOf();
    const ofKind = things.filter((t) => t.kind === entry.kind);
    const sided = side ? ofKind.filter((t) => t.name.includes(side)) : [];
    const aboutOf = () => {
      if (named.length) return named;
      if (sided.length === 1) return sided;
      if (ofKind.length <= 2) return ofKind;
      return [];
    };
    const about = aboutOf();
    out.push({
      outcome: entry.outcome,
      words: phrase,
      places: about.map((t) => t.id),
      named: named.length > 0 || sided.length === 1,
      axis: entry.kind === "stick" ? (AXES.find(([r]) => r.test(sentence))?.[1] ?? null) : null,
      direction: entry.kind === "stick" ? (DIRECTIONS.find(([r]) => r.test(sentence))?.[1] ?? null) : null,
    });
  }
  return out;
}

/** Whether the words complain of this place, by its name or by what they say of its kind. */
export const claimNames = (
  claim: string,
  place: string,
  things: readonly Named[],
  lexicon: Lexicon = HOUSE_LEXICON,
): boolean => readClaim(claim, things, lexicon).some((c) => c.places.includes(place));

/** One line an entry: "drift, wander = offset stick". */
export const lexiconToText = (lexicon: Lexicon): string =>
  lexicon.map((e) => `${e.phrases.join(", ")} = ${e.outcome}${e.kind ? ` ${e.kind}` : ""}`).join("\n");

/** Reads that form back; the first bad line is told with its number. */
export function readLexicon(text: string): Result<Lexicon, { line: number; why: string }> {
  const lines = text.split("\n");
  const out: unknown[] = [];
  for (const [i, raw] of lines.entries()) {
    if (raw.trim() === "") continue;
    const [left, right, ...rest] = raw.split("=");
    if (right === undefined || rest.length)
      return refuse({ line: i + 1, why: "write the words, one =, and the meaning" });
    const [outcome, kind = null, ...more] = right.trim().split(/\s+/);
    const entry = {
      phrases: left!
        .split(",")
        .map((p) => p.trim())
        .filter(Boolean),
      outcome,
      kind,
    };
    const parsed = lexiconSchema.element.safeParse(entry);
    if (more.length || !parsed.success)
      return refuse({
        line: i + 1,
        why: !(OUTCOMES as readonly string[]).includes(outcome ?? "")
          ? `"${outcome}" is no meaning of the list`
          : "words of 2 to 40 letters, and stick, trigger or button as kind",
      });
    out.push(parsed.data);
  }
  return ok(out as Lexicon);
}
