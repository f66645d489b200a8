import { answer, fromHere, refusal, route } from "@/door/http";
import { closeSession } from "@/door/session";

async function post(request: Request): Promise<Response> {
  if (!fromHere(request)) return refusal({ code: "other-origin" });
  await closeSession();
  return answer({ ok: true, value: {} });
}

export const POST = route("POST sign-out", post);
