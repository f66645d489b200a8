import { houseDatabase } from "@/platform/db/connection";
import { z } from "@/core/base/schema";
import { addressOf, answer, jsonBody, refusal, route, unfit, writer } from "@/platform/http/http";
import { signIn } from "@/features/people/deeds";
import { confirmSession } from "@/features/account/sessions";

const inputSchema = z.strictObject({ password: z.string().min(1).max(200) });

/** The signed-in person types their own password again. Tries count as tries to sign in. */
async function post(request: Request): Promise<Response> {
  const who = await writer(request);
  if ("response" in who) return who.response;
  const input = inputSchema.safeParse(await jsonBody(request, 4096));
  if (!input.success) return unfit(input.error);
  const result = await signIn(houseDatabase(), who.actor.name, input.data.password, addressOf(request));
  if (!result.ok) return refusal({ code: result.why === "wrong" ? "wrong-password" : "too-many-tries" });
  await confirmSession(houseDatabase(), who.actor.session!.id);
  return answer({ ok: true, value: {} });
}

export const POST = route("POST confirm", post);
