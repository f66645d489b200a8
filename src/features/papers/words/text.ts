import type { PaperBody, PaperKind } from "@/contract/papers";
import { money, type Shop } from "@/text/format";
import { say } from "./words";

/** The interface's words for papers. */

const KINDS: Record<PaperKind, string> = {
  offer: say("offer"),
  bill: say("bill"),
  receipt: say("receipt"),
};

/** "Bill 0007": numbers of a kind have four places at least, so that they sort. */
export const paperName = (kind: PaperKind, number: number): string =>
  say("kindNumber", { kind: KINDS[kind], number: paperNumber(number) });
export const paperNumber = (number: number): string => String(number).padStart(4, "0");

export function sumText(kind: PaperKind, body: PaperBody, shop: Shop): string {
  if (body.lines.length === 0) return say("takenBack");
  if (kind === "offer") return say("toChooseFrom");
  return money(body.sumMinor, { ...shop, currency: body.currency });
}
