import type { DeedName } from "@/contract/deeds";
import { placeWords } from "@/text/names";
import { CHECK_NAMES } from "@/features/case/words/text";
import { PROOF_RESULT_WORDS, proofWords } from "@/features/release/words/text";
import { say } from "@/words/refusals";
import { codeWords } from "@/words/codes";

/** What a change is called when it is spoken of: one that waits, or one that was refused. */

const NAMES: Record<DeedName, string> = {
  "person.add": say("aNewPerson"),
  "person.change": say("aChangeOfAPerson"),
  "session.end": say("theEndOfASession"),
  "person.change-password": say("theNewPassword"),
  "profile.import": say("aModel"),
  "customer.add": say("aNewCustomer"),
  "lot.add": say("aNewLot"),
  "unit.take-in": say("takingAUnitIn"),
  "unit.edit-intake": say("theChangedIntake"),
  "mark.settle": say("aMarkOutside"),
  "recording.take-as-proof": say("takingARecordingAsTheProof"),
  "unit.to-tray": say("aUnitsTray"),
  "unit.clear-liquid": say("theSignOffAsDry"),
  "function.check": say("aFunction"),
  "reading.take": say("aReading"),
  "unit.set-reference": say("theReferenceUnit"),
  "find.observe": say("whatWasSeen"),
  "find.withdraw": say("takingBackWhatWasSeen"),
  "try.add": say("aTry"),
  "try.settle": say("whatATryShowed"),
  "fragment.add": say("aLoosePiece"),
  "fragment.match": say("whatALoosePieceFits"),
  "halving.start": say("aSearchByHalves"),
  "halving.step": say("aStepOfTheSearchBy"),
  "lexicon.save": say("theWordsOfComplaints"),
  "fault.add": say("aFault"),
  "fault.settle": say("settlingAFault"),
  "mend.add": say("aMend"),
  "mend.edit": say("aChangedMend"),
  "proof.answer": say("theProofSheet"),
  "unit.release": say("theRelease"),
  "unit.hand-over": say("handingItOver"),
  "feed.make": say("aCalendar"),
  "feed.revoke": say("endingACalendar"),
  "unit.end": say("closingTheUnit"),
  "unit.reopen": say("openingTheUnitAgain"),
  "certificate.revoke": say("revokingACertificate"),
  "decision.take": say("theDecision"),
  "routes.save": say("theRoutes"),
  "model.save-money": say("pricesAndRulesOfAModel"),
  "listing.keep": say("aListing"),
  "listing.settle": say("whatBecameOfAListing"),
  "lot.spread": say("spreadingALotsPrice"),
  "question.send": say("aQuestionToACustomer"),
  "question.withdraw": say("takingAQuestionBack"),
  "question.record": say("aCustomersAnswer"),
  "unit.came-back": say("aReturn"),
  "catalogue.save": say("theCatalogueOfParts"),
  "stock.receive": say("aNewBatch"),
  "stock.take": say("takingPiecesOut"),
  "stock.move": say("anotherBin"),
  "stock.count": say("aCount"),
  "stock.split": say("takingAKitApart"),
  "stock.join": say("puttingAKitTogetherAgain"),
  "stock.reserve": say("puttingAPieceAside"),
  "stock.unreserve": say("freeingAPiece"),
  "stock.import": say("aFileOfStock"),
  "fitted.remove": say("takingAFittedPartOut"),
  "fitted.feel": say("howAPartFeels"),
  "batch.read": say("aMeasuredPiece"),
  "batch.judge": say("theVerdictOnABatch"),
  "batch.dispose": say("disposingOfABatch"),
  "donor.judge": say("aDonorsPart"),
  "donor.take": say("takingAPartFromADonor"),
  "part.swap": say("aSwapOfParts"),
  "plan.apply": say("thePlan"),
  "order.place": say("anOrder"),
  "order.cancel": say("cancellingAnOrder"),
  "work.open": say("openingAWorkOrder"),
  "work.change": say("changingTheWorkOrder"),
  "work.revision": say("theRevisionInside"),
  "work.drop": say("droppingTheWorkOrder"),
  "work.do": say("aStepOfTheWorkOrder"),
  "work.undo": say("takingAStepBack"),
  "damage.add": say("damageOnTheWay"),
  "damage.make-good": say("damageMadeGood"),
  "wait.start": say("aWait"),
  "wait.move": say("theEndOfAWait"),
  "wait.seen": say("theEndOfAWait"),
  "heat.add": say("soldering"),
  "calibration.write": say("aCalibration"),
  "calibration.saved": say("readingACalibrationBack"),
  "tip.add": say("aNote"),
  "tip.settle": say("whetherANoteHolds"),
  "tools.save": say("theToolsOfTheShop"),
  "unit.set-due": say("theDayItIsDue"),
  "person.set-hours": say("workingHours"),
  "plan.pin": say("aPinInTheDaysPlan"),
  "plan.unpin": say("aPinInTheDaysPlan"),
  "photo.remove": say("removingAPhotograph"),
  "bench.present": say("timeAtTheBench"),
  "settings.save": say("theSettings"),
};

type Told = Partial<Record<string, unknown>>;
const text = (v: unknown): string => (typeof v === "string" ? v : "");
const outcomeWords = (v: unknown): string => codeWords(text(v));

/** What stands beside the name: which one, and what was said of it. */
const DETAILS: Partial<Record<DeedName, (input: Told) => string>> = {
  "function.check": (i) =>
    `${placeWords(text(i.functionId))}: ${CHECK_NAMES[i.result as keyof typeof CHECK_NAMES]}`,
  "proof.answer": (i) =>
    `${proofWords(text(i.key)).name}: ${PROOF_RESULT_WORDS[i.result as keyof typeof PROOF_RESULT_WORDS]}`,
  "fault.add": (i) => `${placeWords(text(i.place))}: ${text(i.kind)}`,
  "batch.read": (i) => say("pieceNumber", { number: String(i.number) }),
  "find.observe": (i) => `${placeWords(text(i.target))}: ${outcomeWords(i.outcome)}`,
  "mend.add": (i) => text(i.what),
  "fragment.add": (i) => text(i.what),
  "try.add": (i) => text(i.what),
};

/** A change in words: "a function, radio link: pass". */
export function deedWords(deed: DeedName, input: unknown): string {
  const detail = DETAILS[deed]?.(input as Told);
  return detail ? `${NAMES[deed]}, ${detail}` : NAMES[deed];
}
