import { ModelBuilder } from "./model";
import type { Freed, PlanOffer, PlanProblem, PlanUnit } from "./problem";

/**
 * The allocation plan as a mixed-integer programme. A choice a unit (0 or 1); pieces flow from the shelf,
 * stripped units and bought packs to the needs of what is mended; packs are whole. For fixed choices and
 * packs the flows are a transport problem, whose best solution is whole by itself. Method: docs/parts.md,
 * "The allocation plan".
 */

export type Built = {
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

type Term = [column: number, factor: number];
const once = (column: number): Term => [column, 1];

/** The programme while it is put together: what it will be read back by, and what each part's pool gains and loses. */
class Programme {
  readonly model = new ModelBuilder();
  readonly choice: Built["choice"] = [];
  readonly flow: Built["flow"] = [];
  readonly freed: Built["freed"] = [];
  readonly packs: Built["packs"] = [];
  readonly carriage: Built["carriage"] = [];
  shelf: Built["shelf"] = [];
  private readonly wanted: Map<string, number>;
  private readonly pools = new Map<string, Term[]>();
  /** what is paid to each supplier, and the most packs of each offer */
  private readonly spent = new Map<string, Term[]>();
  private readonly limits = new Map<string, number>();

  constructor(private readonly p: PlanProblem) {
    this.wanted = mostWanted(p);
  }

  private pool(part: string, column: number, factor: number): void {
    const list = this.pools.get(part) ?? [];
    list.push([column, factor]);
    this.pools.set(part, list);
  }

  /** One way a unit; what is locked out cannot be taken. */
  choices(): void {
    for (const u of this.p.units) this.choice.push(this.waysOf(u));
    for (const own of this.choice) this.model.row(1, 1, own.map(once));
  }

  private waysOf(u: PlanUnit): number[] {
    const locked = this.p.locks.filter((l) => l.unit === u.id);
    const kept = locked.filter((l) => l.as === "keep");
    const bound = kept.some((l) => u.options.some((o) => o.id === l.option));
    return u.options.map((o) => {
      const barred =
        locked.some((l) => l.as === "not" && l.option === o.id) ||
        (bound && !kept.some((l) => l.option === o.id));
      return this.model.column(o.value, 0, barred ? 0 : 1, true);
    });
  }

  /** What is mended takes every piece it needs out of a pool. */
  needs(): void {
    this.p.units.forEach((u, unit) =>
      u.options.forEach((o, option) =>
        o.needs.forEach((n, need) => {
          const columns = n.from.map((part) => {
            const column = this.model.column(0, 0, n.count, false);
            this.flow.push({ unit, option, need, part, column });
            this.pool(part, column, -1);
            return column;
          });
          this.model.row(0, 0, [...columns.map(once), [this.choice[unit]![option]!, -n.count]]);
        }),
      ),
    );
  }

  /** What stripped units give, and donors that are open already. */
  donors(): void {
    this.p.units.forEach((u, i) => {
      const strips = u.options.flatMap((o, k) => (o.choice === "strip" ? [this.choice[i]![k]!] : []));
      if (strips.length > 0) this.free(u.id, u.frees, strips);
    });
    for (const d of this.p.donors) this.free(d.id, d.frees, null);
  }

  private free(holder: string, frees: readonly Freed[], strips: readonly number[] | null): void {
    for (const f of frees) {
      const column = this.model.column(-f.worth, 0, f.count, false);
      if (strips) this.model.row(-Infinity, 0, [once(column), ...strips.map((s): Term => [s, -f.count])]);
      this.freed.push({ holder, slot: f.slot, part: f.part, column });
      this.pool(f.part, column, 1);
    }
  }

  /** What comes off the shelf is charged at what it is worth there. */
  stock(): void {
    const lines = [
      ...this.p.stock.map((s) => ({ s, kind: "stock" as const })),
      ...this.p.ordered.map((s) => ({ s, kind: "ordered" as const })),
    ];
    this.shelf = lines.map(({ s, kind }) => {
      const column = this.model.column(-s.worth, 0, Math.min(s.count, this.wanted.get(s.part) ?? 0), false);
      this.pool(s.part, column, 1);
      return { part: s.part, column, kind };
    });
  }

  /** Whole packs, at the price of the break that they reach. */
  offers(): void {
    for (const o of this.p.offers) {
      const wanted = this.wanted.get(o.part) ?? 0;
      const most = mostPacks(this.p, o, wanted);
      this.limits.set(o.id, most);
      if (most === 0) continue;
      const keep = keepOf(this.p, o);
      const steps = this.priceSteps(o, keep, most);
      // a left-over piece is credited; one that is used gives the credit back here
      const bought = this.model.column(-keep, 0, Math.min(most * o.pack, wanted), false);
      this.model.row(-Infinity, 0, [once(bought), ...steps.map((s): Term => [s.column, -o.pack])]);
      this.pool(o.part, bought, 1);
      this.packs.push({ offer: o, steps, bought });
      this.spent.set(o.supplier, [
        ...(this.spent.get(o.supplier) ?? []),
        ...steps.map((s): Term => [s.column, s.price]),
      ]);
    }
  }

  private priceSteps(o: PlanOffer, keep: number, most: number): { column: number; price: number }[] {
    const { model } = this;
    const pays = (priceMinor: number) => model.column(-priceMinor + keep * o.pack, 0, most, true);
    if (o.breaks.length === 1)
      return o.breaks.map((b) => ({ column: pays(b.priceMinor), price: b.priceMinor }));
    const steps = o.breaks.map((b, k) => {
      const column = pays(b.priceMinor);
      const next = o.breaks[k + 1]?.packs;
      const on = model.column(0, 0, 1, true);
      model.row(0, Infinity, [once(column), [on, -b.packs]]);
      model.row(-Infinity, 0, [once(column), [on, -(next === undefined ? most : Math.min(most, next - 1))]]);
      return { column, price: b.priceMinor, on };
    });
    model.row(
      -Infinity,
      1,
      steps.map((s) => once(s.on)),
    );
    return steps;
  }

  /** Carriage once a supplier, waived from a sum on. */
  carriages(): void {
    const { model } = this;
    for (const s of this.p.suppliers) {
      const terms = this.spent.get(s.id);
      if (!terms || s.carriageMinor === 0) continue;
      const any = model.column(-s.carriageMinor, 0, 1, true);
      this.carriage.push({ column: any, minor: s.carriageMinor });
      for (const x of this.packs.filter((k) => k.offer.supplier === s.id))
        model.row(-Infinity, 0, [
          ...x.steps.map((t) => once(t.column)),
          [any, -this.limits.get(x.offer.id)!],
        ]);
      if (s.freeFromMinor === null) continue;
      const waived = model.column(s.carriageMinor, 0, 1, true);
      this.carriage.push({ column: waived, minor: -s.carriageMinor });
      model.row(-Infinity, 0, [once(waived), [any, -1]]);
      model.row(0, Infinity, [...terms, [waived, -s.freeFromMinor]]);
    }
  }

  /** What flows out of a part's pool comes into it; and no more minutes than there are. */
  balance(): void {
    for (const terms of this.pools.values()) this.model.row(0, Infinity, terms);
    const minutes = this.p.units.flatMap((u, i) =>
      u.options.map((o, k): Term => [this.choice[i]![k]!, o.minutes]),
    );
    this.model.row(
      -Infinity,
      this.p.minutes,
      minutes.filter(([, each]) => each !== 0),
    );
  }
}

export function buildModel(p: PlanProblem): Built {
  const programme = new Programme(p);
  programme.choices();
  programme.needs();
  programme.donors();
  programme.stock();
  programme.offers();
  programme.carriages();
  programme.balance();
  return programme;
}
