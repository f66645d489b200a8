import Box from "@mui/material/Box";

import type { Settings } from "@/contract/deeds";
import type { Term } from "@/core/money/rates";
import { money } from "@/text/format";
import { TERM_WORDS } from "@/features/decide/words/text";
import { FIGURES } from "@/ui/figures";
import { say } from "@/features/decide/words/words";
import { SIZE } from "@/ui/tokens";
import { Words } from "@/ui/kit/layout";

/** A sum that opens to its terms. */
export function Terms({
  terms,
  total,
  shop,
  label,
}: {
  terms: readonly Term[];
  total: number;
  shop: Settings;
  label: string;
}) {
  if (terms.length === 0)
    return (
      <Words strong figures>
        {money(Math.round(total), shop)}
      </Words>
    );
  return (
    <Box component="details" sx={{ "& summary": { cursor: "pointer" } }}>
      <Words component="summary" aria-label={say("labelItsTerms", { label })} strong figures>
        {money(Math.round(total), shop)}
      </Words>
      <TermList terms={terms} shop={shop} />
    </Box>
  );
}

export function TermList({ terms, shop }: { terms: readonly Term[]; shop: Settings }) {
  return (
    <Box
      component="dl"
      sx={{
        m: 0,
        mt: 0.5,
        display: "grid",
        gridTemplateColumns: "1fr auto",
        columnGap: 2,
        fontSize: SIZE.small,
        maxWidth: 340,
      }}
    >
      {terms.map((t, i) => [
        <Words component="dt" key={`${t.code} ${i}`} quiet>
          {TERM_WORDS[t.code]}
          {t.note && `, ${t.note}`}
        </Words>,
        <Box component="dd" key={`${t.code} ${i} sum`} sx={{ m: 0, fontFamily: FIGURES, textAlign: "right" }}>
          {money(t.minor, shop)}
        </Box>,
      ])}
    </Box>
  );
}
