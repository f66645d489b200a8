import { findingIn, type Findings, type Listed, type Place } from "@/core/base/finding";
import { say } from "@/words/findings";

/** What a schema found, in words that stand under a field, or after its name and a colon. */

const KINDS: Record<string, string> = {
  string: say("shouldBeAText"),
  number: say("shouldBeANumber"),
  int: say("shouldBeAWholeNumber"),
  boolean: say("shouldBeYesOrNo"),
  array: say("shouldBeAList"),
  tuple: say("shouldBeAList"),
  object: say("shouldBeAGroup"),
  record: say("shouldBeAGroup"),
  null: say("shouldBeNothing"),
  date: say("shouldBeADate"),
};
const FORMS: Record<string, string> = {
  uuid: say("noId"),
  date: say("noDay"),
  datetime: say("noMoment"),
  url: say("noAddress"),
  email: say("noMailAddress"),
};
const LETTERS: Record<Findings["letters"]["of"], string> = {
  small: say("smallLetters"),
  "small-hyphens": say("smallLettersHyphens"),
  capitals: say("capitals"),
  mixed: say("lettersDigitsHyphens"),
  currency: say("threeCapitals"),
  bin: say("aPlace"),
};
const LISTED: Record<Listed, string> = {
  accessory: say("accessory"),
  board: say("board"),
  cable: say("cable"),
  clip: say("clip"),
  control: say("control"),
  fastener: say("fastener"),
  half: say("half"),
  offer: say("offer"),
  part: say("part"),
  piece: say("piece"),
  revision: say("revision"),
  route: say("route"),
  slot: say("slot"),
  step: say("step"),
  supplier: say("supplier"),
  wiring: say("wiring"),
};

const WORDS: { [R in keyof Findings]: (f: Findings[R]) => string } = {
  missing: () => say("missing"),
  kind: ({ wanted }) => KINDS[wanted] ?? say("shouldBeSomethingElse"),
  "too-large": ({ most, below }) => {
    if (most === null) return say("tooLarge");
    return below ? say("lessThan", { most }) : say("atMost", { most });
  },
  "too-small": ({ least, above }) => {
    if (least === null) return say("tooSmall");
    return above ? say("moreThan", { least }) : say("atLeast", { least });
  },
  "too-long": ({ most, of }) =>
    of === "letters" ? say("tooLongLetters", { most }) : say("tooLongEntries", { most }),
  "too-short": ({ least, of }) =>
    of === "letters" ? say("tooShortLetters", { least }) : say("tooShortEntries", { least }),
  empty: () => say("empty"),
  multiple: ({ of }) => say("aMultipleOf", { of }),
  form: ({ wanted }) => FORMS[wanted] ?? say("anotherForm"),
  choice: ({ of }) => say("oneOf", { of }),
  "not-known": ({ keys }) => say("notKnownHere", { keys }),
  "no-form": () => say("noFormFits"),
  unfit: () => say("doesNotFit"),
  "no-json": () => say("noJson"),
  letters: ({ of }) => LETTERS[of],
  "own-id": ({ of }) => say("eachNeedsItsOwnId", { of: LISTED[of] }),
  "not-listed": ({ by, what, name }) => say("isNotListed", { by, what: LISTED[what], name }),
  circle: ({ of }) => (of === "wiring" ? say("wiringRunsInACircle") : say("guideRunsInACircle")),
  apart: ({ by }) => say("mustBeApart", { by }),
  years: ({ from, to }) => say("inTheYears", { from, to }),
  "low-high": () => say("lowThenHigh"),
  "from-to": () => say("fromBeforeTo"),
  falls: () => say("mustNotFall"),
  rises: () => say("mustNotRise"),
  "times-fall": () => say("timesMustNotFall"),
  "bad-rate": () => say("badRateTwiceTheGood"),
  "good-bad": () => say("goodBelowBad"),
  "held-tried": () => say("moreThanWereTried"),
  "odds-over-one": ({ route }) => say("oddsOverOne", { route }),
  "freed-twice": ({ id, first, second }) => say("freedTwice", { id, first, second }),
  "never-freed": ({ id, what }) => say("neverFreed", { id, what: LISTED[what] }),
  "too-hot": ({ id }) => say("hotterThanItsBoardBears", { id }),
  "too-deep": ({ id }) => say("longerThanItsPlaceIsDeep", { id }),
  "needs-kind": ({ code }) => say("aPartNeedsItsKind", { code }),
  "has-contents": ({ code }) => say("onlyKitsHaveContents", { code }),
  "holds-itself": ({ code }) => say("cannotHoldItself", { code }),
  "first-break": ({ part, supplier }) => say("aPriceFromOnePackOn", { part, supplier }),
  "breaks-rise": ({ part, supplier }) => say("breaksMustRise", { part, supplier }),
};

/** A schema's message in words; one that is a sentence already stays. */
export function findingWords(message: string): string {
  const finding = findingIn(message);
  if (finding === null) return message.startsWith("{") ? say("doesNotFit") : message;
  const words = WORDS[finding.rule] as ((f: Findings[keyof Findings]) => string) | undefined;
  return words ? words(finding) : say("doesNotFit");
}

/** A place in a file and what was found there: "routes.2.breaks: at most 1". */
export const foundWords = ({ path, message }: Place): string =>
  `${path || say("theFile")}: ${findingWords(message)}`;
