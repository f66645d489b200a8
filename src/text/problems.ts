import type { LogProblem } from "@/core/bench/log-csv";
import type { CsvProblem } from "@/core/recording/csv";
import { say } from "@/words/refusals";

type Words<P extends { code: string }> = { [C in P["code"]]: (p: Extract<P, { code: C }>) => string };

/** The file's own line: the header is line 1, so sample row 1 stands in line 2. */
const where = (row: number) => say("rowRowLineRow2", { row, row2: row + 1 });

const csvWords: Words<CsvProblem> = {
  "csv-empty": () => say("theFileIsEmptyExportA"),
  "csv-no-samples": () => say("theFileHasAHeaderAnd"),
  "csv-missing-column": (p) => say("theHeaderLacksTheColumnColumn", { column: p.column }),
  "csv-double-column": (p) => say("theHeaderNamesTheColumnColumn", { column: p.column }),
  "csv-quotes": (p) => say("rowHasAQuotationMarkThat", { row: where(p.row) }),
  "csv-row-length": (p) =>
    say("rowHasGotValuesWhereThe", { row: where(p.row), got: p.got, expected: p.expected }),
  "csv-unknown-step": (p) => say("rowNamesTheStepStepSteps", { row: where(p.row), step: p.step }),
  "csv-not-a-number": (p) =>
    say("rowHasTextInColumnColumn", { row: where(p.row), text: p.text, column: p.column }),
  "csv-time-backwards": (p) =>
    say("rowRunsBackwardsTMsT", { row: where(p.row), t: p.t, previous: p.previous }),
  "csv-bad-cue": (p) => say("rowHasTextInColumnCue", { row: where(p.row), text: p.text }),
  "csv-out-of-range": (p) =>
    say("rowHasValueInColumnColumn", {
      row: where(p.row),
      value: p.value,
      column: p.column,
      low: p.low,
      high: p.high,
    }),
  "csv-too-many-rows": (p) => say("theRecordingHasMoreThanLimit", { limit: p.limit }),
  "csv-too-many-columns": (p) => say("theHeaderHasMoreThanLimit", { limit: p.limit }),
  "csv-too-many-controls": (p) => say("theColumnControlNamesMoreThan", { limit: p.limit }),
  "csv-line-too-long": (p) =>
    say("rowIsLongerThanLimitCharacters", {
      row: p.row === 0 ? say("theHeader") : where(p.row),
      limit: p.limit,
    }),
  "csv-too-long": (p) => say("theRecordingLastsLongerThan", { limitHours: p.limitHours }),
};

// eslint-disable-next-line no-control-regex -- a file may hold any byte; the message is one line
const oneLine = (text: string) => text.replace(/[\u0000-\u001f\u007f]+/g, " ");

export const csvProblemText = (p: CsvProblem): string =>
  oneLine((csvWords[p.code] as (p: CsvProblem) => string)(p));

const LOG: { [C in LogProblem["code"]]: (p: Extract<LogProblem, { code: C }>) => string } = {
  "log-empty": () => say("theLogIsEmptyTypeOr"),
  "log-columns": (p) => say("theLogNeedsTheColumnsWanted", { wanted: p.wanted }),
  "log-number": (p) => say("rowRowTextIsNoFigure", { row: p.row, text: p.text, column: p.column }),
  "log-too-long": (p) => say("theLogHasMoreThanLimit", { limit: p.limit }),
  "log-backwards": (p) => say("rowRowTheMinutesRunBackwards", { row: p.row }),
};
export const logProblemText = (p: LogProblem): string => (LOG[p.code] as (p: LogProblem) => string)(p);
