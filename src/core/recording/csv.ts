import Papa from "papaparse";

import { readDecimal } from "../base/decimal";
import { type Result, ok, refuse } from "../base/result";
import type { InputMap } from "../input/input";
import { type Recording, RecordingBuilder, STEPS } from "./recording";

/** Why an interchange file is refused. `row` counts samples from 1; the header is not a row. */
export type CsvProblem =
  | { code: "csv-empty" }
  | { code: "csv-no-samples" }
  | { code: "csv-missing-column"; column: string }
  | { code: "csv-double-column"; column: string }
  | { code: "csv-quotes"; row: number }
  | { code: "csv-row-length"; row: number; got: number; expected: number }
  | { code: "csv-unknown-step"; row: number; step: string }
  | { code: "csv-not-a-number"; row: number; column: string; text: string }
  | { code: "csv-time-backwards"; row: number; t: number; previous: number }
  | { code: "csv-bad-cue"; row: number; text: string }
  | { code: "csv-out-of-range"; row: number; column: string; value: number; low: number; high: number }
  | { code: "csv-too-many-rows"; limit: number }
  | { code: "csv-too-many-columns"; limit: number }
  | { code: "csv-too-many-controls"; limit: number }
  | { code: "csv-line-too-long"; row: number; limit: number }
  | { code: "csv-too-long"; limitHours: number };

const CHANNEL = /^([ab])(0|[1-9]\d?)$/;
const MAX_COLUMNS = 256;
const MAX_LINE = 16_384; // 256 columns of 60 characters
const MAX_CONTROLS = 1000; // names in the column control; no controller has as many parts
const MAX_CONTROL_NAME = 60;
const MAX_TIME_MS = 1e13; // a clock that counts from 1970 stays below it for three hundred years
const MAX_HOURS = 24;

type Column = { at: number; name: string; kind: "a" | "b"; index: number; low: number; high: number };
type Header = { width: number; t: number; step: number; control: number; cue: number; channels: Column[] };

function readHeader(names: readonly string[], map: InputMap): Result<Header, CsvProblem> {
  if (names.length > MAX_COLUMNS) return refuse({ code: "csv-too-many-columns", limit: MAX_COLUMNS });
  const at = new Map<string, number>();
  for (const [i, raw] of names.entries()) {
    const name = raw.trim();
    if (at.has(name) && name !== "") return refuse({ code: "csv-double-column", column: name.slice(0, 40) });
    at.set(name, i);
  }
  for (const column of ["t_ms", "step"])
    if (!at.has(column)) return refuse({ code: "csv-missing-column", column });
  const channels: Column[] = [];
  for (const [name, i] of at) {
    const match = CHANNEL.exec(name);
    if (!match) continue;
    const kind = match[1] as "a" | "b";
    const index = Number(match[2]);
    const range = map.range(kind, index);
    channels.push({ at: i, name, kind, index, low: range?.[0] ?? -Infinity, high: range?.[1] ?? Infinity });
  }
  return ok({
    width: names.length,
    t: at.get("t_ms")!,
    step: at.get("step")!,
    control: at.get("control") ?? -1,
    cue: at.get("cue") ?? -1,
    channels,
  });
}

/**
 * Reads the interchange format row by row (push rows as arrays of text, header first), so that a caller can
 * stream. The first problem ends it: nothing is taken in part.
 */
export class RecordingReader {
  private header: Header | undefined;
  private builder: RecordingBuilder | undefined;
  private row = 0;
  private firstT = 0;
  private lastT = -Infinity;
  private readonly steps = new Map<string, number>(STEPS.map((s, i) => [s, i]));

  constructor(
    private readonly map: InputMap,
    private readonly maxRows = 20_000_000,
  ) {}

  push(cells: readonly string[]): CsvProblem | undefined {
    if (this.header === undefined) return this.takeHeader(cells);
    return this.takeRow(cells, this.header);
  }

  finish(): Result<Recording, CsvProblem> {
    if (this.builder === undefined) return refuse({ code: "csv-empty" });
    if (this.builder.length === 0) return refuse({ code: "csv-no-samples" });
    return ok(this.builder.view());
  }

  private takeHeader(cells: readonly string[]): CsvProblem | undefined {
    const read = readHeader(cells, this.map);
    if (!read.ok) return read.problem;
    this.header = read.value;
    const of = (kind: "a" | "b") => read.value.channels.filter((c) => c.kind === kind).map((c) => c.index);
    this.builder = new RecordingBuilder(of("a"), of("b"));
    return undefined;
  }

  private takeRow(cells: readonly string[], h: Header): CsvProblem | undefined {
    const row = ++this.row;
    if (row > this.maxRows) return { code: "csv-too-many-rows", limit: this.maxRows };
    if (cells.length !== h.width)
      return { code: "csv-row-length", row, got: cells.length, expected: h.width };
    const t = readDecimal(cells[h.t]!);
    if (t === undefined) return notANumber(row, "t_ms", cells[h.t]!);
    if (Math.abs(t) > MAX_TIME_MS)
      return {
        code: "csv-out-of-range",
        row,
        column: "t_ms",
        value: t,
        low: -MAX_TIME_MS,
        high: MAX_TIME_MS,
      };
    if (row === 1) this.firstT = t;
    if (t < this.lastT) return { code: "csv-time-backwards", row, t, previous: this.lastT };
    if (t - this.firstT > MAX_HOURS * 3600_000) return { code: "csv-too-long", limitHours: MAX_HOURS };
    this.lastT = t;
    const step = this.steps.get(cells[h.step]!);
    if (step === undefined) return { code: "csv-unknown-step", row, step: cells[h.step]!.slice(0, 40) };
    const cueText = h.cue < 0 ? "" : cells[h.cue]!.trim();
    const cue = cueText === "" ? 0 : readDecimal(cueText);
    if (cue !== 0 && cue !== 1) return { code: "csv-bad-cue", row, text: cueText.slice(0, 40) };
    const control = h.control < 0 ? "" : cells[h.control]!.trim().slice(0, MAX_CONTROL_NAME);
    const i = this.builder!.row(t, step, control, cue === 1);
    if (this.builder!.controls > MAX_CONTROLS) return { code: "csv-too-many-controls", limit: MAX_CONTROLS };
    for (const c of h.channels) {
      const text = cells[c.at]!;
      const value = readDecimal(text);
      if (value === undefined) return notANumber(row, c.name, text);
      if (value < c.low || value > c.high)
        return { code: "csv-out-of-range", row, column: c.name, value, low: c.low, high: c.high };
      if (c.kind === "a") this.builder!.setAxis(i, c.index, value);
      else this.builder!.setButton(i, c.index, value);
    }
    return undefined;
  }
}

