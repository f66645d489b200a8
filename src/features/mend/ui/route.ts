/**
 * A route of the catalogue as the form needs it: for which places of this unit, and what its part costs here.
 */
export type MendRoute = { id: string; name: string; places: string[]; part: string; partMinor: number };
