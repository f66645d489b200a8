import type { Highs } from "highs";

import { packPrice } from "../parts/catalogue";
import { ModelBuilder, solveModel, type Solved, type SolveOptions } from "./model";
import type { Chosen, Flow, Freed, Order, Plan, PlanOffer, PlanProblem } from "./problem";

/**
 * The allocation plan as a mixed-integer programme. A choice a unit (0 or 1); pieces flow from the shelf,
 * stripped units and bought packs to the needs of what is mended; packs are whole. For fixed choices and
 * packs the flows are a transport problem, whose best solution is whole by itself. Method: docs/parts.md,
 * "The allocation plan".
 */

type Built = {
  model: ModelBuilder;
  choice: number[][];
  flow: { unit: number; option: number; need: number; part: string; column: number }[];
  freed: { holder: string; slot: string; part: string; column: number }[];
  packs: { offer: PlanOffer; steps: { column: number; price: number }[]; bought: number }[];
  shelf: { part: string; column: number; kind: "stock" | "ordered" }[];
  carriage: { column: number; minor: number }[];
};

/** A left-over piece must never be worth more than it costs, or buying would seem to earn. */
const keepOf = (p: PlanProblem, o: PlanOffer) =>
  Math.min(p.keeps[o.part] ?? 0, Math.floor(Math.min(...o.breaks.map((b) => b.priceMinor)) / o.pack));

/** The most pieces of each part that the units could take together. */
function mostWanted(p: PlanProblem): Map<string, number> {
  const wanted = new Map<string, number>();
  for (const u of p.units) {
    const own = new Map<string, number>();
    for (const o of u.options) {
      const here = new Map<string, number>();
      for (const n of o.needs) for (const part of n.from) here.set(part, (here.get(part) ?? 0) + n.count);
      for (const [part, count] of here) own.set(part, Math.max(own.get(part) ?? 0, count));
    }
    for (const [part, count] of own) wanted.set(part, (wanted.get(part) ?? 0) + count);
  }
  return wanted;
}

/**
 * More packs than this cannot pay: what is wanted, what a price break asks, and what would still earn free
 * carriage.
 */
function mostPacks(p: PlanProblem, o: PlanOffer, wanted: number): number {
  const supplier = p.suppliers.find((s) => s.id === o.supplier);
  const last = o.breaks.at(-1)!;
  const loss = Math.max(1, last.priceMinor - keepOf(p, o) * o.pack);
  const forCarriage = supplier?.freeFromMinor ? Math.ceil(supplier.carriageMinor / loss) : 0;
  return Math.min(
    o.mostPacks,
    Math.max(Math.ceil(wanted / o.pack), o.breaks.length > 1 ? last.packs : 0) + forCarriage,
  );
}

