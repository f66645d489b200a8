import "server-only";

import { unstable_rethrow } from "next/navigation";
import type { ZodError } from "zod";

import type { Refusal, Reply } from "@/contract/refusals";
import { issuesOf } from "@/contract/words";
import { type Actor, Refused } from "@/platform/deed/base";
import { problemOf } from "@/platform/deed/trouble";
import { currentPerson } from "./session";

/** What every route handler does first: who is asking, and from which page. */

const STATUS: Partial<Record<Refusal["code"], number>> = {
  "signed-out": 401,
  "not-allowed": 403,
  "other-origin": 403,
  "other-person": 403,
  "other-bench": 403,
  "bad-input": 400,
  "not-found": 404,
  "too-large": 413,
  "not-an-image": 415,
  recording: 422,
  "other-controller": 422,
  archive: 422,
  busy: 503,
  away: 503,
  unexpected: 500,
};

export function answer(reply: Reply): Response {
  return Response.json(reply, {
    status: reply.ok ? 200 : (STATUS[reply.problem.code] ?? 409),
    headers: { "Cache-Control": "no-store" },
  });
}
export const refusal = (problem: Refusal): Response => answer({ ok: false, problem });

/**
 * Every route handler: what its work throws becomes an answer in words, with the right status and, where it
 * is a defect, a number in the log beside the person.
 */
export function route<A extends unknown[]>(
  what: string,
  handle: (request: Request, ...rest: A) => Promise<Response>,
): (request: Request, ...rest: A) => Promise<Response> {
  return async (request, ...rest) => {
    try {
      return await handle(request, ...rest);
    } catch (error) {
      unstable_rethrow(error); // redirects and "not found" are how Next says them
      const person = error instanceof Refused ? null : await currentPerson().catch(() => null);
      return refusal(problemOf(error, { what, ...(person ? { by: person.id } : {}) }));
    }
  };
}

/** What a validator found, in our words, the first few. */
export const unfit = (error: ZodError): Response => refusal({ code: "bad-input", issues: issuesOf(error) });

/** A write must come from a page of this application: its Origin is this host, or PUBLIC_URL. */
export function fromHere(request: Request): boolean {
  const origin = request.headers.get("origin");
  if (origin === null || origin === "null") return false;
  try {
    const from = new URL(origin);
    const allowed = process.env.PUBLIC_URL ? new URL(process.env.PUBLIC_URL).origin : null;
    return from.origin === allowed || from.host === request.headers.get("host");
  } catch {
    return false;
  }
}

/** The person behind a writing request, or the response that turns it away. */
export async function writer(request: Request): Promise<{ actor: Actor } | { response: Response }> {
  if (!fromHere(request)) return { response: refusal({ code: "other-origin" }) };
  return reader();
}

export async function reader(): Promise<{ actor: Actor } | { response: Response }> {
  const actor = await currentPerson();
  return actor ? { actor } : { response: refusal({ code: "signed-out" }) };
}

/** Reads a body up to a limit, without trusting the length that was promised. Null when it is longer. */
export async function bodyUpTo(request: Request, limit: number): Promise<Buffer | null> {
  if (Number(request.headers.get("content-length") ?? 0) > limit) return null;
  if (!request.body) return Buffer.alloc(0);
  const chunks: Uint8Array[] = [];
  let size = 0;
  for await (const chunk of request.body as unknown as AsyncIterable<Uint8Array>) {
    size += chunk.length;
    if (size > limit) return null;
    chunks.push(chunk);
  }
  return Buffer.concat(chunks);
}

// eslint-disable-next-line no-control-regex -- these are the characters
const NEVER_TYPED = /[\u0000-\u001f\u007f]/g;
/** A value of an address without characters that nobody types. */
export const typed = (text: string, most: number): string => text.replace(NEVER_TYPED, "").slice(0, most);

export async function jsonBody(request: Request, limit = 1024 * 1024): Promise<unknown> {
  const body = await bodyUpTo(request, limit);
  if (body === null) return undefined;
  const text = body.toString("utf8");
  if (text.includes("\\u0000") || text.includes("\0")) return undefined; // the database takes no zero character
  try {
    const body: unknown = JSON.parse(text);
    return isWellFormed(body) ? body : undefined;
  } catch {
    return undefined;
  }
}

/**
 * No text in it ends in half a character (a lone surrogate), which the database would refuse or change
 * without a word.
 */
function isWellFormed(value: unknown): boolean {
  if (typeof value === "string") return value.isWellFormed();
  if (Array.isArray(value)) return value.every(isWellFormed);
  if (typeof value === "object" && value !== null)
    return Object.entries(value).every(([k, v]) => k.isWellFormed() && isWellFormed(v));
  return true;
}

/** The sender's address: the connection's, which the server puts in this header itself. */
export const addressOf = (request: Request): string => request.headers.get("x-birdcage-address") ?? "unknown";

/** A CSV to save under a name. */
export const csvFile = (csv: string, name: string): Response =>
  new Response(csv, {
    headers: {
      "Content-Type": "text/csv; charset=utf-8",
      "Content-Disposition": `attachment; filename="${name}"`,
      "Cache-Control": "no-store",
    },
  });

/** A PDF to look at, named as it would be saved. */
export const pdfFile = (pdf: Uint8Array, name: string): Response =>
  new Response(Buffer.from(pdf), {
    headers: {
      "Content-Type": "application/pdf",
      "Content-Disposition": `inline; filename="${name}"`,
      "Cache-Control": "no-store",
    },
  });
