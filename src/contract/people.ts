import { idOf, z } from "@/core/base/schema";
import { line } from "./fields";
import { type Deeds, LEADS, ROLES, WORKERS } from "./roles";

/** What the deeds about people, their sessions and calendars take. */

export const passwordSchema = z.string().min(12).max(200);

export const PEOPLE_DEEDS = {
  "person.add": {
    roles: LEADS,
    input: z.strictObject({ name: line(60), role: z.enum(ROLES), password: passwordSchema }),
  },
  "person.change": {
    roles: LEADS,
    input: z.strictObject({ personId: idOf("person"), role: z.enum(ROLES), active: z.boolean() }),
  },
  "session.end": { roles: ROLES, input: z.strictObject({ sessionId: idOf("session") }) },
  "person.change-password": {
    roles: ROLES,
    input: z.strictObject({ current: z.string().max(200), next: passwordSchema }),
  },
  "feed.make": { roles: WORKERS, input: z.strictObject({ name: line(60) }) },
  "feed.revoke": { roles: WORKERS, input: z.strictObject({ feedId: idOf("feed") }) },
} as const satisfies Deeds;
