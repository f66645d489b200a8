/** What words say of the history of a unit: a few stems a kind, each with what denies it nearby. */

export const HISTORIES = [
  "fall",
  "liquid",
  "teeth",
  "smoke",
  "opened",
  "repaired",
  "first-day",
  "slow",
  "sudden",
] as const;
export type History = (typeof HISTORIES)[number];

const STEMS: Record<Exclude<History, "opened">, RegExp> = {
  fall: /\b(dropped|fell|fall|fallen|drop|knocked off|thrown)\b/i,
  liquid: /\b(liquid|spill\w*|wet|water|coffee|tea|juice|soda|bath|rain)\b/i,
  teeth: /\b(chew\w*|bitten|bit it|teeth|gnaw\w*|dog|puppy)\b/i,
  smoke: /\b(smoke[ds]? came|smoked once|burn\w*|scorch\w*|smelled of burning)\b/i,
  repaired: /\b(repaired|mended|fixed|resoldered|changed the \w+|replaced)\b/i,
  "first-day": /\b(since new|from the first day|out of the box|brand new and)\b/i,
  slow: /\b(slowly|over time|over the years|getting worse|gets worse|got worse|more and more)\b/i,
  sudden: /\b(suddenly|one day|overnight|from one day|all at once|since yesterday)\b/i,
};
const DENIED = /\b(no|not|never|without|isn't|wasn't|didn't)\b[^.;,]{0,24}$/i;

/** The kinds of history that the words name and do not deny. */
export function readHistory(words: string): History[] {
  const kinds = Object.keys(STEMS) as (keyof typeof STEMS)[];
  return kinds.filter((kind) => {
    const hit = STEMS[kind].exec(words);
    return hit !== null && !DENIED.test(words.slice(0, hit.index));
  });
}
