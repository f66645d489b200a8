import type { Id } from "./ids";
import { idOf } from "./schema";

const unit: Id<"unit"> = "6f9619ff-8b86-4d01-b42d-00cf4fc964ff";
const ofUnit = (id: Id<"unit">): string => id;

test("an id of one table does not compile where another's is wanted; a text from outside does", () => {
  const fault: Id<"fault"> = "7a0619ff-8b86-4d01-b42d-00cf4fc964ff";
  // @ts-expect-error -- a fault is no unit
  expect(ofUnit(fault)).toBe(fault);
  expect(ofUnit(unit)).toBe(unit);
  expect(ofUnit("7")).toBe("7");
});

test("what comes from outside has to be one", () => {
  const schema = idOf("unit");
  expect(schema.parse(unit)).toBe(unit);
  for (const bad of ["", "B-0113", `${unit}x`, 7, null]) expect(schema.safeParse(bad).success).toBe(false);
});
