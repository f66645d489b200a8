import { MOST_REMINDERS, reminderOf } from "./reminders";

const asked = { sentAt: "2026-12-01T08:00:00.000Z", expiresAt: "2026-12-11T08:00:00.000Z", isOpen: false };
const on = (day: number, hour = 8) => new Date(Date.UTC(2026, 11, day, hour));

test("due a day and a half after the question, or a day where the unit lies open for it", () => {
  expect(reminderOf({ ...asked, reminded: [] }, on(2, 19)).code).toBe("later");
  expect(reminderOf({ ...asked, reminded: [] }, on(2, 20)).code).toBe("due");
  expect(reminderOf({ ...asked, isOpen: true, reminded: [] }, on(2, 8)).code).toBe("due");
});

test("each reminder counts from the one before, and the last of them is the last", () => {
  const reminded = [on(3).toISOString()];
  expect(reminderOf({ ...asked, reminded }, on(4)).code).toBe("later");
  expect(reminderOf({ ...asked, reminded }, on(5)).code).toBe("due");
  const all = Array.from({ length: MOST_REMINDERS }, (_, i) => on(3 + i).toISOString());
  expect(reminderOf({ ...asked, reminded: all }, on(9))).toEqual({ code: "often", count: MOST_REMINDERS });
});

test("none is due any more where the question runs out first: that lapses by itself", () => {
  const reminded = [on(10).toISOString()];
  expect(reminderOf({ ...asked, reminded }, on(10, 9))).toEqual({ code: "lapses", at: asked.expiresAt });
});
