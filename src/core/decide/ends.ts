import type { Minor } from "../money/money";
import { type Term, saleTerms, totalOf } from "../money/rates";
import type { Built, DecideInput } from "./build";
import { type Ladder, solveLadder } from "./ladder";
import type { LadderProblem } from "../policy/problem";
import { only, unchecked } from "./solved";
import { type Leaf, type Spread, leavesOf, spreadOf } from "./walk";

/** Every way that a unit can go, what each brings from now on, and which is best. */

/**
 * What to do with a unit, and why: the ladder, the other schools, the ends, and what would change the answer.
 */

/** Two ends that bring the same to so little of a cent are equal. */
const EPS = 1e-6;

export const DISPOSITIONS = [
  "mend",
  "hold",
  "sell-as-it-is",
  "sell-limited",
  "strip",
  "scrap",
  "hand-back",
] as const;

export type Disposition = (typeof DISPOSITIONS)[number];

export type End = {
  disposition: Disposition;
  /** what it brings from now on; null where it cannot be done */
  value: number | null;
  terms: Term[];
  spread: Spread | null;
  why:
    | { code: "ladder" }
    | { code: "waits"; days: number; part: string }
    | { code: "nothing-to-try" }
    | { code: "nothing-to-wait-for" }
    | { code: "not-worth-trying" }
    | { code: "price"; minor: Minor }
    | { code: "no-limit"; places: string[] }
    | { code: "limits"; share: number; places: string[] }
    | { code: "no-faults" }
    /** nothing is named, and this much was never tested: nobody knows what there is to mend */
    | { code: "untested"; count: number }
    | { code: "parts" }
    | { code: "handed-back" };
};

export const keepOf = (p: LadderProblem) => 1 - p.sale.feeShare - p.sale.tax.share;

/** Which end is best; of equals the one that does least. */
export function bestOf(ends: readonly End[]): Disposition {
  const order: Disposition[] = [
    "hand-back",
    "sell-as-it-is",
    "sell-limited",
    "strip",
    "scrap",
    "mend",
    "hold",
  ];
  return [...ends]
    .filter((e) => e.value !== null)
    .sort((a, b) =>
      Math.abs(b.value! - a.value!) < EPS
        ? order.indexOf(a.disposition) - order.indexOf(b.disposition)
        : b.value! - a.value!,
    )[0]!.disposition;
}

type Weighing = { input: DecideInput; built: Built; ladder: Ladder; sunk: Minor };

const NOTHING = { spread: null, terms: [] as Term[] };

const NOTHING_TO_WAIT_FOR: End = {
  disposition: "hold",
  value: null,
  ...NOTHING,
  why: { code: "nothing-to-wait-for" },
};

export const spreadIn = ({ built, input, sunk }: Weighing, leaves: Leaf[]): Spread =>
  spreadOf(leaves, keepOf(built.problem), input.rates.priceSpread, sunk);

/** The spread of an end that comes out as it is counted on, but for the price. */
const certain = (w: Weighing, money: number, price: number, minutes: number): Spread =>
  spreadIn(w, [{ chance: 1, money, price, minutes, end: price > 0 ? "sold" : "given-up" }]);

/** Mending now, and waiting for a part: one of them is the ladder. */
function goingOn(w: Weighing): End[] {
  const { root } = w.ladder;
  if (root.do !== "try" && root.do !== "check") return [notMending(w), NOTHING_TO_WAIT_FOR];
  const ladder = { value: w.ladder.value, terms: [], spread: spreadIn(w, leavesOf(w.built.problem, root)) };
  const first = root.do === "try" ? w.built.options[root.attempt]! : null;
  if (first && first.leadDays > 0)
    return [
      mendingNow(w),
      {
        disposition: "hold",
        ...ladder,
        why: { code: "waits", days: first.leadDays, part: first.slot?.name ?? "" },
      },
    ];
  return [{ disposition: "mend", ...ladder, why: { code: "ladder" } }, NOTHING_TO_WAIT_FOR];
}

/** Mending with what is here, where the best begins with a part that is not. */
function mendingNow({ built }: Weighing): End {
  const now = solveLadder(only(unchecked(built), (o) => o.leadDays === 0));
  const trying = now.ok ? now.value.trying : null;
  return {
    disposition: "mend",
    value: trying,
    ...NOTHING,
    why: trying === null ? { code: "nothing-to-try" } : { code: "not-worth-trying" },
  };
}

function notMending({ input, built, ladder }: Weighing): End {
  const { places, options } = built;
  const end = (value: number | null, why: End["why"]): End => ({
    disposition: "mend",
    value,
    ...NOTHING,
    why,
  });
  const whole = places.every((p) => p.twin);
  if (whole && input.untested.length > 0)
    return end(null, { code: "untested", count: input.untested.length });
  if (whole && ladder.root.do === "sell") return end(ladder.value, { code: "no-faults" });
  const trying = options.length ? ladder.trying : null;
  if (whole) return end(trying, { code: "no-faults" });
  return end(trying, options.length ? { code: "not-worth-trying" } : { code: "nothing-to-try" });
}

function handingBack(w: Weighing): End {
  const minor = -w.input.rates.carriageOut;
  return {
    disposition: "hand-back",
    value: minor,
    terms: [{ code: "carriage-out", minor }],
    spread: certain(w, minor, 0, 0),
    why: { code: "handed-back" },
  };
}

function sellingAsItIs(w: Weighing): End {
  const terms = w.built.ends.asFound!;
  const price = w.input.market.asFoundMinor;
  return {
    disposition: "sell-as-it-is",
    value: totalOf(terms),
    terms,
    spread: certain(w, totalOf(terms), price, 0),
    why: { code: "price", minor: price },
  };
}

/** Sold with its faults named, where each may be left. */
function sellingLimited(w: Weighing): End {
  const { problem, places } = w.built;
  const real = places.filter((p) => !p.twin);
  const bars = real.filter((p) => p.leaveShare === null);
  const not = (why: End["why"]): End => ({ disposition: "sell-limited", value: null, ...NOTHING, why });
  if (real.length === 0) return not({ code: "no-faults" });
  if (bars.length) return not({ code: "no-limit", places: bars.map((p) => p.name) });
  const share = real.reduce((s, p) => s * p.leaveShare!, 1);
  const price = Math.round(problem.price[problem.cap]! * share);
  const stays = problem.faults.reduce(
    (kept, f) => kept * (1 - (f.leave?.comeback ?? 0)),
    1 - problem.comeback,
  );
  const terms = saleTerms(price, w.input.spent.purchase, 1 - stays, w.input.rates);
  return {
    disposition: "sell-limited",
    value: totalOf(terms),
    terms,
    spread: certain(w, totalOf(terms), price, 0),
    why: { code: "limits", share, places: real.map((p) => p.name) },
  };
}

function stripping(w: Weighing): End {
  const terms = w.built.ends.strip;
  const value = totalOf(terms);
  return {
    disposition: "strip",
    value,
    terms,
    spread: certain(w, value, 0, w.input.rates.stripHours * 60),
    why: { code: "parts" },
  };
}

/** Every way that a unit can go, with what it brings from now on. */
export function endsOf(input: DecideInput, built: Built, ladder: Ladder, sunk: Minor): End[] {
  const w: Weighing = { input, built, ladder, sunk };
  if (input.customer) return [...goingOn(w), handingBack(w)];
  const scrap: End = {
    disposition: "scrap",
    value: 0,
    terms: [],
    spread: certain(w, 0, 0, 0),
    why: { code: "parts" },
  };
  return [...goingOn(w), sellingAsItIs(w), sellingLimited(w), stripping(w), scrap];
}
