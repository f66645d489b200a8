import type { CertificateBody, Disclosure, SignatureState } from "@/contract/certificate";
import type { HandoverKind } from "@/contract/release";
import type { Condition, ConditionReason } from "@/core/grade/condition";
import type { Care } from "@/core/prove/care";
import type { Curve, CurveKind, CurvePoint } from "@/core/plots/curve";
import type { ProofKey, ProofResult, ProofWhy, Trigger } from "@/core/prove/proof";
import type { Make } from "@/core/profile/slots";
import { MAKE_WORDS } from "./decide";
import { GRADE_WORDS, percent } from "./measures";
import { idWords, personName } from "./names";

/** The interface's words for proving, releasing and standing behind it. */

const TRIGGER_ASKS: Record<Trigger, string> = {
  angle: "Hold and use it at odd angles, flat and upside down",
  tug: "Tug lightly at plug, cord and socket while it works",
  tap: "Tap it on the palm, shake it, use it at once",
  slow: "Move slowly through the whole travel, let go, wait",
  warm: "Play until it is warm, then test again",
  rim: "Press at the rim, on every side",
  "as-told": "Do what the complaint tells, as it tells it",
};

type ProofWords = { name: string; ask: string };
const OTHER: Record<Exclude<ProofKey, `trigger.${Trigger}`>, ProofWords> = {
  silence: { name: "silence", ask: "Shake and turn it at the ear: no rattle, no tick" },
  "last-look": { name: "last look", ask: "Seams flush, latches caught, no squeezed trim, no film of glue, labels right" },
  cleaned: { name: "cleaned", ask: "What was dirty or smelt at the door is clean now" },
  bond: { name: "bond cleared", ask: "Clear the bond to the bench's own host" },
  storage: { name: "charge for storage", ask: "Read the charge that it leaves with" },
};
const TRIGGER_NAMES: Record<Trigger, string> = {
  angle: "odd angles",
  tug: "tugs",
  tap: "taps",
  slow: "slow strokes",
  warm: "warm",
  rim: "rim",
  "as-told": "the complaint itself",
};
export function proofWords(key: string): ProofWords {
  const trigger = key.startsWith("trigger.") ? (key.slice(8) as Trigger) : null;
  if (trigger) return { name: `trigger: ${TRIGGER_NAMES[trigger] ?? trigger}`, ask: TRIGGER_ASKS[trigger] ?? "" };
  return OTHER[key as keyof typeof OTHER] ?? { name: idWords(key), ask: "" }; // a line of an older sheet
}

export const proofWhyText = (why: ProofWhy): string =>
  why.code === "claim"
    ? `the complaint: “${why.words}”`
    : why.code === "dirty"
      ? `${why.what} was noted at the door, and no order cleaned it`
      : why.code === "radio"
        ? "it has a radio"
        : why.code === "built-in-cell"
          ? "it has a built-in cell"
          : "asked of every unit";

export const PROOF_RESULT_WORDS: Record<ProofResult | "not-done", string> = {
  pass: "pass",
  fail: "fail",
  cannot: "cannot be done",
  "not-done": "not done",
};

export const CONDITION_WORDS: Record<Condition, string> = {
  fine: "fine",
  light: "light use",
  marked: "marked",
  worn: "worn",
};
const CONDITION_RULES: Record<ConditionReason["rule"], (n: number) => string> = {
  "broken-outside": (n) => `${n} ${n === 1 ? "place is" : "places are"} cracked, chewed or missing: worn`,
  "many-marks": (n) => `${n} scratches or scuffs, more than five: worn`,
  "some-marks": (n) => `${n} scratches or scuffs, more than two: marked`,
  residue: (n) => `${n} sticky, stained or glued ${n === 1 ? "spot" : "spots"} not cleaned away: marked`,
  "shop-damage": (n) => `${n} ${n === 1 ? "damage" : "damages"} of our own not made good: marked`,
  smell: () => "it smelt at the door and was not cleaned: marked",
};
export const conditionRule = (r: { rule: string; count: number }): string =>
  CONDITION_RULES[r.rule as ConditionReason["rule"]]?.(r.count) ?? r.rule;

export const CARE_WORDS: Record<Care, string> = {
  "plug-straight": "Push plugs in straight and pull them by the plug, never by the cord or at an angle.",
  "no-food": "Play with clean, dry hands; crumbs and grease are what wears buttons and contacts.",
  "stick-light": "Guide the sticks lightly and store it so that nothing presses on them.",
  "dry-away": "Keep drinks away from it. If it gets wet: off, unplugged, and to a workshop; do not charge it.",
  "soft-landing": "Put it down, do not let it drop: a knock that leaves no mark can still crack a joint inside.",
  "store-half-full": "For a longer rest leave it about half charged, and charge it again every few months.",
  "strap-and-latch": "Slide the latch all the way until it catches, and attach straps the right way round.",
  "cord-no-bend": "Coil the cord loosely and keep it from bending hard where it enters the shell.",
  "loose-cells-out": "Take the cells out before a longer rest, and change them together.",
};

