/**
 * Chance for the made recordings. Nothing in this folder takes anything from src/core: what is to be judged
 * must not have made its own evidence.
 */
export class Dice {
  private state: number;

  constructor(seed: number) {
    this.state = (Math.imul(seed ^ 0x9e3779b9, 0x85ebca6b) ^ (seed >>> 3)) | 1;
    for (let i = 0; i < 8; i++) this.next();
  }

  /** Even in 0..1 (xorshift of Marsaglia, 2003, with a multiplied ending). */
  next(): number {
    let s = this.state;
    s ^= s << 13;
    s ^= s >>> 17;
    s ^= s << 5;
    this.state = s;
    const mixed = Math.imul(s ^ (s >>> 15), 0x2c1b3c6d);
    return ((mixed ^ (mixed >>> 12)) >>> 0) / 2 ** 32;
  }

  range(low: number, high: number): number {
    return low + (high - low) * this.next();
  }

  /** A normal deviate, by the polar way. */
  normal(): number {
    for (;;) {
      const a = 2 * this.next() - 1;
      const b = 2 * this.next() - 1;
      const s = a * a + b * b;
      if (s > 0 && s < 1) return a * Math.sqrt((-2 * Math.log(s)) / s);
    }
  }

  hit(chance: number): boolean {
    return this.next() < chance;
  }

  one<T>(from: readonly T[]): T {
    return from[Math.min(from.length - 1, Math.floor(this.next() * from.length))]!;
  }
}
