import "server-only";

import type { Label, Size } from "@/core/labels/layout";
import { labelRequestSchema } from "@/contract/labels";
import { database } from "@/platform/db/connection";
import { labelChoices } from "@/features/labels/view";
import { loadSettings } from "@/features/settings/settings";
import { reader, refusal, unfit } from "./http";

/** Labels that were asked for by an address, in the asked order; or the response that says why not. */
export async function askedLabels(
  request: Request,
): Promise<{ labels: Label[]; size: Size; sheet: boolean } | { response: Response }> {
  const who = await reader();
  if ("response" in who) return who;
  const asked = labelRequestSchema.safeParse(Object.fromEntries(new URL(request.url).searchParams));
  if (!asked.success)
    return {
      response: unfit(asked.error),
    };
  const { kind, codes, w, h, sheet } = asked.data;
  const found = await labelChoices(database(), kind, codes);
  const labels = codes.flatMap((c) => found.find((l) => l.code.toLowerCase() === c.toLowerCase()) ?? []);
  if (labels.length === 0) return { response: refusal({ code: "not-found", what: kind }) };
  const { settings } = await loadSettings(database());
  return {
    labels,
    size: { widthMm: w ?? settings.labelWidthMm, heightMm: h ?? settings.labelHeightMm },
    sheet: sheet === "1",
  };
}