export function buildModel(p: PlanProblem): Built {
  const m = new ModelBuilder();
  const wanted = mostWanted(p);
  const flow: Built["flow"] = [];
  const intoPool = new Map<string, [number, number][]>();
  const add = (part: string, column: number, factor: number) => {
    const list = intoPool.get(part) ?? [];
    list.push([column, factor]);
    intoPool.set(part, list);
  };
  const choice = p.units.map((u) => {
    const locked = p.locks.filter((l) => l.unit === u.id);
    return u.options.map((o) => {
      const barred =
        locked.some((l) => l.as === "not" && l.option === o.id) ||
        (locked.some((l) => l.as === "keep" && u.options.some((x) => x.id === l.option)) &&
          !locked.some((l) => l.as === "keep" && l.option === o.id));
      return m.column(o.value, 0, barred ? 0 : 1, true);
    });
  });
  for (const own of choice)
    m.row(
      1,
      1,
      own.map((c) => [c, 1]),
    );
  p.units.forEach((u, i) =>
    u.options.forEach((o, k) =>
      o.needs.forEach((n, need) => {
        const columns = n.from.map((part) => {
          const column = m.column(0, 0, n.count, false);
          flow.push({ unit: i, option: k, need, part, column });
          add(part, column, -1);
          return column;
        });
        m.row(0, 0, [...columns.map((c): [number, number] => [c, 1]), [choice[i]![k]!, -n.count]]);
      }),
    ),
  );
  const freed: Built["freed"] = [];
  const free = (holder: string, frees: readonly Freed[], strips: readonly number[] | null) => {
    for (const f of frees) {
      const column = m.column(-f.worth, 0, f.count, false);
      if (strips) m.row(-Infinity, 0, [[column, 1], ...strips.map((s): [number, number] => [s, -f.count])]);
      freed.push({ holder, slot: f.slot, part: f.part, column });
      add(f.part, column, 1);
    }
  };
  p.units.forEach((u, i) => {
    const strips = u.options.flatMap((o, k) => (o.choice === "strip" ? [choice[i]![k]!] : []));
    if (strips.length > 0) free(u.id, u.frees, strips);
  });
  for (const d of p.donors) free(d.id, d.frees, null);
  // what comes off the shelf is charged at what it is worth there
  const shelf = [
    ...p.stock.map((s) => ({ s, kind: "stock" as const })),
    ...p.ordered.map((s) => ({ s, kind: "ordered" as const })),
  ].map(({ s, kind }) => {
    const column = m.column(-s.worth, 0, Math.min(s.count, wanted.get(s.part) ?? 0), false);
    add(s.part, column, 1);
    return { part: s.part, column, kind };
  });
  const packs: Built["packs"] = [];
  const spent = new Map<string, [number, number][]>();
  const limits = new Map<string, number>();
  for (const o of p.offers) {
    const most = mostPacks(p, o, wanted.get(o.part) ?? 0);
    limits.set(o.id, most);
    if (most === 0) continue;
    const keep = keepOf(p, o);
    // a left-over piece is credited; one that is used gives the credit back below
    const steps = o.breaks.map((b, k) => {
      const column = m.column(-b.priceMinor + keep * o.pack, 0, most, true);
      const next = o.breaks[k + 1]?.packs;
      if (o.breaks.length > 1) {
        const on = m.column(0, 0, 1, true);
        m.row(0, Infinity, [
          [column, 1],
          [on, -b.packs],
        ]);
        m.row(-Infinity, 0, [
          [column, 1],
          [on, -(next === undefined ? most : Math.min(most, next - 1))],
        ]);
        return { column, price: b.priceMinor, on };
      }
      return { column, price: b.priceMinor, on: null };
    });
    if (o.breaks.length > 1)
      m.row(
        -Infinity,
        1,
        steps.map((s) => [s.on!, 1]),
      );
    const bought = m.column(-keep, 0, Math.min(most * o.pack, wanted.get(o.part) ?? 0), false);
    m.row(-Infinity, 0, [[bought, 1], ...steps.map((s): [number, number] => [s.column, -o.pack])]);
    add(o.part, bought, 1);
    packs.push({ offer: o, steps, bought });
    spent.set(o.supplier, [
      ...(spent.get(o.supplier) ?? []),
      ...steps.map((s): [number, number] => [s.column, s.price]),
    ]);
  }
  const carriage: Built["carriage"] = [];
  for (const s of p.suppliers) {
    const terms = spent.get(s.id);
    if (!terms || s.carriageMinor === 0) continue;
    const any = m.column(-s.carriageMinor, 0, 1, true);
    carriage.push({ column: any, minor: s.carriageMinor });
    for (const x of packs.filter((k) => k.offer.supplier === s.id))
      m.row(-Infinity, 0, [
        ...x.steps.map((t): [number, number] => [t.column, 1]),
        [any, -limits.get(x.offer.id)!],
      ]);
    if (s.freeFromMinor !== null) {
      const waived = m.column(s.carriageMinor, 0, 1, true);
      carriage.push({ column: waived, minor: -s.carriageMinor });
      m.row(-Infinity, 0, [
        [waived, 1],
        [any, -1],
      ]);
      m.row(0, Infinity, [...terms, [waived, -s.freeFromMinor]]);
    }
  }
  // what flows out of a part's pool comes into it
  for (const terms of intoPool.values()) m.row(0, Infinity, terms);
  m.row(
    -Infinity,
    p.minutes,
    p.units
      .flatMap((u, i) => u.options.map((o, k): [number, number] => [choice[i]![k]!, o.minutes]))
      .filter(([, f]) => f !== 0),
  );
  return { model: m, choice, flow, freed, packs, shelf, carriage };
}

