import { say } from "@/words/kit";

/** Several names in one sentence. */

const joined =
  (two: (first: string, second: string) => string) =>
  (names: readonly string[]): string =>
    names.slice(1).reduce(two, names[0] ?? "");

export const allOf = joined((first, second) => say("firstAndSecond", { first, second }));
export const oneOf = joined((first, second) => say("firstOrSecond", { first, second }));
export const inTurn = joined((first, second) => say("firstThenSecond", { first, second }));
