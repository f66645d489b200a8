import { type LadderProblem, taking } from "../policy/problem";
import type { Rung } from "../policy/rung";

/**
 * From a solved ladder to what a person looks at: the tree of attempts, and the spread of what it may bring.
 */

/** One way that it can end: how likely, what it brings from now on, and the bench minutes until there. */
export type Leaf = {
  chance: number;
  money: number;
  minutes: number;
  price: number;
  end: "sold" | "came-back" | "given-up" | "broken";
};

const LEAST = 1e-7; // paths rarer than this are left out of the tally and its loss is far below a cent

/**
 * Every end of a ladder with its chance; the chances add up to 1 but for what is rarer than one in ten
 * million.
 */
export function leavesOf(p: LadderProblem, root: Rung): Leaf[] {
  const leaves: Leaf[] = [];
  const walk = (r: Rung, chance: number, spent: number, minutes: number): void => {
    if (chance < LEAST) return;
    if (r.do === "give-up")
      leaves.push({ chance, money: r.value - spent, minutes, price: 0, end: "given-up" });
    else if (r.do === "sell") {
      const price = p.price[r.cap] * r.share;
      const money = taking(price, p.sale) - spent;
      leaves.push({ chance: chance * (1 - r.comeback), money, minutes, price, end: "sold" });
      if (r.comeback > 0)
        leaves.push({
          chance: chance * r.comeback,
          money: money - p.comebackCost,
          minutes,
          price,
          end: "came-back",
        });
    } else if (r.do === "check")
      for (const o of r.outcomes) walk(o.then(), chance * o.chance, spent + r.cost, minutes + r.minutes);
    else {
      const a = p.attempts[r.attempt]!;
      const cost = spent + r.cost;
      const time = minutes + r.minutes;
      if (r.success > 0) walk(r.worked(), chance * r.success, cost, time);
      if (a.breaks > 0)
        leaves.push({
          chance: chance * a.breaks,
          money: p.giveUpBroken - cost,
          minutes: time,
          price: 0,
          end: "broken",
        });
      const lost = 1 - r.success - a.breaks;
      if (lost > 1e-12) walk(r.failed(), chance * lost, cost, time);
    }
  };
  walk(root, 1, 0, 0);
  return leaves;
}

/** Normal distribution function, by the series of Abramowitz and Stegun 7.1.26 (error below 2e-7). */
export function normalBelow(z: number): number {
  const t = 1 / (1 + 0.3275911 * Math.abs(z / Math.SQRT2));
  const y =
    1 -
    ((((1.061405429 * t - 1.453152027) * t + 1.421413741) * t - 0.284496736) * t + 0.254829592) *
      t *
      Math.exp(-(z * z) / 2);
  return z >= 0 ? (1 + y) / 2 : (1 - y) / 2;
}

export type Spread = {
  mean: number;
  low: number;
  high: number;
  /** chance that it brings less than nothing in all, with what was already spent */
  loss: number;
  minutes: number;
  sold: number;
};

/**
 * The spread over all ends, exactly; a sale price varies by `priceSpread` of itself (standard deviation,
 * normal). `low` and `high` leave out one in ten at each side. `sunk` is what was spent before; money is what
 * comes from now on less that.
 */
export function spreadOf(leaves: readonly Leaf[], keep: number, priceSpread: number, sunk: number): Spread {
  const total = leaves.reduce((s, l) => s + l.chance, 0);
  const sum = (of: (l: Leaf) => number) => leaves.reduce((s, l) => s + l.chance * of(l), 0) / total;
  const below = (x: number) =>
    sum((l) => {
      const sd = l.price * keep * priceSpread;
      const gap = x - (l.money - sunk);
      if (sd > 0) return normalBelow(gap / sd);
      if (gap > 0) return 1;
      return 0;
    });
  const at = (p: number) => {
    let lo = Math.min(...leaves.map((l) => l.money - sunk - 4 * l.price * keep * priceSpread)) - 1;
    let hi = Math.max(...leaves.map((l) => l.money - sunk + 4 * l.price * keep * priceSpread)) + 1;
    for (let i = 0; i < 50; i++) {
      const mid = (lo + hi) / 2;
      if (below(mid) < p) lo = mid;
      else hi = mid;
    }
    return (lo + hi) / 2;
  };
  return {
    mean: sum((l) => l.money) - sunk,
    low: at(0.1),
    high: at(0.9),
    loss: below(0),
    minutes: sum((l) => l.minutes),
    sold: sum((l) => (l.price > 0 ? 1 : 0)),
  };
}

/** The ladder as plain data for a page; beyond `most` rungs it only says that there is more. */
export type TreeNode =
  | {
      do: "try";
      attempt: number;
      value: number;
      cost: number;
      minutes: number;
      success: number;
      breaks: number;
      worked: TreeNode;
      failed: TreeNode;
    }
  | {
      do: "check";
      check: number;
      value: number;
      cost: number;
      minutes: number;
      outcomes: { code: string; chance: number; then: TreeNode }[];
    }
  | { do: "sell"; value: number; cap: 0 | 1 | 2; share: number }
  | { do: "give-up"; value: number }
  | { do: "more"; value: number };

export function treeOf(
  p: LadderProblem,
  root: Rung,
  codes: readonly (readonly string[])[] = [],
  most = 60,
): TreeNode {
  let left = most;
  const plain = (r: Rung): TreeNode => {
    if (r.do === "give-up") return { do: r.do, value: r.value };
    if (r.do === "sell") return { do: r.do, value: r.value, cap: r.cap, share: r.share };
    if (left-- <= 0) return { do: "more", value: r.value };
    if (r.do === "check") {
      const { do: kind, check, value, cost, minutes, outcomes } = r;
      const then = outcomes.map((o, k) => ({
        code: codes[check]?.[k] ?? "",
        chance: o.chance,
        then: plain(o.then()),
      }));
      return { do: kind, check, value, cost, minutes, outcomes: then };
    }
    const a = p.attempts[r.attempt]!;
    const node = {
      do: r.do,
      attempt: r.attempt,
      value: r.value,
      cost: r.cost,
      minutes: r.minutes,
      success: r.success,
      breaks: a.breaks,
    };
    const failed = plain(r.failed()); // what to do after a failed retest is looked at first, so it is cut last
    return { ...node, failed, worked: plain(r.worked()) };
  };
  return plain(root);
}

/**
 * The attempt that a way begins with: after a check, the one that its likeliest outcome leads to. Null where it ends
 * without any.
 */
export function firstTry(node: TreeNode): Extract<TreeNode, { do: "try" }> | null {
  if (node.do === "try") return node;
  if (node.do !== "check") return null;
  const ranked = [...node.outcomes].sort((a, b) => b.chance - a.chance);
  return ranked.reduce<Extract<TreeNode, { do: "try" }> | null>(
    (found, o) => found ?? firstTry(o.then),
    null,
  );
}