const whole = (x: number) => Math.round(x);

/** Reads a solution back as choices, orders and where each piece comes from. */
function read(p: PlanProblem, b: Built, s: Solved): Plan {
  const at = (column: number) => s.columns[column] ?? 0;
  const chosen: Chosen[] = p.units.map((u, i) => ({
    unit: u.id,
    option:
      u.options[
        Math.max(
          0,
          b.choice[i]!.findIndex((c) => at(c) > 0.5),
        )
      ]!,
    flows: [],
  }));
  const orders: Order[] = b.packs.flatMap(({ offer, steps }) => {
    const packs = whole(steps.reduce((sum, x) => sum + at(x.column), 0));
    return packs > 0
      ? [
          {
            offer: offer.id,
            packs,
            costMinor: packs * packPrice({ ...offer, leadDays: 0, breaks: [...offer.breaks] }, packs),
          },
        ]
      : [];
  });
  // pieces of a part are alike: hand them out shelf first, then donors, then what is bought
  const left = new Map<string, { source: Flow["source"]; count: number }[]>();
  const put = (part: string, source: Flow["source"], count: number) => {
    if (count > 0) left.set(part, [...(left.get(part) ?? []), { source, count }]);
  };
  for (const x of b.shelf) put(x.part, { kind: x.kind }, whole(at(x.column)));
  for (const f of b.freed) put(f.part, { kind: "donor", donor: f.holder, slot: f.slot }, whole(at(f.column)));
  for (const x of b.packs) put(x.offer.part, { kind: "bought", offer: x.offer.id }, whole(at(x.bought)));
  for (const f of b.flow) {
    const c = chosen[f.unit]!;
    let count = whole(at(f.column));
    if (count <= 0 || c.option !== p.units[f.unit]!.options[f.option]) continue;
    for (const from of left.get(f.part) ?? []) {
      const n = Math.min(from.count, count);
      if (n <= 0) continue;
      from.count -= n;
      count -= n;
      c.flows.push({
        unit: c.unit,
        slot: c.option.needs[f.need]!.slot,
        part: f.part,
        count: n,
        source: from.source,
      });
      if (count === 0) break;
    }
  }
  return {
    status: s.status,
    value: s.value,
    bound: s.bound,
    gap: s.gap,
    seconds: s.seconds,
    chosen,
    orders,
    carriageMinor: b.carriage.reduce((sum, x) => sum + whole(at(x.column)) * x.minor, 0),
    minutes: chosen.reduce((sum, c) => sum + c.option.minutes, 0),
  };
}

export function solvePlan(highs: Highs, p: PlanProblem, options: SolveOptions): Plan {
  const built = buildModel(p);
  return read(p, built, solveModel(highs, built.model.data(highs), options));
}

/**
 * What one more piece of a part on the shelf would add to the plan, for each part asked; exact, by solving
 * again.
 */
export function nextPiece(
  highs: Highs,
  p: PlanProblem,
  plan: Plan,
  parts: readonly string[],
  options: SolveOptions & { each?: (done: number) => void },
): { part: string; adds: number }[] {
  return parts.map((part, i) => {
    const line = p.stock.find((s) => s.part === part);
    const stock = line
      ? p.stock.map((s) => (s === line ? { ...s, count: s.count + 1 } : s))
      : [...p.stock, { part, count: 1, worth: p.keeps[part] ?? 0 }];
    const more = solvePlan(highs, { ...p, stock }, { seconds: options.seconds });
    options.each?.(i + 1);
    return { part, adds: Math.max(0, Math.round(more.value - plan.value)) };
  });
}
