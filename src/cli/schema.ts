/** Writes the JSON Schema of the profile format to docs/profile.schema.json. */
import { writeFileSync } from "node:fs";

import { profileJsonSchema } from "@/core/profile/json-schema";

writeFileSync("docs/profile.schema.json", JSON.stringify(profileJsonSchema(), null, 2) + "\n");
