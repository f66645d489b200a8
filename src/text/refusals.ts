import type { FirmBlock } from "@/core/record/standing";
import type { Refusal } from "@/contract/deeds";
import { fieldWords } from "./fields";
import { calibrationText, holeText, workText } from "./mend";
import { placeWords } from "./names";
import { fitWhyText, USE_WORDS } from "./parts";

type Words = { [C in Refusal["code"]]: (p: Extract<Refusal, { code: C }>) => string };

const FIRM_WORDS: Record<FirmBlock, string> = {
  swollen: "A swollen cell leaves by the local rules only, never by sale.",
  liquid: "It took liquid and is not signed off. Sign it off under Mend first; this cannot be waived.",
  "no-proof": "There is no full test after the last mend. Prove the unit first; this cannot be waived.",
  apart: "Its work order is not closed. Put everything back and run its last test; this cannot be waived.",
  recall: "It carries a piece of a rejected batch. Change that piece first; this cannot be waived.",
};

/** A moment of today, as everywhere here by twenty-four hours. */
const TIME = new Intl.DateTimeFormat(undefined, { hour: "2-digit", minute: "2-digit", hourCycle: "h23" });

const WORDS: Words = {
  "signed-out": () => "You are signed out. Sign in again in another tab; what you typed stays here.",
  "not-allowed": (p) => `A ${p.role} cannot do this. Ask a technician or the lead.`,
  "other-origin": () => "This request came from another site and was refused. Open Birdcage by its own address.",
  "other-person": () => "Somebody else is signed in here now. What you did waits in this browser until you are back.",
  "other-bench": () => "This was done at the other bench, practice or the workshop's own. It waits until you are back there.",
  "bad-input": (p) => p.issues.map((i) => (i.path ? `${fieldWords(i.path)}: ${i.message}` : i.message)).join("; "),
  "not-found": (p) => `This ${p.what} is not there any more. Go back and look again.`,
  "changed-meanwhile": (p) =>
    `Changed meanwhile by ${p.by} at ${TIME.format(new Date(p.at))}. What you typed is still here: compare it with the new state, then save again.`,
  "tray-taken": (p) => `Tray ${p.tray} holds ${p.tag}. Choose another, or take that unit off first.`,
  "no-free-tray": () => "All nine trays are taken. Take a unit off first.",
  quarantined: () => "This unit is in quarantine for a swollen cell. Nothing else is done with it here.",
  wet: () => "This unit took liquid. It is not powered until it was opened, its cell unplugged, and it was inspected and dry.",
  closed: () => "This unit is closed. A lead can open it again.",
  blocked: (p) =>
    `${p.count} ${p.count === 1 ? "thing blocks" : "things block"} the release. Settle each, or let a lead release with a stated limit.`,
  "lead-only-limit": () => "Only a lead can accept a limit. Ask one to sign it off.",
  "limit-needs-reason": () => "A stated limit needs a reason. Both are printed.",
  "no-proof-to-release": () => FIRM_WORDS["no-proof"],
  "firm-block": (p) => FIRM_WORDS[p.block],
  "shop-unnamed": () => "The shop has no name yet, and a certificate needs one. A lead says it under Shop and limits.",
  "not-healthy": (p) => `Only a healthy unit can be a reference: ${p.why}.`,
  "not-released": () =>
    "Only a unit that was released or otherwise closed for its owner or a buyer can be handed over or come back.",
  "not-a-customers": () => "This unit belongs to the shop: say to whom it was sold.",
  "is-a-customers": () => "This unit belongs to a customer: it is returned, not sold.",
  "name-taken": (p) => `"${p.name}" is taken. Choose another.`,
  "wrong-password": () => "The current password is not right.",
  "easy-password": () =>
    "This password is guessed soon: it stands in lists, or it is a name, a word with digits or a row of keys. Take three or four unlike words.",
  "confirm-password": () => "Type your own password again before this.",
  "too-many-tries": () => "Too many wrong passwords. Wait 15 minutes, or ask another lead.",
  "last-lead": () => "This is the last lead. Make somebody else lead first.",
  already: (p) => `This ${p.what} is already recorded.`,
  "too-large": (p) => `Too large: the limit is ${p.limit}.`,
  "not-an-image": () =>
    "This file is not a photograph that can be read. Send a JPEG, PNG or WebP picture of at most 50 megapixels.",
  recording: (p) => p.message,
  "other-controller": (p) =>
    `This looks like another model: ${[
      p.lacks.length ? `it has no ${p.lacks.map(placeWords).join(", ")}` : "",
      p.strange.length ? `it was asked for ${p.strange.map(placeWords).join(", ")}, which this model has not` : "",
    ]
      .filter(Boolean)
      .join("; ")}. Look at the unit's model; if it is right, import it all the same.`,
  "not-a-proof": (p) =>
    p.why === "repeated"
      ? "The same recording was here before: it is no second test. Test the unit itself."
      : "Only a full test can be a proof.",
  "model-fixed": () =>
    "The model cannot be changed any more: it was tested or worked on as this one. Close it as it is, and take it in again.",
  "route-unknown": (p) => `There is no route "${p.route}" in the catalogue. Choose one that is.`,
  untested: (p) =>
    `No fault is named, and ${p.count} ${p.count === 1 ? "thing was" : "things were"} never tested: nobody knows what there is to mend. Test it first.`,
  "needs-why": () => "This is not what was advised. Write why: both are kept.",
  "needs-why-gone": () => "A fault does not go away by itself. Write why it is none after all.",
  "needs-why-cured": () => "Write what shows that it is cured: it was judged by hand, and so is its end.",
  "lead-only-safe": () => "Only a lead takes back that a cell is swollen or that a unit took liquid.",
  "yes-awaited": (p) =>
    `Fault ${p.number} waits for the customer's yes. The rest can go on; this one stays as it is until they answer.`,
  "no-was-said": (p) => `The customer turned down work at fault ${p.number}. Ask again if something has changed.`,
  "shares-do-not-add": (p) =>
    `The shares miss the lot's cost by ${(p.leftMinor / 100).toFixed(2)}. Leave one unit without a share, or make them add up.`,
  "stock-short": (p) =>
    `${p.wanted} wanted, ${p.free} free${p.reserved > 0 ? ` (${p.reserved} reserved)` : ""}. Take fewer, or from another batch.`,
  "batch-touched": (p) =>
    `Pieces of ${p.batch} were used, moved or put aside since: the taking apart cannot be taken back any more.`,
  "batch-locked": (p) =>
    p.status === "waiting"
      ? `Batch ${p.batch} waits for its inspection. Measure it first.`
      : p.status === "open"
        ? `Batch ${p.batch} is on the shelf already.`
        : `Batch ${p.batch} is ${p.status}: nothing is taken from it. Use another.`,
  "does-not-fit": (p) =>
    `${p.part} ${p.known ? "does not fit here" : "is not known to fit here"}: ${p.why.map(fitWhyText).join("; ")}. ${p.known ? "Choose another part." : "Write down what is missing in the catalogue, or choose another part."}`,
  "not-for-this-use": (p) => `${p.part} may not be used ${USE_WORDS[p.use as keyof typeof USE_WORDS]}. Choose a better part.`,
  "part-unknown": (p) => `${p.part} is not in the catalogue, or does not belong here. Choose one that is, or add it first.`,
  "test-in-donor-first": () =>
    "Nobody knows whether this part is good. Test it in the donor first; or say why it is taken untested.",
  "part-gone": (p) => `This part is ${p.state}. Choose another donor.`,
  "needs-measuring": (p) =>
    `${p.left} more ${p.left === 1 ? "piece needs" : "pieces need"} measuring before this batch can be accepted.`,
  csv: (p) => `Nothing was changed. ${p.problems.map((x) => `Row ${x.row}: ${x.message}`).join(". ")}.`,
  "question-over": (p) =>
    p.why === "expired"
      ? "This question has run out. Ask the workshop to send it again."
      : p.why === "answered"
        ? "This was answered already. To change your mind, say so first; the earlier answer is kept."
        : p.why === "closed"
          ? "The work on this unit is closed. Ask the workshop."
          : p.why === "changed-often"
            ? "This answer was changed several times already. Call the workshop: they can still change it for you."
            : "The workshop took this question back. Ask them for the new one.",
  "no-guide": () => "This model has no guide yet. Write its steps under Models, or log the mend by hand.",
  work: (p) => workText(p.problem, p.names),
  "loose-fragments": (p) =>
    `Loose ${p.numbers.length === 1 ? "piece" : "pieces"} ${p.numbers.join(", ")} fit nothing yet. Match or explain each under Find before the shell shuts.`,
  "test-first": (p) =>
    p.which === "closed"
      ? "No full test since the unit was closed. Run it: closing itself may have broken something. It cannot be skipped."
      : "No test since the last work. Test it now while it is open, or say why not.",
  "still-waiting": (p) =>
    `Still to go: ${p.waits.map((w) => `${w.what}, ${w.minutes} min`).join("; ")}. No power and no closing before; end a wait under Mend if it is done earlier.`,
  "too-hot": (p) => `${p.why.charAt(0).toUpperCase()}${p.why.slice(1)}.`,
  "holes-first": (p) =>
    `Not ready for the new part: ${p.holes.slice(0, 6).map(holeText).join("; ")}${p.holes.length > 6 ? "; and more" : ""}.`,
  "no-calibration": (p) => calibrationText(p.stick, p.problem),
  "calibrate-first": (p) =>
    `No calibration of the ${placeWords(p.stick)} was kept since this order was opened. Calibrate it, or take it out of the order under Mend.`,
  "logged-mend": () => "The last step logged a mend. Edit its entry under Mend, or do the task again by Problem.",
  "centre-first": () => "Centre first, then range: write the centre from this recording before its range.",
  "read-back-differs": () =>
    "The unit keeps another table than the one that was written. Save again, switch it off and on, and read once more.",
  archive: (p) => `Nothing was read in: ${p.why}. Export it once more, or choose another file.`,
  "not-empty": () =>
    "There are units, customers or parts here already. An archive is read into an empty workshop only: start one with a new database.",
  busy: () => "Somebody else is changing the same just now. Nothing was changed; try again.",
  away: () => "The workshop is out of reach. Nothing was changed; what you typed stays here. Try again in a moment.",
  unexpected: (p) =>
    `This went wrong in Birdcage, not at your hands. Nothing was changed. Tell the lead the number ${p.number}: it stands in the log.`,
};

export const refusalText = (p: Refusal): string => (WORDS[p.code] as (p: Refusal) => string)(p);
