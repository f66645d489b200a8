/**
 * Time to relapse by the product-limit method of Kaplan and Meier (1958): units still holding today count as
 * long as they have held.
 */

export type Held = { days: number; relapsed: boolean };
export type SurvivalStep = {
  days: number;
  holding: number;
  low: number;
  high: number;
  atRisk: number;
  relapses: number;
};

const Z = 1.6449; // 90 %

/**
 * Share still holding after each day on which something relapsed, with 90 % intervals after Greenwood (1926)
 * on the log-log scale.
 * @example survivalOf([{ days: 5, relapsed: true }, { days: 9, relapsed: false }]) // one step: day 5, 0.5
 */
export function survivalOf(held: readonly Held[]): SurvivalStep[] {
  const days = [...new Set(held.filter((h) => h.relapsed).map((h) => h.days))].sort((a, b) => a - b);
  let holding = 1;
  let variance = 0;
  return days.map((day) => {
    const atRisk = held.filter((h) => h.days >= day).length;
    const relapses = held.filter((h) => h.relapsed && h.days === day).length;
    const before = holding;
    holding *= 1 - relapses / atRisk;
    variance += atRisk > relapses ? relapses / (atRisk * (atRisk - relapses)) : 0;
    const spread = holding < 1 ? Math.exp((Z * Math.sqrt(variance)) / Math.log(holding)) : 1;
    // log(holding) is negative: the larger exponent is the lower bound. When the last that were left
    // relapsed, Greenwood's variance
    // is not defined; the exact binomial bound of that step stands in
    if (holding === 0)
      return { days: day, holding, low: 0, high: before * (1 - 0.05 ** (1 / atRisk)), atRisk, relapses };
    return {
      days: day,
      holding,
      low: holding > 0 ? holding ** (1 / spread) : 0,
      high: holding > 0 ? holding ** spread : 0,
      atRisk,
      relapses,
    };
  });
}
