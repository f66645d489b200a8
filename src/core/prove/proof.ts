import { z } from "../base/schema";

import type { Grade } from "../grade/grade";
import { RELEASE_AIM } from "../guide/plan";
import type { ReleaseRisk } from "./presses";

/**
 * What a proof asks beside the full test and the function sheet: the complaint's own trigger once more,
 * silence, a last look, and what must be undone or set before a unit leaves. Worked out from the unit; each
 * item says why it is asked.
 */

/** The house's rules of proving and of standing behind it; a shop saves its own. */
export const proveSchema = z.strictObject({
  /** days between the two full tests that a mend for now or an unproven cure needs */
  secondTestDays: z.number().min(0).max(60),
  /** charge left in a built-in pack when it leaves, as a share of full */
  storageFrom: z.number().min(0).max(1),
  storageTo: z.number().min(0).max(1),
  /** whoever mended a unit does not prove it */
  otherHand: z.boolean(),
  /** hours around a proof within which a reference unit on the same tester vouches for it */
  referenceHours: z.number().min(1).max(336),
  /** the chance of a bad button with which a unit may leave */
  releaseRisk: z.number().min(0.0001).max(0.05).default(RELEASE_AIM),
  /** warranty on parts that were fitted new, days */
  partWarrantyDays: z.int().min(0).max(3650),
  /** the same on used parts, such as a donor's */
  usedPartWarrantyDays: z.int().min(0).max(3650).default(90),
});
export type ProveRules = z.infer<typeof proveSchema>;
export const HOUSE_PROVE: ProveRules = {
  secondTestDays: 3,
  storageFrom: 0.3,
  storageTo: 0.6,
  otherHand: false,
  referenceHours: 24,
  releaseRisk: RELEASE_AIM,
  partWarrantyDays: 180,
  usedPartWarrantyDays: 90,
};

export const TRIGGERS = ["angle", "tug", "tap", "slow", "warm", "rim", "as-told"] as const;
export type Trigger = (typeof TRIGGERS)[number];
export type ProofKey =
  `trigger.${Trigger}` | "silence" | "rattle" | "last-look" | "cleaned" | "cells" | "bond" | "storage";
export type ProofItem = { key: ProofKey; why: ProofWhy };
export type ProofWhy =
  | { code: "claim"; words: string }
  | { code: "always" }
  | { code: "dirty"; what: "grime" | "smell" | "hygiene" }
  | { code: "fell" }
  | { code: "rattled"; what: string }
  | { code: "cells-out"; where: string }
  | { code: "radio" }
  | { code: "built-in-cell" };

export const PROOF_RESULTS = ["pass", "fail", "cannot"] as const;
/** `cannot`: tried and not possible on this unit. It is no pass: it blocks like a check that nobody made. */
export type ProofResult = (typeof PROOF_RESULTS)[number];
export type ProofAnswer = { key: string; result: ProofResult; value: number | null; at: Date };

const TELLS: readonly [Trigger, RegExp][] = [
  ["angle", /\b(tilt\w*|angle|when (it is )?(held|turned|flat|upright)|position|lying)\b/i],
  ["tug", /\b(cable|cord|plug\w*|tug\w*|socket|wire)\b/i],
  ["tap", /\b(tap\w*|knock\w*|bump\w*|drop(ped|s)?|shak(e|es|en)|rattl\w*|hit)\b/i],
  ["slow", /\b(drift\w*|wander\w*|creep\w*|slow\w*|pulls? to|does not come back)\b/i],
  ["warm", /\b(warm\w*|hot|after (a|an|some|half|ten|twenty|thirty)\b[^.]*\b(hour|minute|while|time)\w*)\b/i],
  ["rim", /\b(edges?|rim|corners?|side of)\b/i],
];
const COMES_AND_GOES =
  /\b(now and then|sometimes|comes and goes|cuts out|at times|falls asleep|lose each other|intermittent)\b/i;
