/** An expected refusal is a value: a code and its numbers. The sentence lives in src/text. */
export type Result<T, P> =
  { readonly ok: true; readonly value: T } | { readonly ok: false; readonly problem: P };

export const ok = <T>(value: T): { readonly ok: true; readonly value: T } => ({ ok: true, value });
export const refuse = <P>(problem: P): { readonly ok: false; readonly problem: P } => ({
  ok: false,
  problem,
});
