import type { Advice } from "./advise";
import { type Built, type DecideInput, type Option, buildProblem } from "./build";
import { type Disposition, bestOf, endsOf } from "./ends";
import type { LadderProblem } from "../policy/problem";
import { ROUGH } from "../policy/solve";
import { solved } from "./solved";
import { firstTry } from "./walk";

/** What would change the answer, and at which value. */

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
  /** whether it then begins with a look */
  looks: boolean;
  about: string;
};

const CHECK = "check ";
type Answer = { best: Disposition; first: string | null };

function answerOf(input: DecideInput, change: (built: Built) => Built = (b) => b): Answer {
  const { built, ladder } = solved(change(buildProblem(input)), Infinity, ROUGH);
  const best = bestOf(endsOf(input, built, ladder, 0));
  const { root } = ladder;
  if (root.do === "check") return { best, first: `${CHECK}${built.problem.checks![root.check]!.id}` };
  return { best, first: root.do === "try" ? built.options[root.attempt]!.route.id : null };
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

/** Shares of the figure now at which the answer is asked. */
const PRICE_STEPS = [0.2, 0.35, 0.5, 0.65, 0.8, 0.9, 1.1, 1.25, 1.5, 2, 3];

const PART_STEPS = [0.25, 0.5, 0.75, 1.5, 2, 3, 5, 8];

const LABOUR_STEPS = [0.25, 0.5, 0.75, 1.25, 1.5, 2, 3, 5];

/** Chances at which the answer is asked, beside the highest that is possible. */
const CHANCE_STEPS = [0.05, 0.15, 0.3, 0.45, 0.6, 0.75, 0.9];

type Turned = Pick<Flip, "kind" | "now" | "about"> & {
  steps: number[];
  answer: (x: number) => Answer;
};

function turned(input: DecideInput, { kind, now, about, steps, answer }: Turned): Flip {
  const found = flipAlong(now, steps, answer);
  const route = input.routes.find((r) => r.id === found?.becomes.first);
  return {
    kind,
    now,
    at: found?.at ?? null,
    becomes: found?.becomes.best ?? null,
    firstRoute: route?.name ?? null,
    looks: found?.becomes.first?.startsWith(CHECK) ?? false,
    about,
  };
}

/** The same question with every going price changed by a share. */
const priced = (input: DecideInput, share: number): DecideInput => ({
  ...input,
  market: {
    ...input.market,
    aMinor: Math.round(input.market.aMinor * share),
    bMinor: Math.round(input.market.bMinor * share),
    cMinor: Math.round(input.market.cMinor * share),
  },
});

type Attempt = LadderProblem["attempts"][number];

/** The same problem with the attempts of one route at the same places changed. */
const withRoute =
  (route: Option, change: (a: Attempt) => Attempt) =>
  (b: Built): Built => {
    const same = (o: Option) => o.route.id === route.route.id && o.places.join() === route.places.join();
    const attempts = b.problem.attempts.map((a, i) => (same(b.options[i]!) ? change(a) : a));
    return { ...b, problem: { ...b.problem, attempts } };
  };

/** The same attempt with another chance in all: so much better or worse done, whatever is behind the fault. */
function succeeding(a: Attempt, success: number): Attempt {
  const share = a.success > 0 ? success / a.success : 0;
  const works = a.works?.map((w) => Math.min(w * share, 1 - a.breaks));
  return { ...a, success, ...(works ? { works } : {}) };
}

function flipsOfRoute(input: DecideInput, first: Option): Flip[] {
  const most = 1 - first.breaks;
  const chance = turned(input, {
    kind: "chance",
    now: Math.min(first.chance.mean, most),
    about: first.route.name,
    steps: [...CHANCE_STEPS, most],
    answer: (x) =>
      answerOf(
        input,
        withRoute(first, (a) => succeeding(a, Math.min(x, 1 - a.breaks))),
      ),
  });
  const part = -(first.terms.find((t) => t.code === "part")?.minor ?? 0);
  if (part <= 0) return [chance];
  const cost = turned(input, {
    kind: "part",
    now: part,
    about: first.slot?.name ?? "",
    steps: PART_STEPS.map((s) => s * part),
    answer: (x) =>
      answerOf(
        input,
        withRoute(first, (a) => ({ ...a, cost: a.cost - part + x })),
      ),
  });
  return [chance, cost];
}

/** What would change the answer: price, odds of the first route, its part's cost, the shop's hour. */
export function flipsOf(input: DecideInput, advice: Advice): Flip[] {
  const price = input.market.aMinor;
  const hour = input.rates.labourPerHour;
  const flips: Flip[] = [];
  if (!input.customer && price > 0)
    flips.push(
      turned(input, {
        kind: "price",
        now: price,
        about: "grade A",
        steps: PRICE_STEPS.map((s) => s * price),
        answer: (x) => answerOf(priced(input, x / price)),
      }),
    );
  const tried = firstTry(advice.tree);
  if (tried) flips.push(...flipsOfRoute(input, advice.options[tried.attempt]!));
  if (hour > 0)
    flips.push(
      turned(input, {
        kind: "labour",
        now: hour,
        about: "",
        steps: LABOUR_STEPS.map((s) => s * hour),
        answer: (x) => answerOf({ ...input, rates: { ...input.rates, labourPerHour: Math.round(x) } }),
      }),
    );
  return flips;
}
