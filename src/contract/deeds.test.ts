import { DEEDS } from "./deeds";
import { PUBLIC_ROUTES } from "./public";

/** The boundary of everything that changes something: who may, and that nothing unknown slips through. */

const names = Object.keys(DEEDS) as (keyof typeof DEEDS)[];

/** A viewer sees all and changes nothing but what is his own. */
const OWN = ["person.change-password", "session.end"];

test.each(names)("%s names who may do it, and a viewer may only what is his own", (name) => {
  const roles: readonly string[] = DEEDS[name].roles;
  expect(roles.length).toBeGreaterThan(0);
  expect(roles.includes("viewer")).toBe(OWN.includes(name));
  expect(roles).toContain("lead");
});

test.each(names)("%s refuses what it does not know, and what is no object", (name) => {
  const { input } = DEEDS[name];
  for (const bad of [null, "all", 7, []]) expect(input.safeParse(bad).success).toBe(false);
  const unknown = input.safeParse({ thisIsNotAField: true });
  expect(unknown.success).toBe(false);
  expect(unknown.error!.issues.map((i) => i.code)).toContain("unrecognized_keys");
});

test("a name is a thing and what is done to it", () => {
  for (const name of names) expect(name).toMatch(/^[a-z]+(-[a-z]+)*\.[a-z]+(-[a-z]+)*$/);
});

describe("a release", () => {
  const { input } = DEEDS["unit.release"];
  const id = "6f9619ff-8b86-4d01-b42d-00cf4fc964ff";
  const least = {
    unitId: id,
    version: 1,
    priceMinor: null,
    warrantyDays: 90,
    known: "",
    limit: "",
    reason: "",
  };
  test("needs no days for parts: the house's are taken", () =>
    expect(input.parse(least).partDays).toEqual({}));
  test.each([
    ["a warranty of minus a day", { warrantyDays: -1 }],
    ["half a day", { warrantyDays: 1.5 }],
    ["a part's of eleven years", { partDays: { [id]: 4000 } }],
    ["a part that is no part", { partDays: { left: 30 } }],
    ["money with cents of cents", { priceMinor: 12.5 }],
    ["a unit that is no unit", { unitId: "B-0113" }],
  ])("refuses %s", (_, change) => expect(input.safeParse({ ...least, ...change }).success).toBe(false));
});

test("what answers without signing in is a short list, and nothing on it changes the workshop", () => {
  expect(PUBLIC_ROUTES.length).toBeLessThan(20);
  expect(JSON.stringify(PUBLIC_ROUTES)).not.toContain("/api/do");
});
