import { found } from "@/core/base/finding";
import { idOf, z } from "@/core/base/schema";
import { day, minor, version, versionOrNone } from "./fields";

import { readingSchema } from "@/core/bench/readings";
import { lexiconSchema } from "@/core/claim/lexicon";
import { DISPOSITIONS } from "@/core/decide/advise";
import { FAMILIES } from "@/core/decide/families";
import { SPREADS } from "@/core/decide/lot";
import { routesSchema } from "@/core/decide/routes";
import { STATE_PAIRS } from "@/core/diagnosis/halving";
import { TRY_ACTIONS, TRY_OUTCOMES } from "@/core/diagnosis/tries";
import { limitsSchema } from "@/core/grade/limits";
import { GRADES } from "@/core/grade/grade";
import type { FitWhy } from "@/core/parts/fit";
import { HOUSE_RISK, riskSchema } from "@/core/parts/sampling";
import { HOUSE_PROVE, type ProofResult, proveSchema } from "@/core/prove/proof";
import { HOUSE_RATES, ratesSchema } from "@/core/money/rates";
import { profileSchema } from "@/core/profile/profile";
import { marketSchema } from "@/core/profile/slots";
import { ENDINGS, type FirmBlock } from "@/core/record/standing";
import type { CalibrationProblem, StickTable } from "@/core/calibrate/calibrate";
import type { WorkProblem } from "@/core/mend/work";
import { intakeSchema, markKeySchema } from "./intake";
import { MEND_DEEDS } from "./mend";
import { PART_DEEDS } from "./parts";
import { RELEASE_DEEDS } from "./release";
import { answerSchema, questionBodySchema } from "./question";
import type { Id } from "@/core/base/ids";

/** Every change that a person can make, by name: who may, and what it takes. The one list that server and interface share. */

export const ROLES = ["technician", "lead", "viewer"] as const;
export type Role = (typeof ROLES)[number];

const line = (max: number) => z.string().trim().min(1).max(max);
const text = (max: number) => z.string().trim().max(max);

export const passwordSchema = z.string().min(12).max(200);

const origin = z.discriminatedUnion("source", [
  z.strictObject({ source: z.literal("single"), seller: text(80), priceMinor: minor, carriageMinor: minor }),
  z.strictObject({ source: z.literal("lot"), lotId: idOf("lot") }),
  z.strictObject({ source: z.literal("customer"), customerId: idOf("customer") }),
]);
export type Origin = z.infer<typeof origin>;

/** Root causes of a fault. */
export const CAUSES = ["not-known", "wear", "dirt", "drop", "liquid", "wrong-use", "bad-part", "earlier-mend"] as const;
export type Cause = (typeof CAUSES)[number];

const WORKERS = ["technician", "lead"] as const satisfies readonly Role[];
const LEADS = ["lead"] as const satisfies readonly Role[];

