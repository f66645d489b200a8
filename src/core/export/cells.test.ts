import fc from "fast-check";

import { fieldType, isArchivePath, readCell, writeCell } from "./cells";

test("what is written is read back, whatever it is", () => {
  fc.assert(fc.property(fc.option(fc.string(), { nil: null }), (t) => readCell(writeCell(t)) === t));
  for (const t of [null, "", "\\N", "\\\\N", "N", "=1+2", "'=1", "\\"])
    expect(readCell(writeCell(t))).toBe(t);
});

test("the archive changes no text, also not one that looks like a formula", () =>
  expect(writeCell("=1+2")).toBe("=1+2"));

test.each([
  ["datapackage.json", true],
  ["tables/unit.csv", true],
  ["recordings/0b7f1c6e-8e0e-4ad2-9a53-1f1f0a3c9d10.csv", true],
  ["photographs/0b7f1c6e-8e0e-4ad2-9a53-1f1f0a3c9d10-small.jpg", true],
  ["../tables/unit.csv", false],
  ["tables/../../etc/passwd", false],
  ["/tables/unit.csv", false],
  ["tables\\unit.csv", false],
  ["tables/unit.csv/", false],
  ["recordings/x.csv", false],
  ["notes.txt", false],
])("%j is a path of an archive: %s", (path, is) => expect(isArchivePath(path)).toBe(is));

test("column types in the words of a table schema", () =>
  expect(["uuid", "int8", "float8", "bool", "date", "timestamptz", "jsonb", "_text"].map(fieldType)).toEqual([
    "string",
    "integer",
    "number",
    "boolean",
    "date",
    "datetime",
    "any",
    "any",
  ]));
