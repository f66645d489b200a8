import type { Minor } from "../money/money";

/**
 * The order and choice of attempts, with a stop rule, that has the highest expected margin; exact.
 *
 * A unit has faults that must all be cured before it sells as mended. Each attempt costs, cures its faults with a chance, and
 * afterwards is spent; giving up is always allowed and brings what the unit is worth as it stands. What was already spent is
 * left out: it is gone either way. Solved by dynamic programming over states, with branches cut off by an upper bound:
 * the least, over the faults that are left, of the value if every other fault were cured for nothing.
 */

export const GRADE_CAPS = ["A", "B", "C"] as const;

export type Attempt = {
  id: string;
  /** which of the schools of the trade it belongs to */
  school: string;
  /** the faults that it cures, all or none: one, or several joined */
  faults: readonly number[];
  /** parts, labour and consumables, paid whether it cures or not */
  cost: Minor;
  success: number;
  /** the unit must be open for it */
  opens: boolean;
  /** best grade it allows: 0 is A, 2 is C */
  cap: 0 | 1 | 2;
  /** expected cost of a return within the warranty and of what must be disclosed, once it cured */
  later: Minor;
  /** attempts that make no sense after this one failed, by id */
  spends: readonly string[];
};
export type LadderProblem = {
  faults: number;
  attempts: readonly Attempt[];
  /** strip-down and closing, paid once */
  openCost: Minor;
  /** what a sale brings at grades A, B and C after fees and carriage */
  prices: readonly [Minor, Minor, Minor];
  /** what giving up brings while closed, and once it was opened */
  salvage: { closed: Minor; opened: Minor };
};

export type Rung = { attempt: string; chance: number; ifCured: Rung | "sell" | "give-up"; ifFails: Rung | "give-up" };
export type Ladder = { value: number; first: Rung | "sell" | "give-up"; states: number };

type State = { spent: number; cured: number; cap: number; open: boolean };
const MOST_ATTEMPTS = 20;
const MOST_FAULTS = 6;

/** A solver for one problem: values of states on demand, remembered. */
export class LadderSolver {
  private readonly memo = new Map<number, number>();
  private readonly solo: Map<number, number>[];
  private readonly own: readonly number[];
  private readonly faultsOf: readonly number[];
  private readonly spendsOf: readonly number[];
  private readonly all: number;

  /** @throws RangeError beyond 20 attempts or 6 faults */
  constructor(private readonly p: LadderProblem) {
    if (p.attempts.length > MOST_ATTEMPTS || p.faults > MOST_FAULTS)
      throw new RangeError(`a ladder takes at most ${MOST_ATTEMPTS} attempts and ${MOST_FAULTS} faults`);
    this.all = (1 << p.faults) - 1;
    this.faultsOf = p.attempts.map((a) => a.faults.reduce((m, f) => m | (1 << f), 0));
    this.own = Array.from({ length: p.faults }, (_, f) =>
      this.faultsOf.reduce((m, mask, i) => (mask & (1 << f) ? m | (1 << i) : m), 0),
    );
    this.spendsOf = p.attempts.map((a) =>
      a.spends.reduce(
        (m, id) =>
          m |
          (1 <<
            Math.max(
              0,
              p.attempts.findIndex((x) => x.id === id),
            )),
        0,
      ),
    );
    this.solo = Array.from({ length: p.faults }, () => new Map());
  }

  solve(): Ladder {
    const start: State = { spent: 0, cured: 0, cap: 0, open: false };
    const value = this.value(start);
    return { value, first: this.rung(start), states: this.memo.size };
  }

  get start(): State {
    return { spent: 0, cured: 0, cap: 0, open: false };
  }

  /** Every way it can end under the best policy, with its chance and margin. */
  outcomes(): { chance: number; margin: number; cap: number | null }[] {
    const out: { chance: number; margin: number; cap: number | null }[] = [];
    const walk = (s: State, chance: number, spent: number): void => {
      if (s.cured === this.all) return void out.push({ chance, margin: this.p.prices[s.cap]! - spent, cap: s.cap });
      const i = this.best(s);
      if (i < 0) return void out.push({ chance, margin: this.giveUp(s) - spent, cap: null });
      const a = this.p.attempts[i]!;
      const cost = this.costOf(i, s);
      if (a.success > 0) walk(this.after(s, i, true), chance * a.success, spent + cost + a.later);
      if (a.success < 1) walk(this.after(s, i, false), chance * (1 - a.success), spent + cost);
    };
    walk(this.start, 1, 0);
    return out;
  }

  value(s: State): number {
    if (s.cured === this.all) return this.p.prices[s.cap]!;
    const key = this.key(s);
    const known = this.memo.get(key);
    if (known !== undefined) return known;
    let best = this.giveUp(s);
    if (this.bound(s) > best) {
      for (const { i, most } of this.promising(s)) {
        if (most <= best + 1e-9) break;
        best = Math.max(best, this.worth(s, i));
      }
    }
    this.memo.set(key, best);
    return best;
  }

