import type { Told } from "@/core/practice/hidden";
import { placeName } from "@/core/profile/profile";
import { say } from "./words";

/** Words of the practice bench. */

const TELLS: Record<string, (place: string) => string> = {
  restOffset: (place) => say("placeDrifts", { place }),
  reachMin: (place) => say("placeDoesNotGoAllTheWay", { place }),
  deadHalves: (place) => say("placeGoesOnlyOneWay", { place }),
  safeDeadZone: (place) => say("placeDoesNotComeBack", { place }),
  jumps: (place) => say("placeJumpsNowAndThen", { place }),
  fullPull: (place) => say("placeDoesNotReachTheEnd", { place }),
  largestStep: (place) => say("placeSkipsOnTheWay", { place }),
  decision: (place) => say("placeHasToBePressedTwice", { place }),
  chatter: (place) => say("placeFiresTwice", { place }),
};

/** What the made-up seller of a practice unit writes. */
export function sellerText(told: Told): string {
  if (told.code === "nothing") return say("untested");
  const place = placeName(told.control);
  const tells = told.code === "fault" ? TELLS[told.measure] : undefined;
  return tells ? tells(place) : say("somethingIsWrongWithThePlace", { place });
}
