import { answer, fromHere, refusal, route } from "@/platform/http/http";
import { closeSession } from "@/platform/http/session";

async function post(request: Request): Promise<Response> {
  if (!fromHere(request)) return refusal({ code: "other-origin" });
  await closeSession();
  return answer({ ok: true, value: {} });
}

export const POST = route("POST sign-out", post);
