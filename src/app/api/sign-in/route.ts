import { z } from "@/core/base/schema";

import { houseDatabase } from "@/platform/db/connection";
import { addressOf, answer, fromHere, jsonBody, refusal, route } from "@/platform/http/http";
import { openSession } from "@/platform/http/session";
import { signIn } from "@/features/people/deeds";
import { say } from "@/words/frame";

const inputSchema = z.strictObject({ name: z.string().min(1).max(60), password: z.string().min(1).max(200) });

async function post(request: Request): Promise<Response> {
  if (!fromHere(request)) return refusal({ code: "other-origin" });
  const input = inputSchema.safeParse(await jsonBody(request, 4096));
  if (!input.success)
    return refusal({
      code: "bad-input",
      issues: [{ path: "name", message: say("typeYourNameAndYourPassword") }],
    });
  const result = await signIn(houseDatabase(), input.data.name, input.data.password, addressOf(request));
  if (!result.ok)
    return Response.json(
      { ok: false, why: result.why },
      { status: result.why === "too-many" ? 429 : 401, headers: { "Cache-Control": "no-store" } },
    );
  await openSession(result.person);
  return answer({ ok: true, value: {} });
}

export const POST = route("POST sign-in", post);
