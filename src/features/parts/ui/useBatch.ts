"use client";

import type { Settings } from "@/contract/deeds";
import type { Offer, Part } from "@/core/parts/catalogue";
import { say } from "@/features/parts/words/words";
import type { BatchView } from "@/features/stock/batch-view";
import { dayAndTime } from "@/text/format";

export type Inside = { part: string; count: number; weight: number; name: string; tool: boolean };

export type Props = {
  view: BatchView;
  part: Part | null;
  inside: Inside[];
  offers: Offer[];
  supplierName: string;
  shop: Settings;
  canWork: boolean;
  canLead: boolean;
};

/** What Batch knows and does; the components below only show it. */
export function useBatch(props: Props) {
  const { view, part, shop, canWork } = props;
  const { batch } = view;
  const locked = batch.status === "rejected" || batch.status === "disposed";
  const originWords = () => {
    if (batch.donorTag)
      return say("outOfDonorTagCondition", { donorTag: batch.donorTag, condition: batch.condition });
    if (batch.fromCode) return say("outOfBatchFromCode", { fromCode: batch.fromCode });
    return say("fromSupplierNameAt", {
      supplierName: props.supplierName || say("nobodyKnown"),
      at: dayAndTime(batch.at, shop),
    });
  };
  return { props, view, part, shop, canWork, batch, locked, originWords };
}

export type BatchState = ReturnType<typeof useBatch>;
