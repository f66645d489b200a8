import type { CalibrationProblem } from "@/core/calibrate/calibrate";
import type { WorkProblem } from "@/core/mend/work";
import type { FitWhy } from "@/core/parts/fit";
import type { FirmBlock } from "@/core/record/standing";
import type { PaperKind } from "./papers";
import type { Role } from "./roles";

/** Why a change was refused. The interface words each of them (src/text/deed/refusals.ts). */
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
  | { code: "other-agreed"; number: number; agreed: string }
  | { code: "over-agreed"; agreedMinor: number; isAgreed: boolean }
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
  | { code: "read-the-seal" }
  | { code: "half-follows-pair"; pair: string }
  | { code: "not-its-mate"; tag: string; why: "itself" | "same-half" | "other-model" | "taken" }
  | { code: "not-without-mate"; mate: string | null; stands: string | null }
  | { code: "clear-the-bond"; steps: string | null }
  | { code: "paper-written"; kind: PaperKind; number: number }
  | { code: "nothing-to-bill"; why: "not-closed" | "no-price" | "not-sold" | "not-bought" }
  | { code: "cover-runs"; until: string | null }
  | { code: "no-guide" }
  | { code: "work"; problem: WorkProblem; names: Record<string, string> }
  | { code: "loose-fragments"; numbers: number[] }
  | { code: "test-first"; which: "open" | "closed" }
  | { code: "rung-untested"; place: string }
  | { code: "look-first"; check: string }
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
