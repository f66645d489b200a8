/**
 * The state code: one disc whose fill tells the state, the same on a screen, in a chart, on a label and on paper. Told
 * apart by shape alone, so that it needs no colour. A check that passes is full, one that is in doubt half; only a
 * grade has a letter.
 */
export const SIGNS = ["A", "B", "C", "pass", "caution", "fail", "untested", "not-fitted"] as const;
export type Sign = (typeof SIGNS)[number];

/** Smaller than the first, across, nobody reads it; from the second on a letter has room. In pixels or a printer's dots. */
export const LEAST_SIGN = 12;
export const LETTER_FROM = 16;

/** How much of the disc is filled, from below. */
const FILLED: Partial<Record<Sign, number>> = { A: 1, pass: 1, B: 0.75, C: 0.5, caution: 0.5 };

/** A path to be filled, or drawn as a line of this width; in the tone of the sign, or of what it lies on. */
export type Stroke = { d: string; line: number | null; tone: "sign" | "ground" };

const short = (v: number): number => Math.round(v * 1000) / 1000;
const ring = (x: number, y: number, r: number): string =>
  `M${short(x - r)} ${short(y)}a${short(r)} ${short(r)} 0 1 1 ${short(2 * r)} 0a${short(r)} ${short(r)} 0 1 1 ${short(-2 * r)} 0Z`;

/** The part of the disc below a share of its height. */
function levelPath(x: number, y: number, r: number, share: number): string {
  const level = r * (1 - 2 * share);
  const half = Math.sqrt(r * r - level * level);
  return `M${short(x - half)} ${short(y + level)}A${short(r)} ${short(r)} 0 ${share > 0.5 ? 1 : 0} 0 ${short(x + half)} ${short(y + level)}Z`;
}

const DOTS = 8;

/** The sign centred at (x, y) with radius r, in the units of whoever draws it; its letter where there is room for one. */
export const signPaths = (sign: Sign, x: number, y: number, r: number, letter: boolean): Stroke[] => [
  ...discPaths(sign, x, y, r).map((p) => ({ ...p, tone: "sign" as const })),
  ...(letter ? letterPaths(sign, x, y, r) : []),
];

function discPaths(sign: Sign, x: number, y: number, r: number): Omit<Stroke, "tone">[] {
  const share = FILLED[sign];
  if (share === 1) return [{ d: ring(x, y, r), line: null }];
  if (share !== undefined)
    return [
      { d: levelPath(x, y, r * 0.95, share), line: null },
      { d: ring(x, y, r * 0.93), line: r * 0.14 },
    ];
  if (sign === "fail") {
    const at = r * 0.52;
    return [
      { d: ring(x, y, r * 0.82), line: r * 0.36 },
      { d: `M${short(x - at)} ${short(y + at)}L${short(x + at)} ${short(y - at)}`, line: r * 0.36 },
    ];
  }
  if (sign === "untested")
    return Array.from({ length: DOTS }, (_, i) => {
      const a = (2 * Math.PI * (i + 0.5)) / DOTS;
      return { d: ring(x + r * 0.8 * Math.cos(a), y + r * 0.8 * Math.sin(a), r * 0.2), line: null };
    });
  return [
    {
      d: `M${short(x - r * 0.8)} ${short(y - r * 0.2)}h${short(r * 1.6)}v${short(r * 0.4)}h${short(-r * 1.6)}Z`,
      line: null,
    },
  ];
}

const LETTER_LINE = 0.21;
/** The letters as lines about a middle of 0, 0 in a disc of 1: "C" crosses the level of its fill, so it is in two tones. */
const LETTERS: Partial<
  Record<Sign, readonly { points: readonly (string | number)[]; tone: Stroke["tone"] }[]>
> = {
  A: [
    { points: ["M", -0.4, 0.46, "L", 0, -0.46, "L", 0.4, 0.46], tone: "ground" },
    { points: ["M", -0.25, 0.17, "L", 0.25, 0.17], tone: "ground" },
  ],
  B: [
    { points: ["M", 0, 0.54, "L", -0.26, 0.54, "L", -0.26, -0.26, "L", 0, -0.26], tone: "ground" },
    { points: ["M", 0, -0.26, "A", 0.19, "", 0, 0.12, "L", -0.26, 0.12], tone: "ground" },
    { points: ["M", 0.03, 0.12, "A", 0.21, "", 0, 0.54], tone: "ground" },
  ],
  C: [
    { points: ["M", 0.29, -0.34, "A", 0.44, "back", -0.44, 0], tone: "sign" },
    { points: ["M", -0.44, 0, "A", 0.44, "back", 0.29, 0.34], tone: "ground" },
  ],
};

/** A word of the path's language with its lengths grown to r and its points moved to (x, y). */
function letterPaths(sign: Sign, x: number, y: number, r: number): Stroke[] {
  return (LETTERS[sign] ?? []).map(({ points, tone }) => {
    const at = (i: number) =>
      `${short(x + r * (points[i] as number))} ${short(y + r * (points[i + 1] as number))}`;
    let d = "";
    for (let i = 0; i < points.length;) {
      const word = points[i] as string;
      if (word === "A") {
        const radius = short(r * (points[i + 1] as number));
        d += `A${radius} ${radius} 0 0 ${points[i + 2] === "back" ? 0 : 1} ${at(i + 3)}`;
        i += 5;
      } else {
        d += `${word}${at(i + 1)}`;
        i += 3;
      }
    }
    return { d, line: r * LETTER_LINE, tone };
  });
}
