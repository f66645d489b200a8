import { labourOf, saleTerms, type Term, totalOf } from "../money/rates";
import type { Minor } from "../money/money";
import {
  buildProblem,
  type Built,
  type DecideInput,
  type LadderPlace,
  type Option,
  type Skipped,
} from "./build";
import { type Ladder, type LadderProblem, solveLadder } from "./ladder";
import type { School } from "./routes";
import { type Leaf, leavesOf, type Spread, spreadOf, type TreeNode, treeOf } from "./walk";

/**
 * What to do with a unit, and why: the ladder, the other schools, the ends, and what would change the answer.
 */

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
    | { code: "ladder"; first: number }
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
export type SchoolPlan = { school: School; value: number; first: string | null; less: number };
export type Advice = {
  options: Option[];
  places: LadderPlace[];
  skipped: Skipped[];
  /** no fault is named and not all was tested: test it, before any figure says what it brings */
  testFirst: boolean;
  /** how many routes were set aside to keep the ladder exact; 0 nearly always */
  setAside: number;
  tree: TreeNode;
  value: number;
  ends: End[];
  best: Disposition;
  spread: Spread;
  schools: SchoolPlan[];
  policy: { value: number; tree: TreeNode; best: Disposition; rules: number } | null;
  sunk: Minor;
  /** what going on may still cost more than planned before giving up is better; nothing left means stop */
  room: number;
  giveUp: number;
  twins: { place: string; now: number; later: number; chance: number }[];
};

/** The part of a problem that keeps only some attempts. */
function only(built: Built, keep: (o: Option, i: number) => boolean): LadderProblem {
  const kept = built.options.map((o, i) => (keep(o, i) ? i : -1)).filter((i) => i >= 0);
  return {
    ...built.problem,
    attempts: kept.map((i) => {
      const a = built.problem.attempts[i]!;
      return { ...a, spends: (a.spends ?? []).map((s) => kept.indexOf(s)).filter((s) => s >= 0) };
    }),
  };
}

/**
 * Solves with every route, or with the best few of each fault where all of them are too many; says how many
 * were set aside.
 */
function solved(built: Built, start = Infinity): { built: Built; ladder: Ladder; setAside: number } {
  for (const most of [Infinity, 6, 5, 4, 3, 2, 1].filter((m) => m <= start)) {
    let now = built;
    if (most < Infinity) {
      const rank = (i: number) => {
        const a = built.problem.attempts[i]!;
        return a.success - a.cost / Math.max(1, built.problem.price[0]);
      };
      const kept = new Set(
        built.places.flatMap((p) =>
          built.options
            .map((_, i) => i)
            .filter((i) => built.options[i]!.places[0] === p.place)
            .sort((a, b) => rank(b) - rank(a))
            .slice(0, p.twin ? Math.min(2, most) : most),
        ),
      );
      now = {
        ...built,
        options: built.options.filter((_, i) => kept.has(i)),
        problem: only(built, (_, i) => kept.has(i)),
      };
    }
    const ladder = solveLadder(now.problem);
    if (ladder.ok)
      return { built: now, ladder: ladder.value, setAside: built.options.length - now.options.length };
  }
  // not even one route a fault fits: there are more faults than a ladder can hold, so ending is all that is
  // left
  const bare = only(built, () => false);
  const few = { ...bare, faults: bare.faults.slice(0, 1).map((f) => ({ ...f, leave: null })) };
  const ladder = solveLadder(few);
  if (!ladder.ok) throw new Error("a ladder without attempts always fits");
  return {
    built: { ...built, options: [], problem: few },
    ladder: ladder.value,
    setAside: built.options.length,
  };
}

const keepOf = (p: LadderProblem) => 1 - p.sale.feeShare - p.sale.tax.share;
const EPS = 1e-6;

