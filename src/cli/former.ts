/** Writes the digests of every model profile that was ever committed to catalogue/former-models.json; needs the history. */
import { execFileSync } from "node:child_process";
import { writeFileSync } from "node:fs";

import { digestOf } from "@/features/models/shipped";

const git = (...args: string[]): string =>
  execFileSync("git", args, { encoding: "utf8", maxBuffer: 64 * 1024 * 1024 });
const lines = (text: string): string[] => text.split("\n").filter(Boolean);

const digests = new Set<string>();
for (const commit of lines(git("log", "--format=%H", "--", "profiles")))
  for (const file of lines(git("ls-tree", "--name-only", commit, "profiles/")))
    try {
      digests.add(digestOf(JSON.parse(git("show", `${commit}:${file}`))));
    } catch {
      // a format that nothing reads any more
    }
writeFileSync(
  "catalogue/former-models.json",
  JSON.stringify({ digests: [...digests].sort() }, null, 2) + "\n",
);
console.log(`${digests.size} digests`);
