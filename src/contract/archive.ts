/**
 * How far an archive is: written, read into a scratch workshop, and what that would write compared; entries
 * done of all.
 */
export type ArchiveStep = { part: "write" | "read" | "compare"; done: number; of: number };
