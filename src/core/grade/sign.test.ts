import sharp from "sharp";

import { LEAST_SIGN, LETTER_FROM, type Sign, SIGNS, signPaths } from "./sign";

/** The state code as an eye sees it: drawn to dots in one ink by another program, and compared there. */

const R = 10;
/** Darkness from 0 to 1 of each dot of a sign that is so many dots across. */
async function dots(sign: Sign, side: number, letter: boolean): Promise<number[]> {
  const paths = signPaths(sign, 0, 0, R * 0.98, letter).map(({ d, line, tone }) => {
    const ink = tone === "sign" ? "#000" : "#fff";
    return line === null
      ? `<path d="${d}" fill="${ink}"/>`
      : `<path d="${d}" fill="none" stroke="${ink}" stroke-width="${line}"/>`;
  });
  const svg = `<svg xmlns="http://www.w3.org/2000/svg" width="${side}" height="${side}" viewBox="-${R} -${R} ${2 * R} ${2 * R}"><rect x="-${R}" y="-${R}" width="${2 * R}" height="${2 * R}" fill="#fff"/>${paths.join("")}</svg>`;
  const raw = await sharp(Buffer.from(svg)).greyscale().raw().toBuffer();
  return [...raw].map((v) => 1 - v / 255);
}
const apart = (a: readonly number[], b: readonly number[]) =>
  a.reduce((s, v, i) => s + Math.abs(v - b[i]!), 0) / a.length;

const SHAPES: Sign[] = ["A", "B", "C", "fail", "untested", "not-fitted"];

test("at its smallest and in one ink, every state is another picture", async () => {
  const drawn = await Promise.all(SHAPES.map((s) => dots(s, LEAST_SIGN, false)));
  for (const [i, a] of drawn.entries())
    for (const [j, b] of drawn.entries())
      if (i < j) expect([SHAPES[i], SHAPES[j], apart(a, b) > 0.09]).toEqual([SHAPES[i], SHAPES[j], true]);
});

test("the fill tells the grade: full, three quarters, half, of the height of the disc", async () => {
  const side = 200;
  const filledTo = async (sign: Sign) => {
    const ink = await dots(sign, side, false);
    // up the middle, from below: what is dark without a gap
    const column = Array.from({ length: side }, (_, k) => ink[(side - 1 - k) * side + side / 2]!);
    const first = column.findIndex((v) => v > 0.5);
    const end = column.findIndex((v, k) => k > first && v < 0.5);
    return ((end < 0 ? side : end) - first) / (side * 0.98);
  };
  expect(await filledTo("A")).toBeCloseTo(1, 1);
  expect(await filledTo("pass")).toBeCloseTo(1, 1);
  expect(await filledTo("B")).toBeCloseTo(0.75, 1);
  expect(await filledTo("C")).toBeCloseTo(0.5, 1);
  expect(await filledTo("caution")).toBeCloseTo(0.5, 1);
});

test("what was not tested is mostly empty, and never near to a pass", async () => {
  const mean = (v: readonly number[]) => v.reduce((s, x) => s + x, 0) / v.length;
  const [pass, untested, absent] = await Promise.all(
    (["pass", "untested", "not-fitted"] as const).map((s) => dots(s, LEAST_SIGN, false)),
  );
  expect(mean(untested!)).toBeLessThan(mean(pass!) / 2);
  expect(mean(absent!)).toBeLessThan(mean(pass!) / 2);
  expect(apart(pass!, untested!)).toBeGreaterThan(0.4);
});

test("with room for it a grade shows its letter, which stands out on its ground; a check has none", async () => {
  for (const sign of SIGNS) {
    const [bare, lettered] = [await dots(sign, LETTER_FROM, false), await dots(sign, LETTER_FROM, true)];
    const isGrade = sign === "A" || sign === "B" || sign === "C";
    expect([sign, apart(bare, lettered) > 0.05]).toEqual([sign, isGrade]);
  }
  const letters = await Promise.all((["A", "B", "C"] as const).map((s) => dots(s, LETTER_FROM, true)));
  const pass = await dots("pass", LETTER_FROM, true);
  for (const l of letters) expect(apart(l, pass)).toBeGreaterThan(0.05);
});
