import { packPrice } from "../parts/catalogue";
import type { Chosen, Flow, Order, Plan, PlanProblem, PlanUnit } from "./problem";

/**
 * What a person would do without a plan: the units in the order in which they came, each mended if the parts
 * are on the shelf (or freed by what was stripped) and it pays, else sold as it is or left. Optionally the
 * worst third is stripped first.
 */
export function planByHand(p: PlanProblem, way: "oldest-first" | "strip-worst-third"): Plan {
  const shelf = new Map<string, { source: Flow["source"]; worth: number; count: number }[]>();
  const put = (part: string, source: Flow["source"], worth: number, count: number) =>
    shelf.set(part, [...(shelf.get(part) ?? []), { source, worth, count }]);
  for (const s of p.stock) put(s.part, { kind: "stock" }, s.worth, s.count);
  for (const d of p.donors)
    for (const f of d.frees) put(f.part, { kind: "donor", donor: d.id, slot: f.slot }, f.worth, f.count);
  const best = (u: PlanUnit) =>
    Math.max(...u.options.filter((o) => o.choice === "mend").map((o) => o.value), 0);
  const stripped = new Set(
    way === "oldest-first"
      ? []
      : [...p.units]
          .sort((a, b) => best(a) - best(b))
          .slice(0, Math.floor(p.units.length / 3))
          .map((u) => u.id),
  );
  let minutes = p.minutes;
  const chosen = new Map<string, Chosen>();
  for (const u of p.units) {
    const strip = u.options.find((o) => o.choice === "strip");
    if (!stripped.has(u.id) || !strip || strip.minutes > minutes) continue;
    minutes -= strip.minutes;
    chosen.set(u.id, { unit: u.id, option: strip, flows: [] });
    for (const f of u.frees) put(f.part, { kind: "donor", donor: u.id, slot: f.slot }, f.worth, f.count);
  }
  for (const u of p.units) {
    if (chosen.has(u.id)) continue;
    let pick: { option: Chosen["option"]; flows: Flow[]; value: number } | null = null;
    for (const option of u.options) {
      if (option.minutes > minutes || option.choice === "strip") continue;
      const flows: Flow[] = [];
      const taken = new Map<object, number>();
      let value = option.value;
      const served = option.needs.every((n) => {
        let count = n.count;
        for (const part of n.from)
          for (const from of shelf.get(part) ?? []) {
            const free = from.count - (taken.get(from) ?? 0);
            const k = Math.min(free, count);
            if (k <= 0) continue;
            taken.set(from, (taken.get(from) ?? 0) + k);
            value -= k * from.worth;
            flows.push({ unit: u.id, slot: n.slot, part, count: k, source: from.source });
            count -= k;
          }
        return count === 0;
      });
      if (served && (pick === null || value > pick.value)) pick = { option, flows, value };
    }
    const done = pick ?? {
      option: u.options.find((o) => o.minutes === 0) ?? u.options[0]!,
      flows: [],
      value: 0,
    };
    minutes -= done.option.minutes;
    for (const f of done.flows) {
      const from = shelf.get(f.part)!.find((x) => x.source === f.source)!;
      from.count -= f.count;
    }
    chosen.set(u.id, { unit: u.id, option: done.option, flows: done.flows });
  }
  const all = p.units.map((u) => chosen.get(u.id)!);
  return {
    status: "stopped",
    value: 0,
    bound: 0,
    gap: 0,
    seconds: 0,
    chosen: all,
    orders: [] as Order[],
    carriageMinor: 0,
    minutes: all.reduce((s, c) => s + c.option.minutes, 0),
  };
}

/**
 * The best over every choice and every order up to a few packs, by trying them all: for small problems only.
 */
export function bestByTrying(p: PlanProblem): number {
  let best = -Infinity;
  const orders: number[] = p.offers.map(() => 0);
  const tryChoices = () => {
    let fixed = 0;
    const spent = new Map<string, number>();
    const pieces = new Map<string, { worth: number; count: number }[]>();
    const put = (part: string, worth: number, count: number) =>
      pieces.set(part, [...(pieces.get(part) ?? []), { worth, count }]);
    p.offers.forEach((o, i) => {
      if (orders[i] === 0) return;
      const cost = orders[i]! * packPrice({ ...o, leadDays: 0, breaks: [...o.breaks] }, orders[i]!);
      const keep = Math.min(
        p.keeps[o.part] ?? 0,
        Math.floor(Math.min(...o.breaks.map((b) => b.priceMinor)) / o.pack),
      );
      fixed -= cost - keep * orders[i]! * o.pack;
      spent.set(o.supplier, (spent.get(o.supplier) ?? 0) + cost);
      put(o.part, keep, orders[i]! * o.pack);
    });
    for (const [id, cost] of spent) {
      const s = p.suppliers.find((x) => x.id === id)!;
      if (s.freeFromMinor === null || cost < s.freeFromMinor) fixed -= s.carriageMinor;
    }
    const walk = (
      i: number,
      value: number,
      minutes: number,
      strips: PlanUnit[],
      needs: { from: readonly string[] }[],
    ) => {
      if (minutes > p.minutes) return;
      const u = p.units[i];
      if (!u) {
        const own = new Map([...pieces].map(([k, v]) => [k, v.map((x) => ({ ...x }))]));
        const more = (part: string, worth: number, count: number) =>
          own.set(part, [...(own.get(part) ?? []), { worth, count }]);
        for (const s of [...p.stock, ...p.ordered]) more(s.part, s.worth, s.count);
        for (const d of [...p.donors, ...strips]) for (const f of d.frees) more(f.part, f.worth, f.count);
        best = Math.max(best, fixed + value - cheapest(own, needs));
        return;
      }
      for (const o of u.options)
        walk(
          i + 1,
          value + o.value,
          minutes + o.minutes,
          o.choice === "strip" ? [...strips, u] : strips,
          o.needs.length
            ? [...needs, ...o.needs.flatMap((n) => Array.from({ length: n.count }, () => ({ from: n.from })))]
            : needs,
        );
    };
    walk(0, 0, 0, [], []);
  };
  const tryOrders = (i: number): void => {
    if (i === p.offers.length) return tryChoices();
    for (let packs = 0; packs <= p.offers[i]!.mostPacks; packs++) {
      orders[i] = packs;
      tryOrders(i + 1);
    }
    orders[i] = 0;
  };
  tryOrders(0);
  return best;
}

/** The cheapest way to serve every need, by trying each piece; Infinity when it cannot be done. */
function cheapest(
  pieces: Map<string, { worth: number; count: number }[]>,
  needs: readonly { from: readonly string[] }[],
): number {
  const [need, ...rest] = needs;
  if (!need) return 0;
  let best = Infinity;
  for (const part of need.from)
    for (const piece of pieces.get(part) ?? []) {
      if (piece.count <= 0) continue;
      piece.count--;
      best = Math.min(best, piece.worth + cheapest(pieces, rest));
      piece.count++;
    }
  return best;
}
