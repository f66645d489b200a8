import "server-only";

import { judgeProof } from "@/core/prove/proof";
import { Refused, stamp } from "@/platform/deed/base";
import { readSteps } from "@/features/case/facts";
import { modelById } from "@/features/models/deeds";
import { readSheet } from "@/features/case/proving";
import { loadSettings } from "@/features/settings/settings";
import { deed, namedUnit } from "@/platform/deed/declare";
import { say } from "@/features/prove/words/words";

/** One line of the proof sheet answered; the charge is judged by its figure, whatever was said. */
export const answerProof = deed(
  "proof.answer",
  { unit: namedUnit, workable: true },
  async ({ db, actor, note, unit }, { unitId, key, result, value, note: words }) => {
    const profile = await modelById(db, unit.profile_id);
    const { settings } = await loadSettings(db);
    const sheet = await readSheet(db, unit, await readSteps(db, unit.id), profile.body);
    if (!sheet.some((i) => i.key === key))
      throw new Refused({ code: "not-found", what: say("lineOfTheProofSheet") });
    const judged = judgeProof(key, value, result, settings.prove);
    await db("proof_check").insert({
      unit_id: unitId,
      key,
      result: judged,
      value,
      note: words,
      ...stamp(db, actor),
    });
    note("proof-answered", unitId, { key, result: judged, value });
    return { result: judged };
  },
);

/** The changes of this file, for the list of all (features/deeds.ts). */
export const deeds = [answerProof] as const;
