import { found } from "@/core/base/finding";
import { z } from "@/core/base/schema";

/** Fields that many forms have, with the limits that the database and good sense set. */

const INT4 = 2_147_483_647; // the database's whole numbers
const FIRST_YEAR = 2000;
const LAST_YEAR = 2100;

/** The version of what was changed: which state the person saw. */
export const version = z.int().min(1).max(INT4);
/** The same where nothing may have been saved yet. */
export const versionOrNone = z.int().min(0).max(INT4);
/** Words that must not be missing, and words that may; both without the blanks around them. */
export const line = (max: number) => z.string().trim().min(1).max(max);
export const text = (max: number) => z.string().trim().max(max);
/** What a profile, a guide or the catalogue calls a thing. */
export const slug = z.string().min(1).max(60);
export const part = z.string().trim().min(1).max(24);
export const minor = z.int().min(0).max(100_000_000);

const yearIn = (text: string) =>
  Number(text.slice(0, 4)) >= FIRST_YEAR && Number(text.slice(0, 4)) <= LAST_YEAR;
const YEARS = found({ rule: "years", from: FIRST_YEAR, to: LAST_YEAR });
export const day = z.iso.date().refine(yearIn, YEARS);
export const moment = z.iso.datetime().refine(yearIn, YEARS);
