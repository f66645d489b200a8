import type { Disposition } from "./ends";

/** What a decision keeps of the advice that it was taken on: values in minor units. */
export type KeptAdvice = {
  best: Disposition;
  value: number;
  first: string | null;
  policy: { best: Disposition; value: number; first: string | null } | null;
  schools: { school: string; value: number }[];
};

/** What the chosen ending was expected to bring, in minor units; `loss` is the chance of one. */
export type Forecast = {
  value: number;
  margin: number;
  low: number;
  high: number;
  loss: number;
  minutes: number;
  /** at each faulty place what is done first, its odds, and the kind of part that was likeliest behind; older ones have none */
  tries?: ForecastTry[];
};
export type ForecastTry = { place: string; route: string; works: number; cause: string };