const NO_COMPLAINT = /^(?:untested|not tested|unknown|works(?: fine| well)?(?:,.*)?|no complaint|none|)$/i;

/**
 * How a complaint is provoked again: what its words name, and for a fault that comes and goes also angle, tug
 * and tap. A complaint that names nothing of the kind is repeated as it was told; no complaint asks for
 * nothing.
 */
export function triggersOf(claim: string): Trigger[] {
  if (NO_COMPLAINT.test(claim.trim())) return [];
  const found = new Set<Trigger>(TELLS.filter(([, tell]) => tell.test(claim)).map(([t]) => t));
  if (COMES_AND_GOES.test(claim)) for (const t of ["angle", "tug", "tap"] as const) found.add(t);
  return found.size ? TRIGGERS.filter((t) => found.has(t)) : ["as-told"];
}

/** The proof sheet of a unit, in the order in which it is done with the unit in hand. */
export function proofSheet(unit: {
  /** what was said and seen at the door, each version of it: what is written over still counts */
  claims: readonly string[];
  grime: readonly ("none" | "slight" | "strong")[];
  smell: readonly ("none" | "slight" | "strong")[];
  /** what rattled, each version of it */
  rattle: readonly string[];
  /** what it asked of whoever held it */
  hygiene: readonly ("none" | "slight" | "strong")[];
  /** it is told that it fell */
  fell: boolean;
  /** its cells or pack were taken out, and lie there */
  cellsOut: string | null;
  /** a cleaning was done under a work order since */
  cleanedByOrder: boolean;
  radio: boolean;
  builtInCell: boolean;
}): ProofItem[] {
  const dirtyOf = () => {
    if (unit.cleanedByOrder) return null;
    if (unit.smell.some((s) => s !== "none")) return "smell";
    if (unit.hygiene.some((h) => h !== "none")) return "hygiene";
    if (unit.grime.includes("strong")) return "grime";
    return null;
  };
  const dirty = dirtyOf();
  const asked = new Map<Trigger, string>();
  for (const claim of unit.claims) for (const t of triggersOf(claim)) asked.set(t, claim);
  const whyOf = (t: Trigger): ProofWhy | null => {
    if (asked.has(t)) return { code: "claim", words: asked.get(t)! };
    return t === "tap" && unit.fell ? { code: "fell" } : null; // what a fall cracked shows when it is knocked
  };
  const rattled = unit.rattle.find((r) => r !== "none");
  return [
    ...TRIGGERS.flatMap((t): ProofItem[] => {
      const why = whyOf(t);
      return why ? [{ key: `trigger.${t}`, why }] : [];
    }),
    { key: "silence", why: { code: "always" } },
    ...(rattled ? [{ key: "rattle", why: { code: "rattled", what: rattled } } satisfies ProofItem] : []),
    ...(dirty ? [{ key: "cleaned", why: { code: "dirty", what: dirty } } satisfies ProofItem] : []),
    { key: "last-look", why: { code: "always" } },
    ...(unit.cellsOut === null
      ? []
      : [{ key: "cells", why: { code: "cells-out", where: unit.cellsOut } } satisfies ProofItem]),
    ...(unit.radio ? [{ key: "bond", why: { code: "radio" } } satisfies ProofItem] : []),
    ...(unit.builtInCell ? [{ key: "storage", why: { code: "built-in-cell" } } satisfies ProofItem] : []),
  ];
}

/** The charge is a measured share of full; the other items are seen or heard. */
export const judgeProof = (
  key: string,
  value: number | null,
  said: ProofResult,
  rules: ProveRules,
): ProofResult => {
  if (key !== "storage" || said === "cannot") return said;
  if (value === null) return "cannot";
  if (value >= rules.storageFrom && value <= rules.storageTo) return "pass";
  return "fail";
};

/**
 * Clearing the bond and setting the charge happen after the tests and outlast no later opening; a look lasts
 * as long as the shell.
 */
