/** A place on a drawing, short enough for its markup: to a thousandth of the drawing's own lengths. */
export const coordinate = (v: number): number => Math.round(v * 1000) / 1000;
