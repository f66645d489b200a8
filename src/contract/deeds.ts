import type { StickTable } from "@/core/calibrate/calibrate";
import type { Id } from "@/core/base/ids";
import type { ProofResult } from "@/core/prove/proof";
import type { z } from "@/core/base/schema";
import { INTAKE_DEEDS } from "./intake";
import { BENCH_DEEDS } from "./bench";
import { WAIT_DEEDS } from "./waits";
import { TEST_DEEDS } from "./test";
import { FIND_DEEDS } from "./find";
import { DECIDE_DEEDS } from "./decide";
import { QUESTION_DEEDS } from "./question";
import { MEND_DEEDS } from "./mend";
import { PROVE_DEEDS } from "./prove";
import { RELEASE_DEEDS } from "./release";
import { PAPER_DEEDS } from "./papers";
import { PARTS_DEEDS } from "./parts";
import { BUYING_DEEDS } from "./buying";
import { DAY_DEEDS } from "./day";
import { MODELS_DEEDS } from "./models";
import { PEOPLE_DEEDS } from "./people";
import { SETTINGS_DEEDS } from "./settings";
import type { Deeds } from "./roles";

/**
 * Every change that a person can make, by name: who may, and what it takes. The one list that server and
 * interface share.
 */

export const DEEDS = {
  ...INTAKE_DEEDS,
  ...BENCH_DEEDS,
  ...WAIT_DEEDS,
  ...TEST_DEEDS,
  ...FIND_DEEDS,
  ...DECIDE_DEEDS,
  ...QUESTION_DEEDS,
  ...MEND_DEEDS,
  ...PROVE_DEEDS,
  ...RELEASE_DEEDS,
  ...PAPER_DEEDS,
  ...PARTS_DEEDS,
  ...BUYING_DEEDS,
  ...DAY_DEEDS,
  ...MODELS_DEEDS,
  ...PEOPLE_DEEDS,
  ...SETTINGS_DEEDS,
} as const satisfies Deeds;

export type DeedName = keyof typeof DEEDS;

/** What a page sends, and what a deed gets once its input is parsed and defaults are filled in. */
export type DeedInput<D extends DeedName> = z.input<(typeof DEEDS)[D]["input"]>;

export type DeedParsed<D extends DeedName> = z.output<(typeof DEEDS)[D]["input"]>;

export type Settings = DeedParsed<"settings.save">["settings"];

/** What each deed answers when it was done. */
export type DeedValue = {
  /** `tray` is null when it asked for none, may not have one, or all nine are taken */
  "unit.take-in": { tag: string; unitId: Id<"unit">; tray: number | null; tags: string[] };
  "profile.import": { key: string; version: number };
  "customer.add": { id: string };
  "lot.add": { id: string };
  "fault.add": { id: string; number: number };
  "symptom.part": { id: string; number: number };
  "mend.add": { id: string; number: number };
  "unit.release": { token: string };
  "proof.answer": { result: ProofResult };
  "feed.make": { token: string };
  "reading.take": { id: string; verdict: "pass" | "fail" | "not-tested" };
  "paper.issue": { id: string; number: number };
  "paper.correct": { id: string; number: number };
  "question.send": { token: string };
  "listing.keep": { id: string };
  "stock.receive": { id: string; code: string };
  "stock.take": { costMinor: number; fittedId: Id<"fitted"> | null };
  "stock.split": { codes: string[] };
  "batch.read": { verdict: "good" | "bad" };
  "donor.take": { id: string; code: string };
  "order.place": { code: string };
  "plan.apply": { reserved: number };
  "stock.import": { changed: number };
  "work.open": { id: string };
  "work.do": { done: boolean };
  "wait.start": { id: string; endsAt: string };
  "calibration.write": { id: string; table: StickTable };
};

export type ValueOf<D extends DeedName> = D extends keyof DeedValue ? DeedValue[D] : Record<string, never>;
