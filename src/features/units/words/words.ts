import { catalogue } from "@/words/catalogue";

/** The units that one belongs with. */
export const say = catalogue("mates", {
  belongsWith: "Belongs with",
  mateIs: "{model}: {stands}",
  itFailedAt: "It failed at the place like {places}: the same is looked at first here.",
  itsMends: "Mended on it: {mends}.",
  ourCoverUntil: "Our cover on it until {day}.",
  makersCoverUntil: "Its maker's cover runs until {day}: whatever fails on it goes to its maker, unopened.",
  makersCoverRuns: "Its maker's cover runs: whatever fails on it goes to its maker, unopened.",
  mateElsewhere: "Its mate is not here: {state}.",
  toldFailedAt: "It failed at the place like {place}: the same is looked at first here.",
  toldMended: "Told of it: {what}.",
  watchIt: "What fails here is looked at first on {tags}, which was used alike.",
  oneHalfAlone: "One half. Prices are of a half alone.",
  oneHalfWithMate:
    "One half, not sold alone. Mended to grade A it adds {prices}: what the pair brings with {mate}, less what that brings alone.",
  itsMate: "its mate",
  oneHalfNoMate:
    "One half, not sold alone. Without its mate it brings what it does as found, {price}, however well it is mended.",
  newOnlyAsPair: "New only as a pair, {price}.",
  newHalf: "A new half is {price}.",
});
