import { catalogue } from "./catalogue";

export const say = catalogue("refusals", {
  rowRowLineRow2: "Row {row} (line {row2})",
  theFileIsEmptyExportA: "The file is empty. Export a recording with a header row and one sample a row.",
  theFileHasAHeaderAnd: "The file has a header and no samples.",
  theHeaderLacksTheColumnColumn:
    'The header lacks the column "{column}". Every recording needs t_ms and step.',
  theHeaderNamesTheColumnColumn: 'The header names the column "{column}" twice.',
  rowHasAQuotationMarkThat: "{row} has a quotation mark that is not closed or stands inside a value.",
  rowHasGotValuesWhereThe: "{row} has {got} values where the header has {expected}.",
  rowNamesTheStepStepSteps:
    '{row} names the step "{step}". Steps are rest, circle, sweep, flick, pull, press, press-edge and free.',
  rowHasTextInColumnColumn: '{row} has "{text}" in column {column}, where a finite number belongs.',
  rowRunsBackwardsTMsT: "{row} runs backwards: t_ms {t} after {previous}.",
  rowHasTextInColumnCue: '{row} has "{text}" in column cue, where 0, 1 or nothing belongs.',
  rowHasValueInColumnColumn: "{row} has {value} in column {column}, outside {low} to {high}.",
  theRecordingHasMoreThanLimit: "The recording has more than {limit} samples. Cut it into shorter ones.",
  theHeaderHasMoreThanLimit: "The header has more than {limit} columns.",
  theColumnControlNamesMoreThan:
    "The column control names more than {limit} controls, which no controller has.",
  rowIsLongerThanLimitCharacters:
    "{row} is longer than {limit} characters: this is no recording, or its line ends are lost.",
  theHeader: "The header",
  theRecordingLastsLongerThan:
    "The recording lasts longer than {limitHours} hours. t_ms counts milliseconds; check it, or cut it.",
  theLogIsEmptyTypeOr: "The log is empty. Type or load at least a few rows.",
  theLogNeedsTheColumnsWanted: "The log needs the columns {wanted}, named in its first row or in that order.",
  rowRowTextIsNoFigure: 'Row {row}: "{text}" is no figure for {column}.',
  theLogHasMoreThanLimit: "The log has more than {limit} rows. Keep one row a minute.",
  rowRowTheMinutesRunBackwards: "Row {row}: the minutes run backwards.",
  aSwollenCellLeavesByThe: "A swollen cell leaves by the local rules only, never by sale.",
  itTookLiquidAndIsNot:
    "It took liquid and is not signed off. Sign it off under Mend first; this cannot be waived.",
  thereIsNoFullTestAfter:
    "There is no full test after the last mend. Prove the unit first; this cannot be waived.",
  itsWorkOrderIsNotClosed:
    "Its work order is not closed. Put everything back and run its last test; this cannot be waived.",
  itCarriesAPieceOfA:
    "It carries a piece of a rejected batch. Change that piece first; this cannot be waived.",
  youAreSignedOutSignIn: "You are signed out. Sign in again in another tab; what you typed stays here.",
  aRoleCannotDoThisAsk: "A {role} cannot do this. Ask a technician or the lead.",
  thisRequestCameFromAnotherSite:
    "This request came from another site and was refused. Open Birdcage by its own address.",
  somebodyElseIsSignedInHere:
    "Somebody else is signed in here now. What you did waits in this browser until you are back.",
  thisWasDoneAtTheOther:
    "This was done at the other bench, practice or the workshop's own. It waits until you are back there.",
  thisWhatIsNotThereAny: "This {what} is not there any more. Go back and look again.",
  changedMeanwhileByByAtTIME:
    "Changed meanwhile by {by} at {tIME}. What you typed is still here: compare it with the new state, then save again.",
  trayTrayHoldsTagChooseAnother: "Tray {tray} holds {tag}. Choose another, or take that unit off first.",
  thisUnitIsInQuarantineFor:
    "This unit is in quarantine for a swollen cell. Nothing else is done with it here.",
  thisUnitTookLiquidItIs:
    "This unit took liquid. It is not powered until it was opened, its cell unplugged, and it was inspected and dry.",
  thisUnitIsClosedALead: "This unit is closed. A lead can open it again.",
  countThingBlocksTheReleaseSettle:
    "{count} {count, plural, one {thing blocks} other {things block}} the release. Settle each, or let a lead release with a stated limit.",
  onlyALeadCanAcceptA: "Only a lead can accept a limit. Ask one to sign it off.",
  aStatedLimitNeedsAReason: "A stated limit needs a reason. Both are printed.",
  theShopHasNoNameYet:
    "The shop has no name yet, and a certificate needs one. A lead says it under Shop and limits.",
  onlyAHealthyUnitCanBe: "Only a healthy unit can be a reference: {why}.",
  thisUnitBelongsToTheShop: "This unit belongs to the shop: say to whom it was sold.",
  thisUnitBelongsToACustomer: "This unit belongs to a customer: it is returned, not sold.",
  nameIsTakenChooseAnother: '"{name}" is taken. Choose another.',
  theCurrentPasswordIsNotRight: "The current password is not right.",
  thisPasswordIsGuessedSoonIt:
    "This password is guessed soon: it stands in lists, or it is a name, a word with digits or a row of keys. Take three or four unlike words.",
  typeYourOwnPasswordAgainBefore: "Type your own password again before this.",
  tooManyWrongPasswordsWait15: "Too many wrong passwords. Wait 15 minutes, or ask another lead.",
  thisIsTheLastLeadMake: "This is the last lead. Make somebody else lead first.",
  thisWhatIsAlreadyRecorded: "This {what} is already recorded.",
  tooLargeTheLimitIsLimit: "Too large: the limit is {limit}.",
  thisFileIsNotAPhotograph:
    "This file is not a photograph that can be read. Send a JPEG, PNG or WebP picture of at most 50 megapixels.",
  thisLooksLikeAnotherModelBoolean:
    "This looks like another model: {boolean}. Look at the unit's model; if it is right, import it all the same.",
  itHasNoLacks: "it has no {lacks}",
  itWasAskedForStrangeWhich: "it was asked for {strange}, which this model has not",
  theSameRecordingWasHereBefore:
    "The same recording was here before: it is no second test. Test the unit itself.",
  onlyAFullTestCanBe: "Only a full test can be a proof.",
  theModelCannotBeChangedAny:
    "The model cannot be changed any more: it was tested or worked on as this one. Close it as it is, and take it in again.",
  thereIsNoRouteRouteIn: 'There is no route "{route}" in the catalogue. Choose one that is.',
  noFaultIsNamedAndCount:
    "No fault is named, and {count} {count, plural, one {thing was} other {things were}} never tested: nobody knows what there is to mend. Test it first.",
  thisIsNotWhatWasAdvised: "This is not what was advised. Write why: both are kept.",
  aFaultDoesNotGoAway: "A fault does not go away by itself. Write why it is none after all.",
  writeWhatShowsThatItIs: "Write what shows that it is cured: it was judged by hand, and so is its end.",
  onlyALeadTakesBackThat: "Only a lead takes back that a cell is swollen or that a unit took liquid.",
  faultNumberWaitsForTheCustomers:
    "Fault {number} waits for the customer's yes. The rest can go on; this one stays as it is until they answer.",
  theyAgreedToSomethingElse:
    "For fault {number} the customer agreed to “{agreed}”, and not to this. Ask again under Decide before doing it another way.",
  moreThanWasAgreed:
    "The customer agreed to {agreedMinor} for what was cured. Ask again under Decide before charging more, or charge this at most.",
  moreThanTheySaidAtTheDoor:
    "The customer said at the door that it may cost {agreedMinor}. Ask under Decide before charging more.",
  theCustomerTurnedDownWorkAt:
    "The customer turned down work at fault {number}. Ask again if something has changed.",
  theSharesMissTheLotsCost:
    "The shares miss the lot's cost by {leftMinor}. Leave one unit without a share, or make them add up.",
  wantedWantedFreeFreeReserved: "{wanted} wanted, {free} free{reserved}. Take fewer, or from another batch.",
  reservedReserved: " ({reserved} reserved)",
  piecesOfBatchWereUsedMoved:
    "Pieces of {batch} were used, moved or put aside since: the taking apart cannot be taken back any more.",
  batchBatchWaitsForItsInspection: "Batch {batch} waits for its inspection. Measure it first.",
  batchBatchIsOnTheShelf: "Batch {batch} is on the shelf already.",
  batchBatchIsStatusNothingIs: "Batch {batch} is {status}: nothing is taken from it. Use another.",
  doesNotFitHere: "does not fit here",
  isNotKnownToFitHere: "is not known to fit here",
  chooseAnotherPart: "Choose another part.",
  writeDownWhatIsMissingIn: "Write down what is missing in the catalogue, or choose another part.",
  partMayNotBeUsedUse: "{part} may not be used {use}. Choose a better part.",
  partIsNotInTheCatalogue:
    "{part} is not in the catalogue, or does not belong here. Choose one that is, or add it first.",
  nobodyKnowsWhetherThisPartIs:
    "Nobody knows whether this part is good. Test it in the donor first; or say why it is taken untested.",
  thisPartIsStateChooseAnother: "This part is {state}. Choose another donor.",
  leftMorePieceNeedsMeasuring:
    "{left} more {left, plural, one {piece needs} other {pieces need}} measuring before this batch can be accepted.",
  nothingWasChangedProblems: "Nothing was changed. {problems}.",
  rowRowMessage: "Row {row}: {message}",
  thisQuestionHasRunOutAsk: "This question has run out. Ask the workshop to send it again.",
  thisWasAnsweredAlreadyToChange:
    "This was answered already. To change your mind, say so first; the earlier answer is kept.",
  theWorkOnThisUnitIs: "The work on this unit is closed. Ask the workshop.",
  thisAnswerWasChangedSeveral:
    "This answer was changed several times already. Call the workshop: they can still change it for you.",
  theWorkshopTookThisQuestion: "The workshop took this question back. Ask them for the new one.",
  theMakersCoverRunsUntil:
    "The maker's cover runs until {until}, and opening the unit voids it. Send it to the maker, or write under Mend who agreed to let the cover go.",
  theMakersCoverRuns:
    "The maker's cover runs, and opening the unit voids it. Send it to the maker, or write under Mend who agreed to let the cover go.",
  thisModelHasNoGuideYet:
    "This model has no guide yet. Write its steps under Models, or log the mend by hand.",
  loosePieceNumbers2FitNothing:
    "Loose {numbers, plural, one {piece} other {pieces}} {numbers2} fit nothing yet. Match or explain each under Find before the shell shuts.",
  noFullTestSinceTheUnit:
    "No full test since the unit was closed. Run it: closing itself may have broken something. It cannot be skipped.",
  answerThisFirst:
    "Before this mend the order asks: {check}. Answer it at its step, since what it shows may change the route; or take it out of the order.",
  testBeforeTheNextRung:
    "The last mend at {place} was not tested yet. Two before one test would share whatever it says: test it first, while it is open.",
  noTestSinceTheLastWork: "No test since the last work. Test it now while it is open, or say why not.",
  stillToGoWaitsNoPower:
    "Still to go: {waits}. No power and no closing before; end a wait under Mend if it is done earlier.",
  whatMinutesMin: "{what}, {minutes} min",
  notReadyForTheNewPart: "Not ready for the new part: {holes}{holes2}.",
  andMore: "; and more",
  noCalibrationOfTheStickWas:
    "No calibration of the {stick} was kept since this order was opened. Calibrate it, or take it out of the order under Mend.",
  theLastStepLoggedAMend:
    "The last step logged a mend. Edit its entry under Mend, or do the task again by Problem.",
  centreFirstThenRangeWriteThe:
    "Centre first, then range: write the centre from this recording before its range.",
  theUnitKeepsAnotherTableThan:
    "The unit keeps another table than the one that was written. Save again, switch it off and on, and read once more.",
  nothingWasReadInWhyExport: "Nothing was read in: {why}. Export it once more, or choose another file.",
  thereAreUnitsCustomersOrParts:
    "There are units, customers or parts here already. An archive is read into an empty workshop only: start one with a new database.",
  somebodyElseIsChangingTheSame:
    "Somebody else is changing the same just now. Nothing was changed; try again.",
  theWorkshopIsOutOfReach:
    "The workshop is out of reach. Nothing was changed; what you typed stays here. Try again in a moment.",
  thisWentWrongInBirdcageNot:
    "This went wrong in Birdcage, not at your hands. Nothing was changed. Tell the lead the number {number}: it stands in the log.",
  clearTheBondBySteps:
    "A bond to its former host looks like a dead radio. Clear it first: {steps} Then say that it still fails.",
  clearTheBondFirst:
    "A bond to its former host looks like a dead radio. Clear it first, then say that it still fails.",
  halfFollowsPair:
    "This model is one half of {pair} and is written from it. Change and import {pair}: its halves follow.",
  mateIsItself: "{tag} is this unit itself. Give the tag of the one that it belongs with.",
  mateIsTheSameHalf: "{tag} is the same half. Its mate is the other one.",
  mateOfAnotherModel:
    "{tag} is no half of the same pair. Check the tag, or correct the model of one of them.",
  mateIsTaken: "{tag} belongs with another half already. Correct its intake first.",
  noMateToGoWith:
    "This half is not sold alone, and no mate is here. Say at its intake which unit it belongs with, or end it as a donor or sell it as found.",
  mateIsNotReady: "This half is not sold without its mate {mate}, which still waits for: {stands}.",
  readTheSealFirst:
    "It left with our seal. Read the number on it, or say that it is broken or gone: cover rests on it.",
  paperIsWritten:
    "The {paper} {number} says this already and stays as it was written. Correct it: the correction is a {paper} of its own.",
  nothingWasPaidForACustomersUnit: "This is a customer's own unit: nothing was paid for it.",
  noPriceToBill: "No price was said when it was closed. Hand it over with its price first.",
  billOnceItIsSold: "Nobody bought it yet. Hand it over first: the bill goes to the buyer.",
  billOnceItIsClosed: "It is still in work. The bill follows once it is released or handed back.",
  pieceNumber: "piece {number}",
  someoneElse: "someone else",
  aNumberADateOrA: "A number, a date or a character in it cannot be kept. Check what you typed.",
  youInAnotherWindow: "you, in another window",
  onlyAUnitThatWasReleased:
    "Only a unit that was released or otherwise closed for its owner or a buyer can be handed over or come back.",
});