const list = (xs: readonly string[]) => xs.join(", ");
/** A part's name with its make, which many a name holds already. */
const withMake = (name: string, make: Make | null): string =>
  make === null || name.includes(MAKE_WORDS[make]) ? name : `${name}, ${MAKE_WORDS[make]}`;

/** A fitted part as the certificate lists it. */
export const fittedText = (p: CertificateBody["parts"][number]): string =>
  `${p.place}: ${withMake(p.name, p.make)}, ${p.used ? "used" : "new"}${p.warrantyDays ? `, warranty ${p.warrantyDays} days` : ""}`;

export function disclosureText(d: Disclosure): string {
  switch (d.code) {
    case "part":
      return `Non-original part: ${withMake(d.name, d.make)}`;
    case "typed-part":
      return `Part fitted, as it was written down: ${d.name} (${d.what})`;
    case "donor-part":
      return `Used part from a donor: ${d.name}`;
    case "route":
      return d.words.charAt(0).toUpperCase() + d.words.slice(1);
    case "glue":
      return `Glue was used: ${d.words}`;
    case "shim":
      return `A shim or pad is inside: ${d.words}`;
    case "upgrade":
      return `Changed from how it was made: ${d.words}`;
    case "marks":
      return `Marks outside: ${list(d.kinds)}`;
    case "lost":
      return `Lost or broken inside and left out: ${list(d.names)}`;
    case "damage":
      return `Damage done in the workshop: ${idWords(d.place)}, ${d.what}`;
    case "missing":
      return `Does not come with: ${list(d.names)}`;
    case "function-lost":
      return `Does not work or is not fitted: ${list(d.names)}`;
    case "accepted-fault":
      return `Known and left as it is: ${d.words}`;
    case "provisional":
      return `Mended for now, not for good: ${d.words}`;
  }
}

export const HANDOVER_WORDS: Record<HandoverKind, string> = { sold: "sold", returned: "returned to its owner" };

export const SIGNATURE_WORDS: Record<SignatureState["state"], string> = {
  good: "What is shown is what was signed",
  tampered: "What is shown is not what was signed: do not rely on it",
  broken: "The signature does not hold: do not rely on it",
  "unknown-key": "Signed with a key that is not known here: do not rely on it",
  unsigned: "Made before certificates were signed",
};

/** A text for a listing, in general words and from the facts alone. */
export function listingText(
  c: Pick<
    CertificateBody,
    "model" | "revision" | "grade" | "condition" | "controls" | "functions" | "limit" | "disclosures" | "warrantyDays" | "known"
  >,
): string {
  const tested = c.controls.filter((x) => x.grade !== "untested").length;
  const works = c.functions.filter((f) => f.result === "pass").map((f) => f.name);
  const not = c.functions.filter((f) => f.result === "not-tested").map((f) => f.name);
  return [
    `${c.model}${c.revision ? `, ${c.revision}` : ""}: function ${GRADE_WORDS[c.grade]}${c.condition ? `, outside ${CONDITION_WORDS[c.condition.grade]}` : ""}.`,
    `${tested} of ${c.controls.length} controls measured one by one after the last work on it.`,
    works.length ? `Checked and working: ${list(works)}.` : "",
    not.length ? `Not tested: ${list(not)}.` : "",
    c.limit ? `Limit: ${c.limit}.` : "",
    ...c.disclosures.map((d) => `${disclosureText(d)}.`),
    c.known,
    c.warrantyDays > 0 ? `${c.warrantyDays} days of warranty from the day of handing over.` : "Sold without a warranty.",
    "A signed certificate with every measured figure comes with it.",
  ]
    .filter(Boolean)
    .join("\n");
}

/** On the certificate, where the proof was not made here. */
export const proofTakenText = (t: { by: string; why: string }): string =>
  `The test was not made at this bench; ${personName(t.by)} took its recording as the proof: ${t.why}`;

export const chargeText = (share: number | null): string => (share === null ? "" : `${Math.round(share * 100)} %`);

const farthest = (points: readonly CurvePoint[]) => percent(Math.max(...points.map(([, y]) => y)));

/** A curve of the certificate in words, for who cannot see it. */
export const curveText = (kind: CurveKind, { now, before, limit }: Curve): string =>
  `${kind === "stick" ? "Edge over the angle" : "Travel over time"}: now ${now.length ? `up to ${farthest(now)}` : "not measured"}${before.length ? `, before up to ${farthest(before)}` : ""}${limit === null ? "" : `; grade A reaches at least ${percent(limit)}`}`;

/** The line under it. */
export const curveNote = (kind: CurveKind, { before }: Pick<Curve, "before">): string =>
  `${kind === "stick" ? "Reach over the angle, from right round to right" : "Travel of a slow pull"}${before.length ? "; dashed as it came" : ""}`;

/** How long the fitted parts are covered: one figure, or from the shortest to the longest. */
export function partCoverText({ parts, partWarrantyDays }: Pick<CertificateBody, "parts" | "partWarrantyDays">): string {
  const days = parts.map((p) => p.warrantyDays ?? partWarrantyDays);
  const least = Math.min(partWarrantyDays, ...days);
  return least === partWarrantyDays ? `${partWarrantyDays} days` : `${least} to ${partWarrantyDays} days, by part`;
}
