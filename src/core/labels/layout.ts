import type { Sign } from "../grade/sign";

/**
 * Labels in millimetres: a code to scan and two lines of words, one by one or on a sheet. Origin top left, y
 * down.
 */

export const LABEL_KINDS = ["unit", "tray", "part", "batch", "donor", "piece"] as const;
export type LabelKind = (typeof LABEL_KINDS)[number];

/** `sign`: the grade of a unit that was proven, drawn beside its words. */
export type Label = { code: string; title: string; line: string; sign?: Sign };
export type Size = { widthMm: number; heightMm: number };
export type Placed = { text: string; x: number; baseline: number; size: number; bold: boolean };
export type LabelLayout = {
  code: { x: number; y: number; side: number };
  texts: Placed[];
  sign: { x: number; y: number; r: number } | null;
};

/** Width of a text in millimetres at a size of 1 mm. */
export type Measure = (text: string, bold: boolean) => number;

const fitted = (width: number, room: number, most: number) => Math.min(most, width > 0 ? room / width : most);

/** Where everything sits on one label; words shrink until they fit beside the code. */
export function layoutLabel(label: Label, { widthMm: w, heightMm: h }: Size, measure: Measure): LabelLayout {
  const margin = Math.min(w, h) * 0.08;
  const side = Math.min(h - 2 * margin, w * 0.46);
  const left = margin * 2 + side;
  const r = label.sign ? Math.min(h * 0.13, (w - left - margin) * 0.16) : 0;
  const room = w - left - margin - (r > 0 ? 2 * r + margin : 0);
  const title = fitted(measure(label.title, true), room, h * 0.34);
  const line = fitted(measure(label.line, false), room, title * 0.5);
  return {
    code: { x: margin, y: (h - side) / 2, side },
    sign: r > 0 ? { x: w - margin - r, y: h / 2, r } : null,
    texts: [
      { text: label.title, x: left, baseline: h / 2 - title * 0.1, size: title, bold: true },
      { text: label.line, x: left, baseline: h / 2 + line * 1.35, size: line, bold: false },
    ],
  };
}

export const SHEET: Size = { widthMm: 210, heightMm: 297 };
const EDGE = 8;
const GAP = 2;

/** How many labels a sheet of A4 holds, and where each sits: page, then top left corner. */
export function layoutSheet(
  size: Size,
  count: number,
): { perPage: number; places: { page: number; x: number; y: number }[] } {
  const across = Math.max(1, Math.floor((SHEET.widthMm - 2 * EDGE + GAP) / (size.widthMm + GAP)));
  const down = Math.max(1, Math.floor((SHEET.heightMm - 2 * EDGE + GAP) / (size.heightMm + GAP)));
  const perPage = across * down;
  return {
    perPage,
    places: Array.from({ length: count }, (_, i) => {
      const k = i % perPage;
      return {
        page: Math.floor(i / perPage),
        x: EDGE + (k % across) * (size.widthMm + GAP),
        y: EDGE + Math.floor(k / across) * (size.heightMm + GAP),
      };
    }),
  };
}
