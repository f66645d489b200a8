import type { Rates } from "../money/rates";
import type { Minor } from "../money/money";
import type { ModelProfile } from "../profile/profile";
import type { Market } from "../profile/slots";
import type { DecideCheck, PlaceCause, WholeCause } from "./causes";
import type { Family } from "./families";
import type { HouseRules } from "./house-rules";
import type { Cap } from "../policy/problem";
import type { Route } from "./routes";

/** What deciding is asked with. */

export type OpenFault = { id: string; number: number; place: string; measure: string | null };
/**
 * What this shop saw of a route on a model: retests after it, and sold units that came back for it within the
 * warranty.
 */
export type RouteTally = {
  route: string;
  model: string;
  worked: number;
  failed: number;
  cameBack: number;
  stayed: number;
};
/** A shop's rule: which route for a family, always or only when another family is faulty at the same part. */
export type Rule = { family: Family; also: Family | null; route: string };

export type DecideInput = {
  profile: Pick<ModelProfile, "id" | "half" | "controls" | "functions" | "slots">;
  revision: string | null;
  /** as this unit stands: less what it came without */
  market: Market;
  missing?: { names: readonly string[]; minor: Minor };
  rates: Rates;
  routes: readonly Route[];
  record: readonly RouteTally[];
  rules: readonly Rule[];
  faults: readonly OpenFault[];
  /** routes that were tried on a place and did not help */
  tried: readonly { place: string; route: string }[];
  /** minutes of strip-down that are done already */
  openMinutes: number;
  /** what is spent and left out: price and carriage, parts, and minutes */
  spent: { purchase: Minor; parts: Minor; minutes: number };
  /** rules of the shop that no odds outweigh, and the tools by name that it lacks */
  house?: HouseRules;
  lacking?: readonly string[];
  /**
   * a customer's unit: what they will pay at most, and whether they aim so precisely that only grade A will
   * do
   */
  customer: { limit: Minor | null; precise: boolean } | null;
  /** what the customer said yes to: until that was tried no other route is proposed there */
  agreed?: readonly { place: string; route: string }[];
  /** faults at which the customer turned work down */
  withheld: readonly string[];
  /** what nobody has tested, with its odds of being bad: it is not counted as sound */
  untested: readonly Untested[];
  /** chance that any of it is bad */
  hiddenBad: number;
  /** of each faulty place what may be behind it; a place without has only its family and measure */
  causes?: Readonly<Record<string, readonly PlaceCause[]>>;
  /** whole explanations, that say of each faulty place which of its `causes` it is; without, places are independent */
  whole?: readonly WholeCause[];
  /** what could be looked at before something is tried */
  checks?: readonly DecideCheck[];
  /** how often what a family's own routes treat is behind it, where nothing more is known */
  usualReach?: number;
  /**
   * the best grade that the rest of the unit leaves room for, whatever is mended: controls that measured B or
   * C, and its outside
   */
  caps: readonly { cap: Cap; what: string }[];
};

export type Untested = { place: string; bad: number };

export type LadderPlace = {
  place: string;
  name: string;
  family: Family;
  numbers: number[];
  twin: boolean;
  leaveShare: number | null;
};