export type Proving = {
  rules: ProveRules;
  sheet: readonly ProofItem[];
  /** the latest answer of each item */
  answers: readonly ProofAnswer[];
  /** mends that are good for now and cures that are not shown: since when, and what */
  unsure: readonly { what: "provisional" | "unproven-cure"; number: number; since: Date }[];
  /** for a customer's unit: faults at which nobody asked, or no answer came */
  unasked: readonly number[];
  /** the chance that one of its buttons is bad, by all presses since the last thing done at each */
  risk: ReleaseRisk;
  /** who mended or worked on it inside */
  menders: readonly string[];
  /** tests of reference units, oldest first */
  references: readonly { tester: string; at: Date; grade: Grade }[];
};

export const NOTHING_ASKED: Proving = {
  rules: HOUSE_PROVE,
  sheet: [],
  answers: [],
  unsure: [],
  unasked: [],
  risk: { middle: null, rim: null },
  menders: [],
  references: [],
};

export type ProofBlock =
  | { code: "proof"; key: ProofKey; result: "fail" | "cannot" | "not-done" }
  | { code: "customer"; number: number }
  | { code: "second-test"; what: "provisional" | "unproven-cure"; number: number; due: Date | null }
  | { code: "other-tester" }
  | { code: "bench-doubt"; at: Date }
  | { code: "risk"; where: "middle" | "rim"; risk: number; aim: number }
  | { code: "same-hand"; person: string };

type Tested = { startedAt: Date; tester: string; by: string };

const DAY_MS = 24 * 3600_000;

/**
 * What the proof sheet, the customer, the waiting period, the tester and the second pair of hands still ask
 * for. `full` are the full tests after the last mend, oldest first; the last of them is the proof.
 */
export function proofBlocks(
  p: Proving,
  baseline: Tested | null,
  full: readonly Tested[],
  lastMend: Date | null,
): ProofBlock[] {
  const blocks: ProofBlock[] = [];
  for (const item of p.sheet) {
    const answer = p.answers.find((a) => a.key === item.key);
    const stale = answer !== undefined && lastMend !== null && answer.at <= lastMend;
    if (!answer || stale) blocks.push({ code: "proof", key: item.key, result: "not-done" });
    else if (answer.result !== "pass") blocks.push({ code: "proof", key: item.key, result: answer.result });
  }
  for (const number of p.unasked) blocks.push({ code: "customer", number });
  const proof = full.at(-1);
  for (const u of p.unsure) {
    const later = full.filter((t) => t.startedAt > u.since);
    const first = later[0];
    const due = first ? new Date(first.startedAt.getTime() + p.rules.secondTestDays * DAY_MS) : null;
    if (!due || later.at(-1) === first || later.at(-1)!.startedAt < due)
      blocks.push({ code: "second-test", what: u.what, number: u.number, due });
  }
  if (proof)
    for (const where of ["middle", "rim"] as const) {
      const risk = p.risk[where];
      if (risk !== null && risk >= p.rules.releaseRisk)
        blocks.push({ code: "risk", where, risk, aim: p.rules.releaseRisk });
    }
  if (proof) {
    const mine = p.references.filter((r) => r.tester === proof.tester);
    const near = (r: { at: Date }) =>
      Math.abs(r.at.getTime() - proof.startedAt.getTime()) <= p.rules.referenceHours * 3600_000;
    const vouched = mine.some((r) => near(r) && r.grade !== "fail" && r.grade !== "untested");
    if (baseline && baseline.tester !== proof.tester && !vouched) blocks.push({ code: "other-tester" });
    const last = mine.at(-1);
    if (last && last.grade === "fail") blocks.push({ code: "bench-doubt", at: last.at });
    if (p.rules.otherHand && p.menders.includes(proof.by))
      blocks.push({ code: "same-hand", person: proof.by });
  }
  return blocks;
}
