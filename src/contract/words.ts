import type { ZodError } from "zod";

import { type Place, placesOf } from "@/core/base/finding";

/** What a validator found, the first few, as a refusal carries it. */
export const issuesOf = (error: ZodError): Place[] => placesOf(error, 20);
