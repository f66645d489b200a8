import Box from "@mui/material/Box";

import type { Settings } from "@/contract/deeds";
import type { Bill, BillLine } from "@/core/prove/bill";
import { money } from "@/text/format";
import { Block, Text } from "@/ui/kit/layout";
import { say } from "@/words/kit";

const lineOf = ({ number, found, words, priceMinor }: BillLine, shop: Settings) => ({
  number,
  found,
  words,
  price: money(priceMinor, shop),
});

const wordsOf = (l: BillLine, shop: Settings): string => {
  if (l.billed) return say("billLineOwed", lineOf(l, shop));
  return l.isLike ? say("billLineNotFitted", lineOf(l, shop)) : say("billLineNotYet", lineOf(l, shop));
};

/** A customer's bill as it stands: what was agreed to, and what of it is owed by now. */
export const BillLines = ({ bill, shop }: { bill: Bill; shop: Settings }) => (
  <Block component="section" aria-label={say("bill")} before={1} after={1}>
    <Text size="figure" figures>
      {money(bill.sumMinor, shop)}
    </Text>
    <Text color="text.secondary" size="small">
      {say("owedForWhatWasAgreedAndCured")}
    </Text>
    <Box component="ul" sx={{ m: 0, pl: 2.5 }}>
      {bill.lines.map((l, i) => (
        <li key={i}>{wordsOf(l, shop)}</li>
      ))}
    </Box>
  </Block>
);
