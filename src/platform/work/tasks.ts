import { createHash } from "node:crypto";
import { gunzipSync, gzipSync } from "node:zlib";

import type { Grade } from "@/core/grade/grade";
import type { DayProblem } from "@/core/dayplan/problem";
import { planDay, type Planned } from "@/core/dayplan/schedule";
import type { Limits } from "@/core/grade/limits";
import { lackingControls } from "@/core/input/input";
import { plotsOf, type Plots } from "@/core/plots/plots";
import { type ModelProfile, profileMap, rulesOf } from "@/core/profile/profile";
import { type QuickControl, quickFindings } from "@/core/quicklook/quick-look";
import { type CsvProblem, readRecordingCsv } from "@/core/recording/csv";
import { type Analysis, analyse } from "@/core/analyse/analyse";
import { advise, type Advice } from "@/core/decide/advise";
import type { CaseWhole } from "@/core/casefile/known";
import { heldOf, type Named, reviewCase } from "@/core/practice/review";
import type { DecideInput } from "@/core/decide/build";
import { type Prospect, type ProspectBase, prospectOf, type Suspected } from "@/core/decide/buying";

/**
 * What takes long enough to hold up other people's pages: plain data in, plain data out, so that another
 * thread can do it.
 */

const MAX_CSV_BYTES = 160 * 1024 * 1024;
const MAX_ROWS = 1_000_000;

export type Upload = {
  sent: Uint8Array;
  profile: ModelProfile;
  revision: string | null;
  limits: Limits;
  quick: boolean;
};
export type UploadRead =
  | {
      ok: true;
      analysis: Analysis;
      plots: Plots;
      grades: Record<string, Grade>;
      quick: QuickControl[] | null;
      /**
       * controls of the model that the file has no column of, and names in it that the model does not have
       */
      lacks: string[];
      strange: string[];
      csvGz: Uint8Array;
      sha256: string;
    }
  | { ok: false; problem: CsvProblem | { code: "damaged" } | { code: "unfolds-too-far"; limitMb: number } };

/**
 * Unzips a sent recording, reads it and measures it by the core. A small file may unfold into a huge one:
 * there is a limit.
 */
function readUpload({ sent, profile, revision, limits, quick }: Upload): UploadRead {
  let bytes: Uint8Array = sent;
  if (sent[0] === 0x1f && sent[1] === 0x8b)
    try {
      bytes = gunzipSync(sent, { maxOutputLength: MAX_CSV_BYTES });
    } catch (error) {
      const far = (error as { code?: string }).code === "ERR_BUFFER_TOO_LARGE";
      return {
        ok: false,
        problem: far
          ? { code: "unfolds-too-far", limitMb: MAX_CSV_BYTES / 1024 / 1024 }
          : { code: "damaged" },
      };
    }
  const text = Buffer.from(bytes.buffer, bytes.byteOffset, bytes.byteLength).toString("utf8");
  const map = profileMap(profile, revision);
  const read = readRecordingCsv(text, map, MAX_ROWS);
  if (!read.ok) return { ok: false, problem: read.problem };
  const rules = rulesOf(profile, limits);
  const { analysis, evidence } = analyse(read.value, map, rules);
  return {
    ok: true,
    analysis,
    plots: plotsOf(read.value, map, evidence),
    grades: Object.fromEntries(Object.entries(analysis.controls).map(([id, c]) => [id, c.grade])),
    quick: quick ? quickFindings(read.value, map, rules) : null,
    lacks: lackingControls(
      map,
      (i) => read.value.axes[i] !== undefined,
      (i) => read.value.buttons[i] !== undefined,
    ),
    strange: read.value.controlNames.filter((name) => !map.controls.some((c) => c.id === name)),
    csvGz: gzipSync(text),
    sha256: createHash("sha256").update(text).digest("hex"),
  };
}

/**
 * The plan of the day: a search of fixed length from a fixed seed, so that the same question has the same
 * answer.
 */
const searchDay = ({ problem, evaluations }: { problem: DayProblem; evaluations: number }): Planned =>
  planDay(problem, { evaluations, seed: DAY_SEED });
const DAY_SEED = 7;

type Reviewed = { file: CaseWhole; parts: readonly string[]; named: readonly Named[] };

export const TASKS = {
  readUpload,
  searchDay,
  advise: (input: DecideInput): Advice => advise(input),
  review: ({ file, parts, named }: Reviewed) => ({
    steps: reviewCase(file, named),
    held: heldOf(file, parts),
  }),
  prospect: ({ base, suspected }: { base: ProspectBase; suspected: readonly Suspected[] }): Prospect =>
    prospectOf(base, suspected),
};
