import type { LogProblem } from "@/core/bench/log-csv";
import type { CsvProblem } from "@/core/recording/csv";

type Words<P extends { code: string }> = { [C in P["code"]]: (p: Extract<P, { code: C }>) => string };

/** The file's own line: the header is line 1, so sample row 1 stands in line 2. */
const where = (row: number) => `Row ${row} (line ${row + 1})`;

const csvWords: Words<CsvProblem> = {
  "csv-empty": () => "The file is empty. Export a recording with a header row and one sample a row.",
  "csv-no-samples": () => "The file has a header and no samples.",
  "csv-missing-column": (p) => `The header lacks the column "${p.column}". Every recording needs t_ms and step.`,
  "csv-double-column": (p) => `The header names the column "${p.column}" twice.`,
  "csv-quotes": (p) => `${where(p.row)} has a quotation mark that is not closed or stands inside a value.`,
  "csv-row-length": (p) => `${where(p.row)} has ${p.got} values where the header has ${p.expected}.`,
  "csv-unknown-step": (p) =>
    `${where(p.row)} names the step "${p.step}". Steps are rest, circle, sweep, flick, pull, press, press-edge and free.`,
  "csv-not-a-number": (p) => `${where(p.row)} has "${p.text}" in column ${p.column}, where a finite number belongs.`,
  "csv-time-backwards": (p) => `${where(p.row)} runs backwards: t_ms ${p.t} after ${p.previous}.`,
  "csv-bad-cue": (p) => `${where(p.row)} has "${p.text}" in column cue, where 0, 1 or nothing belongs.`,
  "csv-out-of-range": (p) => `${where(p.row)} has ${p.value} in column ${p.column}, outside ${p.low} to ${p.high}.`,
  "csv-too-many-rows": (p) => `The recording has more than ${p.limit} samples. Cut it into shorter ones.`,
  "csv-too-many-columns": (p) => `The header has more than ${p.limit} columns.`,
  "csv-too-many-controls": (p) => `The column control names more than ${p.limit} controls, which no controller has.`,
  "csv-line-too-long": (p) =>
    `${p.row === 0 ? "The header" : where(p.row)} is longer than ${p.limit} characters: this is no recording, or its line ends are lost.`,
  "csv-too-long": (p) => `The recording lasts longer than ${p.limitHours} hours. t_ms counts milliseconds; check it, or cut it.`,
};

// eslint-disable-next-line no-control-regex -- a file may hold any byte; the message is one line
const oneLine = (text: string) => text.replace(/[\u0000-\u001f\u007f]+/g, " ");

export const csvProblemText = (p: CsvProblem): string => oneLine((csvWords[p.code] as (p: CsvProblem) => string)(p));

const LOG: { [C in LogProblem["code"]]: (p: Extract<LogProblem, { code: C }>) => string } = {
  "log-empty": () => "The log is empty. Type or load at least a few rows.",
  "log-columns": (p) => `The log needs the columns ${p.wanted}, named in its first row or in that order.`,
  "log-number": (p) => `Row ${p.row}: "${p.text}" is no figure for ${p.column}.`,
  "log-too-long": (p) => `The log has more than ${p.limit} rows. Keep one row a minute.`,
  "log-backwards": (p) => `Row ${p.row}: the minutes run backwards.`,
};
export const logProblemText = (p: LogProblem): string => (LOG[p.code] as (p: LogProblem) => string)(p);
