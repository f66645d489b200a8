import type { PaperBody } from "@/contract/papers";
import { amountCell } from "@/text/format";
import type { PaperView } from "./view";

/**
 * Papers for whoever keeps the shop's books. `change` and `tax_owed_change` are what a paper adds to what was
 * booked before it: the whole of a first one, the difference of a correction, so that they can be added up.
 */

export const PAPER_COLUMNS = [
  "kind",
  "number",
  "written_on",
  "corrects",
  "why",
  "to",
  "unit",
  "model",
  "sum",
  "change",
  "currency",
  "tax_scheme",
  "tax_rate",
  "tax_shown",
  "net",
  "purchase",
  "tax_owed",
  "tax_owed_change",
  "by",
] as const;

const changes = ({ sumMinor, books, corrects }: PaperBody) => ({
  sum: sumMinor - (corrects?.sumMinor ?? 0),
  owed: books.owedMinor - (corrects?.owedMinor ?? 0),
});

export function paperRow({ kind, number, body, by }: PaperView): (string | number)[] {
  const { tax, books, corrects } = body;
  const change = changes(body);
  return [
    kind,
    number,
    body.issuedOn,
    corrects?.number ?? "",
    corrects?.why ?? "",
    body.other.name,
    body.tag,
    body.model,
    amountCell(body.sumMinor),
    amountCell(change.sum),
    body.currency,
    tax.scheme,
    tax.rate,
    amountCell(tax.taxMinor),
    amountCell(tax.netMinor),
    amountCell(books.purchaseMinor),
    amountCell(books.owedMinor),
    amountCell(change.owed),
    by,
  ];
}
