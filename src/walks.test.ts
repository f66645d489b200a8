import { existsSync, readFileSync } from "node:fs";
import { join, relative } from "node:path";

import ts from "typescript";

/** CONTRIBUTING.md is held to what it says: its files are there, its stars are where the compiler stops. */

const root = join(__dirname, "..");
const guide = readFileSync(join(root, "CONTRIBUTING.md"), "utf8");
const walks = new Map(
  guide
    .split(/^## /m)
    .slice(1)
    .map((part) => [part.slice(0, part.indexOf("\n")), part] as const),
);
const filesOf = (walk: string) =>
  [...walks.get(walk)!.matchAll(/^\d+\. `([^`]+)`/gm)].map(([, file]) => file!);
const starsOf = (walk: string) => [...walks.get(walk)!.matchAll(/`([^`]+)` \\\*/g)].map(([, file]) => file!);

test.each([
  ["A measure", 8],
  ["A deed", 6],
  ["A station", 8],
  ["A kind of part", 8],
  ["A language", 8],
])("%s touches at most %i files, and they are there", (walk, most) => {
  const files = [...filesOf(walk), ...starsOf(walk)];
  expect(filesOf(walk).length).toBeLessThanOrEqual(most);
  expect(files.filter((f) => !existsSync(join(root, f)))).toEqual([]);
});

const config = ts.readConfigFile(join(root, "tsconfig.json"), (f) => ts.sys.readFile(f));
const { fileNames, options } = ts.parseJsonConfigFileContent(config.config, ts.sys, root);
const parsed = new Map<string, ts.SourceFile | undefined>();

/** What the compiler says in a file when another one was changed. */
function saidIn(file: string, changed: string, change: (text: string) => string): string {
  const settings = { ...options, noEmit: true, incremental: false };
  const host = ts.createCompilerHost(settings);
  const plain = host.getSourceFile.bind(host);
  host.getSourceFile = (name, target) => {
    if (relative(root, name) === changed)
      return ts.createSourceFile(name, change(readFileSync(name, "utf8")), target, true);
    if (!parsed.has(name)) parsed.set(name, plain(name, target));
    return parsed.get(name);
  };
  const program = ts.createProgram(fileNames, settings, host);
  const said = program.getSemanticDiagnostics(program.getSourceFile(join(root, file)));
  return said.map((d) => ts.flattenDiagnosticMessageText(d.messageText, " ")).join("; ");
}
const after = (here: string, more: string) => (text: string) => {
  expect(text).toContain(here);
  return text.replace(here, here + more);
};

describe("what was forgotten does not compile", () => {
  test("a measure without words", () => {
    const [first] = filesOf("A measure");
    expect(starsOf("A measure")).toEqual(["src/text/measures.ts"]);
    expect(saidIn("src/text/measures.ts", first!, after('"noAnswer",', '"wobble",'))).toMatch(/wobble/);
  });
  test("a deed without a body, and one without a name", () => {
    const add = after(
      "WAIT_DEEDS = {",
      '"wait.cancel": { roles: WORKERS, input: z.strictObject({ waitId: idOf("wait") }) },',
    );
    const [first] = filesOf("A deed");
    // the list of all bodies is the file that says so; what it wants stands in the feature's own file
    expect(saidIn("src/features/deeds.ts", first!, add)).toMatch(/wait\.cancel/);
    expect(saidIn("src/text/deed/deeds.ts", first!, add)).toMatch(/wait\.cancel/);
    expect(saidIn("test/db/fuzz.test.ts", first!, add)).toMatch(/wait\.cancel/);
  });
  test("a kind of event without words", () => {
    const add = after("export const EVENTS = {", ' "brand-new": unit("standing"),');
    expect(saidIn("src/features/units/words/text.ts", "src/contract/events.ts", add)).toMatch(/brand-new/);
  });
  test("a station without a name", () => {
    const add = after('STATIONS = ["intake", ', '"weigh", ');
    expect(saidIn("src/features/case/words/text.ts", "src/core/record/standing.ts", add)).toMatch(/weigh/);
  });
});

test.each(["docs/architecture.md", "CONTRIBUTING.md", "README.md", "CHANGELOG.md"])(
  "%s names no file that is not there",
  (doc) => {
    const named = [
      ...readFileSync(join(root, doc), "utf8").matchAll(/`([\w./()[\]-]+\/[\w./()[\]-]*)`/g),
    ].map(([, f]) => f!.replace("/NAME", "/mend"));
    // NAME stands for any feature
    const isThere = (f: string) =>
      ["", "src/"].some((base) => ["", ".ts", ".tsx"].some((end) => existsSync(join(root, base + f + end))));
    expect(named.filter((f) => !isThere(f))).toEqual([]);
  },
);
