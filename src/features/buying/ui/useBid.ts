import { useRouter } from "next/navigation";
import { useDeferredValue, useState } from "react";

import { decider } from "@/browser/decide";
import type { Settings } from "@/contract/deeds";
import { highestBid } from "@/core/decide/buying";
import { readAmount, readOptionalAmount } from "@/text/format";
import type { BuyingView } from "@/features/buying/view";
import { useAsked } from "@/features/decide/ui/useAsked";
import { typedAmount } from "@/text/format";
import { useDeed } from "@/ui/deed/useDeed";
import { readFigure } from "@/ui/fields/NumberField";
import type { BaseOf } from "./base";

/** What Bid knows and does; its components only show it. */

export type Props = {
  view: BuyingView;
  modelKey: string;
  base: BaseOf;
  shop: Settings;
  canWork: boolean;
  wish: { margin: number; loss: number };
};

/** What Bid knows and does; the components below only show it. */
export function useBid({ view, modelKey, base, shop, canWork, wish }: Props) {
  const router = useRouter();
  const keep = useDeed("listing.keep");
  const [words, setWords] = useState("");
  const [seller, setSeller] = useState("");
  const [price, setPrice] = useState("");
  const [carriage, setCarriage] = useState(() => typedAmount(shop.rates.carriageOut));
  const [margin, setMargin] = useState(typedAmount(wish.margin));
  const [loss, setLoss] = useState(String(Math.round(wish.loss * 100)));
  const asked = useDeferredValue(words);
  const { value, fresh } = useAsked(base ? `${modelKey} ${asked}` : null, () =>
    decider().listing({ ...base!, words: asked }),
  );
  const prospect = value?.prospect ?? null;
  const carriageMinor = readOptionalAmount(carriage);
  const priceMinor = price.trim() === "" ? null : readAmount(price);
  const marginMinor = readAmount(margin);
  const lossShare = readFigure(loss);
  const ready = prospect && carriageMinor !== null && marginMinor !== null && lossShare !== null;
  const best = ready ? highestBid(prospect, carriageMinor, marginMinor, lossShare / 100) : null;
  const save = (status: "watched" | "bought" | "passed") =>
    keep
      .run({
        profileKey: modelKey,
        words,
        seller,
        priceMinor: priceMinor ?? 0,
        carriageMinor: carriageMinor ?? 0,
        status,
      })
      .then((r) => {
        if (!r?.ok) return;
        setWords("");
        setPrice("");
      });
  return {
    view,
    modelKey,
    base,
    shop,
    canWork,
    router,
    keep,
    words,
    setWords,
    seller,
    setSeller,
    price,
    setPrice,
    carriage,
    setCarriage,
    margin,
    setMargin,
    loss,
    setLoss,
    value,
    fresh,
    prospect,
    carriageMinor,
    priceMinor,
    lossShare,
    ready,
    best,
    save,
  };
}

export type BidState = ReturnType<typeof useBid>;
