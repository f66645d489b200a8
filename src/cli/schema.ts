/** Writes the JSON Schemas of the open formats to docs/. */
import { writeFileSync } from "node:fs";

import { adviceJsonSchema, caseJsonSchema } from "@/core/casefile/format";
import { profileJsonSchema } from "@/core/profile/json-schema";

const write = (name: string, schema: object) =>
  writeFileSync(`docs/${name}.schema.json`, JSON.stringify(schema, null, 2) + "\n");

write("profile", profileJsonSchema());
write("case", caseJsonSchema());
write("advice", adviceJsonSchema());
