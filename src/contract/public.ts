/**
 * Everything that answers without signing in. Nothing else does: src/proxy.ts turns every other address away,
 * and test/e2e/access.spec.ts holds this list against the routes that exist.
 */
export const PUBLIC_ROUTES = [
  { route: "/sign-in", why: "the way in" },
  { route: "/api/sign-in", why: "the way in" },
  {
    route: "/c/[token]",
    why: "a certificate, by an address of 160 bits of its content's digest, which nobody can guess",
  },
  { route: "/c/[token]/pdf", why: "the same as a PDF" },
  { route: "/c/[token]/signed", why: "the same as it was signed" },
  { route: "/.well-known/jwks.json", why: "the public keys that certificates are checked with" },
  {
    route: "/calendar/[token]",
    why: "due days and ends of cover, by an address of 160 random bits that can be taken back; no customer in it",
  },
  {
    route: "/q/[token]",
    why: "a question to a customer, by an address of 160 random bits; looking changes nothing",
  },
  { route: "/q/[token]/answer", why: "takes the customer's posted, confirmed answer" },
  { route: "/q/[token]/bill", why: "the bill of that customer's unit as a PDF" },
  { route: "/q/[token]/picture/[id]", why: "a photograph that the question shows, and no other" },
  { route: "/health", why: "says that the application and its database answer, and nothing more" },
  { route: "/sw.js", why: "keeps pages standing while the workshop is out of reach; it holds no record" },
  { route: "/icon.svg", why: "the sign in the browser's tab" },
] as const;

const patterns = PUBLIC_ROUTES.map(
  (p) => new RegExp(`^${p.route.replaceAll(".", "\\.").replaceAll(/\[(?:token|id)\]/g, "[A-Za-z0-9_-]+")}$`),
);

export const isPublic = (path: string): boolean => patterns.some((p) => p.test(path));
