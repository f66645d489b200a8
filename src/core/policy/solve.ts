import { type LadderProblem, opening, openingMinutes } from "./problem";
import type { ActNow, Rung } from "./rung";
import { EPS, type Branch, Search, type SearchLimits, upperOf, WHOLE } from "./search";
import { sum } from "./bounds";

/**
 * One policy over attempts, checks and endings: the act with the highest expected value now, with all that its outcomes
 * would tell. Solved for no check on the way, then one, then two, as far as the limits go; what is given is always the
 * value of a policy that can be followed.
 */

export type Policy = {
  value: number;
  /** no policy brings more; equal to `value` where everything was looked into */
  upper: number;
  root: Rung;
  /** the best acts now, one a line, the best first; endings included */
  acts: ActNow[];
  looked: number;
};

/** What is interactive: some hundred milliseconds at most on the largest problems. */
export const QUICK: SearchLimits = { acts: 2000, rare: 5e-4, checkedFrom: 0.05, followed: 3, listed: 4 };
/** The same with every act that may be done now told to the end. */
export const LISTING_ALL: SearchLimits = { ...QUICK, listed: Infinity };
/** For what is only set beside it. */
export const ROUGH: SearchLimits = { ...QUICK, acts: 300, rare: 2e-3, listed: 1 };
export { WHOLE };

export function solvePolicy(p: LadderProblem, limits: SearchLimits = QUICK): Policy {
  const search = new Search(p, limits);
  const start = search.start();
  let looks = 0;
  let value = search.best(start, 0).value;
  let whole = search.isWhole;
  const checks = p.checks?.length ?? 0;
  for (let more = 1; more <= checks; more++) {
    search.refill();
    const next = search.best(start, more);
    whole = search.isWhole && limits.rare === 0;
    if (next.value >= value) [looks, value] = [more, next.value];
    if (!search.isWhole) break;
  }
  const upper = Math.min(
    upperOf(start),
    Math.max(start.spot.stop, ...search.acts(start, checks).map((a) => a.upper)),
  );
  return {
    value,
    upper: whole && looks === checks ? value : Math.max(value, upper),
    root: rungAt(p, search, start, looks),
    acts: actsNow(search, start, looks, limits.listed),
    looked: search.looked,
  };
}

/** The acts that may be best now with what each brings: those that a bound rules out are worked out no further. */
function actsNow(search: Search, start: Branch, looks: number, listed: number): ActNow[] {
  const total = sum(start.mass);
  const found: ActNow[] = [{ do: "end", index: -1, value: start.spot.stop }];
  for (const act of search.acts(start, looks)) {
    const ranked = found.map((f) => f.value).sort((a, b) => b - a);
    if (ranked.length >= listed && act.upper / total <= ranked[listed - 1]! + EPS) break;
    found.push({ do: act.do, index: act.index, value: search.valueOf(act, looks) / total });
  }
  return found.sort((a, b) => b.value - a.value).slice(0, listed);
}

function rungAt(p: LadderProblem, search: Search, at: Branch, looks: number): Rung {
  const total = sum(at.mass);
  const { act, value, looks: left } = search.best(at, looks);
  if (!act) {
    const { sale, giveUp } = at.spot;
    return sale.value >= giveUp
      ? { do: "sell", value: sale.value, cap: sale.cap, share: sale.share, comeback: 1 - sale.kept }
      : { do: "give-up", value: giveUp };
  }
  const then = (k: number, less: number) => () => rungAt(p, search, act.branches[k]!, left - less);
  const of = act.do === "try" ? p.attempts[act.index]! : p.checks![act.index]!;
  const common = {
    value: value / total,
    cost: of.cost + opening(p, at.spot.depth, of.depth),
    minutes: of.minutes + openingMinutes(p, at.spot.depth, of.depth),
  };
  if (act.do === "try")
    return {
      do: "try",
      attempt: act.index,
      ...common,
      success: sum(act.branches[0]!.mass) / total,
      worked: then(0, 0),
      failed: then(1, 0),
    };
  return {
    do: "check",
    check: act.index,
    ...common,
    outcomes: act.branches.map((b, k) => ({ chance: sum(b.mass) / total, then: then(k, 1) })),
  };
}
