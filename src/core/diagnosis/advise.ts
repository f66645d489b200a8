import { type Belief, type Evidence, imagined, learn } from "./belief";
import { type Check, evidenceOf, groupsOf, prospect } from "./checks";

/**
 * The next check worth doing: most information a minute, with risk as minutes, until deciding pays more than
 * knowing.
 */

export type Proposal = {
  check: Check;
  bits: number;
  /** minutes with risk and, once, opening the unit */
  cost: number;
  bitsPerMinute: number;
  outcomes: {
    code: string;
    chance: number;
    /** the part that would lead then, and how surely */ leads: string;
    probability: number;
  }[];
};
export type Advice = {
  proposals: Proposal[];
  /** set when no check is worth its minutes any more */
  stop: "certain" | "deciding-pays-more" | "nothing-left" | null;
  /** minutes that a wrong decision would cost now, on average */
  wrongCost: number;
};

export type AdviceSettings = {
  /** minutes that a wrong decision costs: the wrong part changed, and the unit back on the bench */
  wrongMinutes: number;
  openMinutes: number;
  isOpen: boolean;
  done: ReadonlySet<string>;
  /** checks that are wanted beside those that tell most a minute */
  also?: readonly string[];
  /** certainty beyond which there is nothing left to ask */
  certain: number;
};
export const USUAL_ADVICE: Omit<AdviceSettings, "isOpen" | "done" | "also"> = {
  wrongMinutes: 45,
  openMinutes: 5,
  certain: 0.97,
};

/** The mass of the best explanation, whole: deciding is acting on it. */
export function certainty(b: Belief): number {
  let best = 0;
  for (let h = 0; h < b.posterior.length; h++) best = Math.max(best, b.posterior[h]!);
  return best;
}

/** Every check that still tells something, best first. Pure: the belief is not changed. */
export function rankChecks(b: Belief, library: readonly Check[], s: AdviceSettings): Proposal[] {
  const out: Proposal[] = [];
  const groups = groupsOf(b);
  for (const check of library) {
    if (s.done.has(check.id) || (check.kind === "test" && b.answered.has(check.target))) continue;
    const { bits, outcomes } = prospect(b, check, groups);
    if (bits < LEAST_BITS) continue;
    const cost = check.minutes + check.risk + (check.opens && !s.isOpen ? s.openMinutes : 0);
    out.push({
      check,
      bits,
      cost,
      bitsPerMinute: bits / cost,
      outcomes: outcomes.map((o) => ({ ...o, leads: "", probability: 0 })),
    });
  }
  // cool and reversible before heat: a part is not swapped with an iron while a gentler check of it still
  // tells something
  const gentle = new Set(
    out.filter((p) => p.check.risk < HARSH && p.check.about.length === 1).map((p) => p.check.target),
  );
  return out
    .filter((p) => p.check.risk < HARSH || !gentle.has(p.check.target))
    .sort((x, y) => y.bitsPerMinute - x.bitsPerMinute || x.check.id.localeCompare(y.check.id));
}

/** What tells less than this is not worth a hand. */
const LEAST_BITS = 1e-3;
const HARSH = 2;
const LOOKED_INTO = 6;

/** The proposals with what each outcome would mean, and whether to go on at all. */
export function advise(b: Belief, library: readonly Check[], s: AdviceSettings): Advice {
  const now = certainty(b);
  const wrongCost = (1 - now) * s.wrongMinutes;
  const ranked = rankChecks(b, library, s);
  if (now >= s.certain) return { proposals: [], stop: "certain", wrongCost };
  if (ranked.length === 0) return { proposals: [], stop: "nothing-left", wrongCost };
  let worth = false;
  const wanted = ranked.filter((p, i) => i < LOOKED_INTO || s.also?.includes(p.check.id));
  const proposals = wanted.map((p) => {
    let after = 0;
    const outcomes = p.outcomes.map((o) => {
      const then = imagine(b, [evidenceOf(p.check, o.code)]);
      let lead = 0;
      for (let i = 1; i < then.parts; i++) if (then.marginal[i]! > then.marginal[lead]!) lead = i;
      after += o.chance * (1 - certainty(then)) * s.wrongMinutes;
      return { ...o, leads: b.graph.nodes[lead]!.id, probability: then.marginal[lead]! };
    });
    // one check may not pay by itself and still open the way: information above a tenth of a bit a minute
    // goes on
    if (wrongCost - after > p.cost || (p.bitsPerMinute > GOES_ON && wrongCost > p.cost)) worth = true;
    return { ...p, outcomes };
  });
  return { proposals, stop: worth ? null : "deciding-pays-more", wrongCost };
}
const GOES_ON = 0.1;

function imagine(b: Belief, evidence: readonly Evidence[]): Belief {
  const copy = imagined(b);
  learn(copy, evidence);
  return copy;
}
