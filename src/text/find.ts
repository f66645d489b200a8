import type { Check, CheckKind } from "@/core/diagnosis/checks";
import type { Basis } from "@/core/diagnosis/evidence";
import type { StatePair } from "@/core/diagnosis/halving";
import type { PlaceFinding } from "@/core/diagnosis/places";
import type { Outcome } from "@/core/diagnosis/priors";
import type { Cure, TryAction, TryOutcome } from "@/core/diagnosis/tries";
import type { Advice } from "@/core/diagnosis/advise";
import type { Wiring } from "@/core/profile/wiring";

/** Words of the Find station. */

const CHECKS: Record<CheckKind, (name: string) => string> = {
  test: (n) => `Test ${n}`,
  look: (n) => `Look at the ${n}, magnified`,
  probe: (n) => `Probe the ${n} by itself`,
  measure: (n) => `Measure at ${n}`,
  compare: (n) => `Compare ${n} with a known-good unit`,
  "swap-twin": (n) => `Swap the ${n} with its twin`,
  "swap-donor": (n) => `Swap in a donor for the ${n}`,
  reseat: (n) => `Reseat the ${n}`,
  disconnect: (n) => `Disconnect the ${n}`,
  flex: (n) => `Press or flex the ${n}`,
  cool: (n) => `Cool the ${n}`,
};
/** A check in words, with the names of the wiring and of what it serves. */
export function checkWords(check: Pick<Check, "kind" | "target">, wiring: Wiring, nameOf: (id: string) => string): string {
  const node = wiring.nodes.find((n) => n.id === check.target);
  const point = wiring.points.find((p) => p.id === check.target);
  return CHECKS[check.kind](node?.name ?? point?.name ?? nameOf(check.target));
}

export const OUTCOME_WORDS: Record<Outcome, string> = {
  works: "works",
  dead: "dead",
  intermittent: "comes and goes",
  offset: "rests off centre",
  scatter: "settles anywhere",
  noise: "noisy at rest",
  jumps: "jumps",
  "dead-half": "one half dead",
  "short-reach": "does not reach",
  misses: "misses presses",
  "rim-misses": "misses on the rim",
  "yields-to-force": "yields to force",
  stuck: "reads pressed",
  bridged: "fires with another",
};
const CODES: Record<string, string> = {
  ...OUTCOME_WORDS,
  damaged: "damaged",
  sound: "sound",
  off: "off",
  right: "right",
  cured: "cured",
  "no-change": "no change",
  changes: "the fault changes",
  "rest-recovers": "the rest recovers",
  "fault-moves": "the fault moves along",
  "fault-stays": "the fault stays",
  noted: "noted, nothing to compare with",
};
export const outcomeWords = (code: string): string => CODES[code] ?? code.replaceAll("-", " ");

export const PLACE_WORDS: Record<PlaceFinding, string> = {
  sound: "sound",
  "corrosion-slight": "corrosion, slight",
  "corrosion-strong": "corrosion, strong",
  "cracked-joint": "cracked joint",
  "bridged-joint": "bridged joint",
  residue: "white residue",
  "missing-tooth": "missing tooth",
  worn: "worn",
  torn: "torn",
  "loose-piece": "loose piece",
};
export const ACTION_WORDS: Record<TryAction, string> = {
  clean: "clean",
  reseat: "reseat",
  resolder: "resolder",
  replace: "replace",
  swap: "swap",
  calibrate: "calibrate",
  reheat: "reheat",
  other: "something else",
};
export const TRY_WORDS: Record<TryOutcome, string> = { cured: "cured", better: "better", same: "no change", worse: "worse" };
export const CURE_WORDS: Record<Cure, string> = {
  "proven-by-undoing": "proven: undoing it brought the fault back",
  "proven-by-repeats": "proven: it held on repeats",
  unproven: "unproven",
  refuted: "refuted: a later test failed",
  none: "",
};
export const PAIR_WORDS: Record<StatePair, [works: string, fails: string]> = {
  "open-closed": ["open", "closed"],
  "cable-radio": ["by cable", "by radio"],
  "cold-warm": ["cold", "warm"],
};

export function stopWords(advice: Advice): string {
  if (advice.stop === "certain") return "Nothing is left to ask: decide on this.";
  if (advice.stop === "nothing-left") return "No check is left that would tell more. Decide on what is known.";
  return `Deciding pays more than knowing now: a wrong decision would cost about ${advice.wrongCost.toFixed(0)} min, and no check saves its own minutes.`;
}

const spaced = (code: string): string => code.replaceAll("-", " ");
/** What a piece of evidence rests on; `nameOf` names the parts, controls and functions of the model. */
export function basisWords(basis: Basis, nameOf: (id: string) => string): string {
  switch (basis.code) {
    case "seen":
      return `${nameOf(basis.id)} ${spaced(basis.outcome)}`;
    case "stayed-away":
      return "it worked while the rest was tested";
    case "check":
      return `${spaced(basis.check)}, ${nameOf(basis.target)}: ${spaced(basis.outcome)}`;
    case "place":
      return `${nameOf(basis.target)}: ${spaced(basis.outcome)}`;
    case "reading":
      return `reading ${basis.point.replace(/^tp\./, "").replaceAll(".", " ")}: ${basis.outcome}`;
    case "try":
      return `try ${basis.number}, ${nameOf(basis.suspect)}: ${basis.outcome}`;
    case "loose-piece":
      return `loose piece ${basis.number} is from it`;
    case "halved":
      return "the search by halves ends at it";
  }
}
