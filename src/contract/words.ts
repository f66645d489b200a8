import type { ZodError } from "zod";

/** What a validator found, in our words (core/base/schema), the first few, as a refusal carries it. */
export const issuesOf = (error: ZodError): { path: string; message: string }[] =>
  error.issues.slice(0, 20).map((i) => ({ path: i.path.join(".").slice(0, 120), message: i.message.slice(0, 300) }));
