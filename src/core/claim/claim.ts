/** What a claim in free words names, as far as a test plan needs it. */

type Named = { id: string; kind: string; name: string };

const RIM_WORDS =
  /\b(rim|edge|edges|corner|corners|side of|off.?cent(re|er)|when pressed on the side|tilts?|wobbl\w*)\b/i;

const plainWords = (text: string) => ` ${text.toLowerCase().replace(/[^a-z]+/g, " ")} `;

/**
 * The controls that the words name, by the place's own words in any order ("the south face button", "left
 * bumper").
 */
export function namedControls<T extends Named>(claim: string, controls: readonly T[]): T[] {
  const words = plainWords(claim);
  return controls.filter((c) =>
    c.name
      .toLowerCase()
      .split(/[^a-z]+/)
      .every((w) => words.includes(` ${w} `)),
  );
}

/**
 * Buttons whose rim the claim is about: those it names, or all of the face when it speaks of a rim and names
 * none.
 */
export function rimFromClaim(claim: string, controls: readonly Named[]): string[] {
  if (!RIM_WORDS.test(claim)) return [];
  const buttons = controls.filter((c) => c.kind === "button");
  const named = namedControls(claim, buttons);
  const about = named.length ? named : buttons.filter((c) => c.id.startsWith("face."));
  return about.map((c) => c.id);
}
