import { postedAnswerSchema } from "@/contract/question";
import { houseDatabase } from "@/platform/db/connection";
import { answer, fromHere, jsonBody, refusal, route, unfit } from "@/platform/http/http";
import { answerByToken } from "@/features/questions/deeds";

const MOST_BYTES = 20_000;

/**
 * The customer's answer. Only this posted, confirmed message answers; opening the page, by a person or a mail
 * scanner, never does.
 */
async function post(request: Request, { params }: { params: Promise<{ token: string }> }): Promise<Response> {
  if (!fromHere(request)) return refusal({ code: "other-origin" });
  const posted = postedAnswerSchema.safeParse(await jsonBody(request, MOST_BYTES));
  if (!posted.success) return unfit(posted.error);
  const done = await answerByToken(houseDatabase(), (await params).token, posted.data);
  return answer(done.ok ? { ok: true, value: {} } : done);
}

export const POST = route("POST q/[token]/answer", post);