  private promising(s: State): { i: number; most: number }[] {
    const out: { i: number; most: number }[] = [];
    this.p.attempts.forEach((a, i) => {
      if (!this.isOpenTo(s, i)) return;
      const cured = this.after(s, i, true);
      const most =
        a.success * (this.bound(cured) - a.later) + (1 - a.success) * this.bound(this.after(s, i, false)) - this.costOf(i, s);
      out.push({ i, most });
    });
    return out.sort((x, y) => y.most - x.most);
  }

  private worth(s: State, i: number): number {
    const a = this.p.attempts[i]!;
    const cured = a.success > 0 ? a.success * (this.value(this.after(s, i, true)) - a.later) : 0;
    const failed = a.success < 1 ? (1 - a.success) * this.value(this.after(s, i, false)) : 0;
    return cured + failed - this.costOf(i, s);
  }

  /** The attempt that the best policy makes, or -1 to give up. */
  best(s: State): number {
    const value = this.value(s);
    if (value <= this.giveUp(s) + 1e-9) return -1;
    const found = this.promising(s).find(({ i }) => Math.abs(this.worth(s, i) - value) < 1e-6);
    return found ? found.i : -1;
  }

  private rung(s: State): Rung | "sell" | "give-up" {
    if (s.cured === this.all) return "sell";
    const i = this.best(s);
    if (i < 0) return "give-up";
    const ifFails = this.rung(this.after(s, i, false));
    return {
      attempt: this.p.attempts[i]!.id,
      chance: this.p.attempts[i]!.success,
      ifCured: this.rung(this.after(s, i, true)),
      ifFails: ifFails === "sell" ? "give-up" : ifFails,
    };
  }

  private isOpenTo(s: State, i: number): boolean {
    return (s.spent & (1 << i)) === 0 && (this.faultsOf[i]! & ~s.cured) !== 0;
  }

  private costOf(i: number, s: State): number {
    const a = this.p.attempts[i]!;
    return a.cost + (a.opens && !s.open ? this.p.openCost : 0);
  }

  private giveUp = (s: State): number => (s.open ? this.p.salvage.opened : this.p.salvage.closed);

  after(s: State, i: number, cured: boolean): State {
    const a = this.p.attempts[i]!;
    const next: State = {
      spent: s.spent | (1 << i) | (cured ? 0 : this.spendsOf[i]!),
      cured: cured ? s.cured | this.faultsOf[i]! : s.cured,
      cap: cured ? Math.max(s.cap, a.cap) : s.cap,
      open: s.open || a.opens,
    };
    // what is left untried of a cured fault no longer matters: states that differ only there are one
    for (let k = 0; k < this.p.attempts.length; k++) if ((this.faultsOf[k]! & ~next.cured) === 0) next.spent |= 1 << k;
    return next;
  }

  private key = (s: State): number => ((s.cured * 4 + s.cap) * 2 + (s.open ? 1 : 0)) * 2 ** MOST_ATTEMPTS + s.spent;

  /** An upper bound: for each fault that is left, the value if all the others were cured for nothing. */
  private bound(s: State): number {
    if (s.cured === this.all) return this.p.prices[s.cap]!;
    let least = Infinity;
    for (let f = 0; f < this.p.faults; f++)
      if ((s.cured & (1 << f)) === 0) least = Math.min(least, this.alone(f, s.spent & this.own[f]!, s.cap, s.open));
    return least;
  }

  private alone(f: number, spent: number, cap: number, open: boolean): number {
    const key = (cap * 2 + (open ? 1 : 0)) * 2 ** MOST_ATTEMPTS + spent;
    const known = this.solo[f]!.get(key);
    if (known !== undefined) return known;
    let best = open ? this.p.salvage.opened : this.p.salvage.closed;
    for (let i = 0; i < this.p.attempts.length; i++) {
      const bit = 1 << i;
      if ((this.own[f]! & bit) === 0 || (spent & bit) !== 0) continue;
      const a = this.p.attempts[i]!;
      const cost = a.cost + (a.opens && !open ? this.p.openCost : 0);
      const opened = open || a.opens;
      const sold = this.p.prices[Math.max(cap, a.cap)]! - a.later;
      const rest = a.success < 1 ? this.alone(f, (spent | bit | this.spendsOf[i]!) & this.own[f]!, cap, opened) : 0;
      best = Math.max(best, a.success * sold + (1 - a.success) * rest - cost);
    }
    this.solo[f]!.set(key, best);
    return best;
  }
}

export const solveLadder = (p: LadderProblem): Ladder => new LadderSolver(p).solve();

/** The same problem with one school's attempts only; a fault that the school has no attempt for keeps all of its own. */
export function bySchool(p: LadderProblem, school: string): LadderProblem {
  const has = (f: number) => p.attempts.some((a) => a.school === school && a.faults.includes(f));
  return { ...p, attempts: p.attempts.filter((a) => a.school === school || a.faults.some((f) => !has(f))) };
}
