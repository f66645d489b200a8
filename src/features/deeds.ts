import "server-only";

import type { Knex } from "knex";

import { DEEDS, type DeedName } from "@/contract/deeds";
import type { Reply } from "@/contract/refusals";
import { applyPlan } from "./parts/plan";
import { cancelOrder, placeOrder } from "@/features/parts/orders";
import { disposeBatch, judgeBatch, readPiece } from "./stock/batches";
import { judgeDonorPart, takeDonorPart } from "./parts/donors";
import { count, move, receive } from "./stock/deeds";
import { importCsv } from "@/features/stock/import";
import { join, split } from "@/features/stock/split";
import { rateFeel, removeFitted, swap, take } from "@/features/stock/fitted";
import { reserve, unreserve } from "@/features/stock/reserve";
import { saveCatalogue } from "@/features/stock/catalogue";
import { saveModelMoney, saveRoutes } from "@/features/routes/deeds";
import { takeDecision } from "./decide/deeds";
import { keepListing, settleListing } from "./buying/deeds";
import { spreadLot } from "./buying/lots";
import { cameBack, handOver } from "./after/deeds";
import { makeFeed, revokeFeed } from "./account/feed";
import { answerProof } from "./prove/deeds";
import { recordAnswer, sendQuestion, withdrawQuestion } from "./questions/deeds";
import { readBack, writeCalibration } from "./mend/calibrate";
import { pin, setDue, setHours, unpin } from "./day/deeds";
import { addHeat } from "./mend/heat";
import { endOwnSession } from "./account/sessions";
import { addTip, settleTip } from "./mend/tips";
import { moveWait, seeWait, startWait } from "./waits/deeds";
import { addDamage, makeGood } from "./prove/damage";
import { changeWork, dropWork, openWork, setRevision } from "./mend/work-order";
import { doWork, undoWork } from "@/features/mend/work-done";
import { saveTools } from "@/features/mend/order";
import type { Actor } from "@/platform/deed/base";
import type { Deed } from "@/platform/deed/declare";
import { perform } from "@/platform/run/run";
import {
  addFragment,
  addTry,
  matchFragment,
  observe,
  saveLexicon,
  settleTry,
  startHalving,
  stepHalving,
  withdrawObservation,
} from "./find/deeds";
import { importProfile } from "./models/deeds";
import { addPerson, changePassword, changePerson } from "./people/deeds";
import { removePhoto } from "./intake/photos";
import { setReference, takeReading } from "./test/readings";
import { takeAsProof } from "./test/recordings";
import { endUnit, release, reopen, revokeCertificate } from "./release/deeds";
import { saveSettings } from "./settings/deeds";
import { addCustomer, addLot, clearLiquid, editIntake, settleMark, takeIn, toTray } from "./intake/deeds";
import { bePresent } from "@/features/case/presence";
import { addFault, addMend, checkFunction, editMend, settleFault } from "./mend/deeds";

const RUN: { [D in DeedName]: Deed<D> } = {
  "person.add": addPerson,
  "person.change": changePerson,
  "person.change-password": changePassword,
  "session.end": endOwnSession,
  "profile.import": importProfile,
  "customer.add": addCustomer,
  "lot.add": addLot,
  "unit.take-in": takeIn,
  "unit.edit-intake": editIntake,
  "mark.settle": settleMark,
  "recording.take-as-proof": takeAsProof,
  "unit.to-tray": toTray,
  "unit.clear-liquid": clearLiquid,
  "function.check": checkFunction,
  "reading.take": takeReading,
  "unit.set-reference": setReference,
  "find.observe": observe,
  "find.withdraw": withdrawObservation,
  "try.add": addTry,
  "try.settle": settleTry,
  "fragment.add": addFragment,
  "fragment.match": matchFragment,
  "halving.start": startHalving,
  "halving.step": stepHalving,
  "lexicon.save": saveLexicon,
  "fault.add": addFault,
  "fault.settle": settleFault,
  "mend.add": addMend,
  "mend.edit": editMend,
  "proof.answer": answerProof,
  "unit.release": release,
  "unit.hand-over": handOver,
  "feed.make": makeFeed,
  "feed.revoke": revokeFeed,
  "unit.end": endUnit,
  "unit.reopen": reopen,
  "certificate.revoke": revokeCertificate,
  "decision.take": takeDecision,
  "routes.save": saveRoutes,
  "model.save-money": saveModelMoney,
  "listing.keep": keepListing,
  "listing.settle": settleListing,
  "lot.spread": spreadLot,
  "question.send": sendQuestion,
  "question.withdraw": withdrawQuestion,
  "question.record": recordAnswer,
  "unit.came-back": cameBack,
  "catalogue.save": saveCatalogue,
  "stock.receive": receive,
  "stock.take": take,
  "stock.move": move,
  "stock.count": count,
  "stock.split": split,
  "stock.join": join,
  "stock.reserve": reserve,
  "stock.unreserve": unreserve,
  "stock.import": importCsv,
  "fitted.remove": removeFitted,
  "fitted.feel": rateFeel,
  "batch.read": readPiece,
  "batch.judge": judgeBatch,
  "batch.dispose": disposeBatch,
  "donor.judge": judgeDonorPart,
  "donor.take": takeDonorPart,
  "part.swap": swap,
  "plan.apply": applyPlan,
  "order.place": placeOrder,
  "order.cancel": cancelOrder,
  "work.open": openWork,
  "work.change": changeWork,
  "work.revision": setRevision,
  "work.drop": dropWork,
  "work.do": doWork,
  "work.undo": undoWork,
  "damage.add": addDamage,
  "damage.make-good": makeGood,
  "wait.start": startWait,
  "wait.move": moveWait,
  "wait.seen": seeWait,
  "heat.add": addHeat,
  "calibration.write": writeCalibration,
  "calibration.saved": readBack,
  "tip.add": addTip,
  "tip.settle": settleTip,
  "tools.save": saveTools,
  "unit.set-due": setDue,
  "person.set-hours": setHours,
  "plan.pin": pin,
  "plan.unpin": unpin,
  "photo.remove": removePhoto,
  "bench.present": bePresent,
  "settings.save": saveSettings,
};

export const isDeed = (name: string): name is DeedName => Object.hasOwn(DEEDS, name);

/** Does one deed by its name. */
export const doDeed = (
  db: Knex,
  actor: Actor,
  name: DeedName,
  requestId: string,
  raw: unknown,
): Promise<Reply> => perform(db, actor, RUN[name] as Deed<DeedName>, requestId, raw);
