/** Made-up language for looking at pages: English with marks over its letters, and 40 % longer. */

const MARKED: Record<string, string> = Object.fromEntries(
  [..."aàeèiìoòuùyỳnñcçsšzžlłdđtţgğhħkķrřwŵmḿpṕbḃfḟvṽjĵxẋqʠ"]
    .join("")
    .match(/../gu)!
    .map((p) => [p[0]!, p[1]!]),
);
const LONGER = 1.4;

/** What is no word: units of measure keep their sign in any language. */
const SIGN = /^(mm|ms|mV|mA|mAh|min|dB|dBFS|Hz|kHz|kg|g|V|s|h|x|y|MB)$/;

/** A word with marks, its letters doubled until it is 40 % longer. */
function drawnOutWord(word: string): string {
  if (SIGN.test(word)) return word;
  const letters = [...word];
  const wanted = Math.ceil(LONGER * letters.length);
  let more = wanted - letters.length;
  return letters
    .map((l) => {
      const marked = MARKED[l] ?? (MARKED[l.toLowerCase()]?.toUpperCase() || l);
      return more > 0 && /\p{L}/u.test(l) ? (more--, marked + marked) : marked;
    })
    .join("");
}

/**
 * An ICU message of which only what a person reads is drawn out: its arguments, their kinds and its
 * quotations stay.
 */
export function drawnOut(message: string): string {
  let out = "";
  let depth = 0; // inside an argument its name and kind stay; the text of a plural's forms is two deep
  for (const part of message.match(/\{|\}|[^{}]+/g) ?? []) {
    if (part === "{") depth++;
    else if (part === "}") depth--;
    out += part !== "{" && part !== "}" && depth % 2 === 0 ? part.replace(/\p{L}+/gu, drawnOutWord) : part;
  }
  return out;
}
