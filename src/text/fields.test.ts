import { DEEDS } from "@/contract/deeds";
import { z } from "@/core/base/schema";

import { fieldWords } from "./fields";

test("a field is told by its word, whatever group it stands in", () => {
  expect(fieldWords("minutes")).toBe("Minutes");
  expect(fieldWords("provisional.reviewOn")).toBe("Day to look again");
  expect(fieldWords("origin.priceMinor")).toBe("Price");
  expect(fieldWords("settings.timeZone")).toBe("Time zone");
  expect(fieldWords("")).toBe("");
});

test("one of a list is told by its line, counted from one", () => {
  expect(fieldWords("lines.1.costMinor")).toBe("Lines 2, cost");
  expect(fieldWords("chips.0")).toBe("Chips 1");
  expect(fieldWords("catalogue.parts.3.contents.0.count")).toBe("Contents 1, count");
});

/** Every field of every deed, by its path. */
function fieldsOf(schema: unknown, path: string, out: Set<string>): void {
  if (typeof schema !== "object" || schema === null) return;
  const s = schema as {
    properties?: Record<string, unknown>;
    items?: unknown;
    anyOf?: unknown[];
    oneOf?: unknown[];
  };
  for (const [key, inner] of Object.entries(s.properties ?? {})) {
    const own = path ? `${path}.${key}` : key;
    out.add(own);
    fieldsOf(inner, own, out);
  }
  if (s.items) fieldsOf(s.items, `${path}.0`, out);
  for (const inner of [...(s.anyOf ?? []), ...(s.oneOf ?? [])]) fieldsOf(inner, path, out);
}

test("no field of any deed is told by a name of the code", () => {
  const fields = new Set<string>();
  for (const { input } of Object.values(DEEDS))
    fieldsOf(z.toJSONSchema(input, { io: "input", unrepresentable: "any" }), "", fields);
  expect(fields.size).toBeGreaterThan(150);
  const told = [...fields].map((f) => [f, fieldWords(f)] as const);
  expect(told.filter(([, words]) => !/^[A-Z][a-z0-9 ,-]*$/.test(words))).toEqual([]);
  // "id" by itself stands in files that people write
  expect(told.filter(([f, words]) => !/\bid$/.test(f) && /\b(minor|ms|mm|id)\b/i.test(words))).toEqual([]);
});
