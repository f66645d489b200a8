import { catalogue } from "@/words/catalogue";

export const say = catalogue("casefile", {
  theCase: "The case",
  factsCount:
    "{standing, plural, one {# fact counts} other {# facts count}}; {ended, plural, one {# is} other {# are}} over and stay here",
  newestFirst:
    "Newest first. Each fact says where it was written down, what it moves now, and what ended it.",
  noFactYet:
    "Nothing is known of this unit yet. What intake, tests and hands write down comes here by itself.",
  noWiring: "This model has no wiring, so that no fact is weighed against its parts.",
  movesPart: "{part}: {without} % without it, {with} % with it",
  endsFacts: "{count, plural, one {ended an earlier fact} other {ended # earlier facts}}",
  movesLittle: "moves no part by a hundredth",
  endedBy: "over since {day}: {how}",
  behindFigure: "What stands behind {what}",
  figureOfPart: "likely at fault, from starting odds of {odds} %",
  nothingBehind: "No fact speaks of it. It stands at its starting odds.",
  nothingOfPlace: "No fact is about it yet.",
  allFacts: "All facts",
  speaksFor: "for, {weight} times",
  speaksAgainst: "against, {weight} times",
  behindPlace: "Each is about {what} itself, or about a part that it rests on.",
  answeredSaysNothing: "what a customer wants says nothing of what is broken",
  decidedSaysNothing: "a decision is taken from the facts and says nothing of a part",
  residueSaysNothing: "harmless by itself: it is cleaned and looked under",
  saveCase: "Save the case as a file",
  caseFromFile: "A case from a file",
  caseFromFileHelp:
    "A case that another bench handed on, or that was written by hand: read here, weighed as one of our own, and kept nowhere.",
  openCase: "Open a case",
  beingWeighed: "The case is being weighed.",
  notOpened: "This file is not a case that can be read: {why} Mend it and open it again.",
  couldNotBeWeighed: "It could not be weighed on this computer.",
  openedCase:
    "{model}, {facts, plural, one {# fact} other {# facts}}, {blocks, plural, =0 {nothing is} one {# thing is} other {# things are}} unsettled before a release.",
  whatMayBeBehind: "What may be behind it, as a whole",
  elsewhere: "something that is no part of the wiring",
  inOrder: "What to do in which order",
});
