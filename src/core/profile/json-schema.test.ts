import { readFileSync } from "node:fs";

import { profileJsonSchema } from "./json-schema";

test("the published schema is the one of the code (npm run schema writes it)", () => {
  expect(JSON.parse(readFileSync("docs/profile.schema.json", "utf8"))).toEqual(
    JSON.parse(JSON.stringify(profileJsonSchema())),
  );
});
