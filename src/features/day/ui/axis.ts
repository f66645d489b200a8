/** The plan's time along a line: working time to scale, nights and breaks folded to a narrow gap. */

export type Segment = { from: number; to: number; x: number };
const PER_MINUTE = 6; // pixels
const GAP = 14;

/** The hours in which anybody works, merged, up to the last minute that is shown. */
export function segmentsOf(windows: readonly (readonly [number, number])[], until: number): Segment[] {
  const merged: [number, number][] = [];
  for (const [a, b] of [...windows].sort((p, q) => p[0] - q[0])) {
    const last = merged.at(-1);
    if (last && a <= last[1]) last[1] = Math.max(last[1], b);
    else merged.push([a, b]);
  }
  let x = 0;
  return merged
    .filter(([a]) => a < until)
    .map(([from, to]) => {
      const segment = { from, to, x };
      x += (to - from) * PER_MINUTE + GAP;
      return segment;
    });
}

export const widthOf = (segments: readonly Segment[]): number => {
  const last = segments.at(-1);
  return last ? last.x + (last.to - last.from) * PER_MINUTE : 0;
};

/** Where a minute lies; what is outside every segment sticks to the nearest edge. */
export function xOf(segments: readonly Segment[], minute: number): number {
  for (const s of segments) {
    if (minute < s.from) return s.x;
    if (minute <= s.to) return s.x + (minute - s.from) * PER_MINUTE;
  }
  return widthOf(segments);
}

const STEP = 5; // pins fall on full five minutes
export function minuteOf(segments: readonly Segment[], x: number): number {
  for (const s of segments) {
    const end = s.x + (s.to - s.from) * PER_MINUTE;
    if (x <= end + GAP / 2)
      return Math.max(s.from, Math.min(s.to, Math.round((s.from + (x - s.x) / PER_MINUTE) / STEP) * STEP));
  }
  return segments.at(-1)?.to ?? 0;
}
