import "server-only";

import { judgeProof } from "@/core/prove/proof";
import { type Deed, note, Refused, stamp } from "./base";
import { loadFacts, lockUnit, mustBeWorkable, refreshStanding } from "./facts";
import { modelById } from "./models";
import { loadSettings } from "./settings";

/** One line of the proof sheet answered; the charge is judged by its figure, whatever was said. */
export const answerProof: Deed<"proof.answer"> = async (db, actor, { unitId, key, result, value, note: words }) => {
  const unit = await lockUnit(db, unitId, null, actor);
  mustBeWorkable(unit);
  const profile = await modelById(db, unit.profile_id);
  const { settings } = await loadSettings(db);
  const { proving } = await loadFacts(db, unit, profile.body, settings.floor);
  if (!proving.sheet.some((i) => i.key === key)) throw new Refused({ code: "not-found", what: "line of the proof sheet" });
  const judged = judgeProof(key, value, result, settings.prove);
  await db("proof_check").insert({ unit_id: unitId, key, result: judged, value, note: words, ...stamp(db, actor) });
  await note(db, actor, "proof-answered", unitId, { key, result: judged, value });
  await refreshStanding(db, unitId);
  return { result: judged };
};
