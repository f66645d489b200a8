import { readFileSync } from "node:fs";
import { join } from "node:path";

import { readCatalogue } from "./catalogue";
import { kitOffered } from "./kit";

const read = readCatalogue(readFileSync(join(__dirname, "../../../catalogue/house.json"), "utf8"));
if (!read.ok) throw new Error(read.problem.message);
const house = read.value;

test("a kit pays for who has none of its tools, and not for who has them", () => {
  // two modules at 1.68 of a pack of 20, a driver at 2.40, a blade at 0.90 and ten swabs at 0.02
  const offers = house.offers.map((o) =>
    o.part === "KIT-STICK" ? { ...o, breaks: [{ packs: 1, priceMinor: 600 }] } : o,
  );
  const none = kitOffered({ ...house, offers }, "KIT-STICK", new Set())!;
  expect([none.priceMinor, none.each, none.saves]).toEqual([600, 686, 86]);
  const all = kitOffered({ ...house, offers }, "KIT-STICK", new Set(["DRIVER-TRI", "PRY"]))!;
  expect([all.each, all.saves]).toEqual([356, -244]);
  expect(all.lines.filter((l) => l.owned).map((l) => l.part)).toEqual(["DRIVER-TRI", "PRY"]);
});

test("pieces that are used up are wanted again however many lie there", () => {
  const { lines } = kitOffered(house, "KIT-STICK", new Set(["SWABS", "SM-DUN-C"]))!;
  expect(lines.some((l) => l.owned)).toBe(false);
});

test("what nobody sells singly is named, and no comparison is made up", () => {
  const without = { ...house, offers: house.offers.filter((o) => o.part !== "DRIVER-TRI") };
  expect(kitOffered(without, "KIT-STICK", new Set())).toMatchObject({
    onlyHere: ["Three-lobed driver"],
    each: null,
    saves: null,
  });
});

test("a part is no kit, and a kit that nobody sells has no price to compare", () => {
  expect(kitOffered(house, "PRY", new Set())).toBeNull();
  const gone = { ...house, offers: house.offers.filter((o) => o.part !== "KIT-STICK") };
  expect(kitOffered(gone, "KIT-STICK", new Set())).toBeNull();
});
