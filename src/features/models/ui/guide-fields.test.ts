import { guideSchema } from "@/core/profile/guide";
import { EMPTY_GUIDE, FIELDS, FRESH, LISTS, valueAt, withValue } from "./guide-fields";

test("an empty guide and a fresh row of every list are valid, so that adding one never breaks the page", () => {
  expect(guideSchema.safeParse(EMPTY_GUIDE).success).toBe(true);
  for (const list of LISTS) {
    const row = FRESH[list](`new.${list}`);
    const step = FRESH.steps("open");
    const frees = list === "steps" || list === "surfaces" || list === "solder" ? {} : { [list]: [row.id] };
    const guide = {
      ...EMPTY_GUIDE,
      [list]: list === "steps" ? [step, row] : [row],
      ...(list === "steps" ? {} : { steps: [{ ...step, frees: { ...step.frees, ...frees } }] }),
    };
    expect([list, guideSchema.safeParse(guide).error?.issues ?? []]).toEqual([list, []]);
  }
});

test("every field of a fresh row can be read, and a value that is set is the one that is read", () => {
  for (const list of LISTS) {
    const row = FRESH[list]("new.1") as unknown as Record<string, unknown>;
    for (const f of FIELDS[list]) {
      if (!f.optional)
        expect([list, f.path, valueAt(row, f.path) === undefined]).toEqual([list, f.path, false]);
      expect(valueAt(withValue(row, f.path, "set"), f.path)).toBe("set");
    }
  }
});

test("an optional value that is emptied is left out, and the row that was is not touched", () => {
  const row = { id: "a", under: "label", at: { x: 1, y: 2 } };
  expect(withValue(row, "under", undefined)).toEqual({ id: "a", at: { x: 1, y: 2 } });
  expect(withValue(row, "at.x", 5)).toEqual({ id: "a", under: "label", at: { x: 5, y: 2 } });
  expect(row).toEqual({ id: "a", under: "label", at: { x: 1, y: 2 } });
});
