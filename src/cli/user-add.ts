/** Adds a person: --name NAME [--role lead]; the password is asked for, or read from standard input. */
import { createInterface } from "node:readline";
import { parseArgs } from "node:util";

import { passwordSchema } from "@/contract/people";
import { ROLES } from "@/contract/roles";
import { connect } from "@/platform/db/connection";
import { Refused } from "@/platform/deed/base";
import { mustBeHard } from "@/features/account/passwords";
import { insertPerson } from "@/features/people/deeds";
import { refusalText } from "@/text/deed/refusals";
import { importShippedProfiles } from "@/features/models/shipped";
import { findingWords } from "@/text/findings";

const { values } = parseArgs({
  options: { name: { type: "string" }, role: { type: "string", default: "lead" } },
});
const role = ROLES.find((r) => r === values.role);
const name = values.name?.trim();

function stop(message: string): never {
  console.error(message);
  process.exit(2);
}

async function askPassword(): Promise<string> {
  const lines = createInterface({
    input: process.stdin,
    output: process.stdin.isTTY ? process.stdout : undefined,
  });
  if (process.stdin.isTTY) process.stdout.write(`Password for ${name} (at least 12 characters): `);
  for await (const line of lines) {
    lines.close();
    return line;
  }
  return "";
}

if (!name) stop("Say who: npm run user:add -- --name NAME [--role lead|technician|viewer]");
if (!role) stop(`"${values.role}" is no role. Roles are ${ROLES.join(", ")}.`);
const password = passwordSchema.safeParse(await askPassword());
if (!password.success) stop(`That password does not do: ${findingWords(password.error.issues[0]!.message)}.`);

const db = connect(process.env.DATABASE_URL!, 2);
try {
  mustBeHard(password.data, [name]);
  const id = await insertPerson(db, name, role, password.data);
  await importShippedProfiles(db, id);
  console.log(`${name} can sign in as ${role}.`);
} catch (error) {
  if (error instanceof Refused && error.problem.code === "name-taken")
    stop(`There is already somebody called ${name}.`);
  if (error instanceof Refused && error.problem.code === "easy-password") stop(refusalText(error.problem));
  throw error;
} finally {
  await db.destroy();
}
