import fc from "fast-check";

import { layoutLabel, layoutSheet, SHEET } from "./layout";

const measure = (text: string) => text.length * 0.55;

test("nothing sticks out of a label of any allowed size, and the words stand beside the code", () =>
  fc.assert(
    fc.property(
      fc.double({ min: 15, max: 120, noNaN: true }),
      fc.double({ min: 10, max: 120, noNaN: true }),
      fc.string({ minLength: 1, maxLength: 40 }),
      (widthMm, heightMm, line) => {
        const l = layoutLabel({ code: "B-0101", title: "B-0101", line }, { widthMm, heightMm }, measure);
        const inside = l.code.x >= 0 && l.code.y >= 0 && l.code.y + l.code.side <= heightMm + 1e-9;
        return (
          inside &&
          l.texts.every(
            (t) =>
              t.x >= l.code.x + l.code.side &&
              t.x + measure(t.text) * t.size <= widthMm + 1e-9 &&
              t.baseline <= heightMm &&
              t.baseline - t.size >= -1e-9,
          )
        );
      },
    ),
  ));

test("a grade's sign stands within the label, beside the words and never over them", () =>
  fc.assert(
    fc.property(
      fc.double({ min: 15, max: 120, noNaN: true }),
      fc.double({ min: 10, max: 120, noNaN: true }),
      fc.string({ minLength: 1, maxLength: 40 }),
      (widthMm, heightMm, line) => {
        const label = { code: "B-0101", title: "B-0101", line, sign: "B" as const };
        const { sign, texts } = layoutLabel(label, { widthMm, heightMm }, measure);
        return (
          sign!.x + sign!.r <= widthMm &&
          sign!.y + sign!.r <= heightMm &&
          texts.every((t) => t.x + measure(t.text) * t.size <= sign!.x - sign!.r + 1e-9)
        );
      },
    ),
  ));

test("a sheet holds as many as fit, without overlap, and goes on on the next page", () => {
  const { perPage, places } = layoutSheet({ widthMm: 50, heightMm: 25 }, 40);
  expect(perPage).toBe(30); // three across, ten down
  expect(places[30]).toEqual({ page: 1, x: 8, y: 8 });
  for (const p of places) {
    expect(p.x + 50).toBeLessThanOrEqual(SHEET.widthMm);
    expect(p.y + 25).toBeLessThanOrEqual(SHEET.heightMm);
    const over = places.filter(
      (q) => q.page === p.page && Math.abs(q.x - p.x) < 50 && Math.abs(q.y - p.y) < 25,
    );
    expect(over).toHaveLength(1);
  }
});
