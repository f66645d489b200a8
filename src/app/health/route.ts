import { houseDatabase, mustAnswer } from "@/platform/db/connection";
import { say } from "@/words/frame";

export const dynamic = "force-dynamic";

/** Answers "ok" when the application and its database do. */
export async function GET(): Promise<Response> {
  const headers = { "Content-Type": "text/plain", "Cache-Control": "no-store" };
  try {
    await mustAnswer(houseDatabase());
    return new Response("ok\n", { headers });
  } catch {
    return new Response(say("databaseDoesNotAnswer"), { status: 503, headers });
  }
}
