const HERE = "http://here.invalid";

/**
 * An address of this application that may follow a sign-in; the bench for everything else. A browser takes
 * tabs and line ends out of an address and reads a backslash as a slash, so the address is read as a browser
 * reads it before it is judged.
 */
export function innerPath(next: unknown): string {
  if (typeof next !== "string" || !next.startsWith("/")) return "/";
  try {
    const read = new URL(next, HERE);
    return read.origin === HERE ? `${read.pathname}${read.search}${read.hash}`.replace(/^\/{2,}/, "/") : "/";
  } catch {
    return "/";
  }
}
