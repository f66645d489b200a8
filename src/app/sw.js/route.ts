import { readFile } from "node:fs/promises";
import { join } from "node:path";

import { route } from "@/platform/http/http";

/**
 * The service worker with the page that it shows while the workshop is out of reach
 * (server/service-worker.js).
 */
async function get(): Promise<Response> {
  const read = (name: string) => readFile(join(process.cwd(), "server", name), "utf8");
  const page = JSON.stringify(await read("away.html"));
  const script = (await read("service-worker.js")).replace('"__AWAY_PAGE__"', () => page);
  return new Response(script, {
    headers: {
      "Content-Type": "text/javascript; charset=utf-8",
      "Cache-Control": "no-cache",
      "Service-Worker-Allowed": "/",
    },
  });
}

export const GET = route("GET sw.js", get);
