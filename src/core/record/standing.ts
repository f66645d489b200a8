import type { CheckResult } from "../bench/result";
import type { Disposition } from "@/core/decide/ends";
import type { Grade } from "../grade/grade";
import type { StandingReading } from "../prove/standing-reading";
import type { SeenBroken } from "../prove/seen-broken";
import { type ProofBlock, proofBlocks, type Proving } from "../prove/proof";

/**
 * Where a unit stands in the line of work, worked out from what is recorded about it and from nothing else.
 */

export const STATIONS = ["intake", "test", "find", "decide", "mend", "prove", "release"] as const;
export type Station = (typeof STATIONS)[number];

export const ENDINGS = ["released", "returned-unmended", "sold-as-found", "donor", "scrap"] as const;
export type Ending = (typeof ENDINGS)[number];

export const NEXT_ACTIONS = [
  "quarantine",
  "dry-out",
  "first-test",
  "name-faults",
  "decide",
  "mend",
  "wait",
  "end",
  "prove",
  "settle-blocks",
  "release",
  "closed",
] as const;
export type NextAction = (typeof NEXT_ACTIONS)[number];

/** A quick look and a spot test never prove anything. */
export const TEST_PURPOSES = ["quick", "full", "spot"] as const;
export type TestPurpose = (typeof TEST_PURPOSES)[number];

export type RecordedTest = {
  id: string;
  purpose: TestPurpose;
  startedAt: Date;
  grade: Grade;
  controls: Record<string, Grade>;
  /** what it was tested with: the source and its host, as far as they are known */
  tester: string;
  /**
   * whether it may prove the unit: made here, or taken by a lead, and not a recording that was there before
   */
  proves: boolean;
  by: string;
};
export const RECORDING_SOURCES = ["gamepad", "simulated", "playback", "import"] as const;
export type RecordingSource = (typeof RECORDING_SOURCES)[number];

/**
 * Whether a recording may be a proof of the unit as it is now. What a live controller gave counts when the
 * server opened the test for this unit before its first sample. A file, or a recording played back, is a
 * reading with a source: it proves only when a lead has taken it, with a reason that is printed. The same
 * content twice is no second test, whoever takes it; only the stand-in, which is made by a seed, may give the
 * same again.
 */
export const mayProve = (r: {
  source: RecordingSource;
  opened: boolean;
  taken: boolean;
  repeated: boolean;
}): boolean => r.source === "simulated" || (!r.repeated && (r.taken || (r.source === "gamepad" && r.opened)));

export type RecordedCheck = { functionId: string; result: CheckResult; at: Date };

export type UnitFacts = {
  swollen: boolean;
  liquid: boolean;
  liquidCleared: boolean;
  ending: Ending | null;
  /** oldest first */
  tests: readonly RecordedTest[];
  /** the latest check of each function */
  checks: readonly RecordedCheck[];
  functions: readonly string[];
  /** controls that this revision has */
  controls: readonly string[];
  faults: readonly { id: string; number: number; status: "open" | "mended" | "accepted" | "withdrawn" }[];
  mends: readonly { at: Date; opened: boolean }[];
  /** the last step of a work order that took apart, mended or put back */
  lastStep: Date | null;
  /**
   * an open work order: what lies out and is neither back nor explained, its steps that are apart, and
   * whether anything was done
   */
  apart: { items: number; steps: number; begun: boolean };
  /** the latest decision, and the faults that were open when it was taken */
  decided: { disposition: Disposition; faults: readonly number[] } | null;
  /** batches under recall of which the unit still carries a piece */
  recalled: readonly string[];
  /** loose pieces that are matched to no part and not explained */
  looseFragments: readonly number[];
  /** readings at the bench that failed or lay too close to tell, and still speak of what is in the unit */
  readings: readonly StandingReading[];
  /** parts that were seen broken and not made good since */
  broken: readonly SeenBroken[];
  /** the proof sheet and what else a proof asks for */
  proving: Proving;
  floor: Grade;
};

/** Why a release is refused, each with what would settle it. */
export type Block =
  | { code: "swollen" }
  | { code: "liquid" }
  /** `elsewhere`: there is a full test that would count if it had been made here */
  | { code: "no-proof"; lastMend: Date | null; elsewhere: boolean }
  | { code: "control"; control: string; grade: Grade }
  | { code: "function"; functionId: string; result: "fail" | "not-tested" }
  | { code: "open-fault"; number: number }
  | { code: "fragment"; number: number }
  | ({ code: "reading" } & StandingReading)
  | ({ code: "broken" } & SeenBroken)
  | { code: "apart"; items: number; steps: number }
  | { code: "recall"; batch: string }
  | ProofBlock;

/** What nobody can release over, not even a lead with a stated limit. */
export const FIRM_BLOCKS = [
  "swollen",
  "liquid",
  "apart",
  "recall",
  "no-proof",
] as const satisfies readonly Block["code"][];
export type FirmBlock = (typeof FIRM_BLOCKS)[number];
export const firmOf = (blocks: readonly Block[]): FirmBlock[] =>
  FIRM_BLOCKS.filter((code) => blocks.some((b) => b.code === code));

