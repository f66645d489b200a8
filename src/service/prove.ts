import "server-only";

import { judgeProof } from "@/core/prove/proof";
import { Refused, stamp } from "./deed/base";
import { readSteps } from "./facts";
import { modelById } from "./models";
import { readSheet } from "./proving";
import { loadSettings } from "./settings";
import { deed, namedUnit } from "./deed/declare";
import { say } from "@/words/prove";

/** One line of the proof sheet answered; the charge is judged by its figure, whatever was said. */
export const answerProof = deed(
  "proof.answer",
  { unit: namedUnit, workable: true },
  async ({ db, actor, note, unit }, { unitId, key, result, value, note: words }) => {
    const profile = await modelById(db, unit.profile_id);
    const { settings } = await loadSettings(db);
    const sheet = await readSheet(db, unit, await readSteps(db, unit.id), profile.body);
    if (!sheet.some((i) => i.key === key)) throw new Refused({ code: "not-found", what: say("lineOfTheProofSheet") });
    const judged = judgeProof(key, value, result, settings.prove);
    await db("proof_check").insert({ unit_id: unitId, key, result: judged, value, note: words, ...stamp(db, actor) });
    note("proof-answered", unitId, { key, result: judged, value });
    return { result: judged };
  },
);
