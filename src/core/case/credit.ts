import { type Belief, suspectsOf } from "../diagnosis/belief";
import type { ShopRecord } from "../diagnosis/priors";
import { beliefOf, evidenceOfCase } from "./evidence";
import { type Fact, type FactOf, inOrder, isTested } from "./facts";
import { type CaseOf, partsAt, restsOnAny, SEARCH, standingOf } from "./standing-facts";

/**
 * A cure is earned: acts between two tests share it by their odds, and a later finding that contradicts one takes its
 * share away.
 */

type Cured = FactOf<"tried">;
const isCure = (f: Fact): f is Cured =>
  f.kind === "tried" && f.number !== null && f.outcome === "cured" && f.undone !== "stayed-away";
/** A try that was tested and did not help is the end of what went before it. */
const failedTry = (f: Fact): boolean => f.kind === "tried" && f.number !== null && f.retest === "fail";

const partsOf = (f: Fact, of: CaseOf): Set<number> =>
  f.kind === "tried" || f.kind === "mended" ? partsAt(of, f.places) : new Set();

/** Something was done at a part, and no test has said yet that it was in vain. */
const isAct = (f: Fact, of: CaseOf): boolean => {
  if (partsOf(f, of).size === 0) return false;
  if (f.kind === "mended") return f.how !== "opened";
  return f.kind === "tried" && f.number !== null && f.undone !== "stayed-away" && !failedTry(f);
};

/**
 * What was done between the tests around an act, itself with it: the test before it and the first after. A test of
 * what does not rest on the act's part is none of it.
 */
export function betweenTests(facts: readonly Fact[], act: Fact, of: CaseOf): Fact[] {
  const ordered = inOrder(facts);
  const parts = partsOf(act, of);
  const ends = ordered.filter((f) =>
    isTested(f) ? "place" in f && f.place !== null && restsOnAny(of, f.place, parts) : failedTry(f),
  );
  const before = ends.filter((f) => f.at <= act.at).at(-1)?.at ?? "";
  const after = ends.find((f) => f.at > act.at)?.at ?? "9";
  return ordered.filter((f) => isAct(f, of) && (f.id === act.id || (f.at >= before && f.at < after)));
}

/** How likely some part of these is at fault. */
function anyOf(b: Belief, parts: ReadonlySet<number>): number {
  let sum = 0;
  for (const h of b.live) if (suspectsOf(b, h).some((i) => parts.has(i))) sum += b.posterior[h]!;
  return sum;
}

/** The share of each of some acts in the cure that followed them all, by their odds before the first: they add up to 1. */
export function sharesOf(
  facts: readonly Fact[],
  acts: readonly Fact[],
  of: CaseOf,
  record: ShopRecord,
): Map<string, number> {
  if (acts.length === 1) return new Map([[acts[0]!.id, 1]]);
  const begin = acts.reduce((least, a) => (a.at < least ? a.at : least), acts[0]!.at);
  const earlier = facts.filter((f) => f.at <= begin && !acts.some((a) => a.id === f.id) && !isCure(f));
  const b = beliefOf(evidenceOfCase(standingOf(earlier, of), of), of, record);
  const odds = acts.map((a) => anyOf(b, partsOf(a, of)));
  const all = odds.reduce((s, p) => s + p, 0);
  return new Map(acts.map((a, i) => [a.id, all > 0 ? odds[i]! / all : 1 / acts.length]));
}

/** Whether a later finding says that it was not this: a search that ends elsewhere, a proof of another part. */
function isContradicted(cure: Cured, facts: readonly Fact[]): boolean {
  const elsewhere = (f: Cured) => f.places.every((p) => !cure.places.includes(p));
  return facts.some(
    (f) =>
      f.kind === "tried" &&
      f.at > cure.at &&
      elsewhere(f) &&
      ((f.act === SEARCH && f.outcome === "found") || (isCure(f) && f.undone === "came-back")),
  );
}

const failsAt = (f: Fact): string | null => {
  if (f.kind === "measure") return f.grade === "fail" ? f.place : null;
  return f.kind === "function" && (f.outcome === "fail" || f.outcome === "intermittent") ? f.place : null;
};
/** What failed before an act, and rests on its part, fails again after it. */
function isRefuted(cure: Cured, facts: readonly Fact[], of: CaseOf): boolean {
  const parts = partsOf(cure, of);
  const failing = facts.flatMap((f) => {
    const place = failsAt(f);
    return place !== null && restsOnAny(of, place, parts) ? [{ place, later: f.at > cure.at }] : [];
  });
  return failing.some((f) => f.later && failing.some((x) => !x.later && x.place === f.place));
}

/** The same facts, each cure with the share that it has earned so far. */
export function withCredit(facts: readonly Fact[], of: CaseOf, record: ShopRecord): Fact[] {
  return facts.map((f): Fact => {
    if (!isCure(f)) return f;
    if (f.undone === "came-back") return { ...f, share: 1 };
    if (isContradicted(f, facts) || isRefuted(f, facts, of)) return { ...f, share: 0 };
    const acts = betweenTests(facts, f, of).filter((a) => !isCure(a) || !isContradicted(a, facts));
    return { ...f, share: sharesOf(facts, acts, of, record).get(f.id) ?? 1 };
  });
}
