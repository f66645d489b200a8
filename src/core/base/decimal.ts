/** The longest number that anybody writes: a double has 17 figures, a sign, a point and an exponent. */
const MOST = 40;
// one way to match each text: an expression that may split the same digits in two ways takes the square of
// their count
const DECIMAL = /^[+-]?(?:\d+(?:\.\d*)?|\.\d+)(?:[eE][+-]?\d{1,3})?$/;

/**
 * A finite decimal number with a point, such as "-0.5", ".5" or "1e-3", with blanks around it; undefined for
 * everything else, also for what is longer than any number. Takes no longer for a hostile text than for a
 * good one.
 */
export function readDecimal(text: string): number | undefined {
  if (text.length > MOST) return undefined;
  const bare = text.trim();
  if (!DECIMAL.test(bare)) return undefined;
  const value = Number(bare);
  return Number.isFinite(value) ? value : undefined;
}