export const DEEDS = {
  "person.add": { roles: LEADS, input: z.strictObject({ name: line(60), role: z.enum(ROLES), password: passwordSchema }) },
  "person.change": {
    roles: LEADS,
    input: z.strictObject({ personId: idOf("person"), role: z.enum(ROLES), active: z.boolean() }),
  },
  "session.end": { roles: ROLES, input: z.strictObject({ sessionId: idOf("session") }) },
  "person.change-password": { roles: ROLES, input: z.strictObject({ current: z.string().max(200), next: passwordSchema }) },
  "profile.import": { roles: WORKERS, input: z.strictObject({ profile: profileSchema }) },
  "customer.add": { roles: WORKERS, input: z.strictObject({ name: line(80), contact: text(200) }) },
  "lot.add": {
    roles: WORKERS,
    input: z.strictObject({
      code: line(20),
      seller: line(80),
      priceMinor: minor,
      carriageMinor: minor,
      unitsPromised: z.int().min(1).max(500).nullable().default(null),
    }),
  },
  "unit.take-in": {
    roles: WORKERS,
    input: z.strictObject({
      profileKey: z.string().max(60),
      revision: z.string().max(60).nullable(),
      origin,
      claim: text(2000),
      swollen: z.boolean(),
      liquid: z.boolean(),
      intake: intakeSchema,
      toTray: z.boolean(),
      /** the kept listing that this unit came from */
      listingId: idOf("listing").nullable().default(null),
    }),
  },
  "unit.edit-intake": {
    roles: WORKERS,
    input: z.strictObject({
      unitId: idOf("unit"),
      version,
      /** another model, as long as nothing was tested or worked on */
      profileKey: z.string().max(60).optional(),
      revision: z.string().max(60).nullable(),
      claim: text(2000),
      swollen: z.boolean(),
      liquid: z.boolean(),
      intake: intakeSchema,
    }),
  },
  /** a mark is not there any more, or is there after all */
  "mark.settle": {
    roles: WORKERS,
    input: z.strictObject({ unitId: idOf("unit"), mark: markKeySchema, gone: line(120).nullable() }),
  },
  /** a lead takes a recording that was not made here as the proof; the reason is printed */
  "recording.take-as-proof": { roles: LEADS, input: z.strictObject({ recordingId: idOf("recording"), why: line(300) }) },
  "unit.to-tray": { roles: WORKERS, input: z.strictObject({ unitId: idOf("unit"), tray: z.int().min(1).max(9).nullable() }) },
  "unit.clear-liquid": {
    roles: WORKERS,
    input: z.strictObject({
      unitId: idOf("unit"),
      version,
      opened: z.literal(true),
      unplugged: z.literal(true),
      inspected: z.literal(true),
      dry: z.literal(true),
    }),
  },
  "function.check": {
    roles: WORKERS,
    input: z.strictObject({
      unitId: idOf("unit"),
      functionId: z.string().max(60),
      result: z.enum(["pass", "fail", "not-tested", "not-fitted"]),
      note: text(300),
      /** from the step's opening to its answer, for the shop's own minutes */
      tookMs: z.int().min(0).max(3_600_000).optional(),
    }),
  },
  "reading.take": {
    roles: WORKERS,
    input: z.strictObject({
      unitId: idOf("unit"),
      reading: readingSchema,
      /** typed, simulated, or what a real instrument calls itself */
      instrument: line(120),
      host: text(300),
      tookMs: z.int().min(0).max(36_000_000).nullable(),
    }),
  },
  "unit.set-reference": { roles: WORKERS, input: z.strictObject({ unitId: idOf("unit"), version, on: z.boolean() }) },
  "find.observe": {
    roles: WORKERS,
    input: z.strictObject({
      unitId: idOf("unit"),
      kind: z.enum(["function", "check", "place", "point"]),
      target: line(120),
      /** an outcome of the control, of the check, or what was seen at the place; worked out for a point */
      outcome: z.string().max(60),
      value: z.number().min(-1e6).max(1e9).nullable(),
      note: text(300),
    }),
  },
  "find.withdraw": { roles: WORKERS, input: z.strictObject({ observationId: idOf("observation") }) },
  "try.add": {
    roles: WORKERS,
    input: z.strictObject({
      unitId: idOf("unit"),
      suspect: line(60),
      action: z.enum(TRY_ACTIONS),
      expects: line(300),
      what: line(300),
    }),
  },
  "try.settle": {
    roles: WORKERS,
    input: z.strictObject({
      tryId: idOf("attempt"),
      version,
      outcome: z.enum(TRY_OUTCOMES),
      undone: z.enum(["came-back", "stayed-away"]).nullable(),
    }),
  },
  "fragment.add": { roles: WORKERS, input: z.strictObject({ unitId: idOf("unit"), foundAt: line(120), what: line(200) }) },
  "fragment.match": {
    roles: WORKERS,
    input: z.strictObject({
      fragmentId: idOf("fragment"),
      version,
      matchedTo: z.string().max(60).nullable(),
      explained: text(300),
    }),
  },
  "halving.start": { roles: WORKERS, input: z.strictObject({ unitId: idOf("unit"), pair: z.enum(STATE_PAIRS) }) },
  "halving.step": {
    roles: WORKERS,
    input: z.strictObject({ halvingId: idOf("halving"), version, result: z.enum(["works", "fails", "give-up"]) }),
  },
  "lexicon.save": { roles: LEADS, input: z.strictObject({ version: versionOrNone, lexicon: lexiconSchema }) },
  "fault.add": {
    roles: WORKERS,
    input: z.strictObject({
      unitId: idOf("unit"),
      place: line(60),
      kind: line(60),
      words: text(600),
      foundWhen: z.enum(["intake", "test", "opened", "proof"]),
      /** whether the claim named it; read from the claim when it is left out */
      claimed: z.boolean().optional(),
      measure: z.string().max(60).nullable(),
      recordingId: idOf("recording").nullable(),
    }),
  },
  "fault.settle": {
    roles: WORKERS,
    input: z.strictObject({
      faultId: idOf("fault"),
      version,
      status: z.enum(["open", "mended", "accepted", "withdrawn"]),
      why: text(300),
    }),
  },
  "mend.add": {
    roles: WORKERS,
    input: z.strictObject({
      unitId: idOf("unit"),
      faultId: idOf("fault").nullable(),
      what: line(400),
      part: text(120),
      minutes: z.int().min(0).max(2000),
      remark: text(600),
      opened: z.boolean(),
      settlesFault: z.boolean(),
      /** the route of the catalogue that it followed, and what the retest said of it */
      route: z.string().max(40).nullable().default(null),
      outcome: z.enum(["worked", "failed"]).nullable().default(null),
      partMinor: minor.default(0),
      /** from whom, when the part was a gift or a sample: its replacement value counts for the job, and it costs no cash */
      partGift: text(80).default(""),
      /** a piece taken from the shelf for this: its cost and name are the batch's */
      fromStock: z
        .strictObject({ batchId: idOf("batch"), slot: line(60) })
        .nullable()
        .default(null),
      /** marks outside that this took away, such as a cracked cap's with the cap */
      marksGone: z.array(markKeySchema).max(60).default([]),
      /** why the fault came, as far as it is known; wrong use is told to the owner */
      cause: z.enum(CAUSES).default("not-known"),
      /** good for now: which part it falls back on, and the day on which it is looked at again */
      provisional: z
        .strictObject({ fallback: line(120), reviewOn: day })
        .nullable()
        .default(null),
    }),
  },
  "mend.edit": {
    roles: WORKERS,
    input: z.strictObject({
      mendId: idOf("mend"),
      version,
      what: line(400),
      part: text(120),
      minutes: z.int().min(0).max(2000),
      remark: text(600),
    }),
  },
  "unit.end": {
    roles: WORKERS,
    input: z.strictObject({
      unitId: idOf("unit"),
      version,
      kind: z.enum(ENDINGS).exclude(["released"]),
      known: line(1000),
      priceMinor: minor.nullable(),
    }),
  },
  "unit.reopen": { roles: LEADS, input: z.strictObject({ unitId: idOf("unit"), version, why: line(300) }) },
  "decision.take": {
    roles: WORKERS,
    input: z.strictObject({
      unitId: idOf("unit"),
      version,
      disposition: z.enum(DISPOSITIONS),
      /** the first route when it is mended by another than the advised one */
      route: z.string().max(40).nullable(),
      why: text(400),
    }),
  },
  "routes.save": { roles: LEADS, input: z.strictObject({ version: versionOrNone, routes: routesSchema }) },
  "model.save-money": {
    roles: LEADS,
    input: z.strictObject({
      key: z.string().max(60),
      version: versionOrNone,
      market: marketSchema,
      rules: z
        .array(
          z.strictObject({
            family: z.enum(FAMILIES),
            also: z.enum(FAMILIES).nullable(),
            route: z.string().max(40),
            why: text(200),
          }),
        )
        .max(40),
    }),
  },
  "listing.keep": {
    roles: WORKERS,
    input: z.strictObject({
      profileKey: z.string().max(60),
      words: line(2000),
      seller: text(80),
      priceMinor: minor,
      carriageMinor: minor,
      status: z.enum(["watched", "bought", "passed"]),
    }),
  },
  "listing.settle": {
    roles: WORKERS,
    input: z.strictObject({ listingId: idOf("listing"), version, status: z.enum(["watched", "bought", "passed"]) }),
  },
  "lot.spread": {
    roles: WORKERS,
    input: z.strictObject({
      lotId: idOf("lot"),
      version,
      way: z.enum(SPREADS),
      /** by hand: the shares that are set; the rest is spread evenly over the others */
      hand: z.array(z.strictObject({ unitId: idOf("unit"), minor })).max(300),
    }),
  },
  "question.send": {
    roles: WORKERS,
    input: z.strictObject({ unitId: idOf("unit"), body: questionBodySchema, days: z.int().min(1).max(90) }),
  },
  "question.withdraw": { roles: WORKERS, input: z.strictObject({ questionId: idOf("question") }) },
  /** what a customer said by voice or letter, written down by us */
  "question.record": { roles: WORKERS, input: z.strictObject({ questionId: idOf("question"), answer: answerSchema }) },
  ...PART_DEEDS,
  ...MEND_DEEDS,
  ...RELEASE_DEEDS,
  "photo.remove": { roles: WORKERS, input: z.strictObject({ photoId: idOf("photo") }) },
  "bench.present": { roles: WORKERS, input: z.strictObject({ unitId: idOf("unit") }) },
  "settings.save": {
    roles: LEADS,
    input: z.strictObject({
      version: versionOrNone,
      settings: z.strictObject({
        shopName: line(80),
        town: text(80),
        currency: z.string().regex(/^[A-Z]{3}$/, found({ rule: "letters", of: "currency" })),
        locale: z.string().min(2).max(20),
        timeZone: z.string().min(1).max(60),
        floor: z.enum(GRADES).extract(["A", "B", "C"]),
        warrantyDays: z.int().min(0).max(3650),
        /** after how many hours without anybody a browser is signed out */
        idleHours: z.number().min(0.25).max(336).default(12),
        labelWidthMm: z.number().min(15).max(120),
        labelHeightMm: z.number().min(10).max(120),
        limits: limitsSchema,
        rates: ratesSchema.prefault(HOUSE_RATES),
        /** the risks that the shop bears at incoming inspection */
        risk: riskSchema.prefault(HOUSE_RISK),
        /** what a proof asks beside the test, and how the shop stands behind it */
        prove: proveSchema.prefault(HOUSE_PROVE),
      }),
    }),
  },
} as const satisfies Record<string, { roles: readonly Role[]; input: z.ZodType }>;

