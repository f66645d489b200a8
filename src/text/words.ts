import type { Block, CheckResult, Ending, NextAction, Station } from "@/core/record/standing";
import type { Step } from "@/core/recording/recording";
import type { Waiting } from "@/core/guide/progress";
import type { QuickFault } from "@/core/quicklook/quick-look";
import type { Cause, Role } from "@/contract/deeds";
import { GRADE_WORDS, percent } from "./measures";
import { placeWords } from "./names";
import { PROOF_RESULT_WORDS, proofWords } from "./release";
import { day, type Shop } from "./format";

/** The interface's words for codes of the core. Short, plain, the trade's own. */

export const STATION_NAMES: Record<Station, string> = {
  intake: "Intake",
  test: "Test",
  find: "Find",
  decide: "Decide",
  mend: "Mend",
  prove: "Prove",
  release: "Release",
};
export const STATION_KEYS: Record<Station, string> = {
  intake: "i",
  test: "t",
  find: "f",
  decide: "d",
  mend: "m",
  prove: "p",
  release: "r",
};

export const NEXT_WORDS: Record<NextAction, string> = {
  quarantine: "Quarantine: hand over",
  "dry-out": "Open, dry, inspect",
  "first-test": "First full test",
  "name-faults": "Name the faults",
  decide: "Decide",
  mend: "Mend",
  wait: "Wait for the part",
  end: "End as decided",
  prove: "Prove",
  "settle-blocks": "Settle what blocks",
  release: "Release",
  closed: "Closed",
};

export const STAGE_NAMES: Record<string, string> = { ...STATION_NAMES, closed: "Closed", quarantine: "Quarantine" };

export const ENDING_NAMES: Record<Ending, string> = {
  released: "released",
  "returned-unmended": "returned unmended",
  "sold-as-found": "sold as found",
  donor: "donor",
  scrap: "scrap",
};

export const CAUSE_WORDS: Record<Cause, string> = {
  "not-known": "not known",
  wear: "wear",
  dirt: "dirt",
  drop: "a drop or a blow",
  liquid: "liquid",
  "wrong-use": "wrong use by the owner",
  "bad-part": "a bad part",
  "earlier-mend": "an earlier mend",
};

export const SOURCE_NAMES: Record<string, string> = { single: "bought single", lot: "from a lot", customer: "customer's" };
export const TESTER_NAMES: Record<string, string> = {
  gamepad: "controller in the browser",
  simulated: "simulated controller",
  playback: "recording played back",
  import: "imported recording",
};
export const ROLE_NAMES: Record<Role, string> = { technician: "technician", lead: "lead", viewer: "viewer" };
export const CHECK_NAMES: Record<CheckResult, string> = {
  pass: "pass",
  fail: "fail",
  "not-tested": "not tested",
  "not-fitted": "not fitted",
};

/** What the person is asked to do, with the control's name. */
export const STEP_WORDS: Record<Step, (place: string) => string> = {
  rest: () => "Hands off",
  circle: (place) => `Circle the ${place}, slowly, both ways`,
  sweep: (place) => `Sweep the ${place} out and back, four ways`,
  flick: (place) => `Flick the ${place} and let go`,
  pull: (place) => `Pull the ${place} slowly, let go`,
  press: (place) => `Press ${place} on each cue`,
  "press-edge": (place) => `Press the rim of ${place} on each cue`,
  free: () => "Get ready",
};
export const STEP_NAMES: Record<Step, string> = {
  rest: "rest",
  circle: "circle",
  sweep: "sweep",
  flick: "flick",
  pull: "pull",
  press: "press",
  "press-edge": "rim",
  free: "between",
};