/** Which end is best; of equals the one that does least. */
function bestOf(ends: readonly End[]): Disposition {
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

function endsOf(input: DecideInput, built: Built, ladder: Ladder, sunk: Minor): End[] {
  const { problem, options, places } = built;
  const { rates, market } = input;
  const none = { spread: null, terms: [] as Term[] };
  const root = ladder.root;
  const spread = (leaves: ReturnType<typeof leavesOf>) =>
    spreadOf(leaves, keepOf(problem), rates.priceSpread, sunk);
  const certain = (money: number, price: number, minutes: number): Spread =>
    spread([{ chance: 1, money, price, minutes, end: price > 0 ? "sold" : "given-up" }]);
  const ends: End[] = [];

  const first = root.do === "try" ? options[root.attempt]! : null;
  if (first && first.leadDays > 0) {
    const now = solveLadder(only(built, (o) => o.leadDays === 0));
    const trying = now.ok ? now.value.trying : null;
    ends.push({
      disposition: "mend",
      value: trying,
      ...none,
      why: trying === null ? { code: "nothing-to-try" } : { code: "not-worth-trying" },
    });
    ends.push({
      disposition: "hold",
      value: ladder.value,
      terms: [],
      spread: spread(leavesOf(problem, root)),
      why: { code: "waits", days: first.leadDays, part: first.slot?.name ?? "" },
    });
  } else if (first && root.do === "try") {
    ends.push({
      disposition: "mend",
      value: ladder.value,
      terms: [],
      spread: spread(leavesOf(problem, root)),
      why: { code: "ladder", first: root.attempt },
    });
    ends.push({ disposition: "hold", value: null, ...none, why: { code: "nothing-to-wait-for" } });
  } else {
    const unknown = places.every((p) => p.twin) && input.untested.length > 0;
    const whyOf = (): End["why"] => {
      if (unknown) return { code: "untested", count: input.untested.length };
      if (places.every((p) => p.twin)) return { code: "no-faults" };
      if (options.length) return { code: "not-worth-trying" };
      return { code: "nothing-to-try" };
    };
    const why = whyOf();
    const whole = places.every((p) => p.twin) && root.do === "sell";
    const valueOf = () => {
      if (unknown) return null;
      if (whole) return ladder.value;
      if (options.length) return ladder.trying;
      return null;
    };
    const value = valueOf();
    ends.push({ disposition: "mend", value, ...none, why });
    ends.push({ disposition: "hold", value: null, ...none, why: { code: "nothing-to-wait-for" } });
  }

  if (input.customer) {
    ends.push({
      disposition: "hand-back",
      value: -rates.carriageOut,
      terms: [{ code: "carriage-out", minor: -rates.carriageOut }],
      spread: certain(-rates.carriageOut, 0, 0),
      why: { code: "handed-back" },
    });
    return ends;
  }
  const found = built.ends.asFound!;
  ends.push({
    disposition: "sell-as-it-is",
    value: totalOf(found),
    terms: found,
    spread: certain(totalOf(found), market.asFoundMinor, 0),
    why: { code: "price", minor: market.asFoundMinor },
  });
  const real = places.filter((p) => !p.twin);
  const bars = real.filter((p) => p.leaveShare === null);
  if (real.length === 0)
    ends.push({ disposition: "sell-limited", value: null, ...none, why: { code: "no-faults" } });
  else if (bars.length)
    ends.push({
      disposition: "sell-limited",
      value: null,
      ...none,
      why: { code: "no-limit", places: bars.map((p) => p.name) },
    });
  else {
    const share = real.reduce((s, p) => s * p.leaveShare!, 1);
    const price = Math.round(problem.price[problem.cap]! * share);
    const stays = problem.faults.reduce(
      (kept, f) => kept * (1 - (f.leave?.comeback ?? 0)),
      1 - problem.comeback,
    );
    const terms = saleTerms(price, input.spent.purchase, 1 - stays, rates);
    ends.push({
      disposition: "sell-limited",
      value: totalOf(terms),
      terms,
      spread: certain(totalOf(terms), price, 0),
      why: { code: "limits", share, places: real.map((p) => p.name) },
    });
  }
  const strip = totalOf(built.ends.strip);
  ends.push({
    disposition: "strip",
    value: strip,
    terms: built.ends.strip,
    spread: certain(strip, 0, rates.stripHours * 60),
    why: { code: "parts" },
  });
  ends.push({ disposition: "scrap", value: 0, terms: [], spread: certain(0, 0, 0), why: { code: "parts" } });
  return ends;
}

/**
 * What the shop's rules leave of the routes: for a place under a rule only that rule's route, if it is to be
 * had.
 */
function underRules(input: DecideInput, built: Built): { keep: Set<number>; rules: number } {
  let rules = 0;
  const keep = new Set(built.options.map((_, i) => i));
  for (const p of built.places) {
    const rule = input.rules.find(
      (r) =>
        r.family === p.family &&
        (r.also === null ||
          built.places.some(
            (x) => !x.twin && x.place !== p.place && x.place.startsWith(p.place) && x.family === r.also,
          )),
    );
    const own = built.options.map((o, i) => ({ o, i })).filter(({ o }) => o.places.includes(p.place));
    if (!rule || !own.some(({ o }) => o.route.id === rule.route)) continue;
    if (!p.twin) rules++;
    for (const { o, i } of own) if (o.route.id !== rule.route) keep.delete(i);
  }
  return { keep, rules };
}

/**
 * The whole advice on one unit. Pure and deterministic; some hundred milliseconds at the worst, so keep it
 * off a page's main thread.
 */
export function advise(input: DecideInput): Advice {
  const { built, ladder, setAside } = solved(buildProblem(input));
  const { problem, options, places } = built;
  const sunk = input.spent.purchase + input.spent.parts + labourOf(input.spent.minutes, input.rates);
  const ends = endsOf(input, built, ladder, sunk);
  const best = bestOf(ends);
  const schools = [...new Set(options.filter((o) => !o.twin).map((o) => o.route.school))].map(
    (school): SchoolPlan => {
      const has = new Set(
        options.filter((o) => !o.twin && o.route.school === school).flatMap((o) => o.places),
      );
      const kept = options
        .map((o, i) => ({ o, i }))
        .filter(({ o }) => o.twin || !o.places.some((p) => has.has(p)) || o.route.school === school);
      const plan = solveLadder(only(built, (_, i) => kept.some((k) => k.i === i)));
      if (!plan.ok) return { school, value: Number.NaN, first: null, less: Number.NaN };
      const root = plan.value.root;
      return {
        school,
        value: plan.value.value,
        first: root.do === "try" ? kept[root.attempt]!.o.route.name : null,
        less: ladder.value - plan.value.value,
      };
    },
  );
  const { keep, rules } = underRules(input, built);
  let policy: Advice["policy"] = null;
  if (rules > 0) {
    const kept = {
      ...built,
      options: options.filter((_, i) => keep.has(i)),
      problem: only(built, (_, i) => keep.has(i)),
    };
    const plan = solveLadder(kept.problem);
    if (plan.ok) {
      const back = [...keep].sort((a, b) => a - b);
      policy = {
        value: plan.value.value,
        tree: renumbered(treeOf(kept.problem, plan.value.root), back),
        best: bestOf(endsOf(input, kept, plan.value, sunk)),
        rules,
      };
    }
  }
  const giveUp = Math.max(
    problem.giveUp[problem.openedTo]!,
    ...ends
      .filter((e) => e.disposition !== "mend" && e.disposition !== "hold" && e.value !== null)
      .map((e) => e.value!),
  );
  const going = ends
    .filter((e) => e.disposition === "mend" || e.disposition === "hold")
    .reduce((m, e) => Math.max(m, e.value ?? -Infinity), -Infinity);
  const chosen = ends.find((e) => e.disposition === best)!;
  return {
    options,
    places,
    skipped: built.skipped,
    testFirst: places.every((p) => p.twin) && input.untested.length > 0,
    setAside,
    tree: treeOf(problem, ladder.root),
    value: chosen.value!,
    ends,
    best,
    spread:
      chosen.spread ??
      spreadOf(leavesOf(problem, ladder.root), keepOf(problem), input.rates.priceSpread, sunk),
    schools: schools.filter((s) => !Number.isNaN(s.value)).sort((a, b) => b.value - a.value),
    policy,
    sunk,
    room: going - giveUp,
    giveUp,
    twins: twinsOf(input, built),
  };
}

const renumbered = (node: TreeNode, back: readonly number[]): TreeNode =>
  node.do === "try"
    ? {
        ...node,
        attempt: back[node.attempt]!,
        worked: renumbered(node.worked, back),
        failed: renumbered(node.failed, back),
      }
    : node;

/**
 * The like part on the other side: what it costs now while open, and what leaving it costs on average later.
 */
function twinsOf(input: DecideInput, built: Built): Advice["twins"] {
  return built.places
    .filter((p) => p.twin)
    .flatMap((p) => {
      const own = built.options.map((o, i) => ({ o, i })).filter(({ o }) => o.places[0] === p.place);
      if (own.length === 0) return [];
      const costs = own.map(({ i }) => built.problem.attempts[i]!.cost);
      const now = Math.min(...costs);
      const deep = built.problem.depths[built.problem.attempts[own[costs.indexOf(now)]!.i]!.depth]!.cost;
      return [
        {
          place: p.name,
          now,
          later: input.rates.twinReturn * (built.problem.comebackCost + now + deep),
          chance: input.rates.twinReturn,
        },
      ];
    });
}

/**
 * What a unit with these faults is worth, by the best three routes of each: for many made-up units at once.
 */
export function worthOf(input: DecideInput): {
  value: number;
  leaves: Leaf[];
  keep: number;
  first: Option | null;
} {
  const { built, ladder } = solved(buildProblem(input), 3);
  const ends = endsOf(input, built, ladder, 0);
  const best = ends.find((e) => e.disposition === bestOf(ends))!;
  const { root } = ladder;
  const goes = best.disposition === "mend" || best.disposition === "hold";
  const leaves: Leaf[] = goes
    ? leavesOf(built.problem, root)
    : [{ chance: 1, money: best.value!, minutes: best.spread!.minutes, price: 0, end: "given-up" }];
  return {
    value: best.value!,
    leaves,
    keep: keepOf(built.problem),
    first: goes && root.do === "try" ? built.options[root.attempt]! : null,
  };
}

export const FLIPS = ["price", "chance", "part", "labour"] as const;
export type FlipKind = (typeof FLIPS)[number];
/**
 * At which value of one figure the answer changes, and to what; `at` null when no value in reach changes it.
 */
export type Flip = {
  kind: FlipKind;
  now: number;
  at: number | null;
  becomes: Disposition | null;
  firstRoute: string | null;
  about: string;
};

type Answer = { best: Disposition; first: string | null };

function answerOf(input: DecideInput, change: (built: Built) => Built = (b) => b): Answer {
  const { built, ladder } = solved(change(buildProblem(input)));
  const best = bestOf(endsOf(input, built, ladder, 0));
  return { best, first: ladder.root.do === "try" ? built.options[ladder.root.attempt]!.route.id : null };
}

/** Where the answer flips along one figure: steps outward from now, then halves. */
function flipAlong(
  now: number,
  steps: readonly number[],
  answer: (x: number) => Answer,
): { at: number; becomes: Answer } | null {
  const here = answer(now);
  const same = (a: Answer) => a.best === here.best && (a.best !== "mend" || a.first === here.first);
  const sides = [
    steps.filter((s) => s < now).sort((a, b) => b - a),
    steps.filter((s) => s > now).sort((a, b) => a - b),
  ];
  const found = sides.flatMap((side) => {
    let last = now;
    for (const step of side) {
      if (same(answer(step))) {
        last = step;
        continue;
      }
      let lo = last;
      let hi = step;
      for (let i = 0; i < 12; i++) {
        const mid = (lo + hi) / 2;
        if (same(answer(mid))) lo = mid;
        else hi = mid;
      }
      return [{ at: hi, becomes: answer(hi) }];
    }
    return [];
  });
  // the nearer of the two, in proportion
  return (
    found.sort(
      (a, b) =>
        Math.abs(Math.log(Math.max(a.at, 1e-6) / Math.max(now, 1e-6))) -
        Math.abs(Math.log(Math.max(b.at, 1e-6) / Math.max(now, 1e-6))),
    )[0] ?? null
  );
}

/** What would change the answer: price, odds of the first route, its part's cost, the shop's hour. */
export function flipsOf(input: DecideInput, advice: Advice): Flip[] {
  const root = advice.tree;
  const first = root.do === "try" ? advice.options[root.attempt]! : null;
  const nameOf = (a: Answer | undefined) => input.routes.find((r) => r.id === a?.first)?.name ?? null;
  const flip = (
    kind: FlipKind,
    now: number,
    steps: number[],
    about: string,
    answer: (x: number) => Answer,
  ): Flip => {
    const at = flipAlong(now, steps, answer);
    return {
      kind,
      now,
      at: at?.at ?? null,
      becomes: at?.becomes.best ?? null,
      firstRoute: nameOf(at?.becomes),
      about,
    };
  };
  const scaled = (share: number): DecideInput => ({
    ...input,
    market: {
      ...input.market,
      aMinor: Math.round(input.market.aMinor * share),
      bMinor: Math.round(input.market.bMinor * share),
      cMinor: Math.round(input.market.cMinor * share),
    },
  });
  const price = input.market.aMinor;
  const flips: Flip[] = [];
  if (!input.customer && price > 0)
    flips.push(
      flip(
        "price",
        price,
        [0.2, 0.35, 0.5, 0.65, 0.8, 0.9, 1.1, 1.25, 1.5, 2, 3].map((s) => s * price),
        "grade A",
        (x) => answerOf(scaled(x / price)),
      ),
    );
  if (first) {
    const same = (o: Option) => o.route.id === first.route.id && o.places.join() === first.places.join();
    const withAttempt =
      (change: (a: LadderProblem["attempts"][number]) => LadderProblem["attempts"][number]) =>
      (b: Built): Built => ({
        ...b,
        problem: {
          ...b.problem,
          attempts: b.problem.attempts.map((a, i) => (same(b.options[i]!) ? change(a) : a)),
        },
      });
    const odds = Math.min(first.chance.mean, 1 - first.route.breaks);
    flips.push(
      flip(
        "chance",
        odds,
        [0.05, 0.15, 0.3, 0.45, 0.6, 0.75, 0.9, 1 - first.route.breaks],
        first.route.name,
        (x) =>
          answerOf(
            input,
            withAttempt((a) => ({ ...a, success: Math.min(x, 1 - a.breaks) })),
          ),
      ),
    );
    const part = -(first.terms.find((t) => t.code === "part")?.minor ?? 0);
    if (part > 0)
      flips.push(
        flip(
          "part",
          part,
          [0.25, 0.5, 0.75, 1.5, 2, 3, 5, 8].map((s) => s * part),
          first.slot?.name ?? "",
          (x) =>
            answerOf(
              input,
              withAttempt((a) => ({ ...a, cost: a.cost - part + x })),
            ),
        ),
      );
  }
  const hour = input.rates.labourPerHour;
  if (hour > 0)
    flips.push(
      flip(
        "labour",
        hour,
        [0.25, 0.5, 0.75, 1.25, 1.5, 2, 3, 5].map((s) => s * hour),
        "",
        (x) => answerOf({ ...input, rates: { ...input.rates, labourPerHour: Math.round(x) } }),
      ),
    );
  return flips;
}
