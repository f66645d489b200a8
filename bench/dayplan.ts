import { bounds } from "../src/core/dayplan/bound";
import { faultsOf } from "../src/core/dayplan/problem";
import { randomDay } from "../src/core/dayplan/random-day";
import { planDay } from "../src/core/dayplan/schedule";

/**
 * The day plan on random days: feasible, makespan and worst lateness against first-come and the lower bound,
 * and time.
 */

const DAYS = Number(process.argv[2] ?? 200);
const EVALUATIONS = Number(process.argv[3] ?? 400);
const at = (v: readonly number[], q: number) =>
  [...v].sort((a, b) => a - b)[Math.min(v.length - 1, Math.floor(v.length * q))]!;

type Row = {
  orders: number;
  people: number;
  ms: number;
  gap: number;
  firstGap: number;
  closed: number | null;
  lateClosed: number | null;
  late: number;
  lateFirst: number;
  lateBound: number;
  worse: boolean;
  faults: number;
};
const rows: Row[] = [];
for (let day = 0; day < DAYS; day++) {
  const orders = 10 + ((day * 37) % 51);
  const people = 1 + (day % 4);
  const p = randomDay(day, orders, people);
  const from = performance.now();
  const { plan, firstCome, bound } = planDay(p, { evaluations: EVALUATIONS, seed: day });
  const ms = performance.now() - from;
  const firstGap = firstCome.makespan - bound.makespan;
  const lateGap = firstCome.worstLate - bound.worstLate;
  rows.push({
    orders,
    people,
    ms,
    gap: plan.makespan / bound.makespan - 1,
    firstGap: firstCome.makespan / bound.makespan - 1,
    closed: firstGap > 0 ? (firstCome.makespan - plan.makespan) / firstGap : null,
    lateClosed: lateGap > 0 ? (firstCome.worstLate - plan.worstLate) / lateGap : null,
    late: plan.worstLate,
    lateFirst: firstCome.worstLate,
    lateBound: bound.worstLate,
    worse: plan.makespan > firstCome.makespan || plan.worstLate > firstCome.worstLate,
    faults: faultsOf(p, plan).length + plan.impossible.length,
  });
}
const pc = (v: number) => `${(100 * v).toFixed(1)} %`;
const closed = rows.flatMap((r) => r.closed ?? []);
const lateClosed = rows.flatMap((r) => r.lateClosed ?? []);
console.log(
  `\nDay plan, ${DAYS} random days of 10 to 60 work orders and 1 to 4 people, ${EVALUATIONS} schedules tried a day`,
);
console.log(
  `  rules broken: ${rows.reduce((s, r) => s + r.faults, 0)}; days worse than first-come in either figure: ${rows.filter((r) => r.worse).length}`,
);
console.log(
  `  makespan over the lower bound: median ${pc(
    at(
      rows.map((r) => r.gap),
      0.5,
    ),
  )}, 90th percentile ${pc(
    at(
      rows.map((r) => r.gap),
      0.9,
    ),
  )}, worst ${pc(Math.max(...rows.map((r) => r.gap)))}`,
);
console.log(
  `  first-come over the lower bound: median ${pc(
    at(
      rows.map((r) => r.firstGap),
      0.5,
    ),
  )}, 90th percentile ${pc(
    at(
      rows.map((r) => r.firstGap),
      0.9,
    ),
  )}`,
);
console.log(
  `  share of first-come's gap closed: median ${pc(at(closed, 0.5))}, 10th percentile ${pc(at(closed, 0.1))} (${closed.length} days with a gap)`,
);
console.log(
  `  worst lateness in minutes: bound median ${at(
    rows.map((r) => r.lateBound),
    0.5,
  )}, plan ${at(
    rows.map((r) => r.late),
    0.5,
  )}, first-come ${at(
    rows.map((r) => r.lateFirst),
    0.5,
  )}; gap closed: median ${pc(at(lateClosed, 0.5))} (${lateClosed.length} days)`,
);
for (const [lo, hi] of [
  [10, 26],
  [27, 43],
  [44, 60],
] as const) {
  const some = rows.filter((r) => r.orders >= lo && r.orders <= hi);
  console.log(
    `  ${lo} to ${hi} orders: median ${at(
      some.map((r) => r.ms),
      0.5,
    ).toFixed(0)} ms, longest ${Math.max(...some.map((r) => r.ms)).toFixed(0)} ms; over the bound median ${pc(
      at(
        some.map((r) => r.gap),
        0.5,
      ),
    )}`,
  );
}
const sixty = Array.from({ length: 10 }, (_, i) => {
  const p = randomDay(5000 + i, 60, 1 + (i % 4));
  const from = performance.now();
  planDay(p, { evaluations: EVALUATIONS, seed: i });
  const whole = performance.now() - from;
  const b = performance.now();
  bounds(p);
  return { whole, bound: performance.now() - b };
});
console.log(
  `  60 orders: median ${at(
    sixty.map((s) => s.whole),
    0.5,
  ).toFixed(0)} ms, longest ${Math.max(...sixty.map((s) => s.whole)).toFixed(0)} ms, of it the bound ${at(
    sixty.map((s) => s.bound),
    0.5,
  ).toFixed(0)} ms`,
);