const WAITING: { [C in Waiting["code"]]: (w: Extract<Waiting, { code: C }>) => string } = {
  "hands-off": (w) => `${w.secondsLeft.toFixed(1)} s more without touching`,
  "keep-circling": (w) =>
    `${Math.round(w.coverage * 100)} % of the edge, ${Math.min(2, w.left).toFixed(1)} of 2 turns left, ${Math.min(2, w.right).toFixed(1)} of 2 right`,
  "too-fast": (w) => `Too fast: ${w.turnsPerSecond.toFixed(1)} turns a second. Slow down to one.`,
  "sweep-missing": (w) => `Still to go: ${w.halves.join(", ")}`,
  "let-go-sweep": () => "Back to the middle",
  flicks: (w) => `${w.done} of ${w.needed} releases`,
  pulls: (w) => `${w.done} of ${w.needed} pulls`,
  presses: (w) => `${w.cues} cues, ${w.missed} missed`,
  "move-it": () => "Waiting for it to move",
};
export const waitingText = (w: Waiting): string => (WAITING[w.code] as (w: Waiting) => string)(w);

const QUICK: { [C in QuickFault["code"]]: (f: Extract<QuickFault, { code: C }>) => string } = {
  "rests-off": (f) => `rests ${percent(f.value)} off (limit ${percent(f.limit)})`,
  "dead-side": (f) => `${f.side} does not answer`,
  leaps: (f) => `leaps ${f.count} ${f.count === 1 ? "time" : "times"}`,
  "short-pull": (f) => `reaches only ${percent(f.value)} (limit ${percent(f.limit)})`,
  "held-at-rest": () => "reads pressed without a finger",
  chatters: (f) => `chatters ${f.count} ${f.count === 1 ? "time" : "times"}`,
  "fires-with": (f) => `fires with ${placeWords(f.other)}`,
};
export const quickFaultText = (f: QuickFault): string => (QUICK[f.code] as (f: QuickFault) => string)(f);

type Names = (id: string) => string;
const BLOCK: { [C in Block["code"]]: (b: Extract<Block, { code: C }>, name: Names, shop: Shop) => string } = {
  swollen: () => "Swollen cell: quarantine",
  liquid: () => "Took liquid and is not cleared",
  "no-proof": (b) => {
    const none = b.lastMend ? "No full test after the last mend" : "No full test yet";
    return b.elsewhere ? `${none} that was made here: a file or a recording played back proves nothing` : none;
  },
  control: (b, name) =>
    `${name(b.control)}: ${GRADE_WORDS[b.grade]}${b.grade === "C" || b.grade === "B" ? ", below the shop's floor" : ""}`,
  function: (b, name) => `${name(b.functionId)}: ${b.result === "fail" ? "fails" : "not tested"}`,
  "open-fault": (b) => `Fault ${b.number} is open`,
  fragment: (b) => `Loose piece ${b.number} is matched to no part`,
  recall: (b) => `Carries a piece of batch ${b.batch}, which was rejected: change it`,
  proof: (b) => `Proof sheet, ${proofWords(b.key).name}: ${PROOF_RESULT_WORDS[b.result]}`,
  customer: (b) => `Fault ${b.number}: the customer was not asked, or has not answered`,
  "second-test": (b, _name, shop) =>
    `${b.what === "provisional" ? `Mend ${b.number} is good for now` : `The cure of try ${b.number} is not shown yet`}: ${b.due ? `a second full test from ${day(b.due.toISOString(), shop)} on` : "it wants two full tests, days apart"}`,
  "other-tester": () => "Proven on another tester than the first test: test a reference unit on it, or repeat on the same",
  "bench-doubt": () => "A reference unit failed on this tester: test a reference unit again before you believe it",
  "same-hand": (b) => `${b.person} worked on it inside and proved it too: somebody else repeats the test`,
  apart: (b) =>
    b.steps + b.items === 0
      ? "The work order is not closed: its last test is missing"
      : `Open: ${b.steps} ${b.steps === 1 ? "step is" : "steps are"} apart, ${b.items} ${b.items === 1 ? "piece is" : "pieces are"} out`,
};
export const blockText = (b: Block, name: Names, shop: Shop): string =>
  (BLOCK[b.code] as (b: Block, name: Names, shop: Shop) => string)(b, name, shop);
