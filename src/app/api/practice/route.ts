import { cookies } from "next/headers";

import { practiceSchema } from "@/contract/practice";
import { answer, jsonBody, refusal, route, unfit, writer } from "@/door/http";
import { PRACTICE_COOKIE } from "@/door/session";
import { beginExercise, endExercise, preparePractice } from "@/service/practice";

/** Goes to the practice bench and back. The server reads the cookie and takes the practice records (src/db/connection.ts). */
async function post(request: Request): Promise<Response> {
  const who = await writer(request);
  if ("response" in who) return who.response;
  if (who.actor.role === "viewer") return refusal({ code: "not-allowed", role: who.actor.role });
  const asked = practiceSchema.safeParse(await jsonBody(request, 4096));
  if (!asked.success) return unfit(asked.error);
  const jar = await cookies();
  const enter = () => jar.set(PRACTICE_COOKIE, "1", { httpOnly: true, sameSite: "lax", path: "/" });
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
}

export const POST = route("POST practice", post);
