import { answer, fromHere, refusal } from "@/door/http";
import { closeSession } from "@/door/session";

export async function POST(request: Request): Promise<Response> {
  if (!fromHere(request)) return refusal({ code: "other-origin" });
  await closeSession();
  return answer({ ok: true, value: {} });
}
