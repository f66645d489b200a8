/** Earlier units that looked alike: an analogy, never evidence. */

export type Case = { tag: string; model: string; symptoms: readonly string[]; cured: string };
export type Similar = Case & { likeness: number; sameModel: boolean };

const OTHER_MODEL = 0.5;
const LEAST = 0.2;

/**
 * Symptoms are "place:measure"; on another model only the measure and the kind of place can match, and count
 * half.
 */
export function similarCases(
  symptoms: readonly string[],
  model: string,
  cases: readonly Case[],
  most = 5,
): Similar[] {
  const generic = (s: string) =>
    s.replace(/\b(left|right|up|down|north|south|east|west|upper|lower|inner|outer)\b/g, "*");
  const overlap = (a: readonly string[], b: readonly string[]) => {
    const other = new Set(b);
    const common = [...new Set(a)].filter((x) => other.has(x)).length;
    return common / (new Set([...a, ...b]).size || 1);
  };
  return cases
    .map((c) => {
      const sameModel = c.model === model;
      const exact = sameModel ? overlap(symptoms, c.symptoms) : 0;
      const loose = OTHER_MODEL * overlap(symptoms.map(generic), c.symptoms.map(generic));
      return { ...c, sameModel, likeness: Math.max(exact, loose) };
    })
    .filter((c) => c.likeness >= LEAST)
    .sort((a, b) => b.likeness - a.likeness || a.tag.localeCompare(b.tag))
    .slice(0, most);
}
