import fc from "fast-check";

import { isRefTo, REF_KINDS, refOf, refTo } from "./ref";

test("what is put together comes apart as it was, whatever stands in the id", () =>
  fc.assert(
    fc.property(fc.constantFrom(...REF_KINDS), fc.string(), (kind, id) => {
      expect(refOf(refTo(kind, id))).toEqual({ kind, id });
      for (const other of REF_KINDS) expect(isRefTo(other, refTo(kind, id))).toBe(other === kind);
    }),
  ));

test.each(["", "r.rail", ":x", "screw:r.rail", "fastener"])("%j is none", (text) =>
  expect(refOf(text)).toBeNull(),
);
