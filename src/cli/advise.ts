/**
 * npm run --silent advise -- CASE.json: prints the advice on a case as JSON; exit 2 with one line for a bad file.
 */
import { readFileSync } from "node:fs";
import { dirname, resolve } from "node:path";
import { parseArgs } from "node:util";

import { adviseOnCase } from "@/core/casefile/advice";
import { readCaseFile } from "@/core/casefile/read";
import { foundWords } from "@/text/findings";

class BadInput extends Error {}

function textOf(path: string): string {
  try {
    return readFileSync(path, "utf8");
  } catch (error) {
    throw new BadInput(`Cannot read ${path}: ${(error as Error).message.split("\n")[0]}`);
  }
}

function main(): void {
  const { positionals } = parseArgs({ allowPositionals: true, options: {} });
  const [path] = positionals;
  if (path === undefined || positionals.length > 1)
    throw new BadInput("Name one case: npm run --silent advise -- CASE.json");
  const read = readCaseFile(textOf(path), (profile) => textOf(resolve(dirname(path), profile)));
  if (!read.ok) throw new BadInput(`The case ${path} is not valid: ${foundWords(read.problem)}`);
  process.stdout.write(JSON.stringify(adviseOnCase(read.value), null, 2) + "\n");
}

try {
  main();
} catch (error) {
  const known =
    error instanceof BadInput || (error as NodeJS.ErrnoException).code?.startsWith("ERR_PARSE_ARGS");
  const said = known ? (error as Error).message.split("\n")[0] : String((error as Error).stack);
  process.stderr.write(`${said}\n`);
  process.exitCode = known ? 2 : 1;
}
