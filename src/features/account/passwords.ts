import "server-only";

import { hash, verify } from "@node-rs/argon2";
import { ZxcvbnFactory } from "@zxcvbn-ts/core";
import * as common from "@zxcvbn-ts/language-common";
import * as english from "@zxcvbn-ts/language-en";

import { Refused } from "@/platform/deed/base";

/** What a password must withstand, and how it is kept. */

// argon2id with the parameters that RFC 9106 recommends where memory is scarce: 64 MiB, 3 passes
const HASHING = { memoryCost: 65536, timeCost: 3, parallelism: 1 } as const;
export const hashPassword = (password: string): Promise<string> => hash(password, HASHING);

let decoy: Promise<string> | undefined; // an unknown name costs the same time as a wrong password
export const matches = async (kept: string | undefined, password: string): Promise<boolean> =>
  (await verify(kept || (await (decoy ??= hashPassword("nobody has this one"))), password).catch(
    () => false,
  )) && !!kept;

const LEAST_SCORE = 3; // of 0 to 4: 10^8 guesses and more, by zxcvbn's estimate over lists of common passwords and words
const JUDGED = 64; // its time grows with the length; what is longer does not depend on its end
let judge: ZxcvbnFactory | undefined;

/**
 * Refuses a password that stands in lists, is a name of the house, or a pattern of the keyboard. `about`:
 * words that others know.
 */
export function mustBeHard(password: string, about: readonly string[]): void {
  judge ??= new ZxcvbnFactory({
    dictionary: { ...common.dictionary, ...english.dictionary },
    graphs: common.adjacencyGraphs,
  });
  const words = [
    "birdcage",
    "controller",
    "workshop",
    ...about.flatMap((w) => [w, ...w.split(/\s+/)]),
  ].filter(Boolean);
  if (judge.check(password.slice(0, JUDGED), words).score < LEAST_SCORE)
    throw new Refused({ code: "easy-password" });
}
