import { readHistory } from "./history";

test.each([
  ["Fell down the stairs, dead since", ["fall"]],
  ["never dropped, one owner", []],
  ["spilled coffee on it, then suddenly nothing", ["liquid", "sudden"]],
  ["the dog chewed the left stick", ["teeth"]],
  ["was repaired once, got worse over time", ["repaired", "slow"]],
  ["rests to the left since new", ["first-day"]],
  ["no liquid, not opened", []],
  ["works", []],
])("%s", (words, expected) => {
  expect(readHistory(words)).toEqual(expected);
});
