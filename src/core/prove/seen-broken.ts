/**
 * A part that was seen broken and not made good since: findings that are a break or eat on. Wear and dirt are told by what
 * they do to the measures.
 */
export const BREAKS_SEEN = [
  "corroded",
  "cracked",
  "bridged",
  "torn",
  "bent",
  "loose",
  "missing-tooth",
  "eaten",
  "damaged",
] as const;
export type SeenBroken = { part: string; name: string; finding: (typeof BREAKS_SEEN)[number] };