/** What a station comes to, for the text layer to say. */
export type StationSaid =
  | {
      code:
        | "quarantine"
        | "taken-in"
        | "locked"
        | "wet"
        | "quick-only"
        | "not-tested"
        | "all-settled"
        | "no-fault";
    }
  | { code: "not-decided" | "nothing-yet" | "not-proven" | "in-house" }
  | { code: "open" | "apart" | "entries"; count: number }
  | { code: "grade"; grade: Grade }
  | { code: "decided"; disposition: Disposition }
  | { code: "ended"; ending: Ending };
export type StationWord = {
  station: Station;
  said: StationSaid;
  state: "todo" | "now" | "done" | "skipped" | "stop";
};

const rank: Record<Grade, number> = { A: 0, B: 1, C: 2, untested: 3, fail: 4 };
export const belowFloor = (grade: Grade, floor: Grade): boolean => rank[grade] > rank[floor];

/** What says which test proves it. */
export type ProofFacts = Pick<UnitFacts, "tests" | "mends" | "lastStep">;

/** The last opening or mend; a proof must be later. */
export const lastMendOf = (facts: Pick<UnitFacts, "mends" | "lastStep">): Date | null =>
  facts.mends.reduce<Date | null>((last, m) => (last === null || m.at > last ? m.at : last), facts.lastStep);

/** Full tests after the last opening or mend, oldest first, as far as they may prove something. */
const fullSince = (facts: ProofFacts): RecordedTest[] => allFullSince(facts).filter((t) => t.proves);
function allFullSince(facts: ProofFacts): RecordedTest[] {
  const lastMend = lastMendOf(facts);
  return facts.tests.filter((t) => t.purpose === "full" && (lastMend === null || t.startedAt > lastMend));
}

/**
 * The full test that proves the unit: the latest one after the last opening or mend; without any, the first
 * full test counts too.
 */
export const proofOf = (facts: ProofFacts): RecordedTest | null => fullSince(facts).at(-1) ?? null;

/** The full test as the unit came: the first that was made here, else the first. */
export function baselineOf(facts: UnitFacts): RecordedTest | null {
  const full = facts.tests.filter((t) => t.purpose === "full");
  return full.find((t) => t.proves) ?? full[0] ?? null;
}

/** Controls that its proof found below what the shop sells. */
export function controlBlocksOf(facts: ProofFacts & Pick<UnitFacts, "controls" | "floor">): Block[] {
  const proof = proofOf(facts);
  if (proof === null) return [];
  return facts.controls.flatMap((control): Block[] => {
    const grade = proof.controls[control] ?? "untested";
    return belowFloor(grade, facts.floor) ? [{ code: "control", control, grade }] : [];
  });
}

/** Functions that failed, or that nobody answered since the last mend. */
export function functionBlocksOf(facts: ProofFacts & Pick<UnitFacts, "functions" | "checks">): Block[] {
  const lastMend = lastMendOf(facts);
  return facts.functions.flatMap((functionId): Block[] => {
    const check = facts.checks.find((c) => c.functionId === functionId);
    const stale =
      check !== undefined && lastMend !== null && check.at <= lastMend && check.result !== "not-fitted";
    if (check === undefined || check.result === "not-tested" || stale)
      return [{ code: "function", functionId, result: "not-tested" }];
    return check.result === "fail" ? [{ code: "function", functionId, result: "fail" }] : [];
  });
}

/** Everything that stands between the unit and its release. */
export function blocksOf(facts: UnitFacts): Block[] {
  const blocks: Block[] = [];
  if (facts.swollen) blocks.push({ code: "swollen" });
  if (facts.liquid && !facts.liquidCleared) blocks.push({ code: "liquid" });
  const lastMend = lastMendOf(facts);
  if (proofOf(facts) === null)
    blocks.push({ code: "no-proof", lastMend, elsewhere: allFullSince(facts).length > 0 });
  blocks.push(...controlBlocksOf(facts), ...functionBlocksOf(facts));
  for (const fault of facts.faults)
    if (fault.status === "open") blocks.push({ code: "open-fault", number: fault.number });
  for (const number of facts.looseFragments) blocks.push({ code: "fragment", number });
  for (const r of facts.readings) blocks.push({ code: "reading", ...r });
  for (const b of facts.broken) blocks.push({ code: "broken", ...b });
  for (const batch of facts.recalled) blocks.push({ code: "recall", batch });
  if (facts.apart.begun) blocks.push({ code: "apart", items: facts.apart.items, steps: facts.apart.steps });
  return [...blocks, ...proofBlocks(facts.proving, baselineOf(facts), fullSince(facts), lastMend)];
}

