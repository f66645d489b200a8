import type { z } from "@/core/base/schema";

/** Who may do what. */

export const ROLES = ["technician", "lead", "viewer"] as const;
export type Role = (typeof ROLES)[number];
export const WORKERS = ["technician", "lead"] as const satisfies readonly Role[];
export const LEADS = ["lead"] as const satisfies readonly Role[];

/** The deeds of one feature by name: who may, and what each takes. */
export type Deeds = Record<string, { roles: readonly Role[]; input: z.ZodType }>;
