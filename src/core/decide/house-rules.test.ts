import { HOUSE_TOOLS } from "../mend/tools";
import { lackingTools, ruledOut } from "./house-rules";
import { HOUSE_ROUTES, type Route } from "./routes";

const route = (id: string): Route => HOUSE_ROUTES.find((r) => r.id === id)!;
const asked = { forSale: true, faulty: [], causes: [] };
const because = (kind: string, probability: number) =>
  [{ parts: [{ node: "x", kind, name: "x" }], elsewhere: false, probability }] as never;

test("copies stay out of what is sold where the shop says so, and only there", () => {
  const house = { copiesForSale: false, sensorOnlyOnSound: false };
  expect(ruledOut(route("module-dear"), "stick.left", { ...asked, house })).toBe("house-copy");
  expect(ruledOut(route("module-original"), "stick.left", { ...asked, house })).toBeNull();
  expect(ruledOut(route("clean-contacts"), "stick.left", { ...asked, house })).toBeNull();
  expect(ruledOut(route("module-dear"), "stick.left", { ...asked, house, forSale: false })).toBeNull();
  expect(ruledOut(route("module-dear"), "stick.left", asked)).toBeNull();
});

test("new sensors only where click and spring are sound", () => {
  const house = { copiesForSale: true, sensorOnlyOnSound: true };
  const at = (change: object) =>
    ruledOut(route("sensors-dear"), "stick.left", { ...asked, house, ...change });
  expect(at({})).toBeNull();
  expect(at({ faulty: ["stick.left.click"] })).toBe("house-sensor");
  expect(at({ faulty: ["stick.right.click"] })).toBeNull();
  expect(at({ causes: because("spring", 0.4) })).toBe("house-sensor");
  expect(at({ causes: because("spring", 0.1) })).toBeNull();
  expect(at({ causes: because("track", 0.9) })).toBeNull();
  // the whole stick is another matter
  expect(
    ruledOut(route("module-dear"), "stick.left", { ...asked, house, faulty: ["stick.left.click"] }),
  ).toBeNull();
});

test("a tool is lacking when it is neither owned nor stood in for; what is used up is no tool", () => {
  expect(lackingTools(HOUSE_ROUTES, new Set(HOUSE_TOOLS))).toEqual([]);
  const without = new Set(HOUSE_TOOLS.filter((t) => !t.startsWith("iron-")));
  const lacking = lackingTools(HOUSE_ROUTES, without);
  expect(lacking).toEqual(["fine iron"]);
  expect(ruledOut(route("module-dear"), "stick.left", { ...asked, lacking })).toBe("tools");
  expect(ruledOut(route("clean-contacts"), "stick.left", { ...asked, lacking })).toBeNull();
});
