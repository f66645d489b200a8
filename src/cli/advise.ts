/**
 * npm run --silent advise -- CASE.json: prints the advice on a case as JSON; exit 2 with one line for a bad file.
 */
import { readFileSync } from "node:fs";
import { dirname, resolve } from "node:path";
import { parseArgs } from "node:util";

import { placesOf } from "@/core/base/finding";
import { adviseOnCase } from "@/core/casefile/advice";
import { caseFileSchema } from "@/core/casefile/format";
import type { CaseWhole } from "@/core/casefile/known";
import { profileSchema } from "@/core/profile/profile";
import { foundWords } from "@/text/findings";

class BadInput extends Error {}

function readJson(path: string, what: string): unknown {
  try {
    return JSON.parse(readFileSync(path, "utf8"));
  } catch (error) {
    throw new BadInput(`Cannot read ${what} ${path}: ${(error as Error).message.split("\n")[0]}`);
  }
}

/** A case with its profile, wherever that lies. */
function readCase(path: string): CaseWhole {
  const parsed = caseFileSchema.safeParse(readJson(path, "the case"));
  if (!parsed.success)
    throw new BadInput(`The case ${path} is not valid: ${foundWords(placesOf(parsed.error, 1)[0]!)}`);
  const { profile: given, ...rest } = parsed.data;
  if (typeof given !== "string") return { ...rest, profile: given };
  const from = resolve(dirname(path), given);
  const profile = profileSchema.safeParse(readJson(from, "the profile"));
  if (!profile.success)
    throw new BadInput(`The profile ${from} is not valid: ${foundWords(placesOf(profile.error, 1)[0]!)}`);
  return { ...rest, profile: profile.data };
}

/** Places that are named in the case and are nothing of the model: a slip of the pen would be ignored in silence. */
function checkPlaces({ profile, facts }: CaseWhole): void {
  const known = new Set<string>([
    ...[...profile.controls, ...profile.functions].map((t) => t.id),
    ...(profile.slots ?? []).map((s) => s.id),
    ...[...(profile.wiring?.nodes ?? []), ...(profile.wiring?.points ?? [])].map((n) => n.id),
  ]);
  for (const f of facts) {
    const named = f.kind === "measure" || f.kind === "works" || f.kind === "function" ? [f.place] : [];
    for (const place of named)
      if (!known.has(place))
        throw new BadInput(
          `The case tells of "${place}" (${f.kind}), which the model ${profile.id} has not.`,
        );
  }
}

function main(): void {
  const { positionals } = parseArgs({ allowPositionals: true, options: {} });
  if (positionals.length !== 1) throw new BadInput("Name one case: npm run --silent advise -- CASE.json");
  const file = readCase(positionals[0]!);
  checkPlaces(file);
  process.stdout.write(JSON.stringify(adviseOnCase(file), null, 2) + "\n");
}

try {
  main();
} catch (error) {
  const known =
    error instanceof BadInput || (error as NodeJS.ErrnoException).code?.startsWith("ERR_PARSE_ARGS");
  process.stderr.write(
    (known ? (error as Error).message.split("\n")[0] : String((error as Error).stack)) + "\n",
  );
  process.exitCode = known ? 2 : 1;
}