const notANumber = (row: number, column: string, text: string): CsvProblem => ({
  code: "csv-not-a-number",
  row,
  column,
  text: text.slice(0, 40),
});

type RowSink = { push(cells: readonly string[]): CsvProblem | undefined };

/**
 * Feeds chunks of parsed rows to a reader; a lone empty cell is a blank line, allowed only at the very end.
 */
export class RowFeeder {
  private pendingBlank = false;
  private seen = 0;
  constructor(private readonly sink: RowSink) {}

  feed(
    rows: readonly (readonly string[])[],
    errors: readonly { code: string; row?: number | undefined }[],
  ): CsvProblem | undefined {
    const quotes = errors.find((e) => e.code.includes("Quotes"));
    if (quotes) return { code: "csv-quotes", row: this.seen + (quotes.row ?? 0) };
    for (const cells of rows) {
      if (this.pendingBlank) {
        const problem = this.sink.push([""]);
        if (problem) return problem;
        this.pendingBlank = false;
      }
      this.seen++;
      if (cells.length === 1 && cells[0] === "") {
        this.pendingBlank = true;
        continue;
      }
      const problem = this.sink.push(cells);
      if (problem) return problem;
    }
    return undefined;
  }
}

/** Options that every reader of the format passes to the CSV parser (RFC 4180). */
export const CSV_OPTIONS = {
  delimiter: ",",
  header: false,
  skipEmptyLines: false,
  dynamicTyping: false,
} as const;

/**
 * Whether every line is as short as a row can be and closes its quotes. A parser that looks for a line's end,
 * or for a closing quote, reads what it has again with each piece of the file; so that is settled before it
 * begins. Rows count as the other problems do.
 */
function lineProblem(text: string): CsvProblem | undefined {
  let row = 0; // the header
  let begin = 0;
  let quotes = 0;
  for (let i = 0; i <= text.length; i++) {
    const c = i === text.length ? 10 : text.charCodeAt(i);
    if (c === 34) quotes++;
    if (c !== 10 && c !== 13) {
      if (i - begin >= MAX_LINE) return { code: "csv-line-too-long", row, limit: MAX_LINE };
      continue;
    }
    if (quotes % 2 === 1) return { code: "csv-quotes", row };
    if (c === 13 && text.charCodeAt(i + 1) === 10) i++;
    begin = i + 1;
    row++;
  }
  return undefined;
}

/**
 * Reads a whole interchange file held as text. For files that may be large, stream through RecordingReader
 * instead.
 */
export function readRecordingCsv(
  text: string,
  map: InputMap,
  maxRows?: number,
): Result<Recording, CsvProblem> {
  const reader = new RecordingReader(map, maxRows);
  const feeder = new RowFeeder(reader);
  let problem = lineProblem(text);
  if (problem) return refuse(problem);
  Papa.parse<string[]>(text.startsWith("\uFEFF") ? text.slice(1) : text, {
    ...CSV_OPTIONS,
    chunkSize: 1 << 20,
    chunk: (results: Papa.ParseResult<string[]>, parser: Papa.Parser) => {
      problem ??= feeder.feed(results.data, results.errors);
      if (problem) parser.abort();
    },
  } as Papa.ParseConfig<string[]>);
  return problem ? refuse(problem) : reader.finish();
}

const quoted = (text: string) => (/[",\r\n]/.test(text) ? `"${text.replaceAll('"', '""')}"` : text);
const round = (v: number, digits: number) => Number(v.toFixed(digits));

/**
 * Writes rows [from, to) of a recording, without the header. Channel values keep six decimals, times a tenth
 * of a microsecond.
 */
function rowsAsCsv(r: Recording, from: number, to: number): string {
  const channels = [...r.axes, ...r.buttons].filter((c) => c !== undefined);
  const lines: string[] = [];
  for (let i = from; i < to; i++) {
    const control = r.control[i] === 0 ? "" : quoted(r.controlNames[r.control[i]! - 1]!);
    let line = `${round(r.t[i]!, 4)},${STEPS[r.step[i]!]},${control},${r.cue[i]}`;
    for (const c of channels) line += `,${round(c[i]!, 6)}`;
    lines.push(line);
  }
  return lines.join("\r\n") + "\r\n";
}

/** The whole recording in the interchange format, in pieces of a few thousand rows. */
export function* writeRecordingCsv(r: Recording): Generator<string> {
  const names = ["t_ms", "step", "control", "cue"];
  r.axes.forEach((c, i) => c && names.push(`a${i}`));
  r.buttons.forEach((c, i) => c && names.push(`b${i}`));
  yield names.join(",") + "\r\n";
  for (let i = 0; i < r.length; i += 4096) yield rowsAsCsv(r, i, Math.min(r.length, i + 4096));
}
