import type { Refusal } from "@/contract/deeds";

type Words = { [C in Refusal["code"]]: (p: Extract<Refusal, { code: C }>) => string };

const WORDS: Words = {
  "signed-out": () => "You are signed out. Sign in again in another tab; what you typed stays here.",
  "not-allowed": (p) => `A ${p.role} cannot do this. Ask a technician or the lead.`,
  "other-origin": () => "This request came from another site and was refused. Open Birdcage by its own address.",
  "bad-input": (p) => p.issues.map((i) => (i.path ? `${i.path}: ${i.message}` : i.message)).join("; "),
  "not-found": (p) => `This ${p.what} is not there any more. Go back and look again.`,
  "changed-meanwhile": (p) =>
    `Changed meanwhile by ${p.by} at ${new Date(p.at).toLocaleTimeString([], { hour: "2-digit", minute: "2-digit" })}. What you typed is still here: compare it with the new state, then save again.`,
  "tray-taken": (p) => `Tray ${p.tray} holds ${p.tag}. Choose another, or take that unit off first.`,
  "no-free-tray": () => "All nine trays are taken. Take a unit off first.",
  quarantined: () => "This unit is in quarantine for a swollen cell. Nothing else is done with it here.",
  wet: () => "This unit took liquid. It is not powered until it was opened, its cell unplugged, and it was inspected and dry.",
  closed: () => "This unit is closed. A lead can open it again.",
  blocked: (p) =>
    `${p.count} ${p.count === 1 ? "thing blocks" : "things block"} the release. Settle each, or let a lead release with a stated limit.`,
  "lead-only-limit": () => "Only a lead can accept a limit. Ask one to sign it off.",
  "limit-needs-reason": () => "A stated limit needs a reason. Both are printed.",
  "no-proof-to-release": () => "There is no full test after the last mend. Prove the unit first; this cannot be waived.",
  "not-healthy": (p) => `Only a healthy unit can be a reference: ${p.why}.`,
  "name-taken": (p) => `"${p.name}" is taken. Choose another.`,
  "wrong-password": () => "The current password is not right.",
  "last-lead": () => "This is the last lead. Make somebody else lead first.",
  already: (p) => `This ${p.what} is already recorded.`,
  "too-large": (p) => `Too large: the limit is ${p.limit}.`,
  "not-an-image": () =>
    "This file is not a photograph that can be read. Send a JPEG, PNG or WebP picture of at most 50 megapixels.",
  recording: (p) => p.message,
  "route-unknown": (p) => `There is no route "${p.route}" in the catalogue. Choose one that is.`,
  "needs-why": () => "This is not what was advised. Write why: both are kept.",
  "yes-awaited": (p) =>
    `Fault ${p.number} waits for the customer's yes. The rest can go on; this one stays as it is until they answer.`,
  "no-was-said": (p) => `The customer turned down work at fault ${p.number}. Ask again if something has changed.`,
  "shares-do-not-add": (p) =>
    `The shares miss the lot's cost by ${(p.leftMinor / 100).toFixed(2)}. Leave one unit without a share, or make them add up.`,
  "question-over": (p) =>
    p.why === "expired"
      ? "This question has run out. Ask the workshop to send it again."
      : p.why === "answered"
        ? "This was answered already. To change your mind, say so first; the earlier answer is kept."
        : p.why === "closed"
          ? "The work on this unit is closed. Ask the workshop."
          : "The workshop took this question back. Ask them for the new one.",
  busy: () => "The server could not do it just now. Nothing was changed; try again.",
};

export const refusalText = (p: Refusal): string => (WORDS[p.code] as (p: Refusal) => string)(p);
