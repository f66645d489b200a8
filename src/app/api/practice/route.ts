import { cookies } from "next/headers";

import { practiceSchema } from "@/contract/practice";
import { answer, jsonBody, refusal, writer } from "@/door/http";
import { PRACTICE_COOKIE } from "@/door/session";
import { Refused } from "@/service/base";
import { log } from "@/service/log";
import { beginExercise, endExercise, preparePractice } from "@/service/practice";

/** Goes to the practice bench and back. The server reads the cookie and takes the practice records (src/db/connection.ts). */
export async function POST(request: Request): Promise<Response> {
  const who = await writer(request);
  if ("response" in who) return who.response;
  if (who.actor.role === "viewer") return refusal({ code: "not-allowed", role: who.actor.role });
  const asked = practiceSchema.safeParse(await jsonBody(request, 4096));
  if (!asked.success)
    return refusal({
      code: "bad-input",
      issues: asked.error.issues.map((i) => ({ path: i.path.join("."), message: i.message })),
    });
  const jar = await cookies();
  const enter = () => jar.set(PRACTICE_COOKIE, "1", { httpOnly: true, sameSite: "lax", path: "/" });
  try {
    switch (asked.data.do) {
      case "begin": {
        const { level, model, after } = asked.data;
        const { tag } = await beginExercise(who.actor, level, model, after);
        enter();
        return answer({ ok: true, value: { href: `/units/${tag}/test` } });
      }
      case "end": {
        await endExercise(who.actor, asked.data.exerciseId);
        jar.delete(PRACTICE_COOKIE);
        return answer({ ok: true, value: { href: "/practice" } });
      }
      case "go-on":
        await preparePractice();
        enter();
        return answer({ ok: true, value: { href: "/" } });
      case "leave":
        jar.delete(PRACTICE_COOKIE);
        return answer({ ok: true, value: { href: "/practice" } });
    }
  } catch (error) {
    if (error instanceof Refused) return refusal(error.problem);
    log.error({ err: error }, "practice failed");
    return refusal({ code: "busy" });
  }
}
