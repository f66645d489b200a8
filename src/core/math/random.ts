/** Seeded chance: the same seed gives the same numbers on any machine (mulberry32). */
export type Chance = {
  /** uniform in [0, 1) */
  next(): number;
  /** normal with mean 0 and standard deviation 1 (Box and Muller) */
  normal(): number;
  between(lo: number, hi: number): number;
  pick<T>(items: readonly T[]): T;
  happens(probability: number): boolean;
};

export function seeded(seed: number): Chance {
  let state = seed >>> 0;
  const next = () => {
    state = (state + 0x6d2b79f5) >>> 0;
    let t = state;
    t = Math.imul(t ^ (t >>> 15), t | 1);
    t ^= t + Math.imul(t ^ (t >>> 7), t | 61);
    return ((t ^ (t >>> 14)) >>> 0) / 4294967296;
  };
  return {
    next,
    normal: () => Math.sqrt(-2 * Math.log(1 - next())) * Math.cos(2 * Math.PI * next()),
    between: (lo, hi) => lo + (hi - lo) * next(),
    pick: (items) => items[Math.floor(next() * items.length)]!,
    happens: (probability) => next() < probability,
  };
}
