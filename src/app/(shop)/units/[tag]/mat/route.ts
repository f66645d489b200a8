import { guideOf } from "@/core/profile/guide";
import { database } from "@/platform/db/connection";
import { pdfFile, reader, refusal, route, typed } from "@/platform/http/http";
import { newestGuide } from "@/features/models/deeds";
import { onPaper } from "@/platform/http/paper";
import { unitView } from "@/features/units/view";
import { say } from "@/words/frame";

/** The tray mat of a unit's model as PDF, to scale. */
async function get(_request: Request, { params }: { params: Promise<{ tag: string }> }): Promise<Response> {
  const who = await reader();
  if ("response" in who) return who.response;
  const view = await unitView(database(), typed((await params).tag, 20), who.actor);
  if (!view) return refusal({ code: "not-found", what: say("unit") });
  const guide = await newestGuide(database(), view.profile);
  if (!guide) return refusal({ code: "no-guide" });
  const pdf = await onPaper("printMat", [view.unit.tag, view.profile, guideOf(guide, view.unit.revision)]);
  return pdfFile(pdf, `tray-mat-${view.unit.tag}.pdf`);
}

export const GET = route("GET (shop)/units/[tag]/mat", get);
