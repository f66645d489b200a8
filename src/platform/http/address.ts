import "server-only";

import { headers } from "next/headers";

/**
 * The address under which the outside reaches this application, for printed links: PUBLIC_URL, or the one
 * that was asked.
 */
export async function publicAddress(): Promise<string> {
  if (process.env.PUBLIC_URL) return process.env.PUBLIC_URL.replace(/\/$/, "");
  const host = (await headers()).get("host") ?? "127.0.0.1";
  return `${process.env.TLS_CERT ? "https" : "http"}://${host}`;
}
