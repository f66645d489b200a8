import type { PaperKind } from "@/contract/papers";
import type { Id } from "@/core/base/ids";
import { rowsOf } from "@/platform/db/joined";
import { HOUR, type Workshop } from "./workshop";

/** Papers of the demonstration, in the order in which they were written: numbers follow the days. */

type Due = {
  kind: PaperKind;
  unitId: Id<"unit">;
  questionId: Id<"question"> | null;
  at: Date;
  contact: string;
};

export async function papers(shop: Workshop): Promise<void> {
  const bought = await shop
    .db("unit")
    .where({ source: "single", seller: "quayside market" })
    .select("id", "received_at");
  const handed = await rowsOf(
    shop
      .db("handover as h")
      .join("unit as u", "u.id", "h.unit_id")
      .whereNotNull("u.ending")
      .whereNotNull("h.price_minor")
      .whereNot("h.buyer", ""),
    { h: "handover", u: "unit" },
    "h.unit_id",
    "h.at",
  );
  const asked = await shop.db("question").select("id", "unit_id", "at");
  const due: Due[] = [
    ...bought.map((u): Due => ({
      kind: "receipt",
      unitId: u.id,
      questionId: null,
      at: u.received_at,
      contact: "Quay stall 9, Oxmere",
    })),
    ...handed.map((u): Due => ({
      kind: "bill",
      unitId: u.unit_id,
      questionId: null,
      at: u.at,
      contact: "",
    })),
    ...asked.map((q): Due => ({ kind: "offer", unitId: q.unit_id, questionId: q.id, at: q.at, contact: "" })),
  ];
  for (const { kind, unitId, questionId, at, contact } of due.sort((a, b) => a.at.getTime() - b.at.getTime()))
    await shop.deed("ida", (shop.now - at.getTime()) / HOUR, "paper.issue", {
      unitId,
      kind,
      questionId,
      contact,
    });
}
