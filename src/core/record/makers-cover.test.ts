import { holdsTheShell, isUnderCover, type MakersCover } from "./makers-cover";

const cover = (change: Partial<MakersCover> = {}): MakersCover => ({
  makersCover: "runs",
  coverUntil: "2027-03-01",
  coverGiven: "",
  ...change,
});

test("it runs through its last day, and as it was told where that is not known", () => {
  expect(isUnderCover(cover(), "2027-03-01")).toBe(true);
  expect(isUnderCover(cover(), "2027-03-02")).toBe(false);
  expect(isUnderCover(cover({ coverUntil: null }), "2040-01-01")).toBe(true);
  expect(isUnderCover(cover({ makersCover: "over" }), "2020-01-01")).toBe(false);
  expect(isUnderCover(cover({ makersCover: "not-asked" }), "2020-01-01")).toBe(false);
});

test("it holds the shell until somebody lets it go", () => {
  expect(holdsTheShell(cover(), "2027-01-01")).toBe(true);
  expect(holdsTheShell(cover({ coverGiven: "  " }), "2027-01-01")).toBe(true);
  expect(holdsTheShell(cover({ coverGiven: "Una Fell" }), "2027-01-01")).toBe(false);
  expect(holdsTheShell(cover(), "2027-04-01")).toBe(false);
});
