/** How likely a unit comes back within the warranty, by all that is known of it as it leaves. */

/** Of mends that are good for now, cures that nobody showed, and parts seen broken and left. House guesses. */
const UNPROVEN_COMES_BACK = 0.25;
const BROKEN_COMES_BACK = 0.35;

export type Leaving = {
  /** how often any unit comes back for no reason of the shop's */
  base: number;
  /** of each route that was gone, how often units come back for it */
  mends: readonly number[];
  /** the chances that a button is bad after so many presses, as far as they are known */
  risks: readonly (number | null)[];
  /** mends for now and cures that are not shown */
  unproven: number;
  /** parts that were seen broken and not made good */
  broken: number;
};

/** Each reason by itself: the unit stays out when none of them brings it back. Shares from 0 to 1. */
export const returnChance = ({ base, mends, risks, unproven, broken }: Leaving): number =>
  1 -
  [base, ...mends, ...risks.map((r) => r ?? 0)].reduce((stays, c) => stays * (1 - c), 1) *
    (1 - UNPROVEN_COMES_BACK) ** unproven *
    (1 - BROKEN_COMES_BACK) ** broken;