/** What settles most next actions before a test is looked at. */
export type EarlyFacts = Pick<UnitFacts, "swollen" | "liquid" | "liquidCleared" | "ending" | "decided"> & {
  /** it lies open in a work order */
  begun: boolean;
  /** a full test of it was made */
  tested: boolean;
  /** numbers of its open faults */
  open: readonly number[];
};
const earlyOf = (facts: UnitFacts): EarlyFacts => ({
  ...facts,
  begun: facts.apart.begun,
  tested: facts.tests.some((t) => t.purpose === "full"),
  open: facts.faults.filter((f) => f.status === "open").map((f) => f.number),
});

/** The next action as far as these settle it: null when its proof has to be looked at. */
export function earlyActionOf(facts: EarlyFacts): NextAction | null {
  if (facts.ending !== null) return "closed";
  if (facts.swollen) return "quarantine";
  if (facts.liquid && !facts.liquidCleared) return "dry-out";
  if (facts.begun) return "mend"; // an open unit is put back and tested before anything else
  if (!facts.tested) return "first-test";
  const { decided, open } = facts;
  if (open.length === 0) return null;
  // a fault found after the decision asks for a new one
  if (!decided || open.some((number) => !decided.faults.includes(number))) return "decide";
  if (decided.disposition === "mend") return "mend";
  return decided.disposition === "hold" ? "wait" : "end";
}

/** The next action as far as its tests settle it; null when everything that may block has to be looked at. */
export function proofActionOf(facts: ProofFacts): NextAction | null {
  const proof = proofOf(facts);
  if (proof === null) return "prove";
  return Object.values(proof.controls).some((g) => g === "fail") ? "name-faults" : null;
}

/** The one next action. */
export const nextActionOf = (facts: UnitFacts): NextAction =>
  earlyActionOf(earlyOf(facts)) ??
  proofActionOf(facts) ??
  (blocksOf(facts).length > 0 ? "settle-blocks" : "release");

const STATION_OF: Record<NextAction, Station> = {
  quarantine: "intake",
  "dry-out": "mend",
  "first-test": "test",
  "name-faults": "find",
  decide: "decide",
  mend: "mend",
  wait: "decide",
  end: "release",
  prove: "prove",
  "settle-blocks": "prove",
  release: "release",
  closed: "release",
};
export const stationFor = (action: NextAction): Station => STATION_OF[action];

/** The line of stations, each with how it stands in a word. */
export function lineOf(facts: UnitFacts): StationWord[] {
  const now = stationFor(nextActionOf(facts));
  const full = facts.tests.filter((t) => t.purpose === "full");
  const open = facts.faults.filter((f) => f.status === "open").length;
  const proof = proofOf(facts);
  const mended = facts.mends.length;
  const wet = facts.liquid && !facts.liquidCleared;
  const mendOf = (): [StationSaid, StationWord["state"]] => {
    if (facts.apart.steps) return [{ code: "apart", count: facts.apart.steps }, "todo"];
    if (mended) return [{ code: "entries", count: mended }, "done"];
    return [{ code: "nothing-yet" }, "todo"];
  };
  const said: Record<Station, [StationSaid, StationWord["state"]]> = {
    intake: facts.swollen ? [{ code: "quarantine" }, "stop"] : [{ code: "taken-in" }, "done"],
    test: testSaid(facts, full, wet),
    find: facts.faults.length
      ? [open ? { code: "open", count: open } : { code: "all-settled" }, open ? "todo" : "done"]
      : [{ code: "no-fault" }, "todo"],
    decide: facts.decided
      ? [{ code: "decided", disposition: facts.decided.disposition }, "done"]
      : [{ code: "not-decided" }, open || facts.ending === null ? "todo" : "skipped"],
    mend: mendOf(),
    prove: proof
      ? [
          { code: "grade", grade: proof.grade },
          proof.grade === "fail" || proof.grade === "untested" ? "todo" : "done",
        ]
      : [{ code: "not-proven" }, "todo"],
    release: facts.ending
      ? [{ code: "ended", ending: facts.ending }, "done"]
      : [{ code: "in-house" }, "todo"],
  };
  return STATIONS.map((station) => {
    const [what, state] = said[station];
    const isNow = station === now && facts.ending === null && state !== "stop";
    return { station, said: what, state: isNow ? "now" : state };
  });
}

function testSaid(
  facts: UnitFacts,
  full: readonly RecordedTest[],
  wet: boolean,
): [StationSaid, StationWord["state"]] {
  if (facts.swollen) return [{ code: "locked" }, "stop"];
  if (wet) return [{ code: "wet" }, "skipped"];
  if (full.length) return [{ code: "grade", grade: full[0]!.grade }, "done"];
  return [{ code: facts.tests.length ? "quick-only" : "not-tested" }, "todo"];
}

/** The verdict over a unit: its controls by the proof, and any function that failed or was not tested. */
export function unitGrade(controls: readonly Grade[], functions: readonly CheckResult[]): Grade {
  const all: Grade[] = [
    ...controls,
    ...functions.map((r): Grade => {
      if (r === "fail") return "fail";
      if (r === "not-tested") return "untested";
      return "A";
    }),
  ];
  return all.reduce<Grade>((worst, g) => (rank[g] > rank[worst] ? g : worst), "A");
}