export type DeedName = keyof typeof DEEDS;
/** What a page sends, and what a deed gets once its input is parsed and defaults are filled in. */
export type DeedInput<D extends DeedName> = z.input<(typeof DEEDS)[D]["input"]>;
export type DeedParsed<D extends DeedName> = z.output<(typeof DEEDS)[D]["input"]>;
export type Settings = DeedParsed<"settings.save">["settings"];

/** Why a change was refused. The interface words each of them (src/text/refusals.ts). */
export type Refusal =
  | { code: "signed-out" }
  | { code: "not-allowed"; role: Role }
  | { code: "other-origin" }
  | { code: "other-person" }
  | { code: "other-bench" }
  | { code: "bad-input"; issues: { path: string; message: string }[] }
  | { code: "not-found"; what: string }
  | { code: "changed-meanwhile"; by: string; at: string }
  | { code: "tray-taken"; tray: number; tag: string }
  | { code: "no-free-tray" }
  | { code: "quarantined" }
  | { code: "wet" }
  | { code: "closed" }
  | { code: "blocked"; count: number }
  | { code: "lead-only-limit" }
  | { code: "limit-needs-reason" }
  | { code: "no-proof-to-release" }
  | { code: "shop-unnamed" }
  | { code: "firm-block"; block: FirmBlock }
  | { code: "not-healthy"; why: string }
  | { code: "not-released" }
  | { code: "not-a-customers" }
  | { code: "is-a-customers" }
  | { code: "name-taken"; name: string }
  | { code: "wrong-password" }
  | { code: "easy-password" }
  | { code: "confirm-password" }
  | { code: "too-many-tries" }
  | { code: "last-lead" }
  | { code: "already"; what: string }
  | { code: "too-large"; limit: string }
  | { code: "not-an-image" }
  | { code: "recording"; message: string }
  | { code: "other-controller"; lacks: string[]; strange: string[] }
  | { code: "not-a-proof"; why: "not-full" | "repeated" }
  | { code: "model-fixed" }
  | { code: "route-unknown"; route: string }
  | { code: "untested"; count: number }
  | { code: "needs-why" }
  | { code: "needs-why-gone" }
  | { code: "needs-why-cured" }
  | { code: "lead-only-safe" }
  | { code: "yes-awaited"; number: number }
  | { code: "no-was-said"; number: number }
  | { code: "shares-do-not-add"; leftMinor: number }
  | { code: "stock-short"; wanted: number; free: number; reserved: number }
  | { code: "batch-touched"; batch: string }
  | { code: "batch-locked"; batch: string; status: string }
  | { code: "does-not-fit"; part: string; why: FitWhy[]; known: boolean }
  | { code: "not-for-this-use"; part: string; use: string }
  | { code: "part-unknown"; part: string }
  | { code: "test-in-donor-first" }
  | { code: "part-gone"; state: string }
  | { code: "needs-measuring"; left: number }
  | { code: "csv"; problems: { row: number; message: string }[] }
  | { code: "question-over"; why: "expired" | "withdrawn" | "answered" | "closed" | "changed-often" }
  | { code: "no-guide" }
  | { code: "work"; problem: WorkProblem; names: Record<string, string> }
  | { code: "loose-fragments"; numbers: number[] }
  | { code: "test-first"; which: "open" | "closed" }
  | { code: "still-waiting"; waits: { what: string; minutes: number }[] }
  | { code: "too-hot"; why: string }
  | { code: "holes-first"; holes: { hole: number; why: "not-checked" | "solder-in-it" | "ring-torn" }[] }
  | { code: "no-calibration"; stick: string; problem: CalibrationProblem }
  | { code: "centre-first" }
  | { code: "calibrate-first"; stick: string }
  | { code: "logged-mend" }
  | { code: "read-back-differs" }
  | { code: "archive"; why: string }
  | { code: "not-empty" }
  | { code: "busy" }
  | { code: "away" }
  | { code: "unexpected"; number: string };

export type Reply = { ok: true; value: unknown } | { ok: false; problem: Refusal };

/** What each deed answers when it was done. */
export type DeedValue = {
  /** `tray` is null when it asked for none, may not have one, or all nine are taken */
  "unit.take-in": { tag: string; unitId: Id<"unit">; tray: number | null };
  "profile.import": { key: string; version: number };
  "customer.add": { id: string };
  "lot.add": { id: string };
  "fault.add": { id: string; number: number };
  "mend.add": { id: string; number: number };
  "unit.release": { token: string };
  "proof.answer": { result: ProofResult };
  "feed.make": { token: string };
  "reading.take": { id: string; verdict: "pass" | "fail" | "not-tested" };
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
