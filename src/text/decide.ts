import type { Disposition, End, FlipKind } from "@/core/decide/advise";
import type { Risk } from "@/core/decide/buying";
import type { Skipped } from "@/core/decide/build";
import type { ChanceView } from "@/core/decide/chances";
import type { Family } from "@/core/decide/families";
import type { SpreadWay } from "@/core/decide/lot";
import type { School } from "@/core/decide/routes";
import type { TermCode } from "@/core/money/rates";
import type { Make, PartKind } from "@/core/profile/slots";

/** The interface's words for deciding and buying. */

export const DISPOSITION_WORDS: Record<Disposition, string> = {
  mend: "Mend",
  hold: "Hold for a part",
  "sell-as-it-is": "Sell as it is",
  "sell-limited": "Sell with a stated limit",
  strip: "Strip for parts",
  scrap: "Scrap",
  "hand-back": "Hand back unmended",
};

export const SCHOOL_WORDS: Record<School, string> = {
  calibrate: "Calibrate only",
  clean: "Clean first",
  adjust: "Adjust or pad",
  sensor: "Only the sensors",
  replace: "Replace the part whole",
  upgrade: "Change to magnetic",
  rework: "Rework joints",
};

export const FAMILY_WORDS: Record<Family, string> = {
  "stick-drift": "drifting stick",
  "stick-worn": "worn stick",
  "stick-range": "short stick range",
  "button-dome": "button on a dome",
  "button-membrane": "button on a membrane",
  "button-switch": "button on a switch",
  trigger: "trigger",
  power: "power",
  port: "port",
  radio: "radio",
  sound: "sound",
  motor: "motor",
  "board-part": "light, touch or motion",
  cord: "cord",
  latch: "latch",
};

export const TERM_WORDS: Record<TermCode, string> = {
  price: "price",
  "fee-share": "selling fee, share",
  "fee-fixed": "selling fee, fixed",
  "carriage-out": "carriage to the buyer",
  tax: "tax",
  returns: "returns, on average",
  labour: "bench time",
  "strip-labour": "time to strip",
  part: "part",
  gift: "gifted part at its replacement value",
  shelf: "shelf while it waits",
  "parts-value": "good parts, as far as they sell",
  purchase: "bought, with carriage",
  "carriage-in": "carriage here",
  retest: "retest",
};

export const MAKE_WORDS: Record<Make, string> = { original: "original", "dear-copy": "dear copy", "cheap-copy": "cheap copy" };
export const kindWords = (kind: PartKind): string => kind.replaceAll("-", " ");

export const RISK_WORDS: Record<Risk, string> = {
  named: "names its fault",
  vague: "speaks vaguely",
  untested: "was not tested",
};

export const SPREAD_WORDS: Record<SpreadWay, string> = { value: "by expected value", even: "evenly", hand: "by hand" };

export const SKIPPED_WORDS: Record<Skipped["why"], string> = {
  tried: "was tried here and did not help",
  "no-part": "no part offered for this model",
  skill: "beyond the shop's skill",
  "used-up": "makes no sense after what was tried",
  grade: "leaves less than the grade that precise aiming asks for",
};

/** Where a chance comes from, in cases. */
export function casesWords(c: ChanceView): string {
  const n = (x: number) => (Number.isInteger(x) ? String(x) : x.toFixed(1));
  const own = c.own.yes + c.own.no;
  const others = c.others.yes + c.others.no;
  return [
    `stated ${Math.round(c.stated.mean * 100)} % as ${c.stated.cases} cases`,
    own ? `here ${n(c.own.yes)} of ${n(own)}` : "none here yet",
    others ? `other models ${n(c.others.yes)} of ${n(others)}` : "",
  ]
    .filter(Boolean)
    .join("; ");
}

type Money = (minor: number) => string;
const WHY: { [C in End["why"]["code"]]: (w: Extract<End["why"], { code: C }>, money: Money) => string } = {
  ladder: () => "by the ladder below",
  waits: (w) => `the first step waits ${w.days} days for the ${w.part}`,
  "nothing-to-try": () => "no route is left to try with what is here",
  "nothing-to-wait-for": () => "no part has to be waited for",
  "not-worth-trying": () => "the best first attempt, against stopping here",
  price: (w, money) => `goes for ${money(w.minor)} as it is`,
  "no-limit": (w) => `nobody buys it so: ${w.places.join(", ")}`,
  limits: (w) => `${Math.round(w.share * 100)} % of grade A's price, told with ${w.places.join(", ")}`,
  "no-faults": () => "no open fault",
  untested: (w) => `${w.count} not tested: what is to be mended is not known`,
  parts: () => "good parts less the time to take them",
  "handed-back": () => "nothing earned, carriage paid",
};
export const whyWords = (w: End["why"], money: Money): string =>
  (WHY[w.code] as (w: End["why"], money: Money) => string)(w, money);

export const FLIP_WORDS: Record<FlipKind, string> = {
  price: "grade A sells for",
  chance: "chance of the first attempt",
  part: "the first attempt's part costs",
  labour: "an hour at the bench costs",
};
