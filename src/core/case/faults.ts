import { MEASURES } from "../grade/measures";

/**
 * Faults are causes with their symptoms under them: what is measured at a place where a fault is open is a symptom of
 * it, and the worst measure speaks for it.
 */

export type Symptom = { place: string; measure: string | null };
export type OpenFault = Symptom & { id: string; symptoms: readonly Symptom[] };

/** What a hand named speaks first: it is a cause. Then measures by what they say of the part, then readings. */
const gravity = ({ measure }: Symptom): number => {
  if (measure === null) return -1;
  const at = (MEASURES as readonly string[]).indexOf(measure);
  return at < 0 ? MEASURES.length : at;
};

/** Whether a symptom says worse of the part than another. */
export const isWorse = (a: Symptom, b: Symptom): boolean => gravity(a) < gravity(b);

const same = (a: Symptom, b: Symptom): boolean => a.place === b.place && a.measure === b.measure;
export const isNamedIn = (fault: { symptoms: readonly Symptom[] } & Symptom, s: Symptom): boolean =>
  s.measure !== null && [fault, ...fault.symptoms].some((x) => same(x, s));

/**
 * Where a symptom belongs: "named" already, the fault that it goes under, or null for a fault of its own. What was
 * measured joins the oldest open fault at its place; what a hand named is its own unless somebody says otherwise.
 * @param faults the open faults of the unit, oldest first
 */
export function belongsTo(
  s: Symptom,
  faults: readonly OpenFault[],
  under: string | undefined,
): OpenFault | "named" | "unknown" | null {
  if (faults.some((f) => isNamedIn(f, s))) return "named";
  if (under === "own") return null;
  if (under !== undefined) return faults.find((f) => f.id === under) ?? "unknown";
  if (s.measure === null) return null;
  return faults.find((f) => [f, ...f.symptoms].some((x) => x.place === s.place)) ?? null;
}
