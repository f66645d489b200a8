import { z } from "../base/schema";

import { profileSchema } from "./profile";

/** The published JSON Schema of the profile format, made from the one Zod schema. */
export const profileJsonSchema = (): object => ({
  title: "Birdcage model profile, version 1",
  ...z.toJSONSchema(profileSchema, { io: "input" }),
});
