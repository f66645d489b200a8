import "server-only";

import type { Knex } from "knex";

import { one } from "@/core/base/one";

/** What the form for a new unit shows. */

const TAG_PREFIX = "B-";
export const tagText = (n: number): string => TAG_PREFIX + String(n).padStart(4, "0");

/** The tag that the next unit will get if nobody is faster. */
export async function nextTag(db: Knex): Promise<string> {
  const row = one(await db("counter").where({ key: "unit-tag" }).first("last"));
  return tagText(row.last + 1);
}

export const lotsToChoose = (db: Knex) => db("lot").orderBy("code", "desc").select("id", "code", "seller");
export const customersToChoose = (db: Knex) => db("customer").orderBy("name").select("id", "name");
