import { openedByOthers, sealState } from "./seal";

test("a seal is whole when its number is the one that was put on, however it is written", () => {
  expect(sealState("RC-0471", "rc 0471", false)).toBe("whole");
  expect(sealState("RC-0471", "RC-0417", false)).toBe("other");
  expect(sealState("RC-0471", "RC-0471", true)).toBe("broken");
});

test("without a seal there is nothing to read, and a seal that nobody read is not whole", () => {
  expect(sealState("", "RC-0471", false)).toBeNull();
  expect(sealState("RC-0471", " - ", false)).toBeNull();
});

test("only a broken or strange seal speaks of other hands", () => {
  expect([null, "whole", "broken", "other"].map((s) => openedByOthers(s as never))).toEqual([
    false,
    false,
    true,
    true,
  ]);
});
