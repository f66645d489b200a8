import { type Built, buildProblem, type DecideInput, type Option } from "@/core/decide/build";
import { taking } from "@/core/policy/problem";
import { HOUSE_ROUTES } from "@/core/decide/routes";
import { seeded } from "@/core/math/random";
import { HOUSE_RATES, labourOf } from "@/core/money/rates";
import { type Fault, LOOK, signsAt, type World, WRONG_SEEN } from "./truth";
import type { FloorUnit } from "./units";

/**
 * One unit on the bench: what is tested, tried and sold, at what cost. What is asked of it is answered from
 * what is really wrong; the same question is answered alike whoever asks it.
 */

export const BASELINE_MINUTES = 8;
export const PROOF_MINUTES = 6;
/** Of units that go out with a fault that comes and goes, how many come back within the warranty. */
export const COMES_BACK_BAD = 0.6;

/** One for all, so that what follows from it is worked out once. */
const NO_RECORD: DecideInput["record"] = [];

export type Known = Partial<Pick<DecideInput, "routes" | "causes" | "whole" | "checks" | "usualReach">>;

export type Done = {
  marginMinor: number;
  minutes: number;
  wrongParts: number;
  /** it went out as good with a fault that stays, or that comes and goes */
  badOut: "constant" | "fickle" | null;
  sold: boolean;
  gaveUp: boolean;
};

const hash = (text: string): number => {
  let h = 2166136261;
  for (let i = 0; i < text.length; i++) h = Math.imul(h ^ text.charCodeAt(i), 16777619);
  return h >>> 0;
};

export class Case {
  readonly failing = new Map<string, string | null>();
  readonly tried: { place: string; route: string }[] = [];
  readonly looked = new Map<string, boolean>();
  private readonly gone = new Set<Fault>();
  private readonly worked: Option[] = [];
  private openMinutes = 0;
  private spentMinor = 0;
  private parts = 0;
  /** how often everything was tested */
  tests = 0;
  minutes = 0;
  wrongParts = 0;
  broken = false;

  constructor(
    readonly unit: FloorUnit,
    private readonly world: World,
  ) {
    this.work(BASELINE_MINUTES);
    this.test();
  }

  private chance = (what: string): number => seeded(hash(`${this.unit.seed} ${what}`)).next();
  private work(minutes: number): void {
    this.minutes += minutes;
    this.spentMinor += labourOf(minutes, HOUSE_RATES);
  }

  /** Every control and function, by how it is now. */
  private test(): void {
    const { profile, wires, faults } = this.unit;
    const turn = this.tests++;
    for (const place of wires.places) {
      const signs = faults.flatMap((f, k) => {
        if (this.gone.has(f)) return [];
        const all = signsAt(profile, wires, f, place);
        if (all.length === 0 || this.chance(`shows ${k} ${turn}`) >= f.shows) return [];
        return [all[Math.floor(this.chance(`sign ${k} ${place}`) * all.length)]!];
      });
      if (signs.length > 0) this.failing.set(place, signs[0]!);
      else this.failing.delete(place);
    }
  }

  /** What deciding is asked with: what fails, and so far as a player has it, what may be behind it. */
  input(known: Known = {}): DecideInput {
    const { profile, scale, askMinor } = this.unit;
    const m = profile.market!;
    const scaled = (minor: number) => Math.round(minor * scale);
    return {
      profile,
      revision: null,
      market: {
        ...m,
        aMinor: scaled(m.aMinor),
        bMinor: scaled(m.bMinor),
        cMinor: scaled(m.cMinor),
        asFoundMinor: scaled(m.asFoundMinor),
      },
      rates: HOUSE_RATES,
      routes: known.routes ?? HOUSE_ROUTES,
      ...(known.causes ? { causes: known.causes } : {}),
      ...(known.whole ? { whole: known.whole, checks: known.checks ?? [] } : {}),
      ...(known.usualReach ? { usualReach: known.usualReach } : {}),
      record: NO_RECORD,
      rules: [],
      faults: [...this.failing].map(([place, measure], i) => ({ id: place, number: i + 1, place, measure })),
      tried: this.tried,
      openMinutes: this.openMinutes,
      spent: { purchase: askMinor, parts: this.parts, minutes: Math.round(this.minutes) },
      customer: null,
      withheld: [],
      untested: [],
      hiddenBad: 0,
      caps: this.worked.map((o) => ({
        cap: ({ A: 0, B: 1, C: 2 } as const)[o.route.grade],
        what: o.route.id,
      })),
    };
  }

