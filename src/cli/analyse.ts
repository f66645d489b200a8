/**
 * npm run --silent analyse -- FILE.csv [--profile FILE.json]: prints the analysis as JSON; exit 2 for a bad
 * file.
 */
import { createReadStream, readFileSync } from "node:fs";
import { parseArgs } from "node:util";

import Papa from "papaparse";

import { HOUSE_RULES, type Rules, analyse } from "@/core/analyse/analyse";
import { type InputMap, STANDARD_MAP } from "@/core/input/input";
import { profileMap, profileSchema, rulesOf } from "@/core/profile/profile";
import { CSV_OPTIONS, type CsvProblem, RecordingReader, RowFeeder } from "@/core/recording/csv";
import type { Recording } from "@/core/recording/recording";
import { csvProblemText } from "@/text/problems";
import { foundWords } from "@/text/findings";
import { placesOf } from "@/core/base/finding";

class BadInput extends Error {}

function readProfile(path: string): { map: InputMap; rules: Rules } {
  let json: unknown;
  try {
    json = JSON.parse(readFileSync(path, "utf8"));
  } catch (error) {
    throw new BadInput(`Cannot read the profile ${path}: ${(error as Error).message.split("\n")[0]}`);
  }
  const parsed = profileSchema.safeParse(json);
  if (!parsed.success) {
    throw new BadInput(`The profile ${path} is not valid: ${foundWords(placesOf(parsed.error, 1)[0]!)}`);
  }
  return { map: profileMap(parsed.data, null), rules: rulesOf(parsed.data) };
}

/** Reads the file chunk by chunk, so that only the numbers are held and never the text. */
function readRecording(path: string, map: InputMap): Promise<Recording> {
  const reader = new RecordingReader(map);
  const feeder = new RowFeeder(reader);
  return new Promise((resolve, reject) => {
    let problem: CsvProblem | undefined;
    const stream = createReadStream(path, { encoding: "utf8", highWaterMark: 1 << 20 });
    stream.on("error", (e) => reject(new BadInput(`Cannot read ${path}: ${e.message}`)));
    let first = true;
    Papa.parse<string[]>(stream, {
      ...CSV_OPTIONS,
      beforeFirstChunk: (chunk) => (chunk.startsWith("\uFEFF") ? chunk.slice(1) : chunk),
      chunk: (results: Papa.ParseResult<string[]>, parser: Papa.Parser) => {
        if (first && results.data[0]?.[0]?.startsWith("\uFEFF"))
          results.data[0][0] = results.data[0][0].slice(1);
        first = false;
        problem ??= feeder.feed(results.data, results.errors);
        if (problem) parser.abort();
      },
      complete: () => {
        stream.destroy();
        if (problem) return reject(new BadInput(csvProblemText(problem)));
        const read = reader.finish();
        if (read.ok) resolve(read.value);
        else reject(new BadInput(csvProblemText(read.problem)));
      },
    });
  });
}

async function main(): Promise<void> {
  const { values, positionals } = parseArgs({
    allowPositionals: true,
    options: { profile: { type: "string" } },
  });
  if (positionals.length !== 1)
    throw new BadInput("Name one recording: npm run --silent analyse -- FILE.csv [--profile FILE.json]");
  const { map, rules } = values.profile
    ? readProfile(values.profile)
    : { map: STANDARD_MAP, rules: HOUSE_RULES };
  const recording = await readRecording(positionals[0]!, map);
  process.stdout.write(JSON.stringify(analyse(recording, map, rules).analysis, null, 2) + "\n");
}

main().catch((error: Error) => {
  const known =
    error instanceof BadInput || (error as NodeJS.ErrnoException).code?.startsWith("ERR_PARSE_ARGS");
  process.stderr.write((known ? error.message.split("\n")[0] : String(error.stack)) + "\n");
  process.exitCode = known ? 2 : 1;
});
