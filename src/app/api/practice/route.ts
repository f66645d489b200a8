import { houseDatabase } from "@/platform/db/connection";

import { practiceSchema } from "@/contract/practice";
import { answer, jsonBody, refusal, route, unfit, writer } from "@/platform/http/http";
import { setPractice } from "@/features/account/sessions";
import { lookInside } from "@/features/practice/inside";
import { beginExercise, endExercise, preparePractice } from "@/features/practice/deeds";

/** Goes to the practice bench and back. It stands in the session (src/door/session.ts). */
async function post(request: Request): Promise<Response> {
  const who = await writer(request);
  if ("response" in who) return who.response;
  if (who.actor.role === "viewer") return refusal({ code: "not-allowed", role: who.actor.role });
  const asked = practiceSchema.safeParse(await jsonBody(request, 4096));
  if (!asked.success) return unfit(asked.error);
  const turn = (practice: boolean) => setPractice(houseDatabase(), who.actor.session!.id, practice);
  switch (asked.data.do) {
    case "begin": {
      const { level, model, after } = asked.data;
      const { tag } = await beginExercise(who.actor, level, model, after);
      await turn(true);
      return answer({ ok: true, value: { href: `/units/${tag}/test` } });
    }
    case "end": {
      await endExercise(who.actor, asked.data.exerciseId);
      await turn(false);
      return answer({ ok: true, value: { href: "/practice" } });
    }
    case "look":
      return answer({
        ok: true,
        value: { outcome: await lookInside(who.actor, asked.data.unitId, asked.data.check) },
      });
    case "go-on":
      await preparePractice();
      await turn(true);
      return answer({ ok: true, value: { href: "/" } });
    case "leave":
      await turn(false);
      return answer({ ok: true, value: { href: "/practice" } });
  }
}

export const POST = route("POST practice", post);