  /** Does a route, and tests again whatever failed. */
  attempt(built: Built, option: number): void {
    const o = built.options[option]!;
    const a = built.problem.attempts[option]!;
    const { wires, faults } = this.unit;
    const depth = built.problem.depths[a.depth]!.minutes;
    const open = Math.max(0, depth - this.openMinutes);
    this.openMinutes = Math.max(depth, this.openMinutes);
    this.minutes += a.minutes + open;
    this.spentMinor += a.cost + labourOf(open, HOUSE_RATES);
    for (const place of o.places) this.tried.push({ place, route: o.route.id });
    if (this.chance(`breaks ${o.route.id} ${o.places.join()}`) < o.route.breaks) {
      this.broken = true;
      return;
    }
    let helped = false;
    for (const f of faults) {
      if (this.gone.has(f) || !o.places.some((p) => reaches(wires, f, p))) continue;
      if (this.chance(`cures ${o.route.id} ${f.node} ${f.defect}`) >= this.world.cures(o.route.id, f.defect))
        continue;
      this.gone.add(f);
      helped = true;
    }
    if (!helped && o.route.part) this.wrongParts++;
    const before = [...this.failing.keys()];
    this.test();
    // what else failed by chance of a fault that comes and goes counts as found now
    if (before.some((p) => o.places.includes(p) && !this.failing.has(p))) this.worked.push(o);
  }

  /** Looks closely at a part; whether it seemed bad. */
  look(node: string, stripMinutes: number): boolean {
    const open = Math.max(0, stripMinutes - this.openMinutes);
    this.openMinutes += open;
    this.work(LOOK.minutes + open);
    const bad = this.unit.faults.some((f) => f.node === node && !this.gone.has(f));
    const said = this.chance(`look ${node}`) < (bad ? LOOK.shows : LOOK.seems);
    const seen = said !== this.chance(`wrong ${node}`) < WRONG_SEEN;
    this.looked.set(node, seen);
    return seen;
  }

  /** Any other check of the library, about some parts: answered as well as a look is. */
  check(id: string, about: readonly string[], minutes: number, opens: boolean, openMinutes: number): boolean {
    const open = opens ? Math.max(0, openMinutes - this.openMinutes) : 0;
    this.openMinutes += open;
    this.work(minutes + open);
    const bad = this.unit.faults.some((f) => !this.gone.has(f) && about.includes(f.node));
    const said = this.chance(`check ${id}`) < (bad ? 0.85 : 0.05);
    return said !== this.chance(`wrong ${id}`) < WRONG_SEEN;
  }

  private bought = (): number => this.unit.askMinor + HOUSE_RATES.carriageOut;

  /** The proof: all of it once more. False when something fails that had not. */
  proves(): boolean {
    this.work(PROOF_MINUTES);
    this.test();
    return this.failing.size === 0;
  }

  giveUp(): Done {
    const p = buildProblem(this.input()).problem;
    const value = this.broken ? p.giveUpBroken : p.giveUp[p.openedTo]!;
    return this.ended(value, null, false);
  }

  /** Sold, as good or with what still fails said. */
  sell(asGood: boolean): Done {
    const built = buildProblem(this.input());
    const p = built.problem;
    const share = built.places
      .filter((x) => !x.twin)
      .reduce((s, x) => s * (asGood ? 1 : (x.leaveShare ?? 0)), 1);
    const left = this.unit.faults.filter((f) => !this.gone.has(f));
    const told = (f: Fault) =>
      !asGood && [...this.failing.keys()].some((place) => reaches(this.unit.wires, f, place));
    const hidden = left.filter((f) => !told(f));
    const back = [
      HOUSE_RATES.returnBase,
      ...this.worked.map((o) => this.world.comesBack(o.route.school)),
      ...hidden.map((f) => (f.shows < 1 ? COMES_BACK_BAD : 1)),
    ].reduce((kept, x) => kept * (1 - x), 1);
    const returns = this.chance("comes back") < 1 - back ? p.comebackCost : 0;
    const worst = hidden.some((f) => f.shows >= 1) ? "constant" : "fickle";
    return this.ended(
      taking(p.price[p.cap]! * share, p.sale) - returns,
      hidden.length > 0 ? worst : null,
      true,
    );
  }

  private ended(value: number, badOut: Done["badOut"], sold: boolean): Done {
    return {
      marginMinor: value - this.spentMinor - this.bought(),
      minutes: this.minutes,
      wrongParts: this.wrongParts,
      badOut,
      sold,
      gaveUp: !sold,
    };
  }
}

/** Whether work at a place can come to a fault: its part lies behind it, or the fault is the place's own. */
export const reaches = (w: FloorUnit["wires"], f: Fault, place: string): boolean =>
  f.node === place || (w.behind.get(place)?.has(f.node) ?? false);
