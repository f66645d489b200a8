import { costOf, lessMissing, marketWithout, missingPieces, piecesOf } from "./missing";

const PROFILE = {
  accessories: [
    { id: "door", name: "cell door", costMinor: 250 },
    { id: "cord", name: "cord", costMinor: 400 },
  ],
};
const MARKET = { newMinor: 6000, aMinor: 4400, bMinor: 3700, cMinor: 500, asFoundMinor: 900 };

test("what did not come is missing, and costs what it costs to replace", () => {
  expect(missingPieces(PROFILE, ["door"]).map((p) => p.name)).toEqual(["cord"]);
  expect(costOf(missingPieces(PROFILE, []))).toBe(650);
  expect(piecesOf(PROFILE, ["cord", "no such piece"]).map((p) => p.id)).toEqual(["cord"]);
});

test("each price falls by it and never below nothing; a new one costs the same", () => {
  expect(lessMissing(MARKET, 650)).toEqual({
    newMinor: 6000,
    aMinor: 3750,
    bMinor: 3050,
    cMinor: 0,
    asFoundMinor: 250,
  });
});

test("a whole unit goes for the whole price, and nothing is said to be missing", () => {
  expect(marketWithout(MARKET, [])).toEqual({ market: MARKET });
  expect(marketWithout(MARKET, piecesOf(PROFILE, ["cord"])).missing).toEqual({ names: ["cord"], minor: 400 });
});
