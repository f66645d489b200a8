"use client";

import type { Settings } from "@/contract/deeds";
import type { Advice } from "@/core/decide/advise";
import { labourOf, totalOf } from "@/core/money/rates";
import type { DecideView } from "@/features/decide/view";
import { say } from "@/features/decide/words/words";
import { money } from "@/text/format";
import { placeWords } from "@/text/names";
import { BillLines } from "@/ui/bill/BillLines";
import { Notice } from "@/ui/kit/layout";

type Props = {
  decide: Pick<DecideView, "bill" | "input">;
  advice: Pick<Advice, "tree" | "options"> | null;
  shop: Settings;
};

/** What the customer agreed to, and when it no longer reaches. */
export function Agreed({ decide: { bill, input }, advice, shop }: Props) {
  if (!bill || bill.lines.length === 0) return null;
  const all = bill.lines.reduce((sum, l) => sum + l.priceMinor, 0);
  const spent = input.spent.parts + labourOf(input.spent.minutes, input.rates);
  const next = advice?.tree.do === "try" ? -totalOf(advice.options[advice.tree.attempt]!.terms) : 0;
  const inVain = (input.agreed ?? []).filter((a) =>
    input.tried.some((t) => t.place === a.place && t.route === a.route),
  );
  return (
    <>
      <BillLines bill={bill} shop={shop} />
      {inVain.length > 0 && (
        <Notice severity="warning" role="note" around={1}>
          {say("whatWasAgreedDidNotHelp", { places: inVain.map((a) => placeWords(a.place)).join(", ") })}
        </Notice>
      )}
      {spent + next > all && (
        <Notice severity="warning" role="note" around={1}>
          {say("itCostsMoreThanWasAgreed", {
            spent: money(spent, shop),
            next: money(next, shop),
            agreed: money(all, shop),
          })}
        </Notice>
      )}
    </>
  );
}
