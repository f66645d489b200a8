export type Place = readonly [x: number, y: number];
/** x' = a x - b y + e, y' = b x + a y + f: turned, scaled and moved, never mirrored or bent. */
export type Similarity = { a: number; b: number; e: number; f: number };

/**
 * The similarity that takes two places to two others, such as two controls on a photograph to the same on a drawing; null
 * where the first two are one place. As complex numbers: z' = m z + n with m = (q2 - q1) / (p2 - p1).
 * @example similarity([[0, 0], [1, 0]], [[5, 5], [5, 7]]) // { a: 0, b: 2, e: 5, f: 5 }
 */
export function similarity(
  [p1, p2]: readonly [Place, Place],
  [q1, q2]: readonly [Place, Place],
): Similarity | null {
  const [px, py] = [p2[0] - p1[0], p2[1] - p1[1]];
  const [qx, qy] = [q2[0] - q1[0], q2[1] - q1[1]];
  const size = px * px + py * py;
  if (size === 0) return null;
  const a = (qx * px + qy * py) / size;
  const b = (qy * px - qx * py) / size;
  return { a, b, e: q1[0] - a * p1[0] + b * p1[1], f: q1[1] - b * p1[0] - a * p1[1] };
}

export const moved = ({ a, b, e, f }: Similarity, [x, y]: Place): Place => [
  a * x - b * y + e,
  b * x + a * y + f,
];

/** The way back; null where everything was taken to one place. */
export function inverse({ a, b, e, f }: Similarity): Similarity | null {
  const size = a * a + b * b;
  if (size === 0) return null;
  const [ia, ib] = [a / size, -b / size];
  return { a: ia, b: ib, e: -(ia * e - ib * f), f: -(ib * e + ia * f) };
}
