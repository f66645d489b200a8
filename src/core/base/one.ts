/**
 * What must be there, since the caller knows that it is: an error of ours when it is not, and no half-done
 * work.
 */
export function one<T>(found: T): NonNullable<T> {
  if (found === undefined || found === null) throw new Error("what must be there is not");
  return found;
}
