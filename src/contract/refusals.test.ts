import { readdirSync, readFileSync } from "node:fs";
import { join } from "node:path";

/** A refusal that no test ever meets is a promise that nobody keeps. */

const ROOT = join(__dirname, "../..");
const filesIn = (folder: string): string[] =>
  readdirSync(join(ROOT, folder), { withFileTypes: true, recursive: true })
    .filter((f) => f.isFile() && /\.(test|spec)\.tsx?$/.test(f.name))
    .map((f) => join(f.parentPath, f.name));
const codesOf = (file: string) =>
  [...readFileSync(join(ROOT, file), "utf8").matchAll(/\| \{\s*code: "([a-z-]+)"/g)].map(([, code]) => code!);

test.each([
  // the words of each are another test's: here somebody must really have been refused
  ["a deed's or a page's", codesOf("src/contract/refusals.ts"), [...filesIn("test"), ...filesIn("src/ui")]],
  ["a work order's", codesOf("src/core/mend/work.ts"), filesIn("src/core/mend")],
])("every code of %s refusals is met by a test", (_, codes, files) => {
  expect(codes.length).toBeGreaterThan(10);
  const tests = files.map((f) => readFileSync(f, "utf8")).join("\n");
  expect(codes.filter((code) => !tests.includes(`"${code}"`))).toEqual([]);
});
