/** When a customer who has not answered is reminded, and when that is over. */

const HOUR_MS = 3600_000;
/** Hours after the question or the last reminder. While the unit lies open a reply saves a second strip-down. */
const AFTER_HOURS = { open: 24, closed: 36 };
/** More than that is no reminder any more: then they are rung up, or the question runs out. */
export const MOST_REMINDERS = 3;

export type Reminder =
  /** due from then on */
  | { code: "due" | "later"; at: string }
  | { code: "often"; count: number }
  /** it runs out before the next one would be due */
  | { code: "lapses"; at: string };

export function reminderOf(
  q: { sentAt: string; reminded: readonly string[]; expiresAt: string; isOpen: boolean },
  now: Date,
): Reminder {
  if (q.reminded.length >= MOST_REMINDERS) return { code: "often", count: q.reminded.length };
  const last = q.reminded.at(-1) ?? q.sentAt;
  const at = new Date(Date.parse(last) + AFTER_HOURS[q.isOpen ? "open" : "closed"] * HOUR_MS).toISOString();
  if (at >= q.expiresAt) return { code: "lapses", at: q.expiresAt };
  return { code: now.toISOString() >= at ? "due" : "later", at };
}
